"""Many things at once: what a table says is what the fields would hold."""

from __future__ import annotations

import pytest

from rugged_shield.core.amounts import in_system
from rugged_shield.core.errors import InputError
from rugged_shield.core.job.edits.path import set_text
from rugged_shield.core.job.edits.rows import TABLES, add_rows, read_rows
from rugged_shield.core.job.model import Job
from rugged_shield.core.judgement.known import fact_of

MOUNT = {"name": "rear tab", "x_mm": "905", "y_mm": "-92", "z_mm": "301", "thread": "m8"}


def test_a_mount_says_its_place_and_screw_and_the_rest_follows_its_kind(choosing: Job) -> None:
    rows = ({**MOUNT, "kind": "engine boss"}, {**MOUNT, "name": "bar", "kind": "crash bar tab"})
    change = add_rows(choosing, "mounts", "alu5", rows)
    boss, bar = change.job.bike.mounts[-2:]
    assert change.words == "2 mounts added"
    assert (boss.x_mm, boss.y_mm, boss.z_mm, boss.thread) == (905.0, -92.0, 301.0, "M8")
    assert (boss.female_kind, boss.thread_end_mm, boss.free_space_mm) == (
        "blind_tapped",
        20.0,
        None,
    )
    assert (bar.female_kind, bar.thread_start_mm, bar.thread_end_mm) == ("weld_nut", 4.0, 10.4)
    assert fact_of(boss, "x_mm").known == "measured"
    assert fact_of(boss, "thread_end_mm").known == "assumed"
    assert boss.number != bar.number
    assert boss.key != bar.key


def test_a_mount_whose_number_is_there_is_corrected(choosing: Job) -> None:
    old = choosing.bike.mounts[0]
    row = {"number": str(old.number), "x_mm": "500", "y_mm": "-90", "z_mm": "300"}
    job, said = read_rows(choosing, "mounts", "alu5", (row, {**row, "number": "44"}))
    assert [r.trouble for r in said] == ["", ""]
    assert (job.bike.mounts[0].key, job.bike.mounts[0].x_mm) == (old.key, 500.0)
    assert (job.bike.mounts[0].name, job.bike.mounts[0].thread) == (old.name, old.thread)
    assert job.bike.mounts[-1].number == 44
    assert len(job.bike.mounts) == len(choosing.bike.mounts) + 1


def test_us_units_and_units_in_the_cell(choosing: Job) -> None:
    row = {"name": "tab", "x_mm": "35.5", "y_mm": "-92 mm", "z_mm": "11 7/8"}
    mount = add_rows(choosing, "mounts", "alu5", (row,), "us").job.bike.mounts[-1]
    assert mount.x_mm == pytest.approx(901.7)
    assert mount.y_mm == pytest.approx(-92.0)
    assert mount.z_mm == pytest.approx(301.625)


def test_a_row_that_is_wrong_says_why_and_the_others_stand(choosing: Job) -> None:
    rows = (MOUNT, {**MOUNT, "z_mm": ""}, {**MOUNT, "thread": "M7"}, {**MOUNT, "x_mm": "9 feet"})
    job, said = read_rows(choosing, "mounts", "alu5", rows)
    assert len(job.bike.mounts) == len(choosing.bike.mounts) + 1
    assert [bool(row.trouble) for row in said] == [False, True, True, True]
    assert said[1].trouble.startswith("z: nothing was entered")
    assert "M6" in said[2].trouble
    assert "feet" in said[3].trouble
    assert "x 905, y −92 mm, z 301 mm" in in_system(said[0].words)
    with pytest.raises(InputError, match="no row"):
        add_rows(choosing, "mounts", "alu5", rows[1:])


def test_openings_are_round_by_one_size_and_have_doors(choosing: Job) -> None:
    rows = (
        {"purpose": "drain", "u_mm": "210", "v_mm": "0", "width_mm": "40"},
        {"purpose": "filter", "u_mm": "150", "v_mm": "60", "width_mm": "90", "height_mm": "60"},
        {"u_mm": "60", "v_mm": "0", "width_mm": "50", "door_screws": "3"},
    )
    plate = add_rows(choosing, "openings", "alu5", rows).job.candidate("alu5").plate
    drain, oil, door = plate.cutouts[-3:]
    assert (drain.shape, drain.height_mm, drain.purpose) == ("round", 40.0, "drain")
    assert (oil.shape, oil.width_mm, oil.height_mm) == ("rectangle", 90.0, 60.0)
    assert (door.closed_door, door.door_screws) == (True, 3)


def test_layers_go_behind_the_plate_another_layer_or_under_the_head(choosing: Job) -> None:
    joint = choosing.candidate("alu5").joints[0]
    behind = joint.layers[-1].name
    rows = (
        {
            "joint": str(joint.number),
            "kind": "washer",
            "thickness_mm": "1.6",
            "after": "under the head",
        },
        {"joint": str(joint.number), "kind": "shim", "thickness_mm": "0.5", "after": behind},
        {"joint": str(joint.number), "kind": "spacer", "thickness_mm": "12", "outer_mm": "18"},
    )
    new = add_rows(choosing, "layers", "alu5", rows).job.candidate("alu5").joints[0]
    assert new.layers[0].kind == "washer"
    assert new.layers[-1].kind == "shim"
    spacer = next(x for x in new.layers if x.thickness_mm == 12.0 and x.outer_mm == 18.0)
    place = new.layers.index(spacer)
    assert new.layers[place - 1].clamps_plate
    _, said = read_rows(choosing, "layers", "alu5", ({**rows[0], "joint": "77"},))
    assert said[0].trouble.startswith("joint")


def test_a_part_is_its_box(choosing: Job) -> None:
    row = dict(
        zip(
            TABLES["parts"].columns,
            ("hose", "hose", "600", "700", "-20", "20", "340", "370", "vital"),
            strict=True,
        )
    )
    part = add_rows(choosing, "parts", "alu5", (row,)).job.bike.parts[-1]
    assert (part.shape, part.kind, part.x_max_mm, part.z_min_mm) == ("hose", "vital", 700.0, 340.0)


def test_no_table_of_that_name_and_none_too_long(choosing: Job) -> None:
    with pytest.raises(InputError):
        read_rows(choosing, "wheels", "alu5", (MOUNT,))
    with pytest.raises(InputError, match="60"):
        read_rows(choosing, "mounts", "alu5", (MOUNT,) * 61)


def test_another_kind_takes_along_what_was_only_assumed(choosing: Job) -> None:
    job = add_rows(choosing, "mounts", "alu5", (MOUNT,)).job
    at = f"bike.mounts.{job.bike.mounts[-1].key}"
    boss = set_text(job, f"{at}.kind", "engine boss").job
    assert boss.bike.mounts[-1].female_kind == "blind_tapped"
    assert boss.bike.mounts[-1].thread_end_mm == 20.0
    larger = set_text(boss, f"{at}.thread", "M10").job
    assert larger.bike.mounts[-1].thread_end_mm == 25.0
    read = set_text(boss, f"{at}.thread_end_mm", "17").job
    stays = set_text(read, f"{at}.kind", "accessory").job.bike.mounts[-1]
    assert (stays.kind, stays.thread_end_mm, stays.female_kind) == (
        "accessory",
        17.0,
        "blind_tapped",
    )


def test_a_mount_that_was_measured_keeps_its_depths(choosing: Job) -> None:
    old = next(m for m in choosing.bike.mounts if m.known != "assumed")
    job = set_text(choosing, f"bike.mounts.{old.key}.kind", "accessory").job
    new = next(m for m in job.bike.mounts if m.key == old.key)
    assert new.kind == "accessory"
    for depth in ("thread_start_mm", "thread_end_mm", "overall_height_mm", "female_kind"):
        assert getattr(new, depth) == getattr(old, depth)


def test_a_nut_brings_its_own_thread_and_goes_again(choosing: Job) -> None:
    joint = choosing.candidate("alu5").joints[0]
    path = f"candidates.alu5.joints.{joint.key}"
    nut = set_text(choosing, f"{path}.nut", "ISO 7040").job.candidate("alu5").joints[0]
    assert nut.female is not None
    assert (nut.female.kind, nut.thread_owner) == ("prevailing_nut", "kit")
    turned = set_text(choosing, f"{path}.nut", "ISO 4032").job
    back = set_text(turned, f"{path}.nut", "").job.candidate("alu5").joints[0]
    assert (back.female, back.thread_owner, back.turned) == (None, "bike", "head")
