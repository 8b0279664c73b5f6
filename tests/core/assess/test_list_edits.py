"""Things and plates a rider adds, copies, mirrors, takes out; traced outlines; the budget."""

from __future__ import annotations

from dataclasses import replace

import pytest

from rugged_shield.core.assess.weighup.scorecard import budget_of, weigh
from rugged_shield.core.errors import InputError
from rugged_shield.core.job.edits.kit import add_lines
from rugged_shield.core.job.edits.lists import LISTS, add_item, remove_item
from rugged_shield.core.job.edits.path import Taken, set_text, value_at
from rugged_shield.core.job.edits.plates import (
    OPTIONAL,
    add_cutout,
    add_piece,
    add_shelved_plate,
    copy_plate,
    new_cutout,
    new_piece,
    new_plate,
    remove_from_plate,
    remove_plate,
    set_panel,
    traced_belly,
    traced_piece,
)
from rugged_shield.core.job.edits.weighings import add_pair
from rugged_shield.core.job.model import MAX_PLATES, Candidate, Job
from rugged_shield.core.judgement.known import band_of, fact_of
from rugged_shield.core.kit.hardware import KitLine
from rugged_shield.core.survey.bike import AddedMass, SagReadings
from rugged_shield.core.survey.geometry import fold
from rugged_shield.core.survey.plate import Cutout
from rugged_shield.core.survey.weighings import Pair


@pytest.mark.parametrize("where", LISTS)
def test_a_new_item_comes_and_goes(choosing: Job, where: str) -> None:
    before = value_at(choosing, where)
    added = add_item(choosing, where)
    new = [i for i in value_at(added.job, where) if i.key not in {b.key for b in before}]
    assert len(new) == 1
    twice = add_item(added.job, where).job
    assert len({i.key for i in value_at(twice, where)}) == len(before) + 2
    assert remove_item(added.job, where, new[0].key).job == choosing
    assert added.words


def test_a_mirror_image_is_on_the_other_side_and_back(choosing: Job) -> None:
    part = next(p for p in choosing.bike.parts if "left" in p.name)
    once = add_item(choosing, "bike.parts", part.key, mirror=True).job
    image = once.bike.parts[-1]
    assert (image.y_min_mm, image.y_max_mm) == (-part.y_max_mm, -part.y_min_mm)
    assert "right" in image.name
    back = add_item(once, "bike.parts", image.key, mirror=True).job.bike.parts[-1]
    assert replace(back, key=part.key) == part


def test_what_has_no_side_is_not_mirrored(choosing: Job) -> None:
    scar = choosing.scars[0].key
    assert len(add_item(choosing, "scars", scar).job.scars) == len(choosing.scars) + 1
    with pytest.raises(InputError):
        add_item(choosing, "scars", scar, mirror=True)
    with pytest.raises(InputError):
        add_item(choosing, "bike.wheels")


def test_a_mount_in_use_stays(choosing: Job) -> None:
    used = choosing.as_entered("alu5").joints[0].mount
    with pytest.raises(InputError, match="hang on"):
        remove_item(choosing, "bike.mounts", used)


def test_a_plate_from_nothing_to_folded(choosing: Job) -> None:
    job = new_plate(choosing, " Shop  pan ", ()).job
    key = job.candidates[-1].key
    assert job.in_hand.key == key
    assert job.in_hand.plate.name == "Shop pan"
    for panel in OPTIONAL:
        job = set_panel(job, key, panel, there=True).job
    plate = job.as_entered(key).plate
    assert {p.name for p in fold(plate).panels} == {
        "belly",
        "apron",
        "tail",
        "wing left",
        "wing right",
    }
    assert plate.slider_material == "HDPE"
    cutout = new_cutout(plate, "wing left")
    job = add_cutout(job, key, cutout).job
    job = add_piece(job, key, new_piece(job.as_entered(key).plate)).job
    assert weigh(job, key).figures["mass"].value is not None
    stripped = set_panel(job, key, "wing left", there=False).job
    assert stripped.as_entered(key).plate.cutouts == ()
    job = remove_from_plate(job, key, cutout.key).job
    for panel in OPTIONAL:
        job = set_panel(job, key, panel, there=False).job
    assert [p.name for p in fold(job.as_entered(key).plate).panels] == ["belly", "piece"]
    assert replace(remove_plate(job, key).job, weighing=choosing.weighing) == choosing


def test_refusals_of_plates(choosing: Job) -> None:
    with pytest.raises(InputError, match="needs a name"):
        new_plate(choosing, "  ", ())
    with pytest.raises(InputError, match="stays"):
        remove_plate(choosing, choosing.stock.key)
    with pytest.raises(InputError, match="is picked"):
        remove_plate(replace(choosing, picked="alu5"), "alu5")
    with pytest.raises(InputError):
        set_panel(choosing, "alu5", "spoiler", there=True)
    with pytest.raises(InputError):
        remove_from_plate(choosing, "alu5", "nothing")
    full = choosing
    while len(full.candidates) < MAX_PLATES:
        full = new_plate(full, "one more", ()).job
    with pytest.raises(InputError, match=str(MAX_PLATES)):
        new_plate(full, "one too many", ())


def test_a_copy_is_the_same_plate_under_its_own_key(choosing: Job) -> None:
    job = copy_plate(choosing, "alu5", ()).job
    first, copy = job.as_entered("alu5"), job.candidates[-1]
    assert copy.key != first.key
    assert (copy.joints, copy.kit) == (first.joints, first.kit)
    before, after = weigh(job, "alu5").figures, weigh(job, copy.key).figures
    assert before["mass"].value == after["mass"].value


def test_a_plate_of_the_shelf_leaves_joints_without_a_mount(choosing: Job) -> None:
    shelved: Candidate = choosing.as_entered("alu5")
    assert len(add_shelved_plate(choosing, shelved, ()).job.candidates[-1].joints) == len(
        shelved.joints
    )
    used = {j.mount for j in shelved.joints}
    bare = replace(
        choosing,
        candidates=(),
        scars=(),
        weighings=(),
        weighing="",
        bike=replace(
            choosing.bike, mounts=tuple(m for m in choosing.bike.mounts if m.key not in used)
        ),
        stock=replace(choosing.stock, joints=()),
    )
    taken = add_shelved_plate(bare, shelved, ())
    assert all(j.female is not None for j in taken.job.candidates[-1].joints)
    assert "left out" in taken.words


def test_traced_outlines_become_a_belly_or_a_piece(choosing: Job) -> None:
    outline = ((0.0, -100.0), (300.0, -80.0), (300.0, 80.0), (0.0, 100.0))
    hole = Cutout(
        key="h1",
        panel="belly",
        shape="round",
        purpose="drain",
        u_mm=150.0,
        v_mm=0.0,
        width_mm=40.0,
        height_mm=40.0,
    )
    belly = traced_belly(choosing, "alu5", outline, (hole,)).job.as_entered("alu5").plate
    folded = fold(belly)
    area = (200 + 160) / 2 * 300 - 3.14159 * 20**2
    assert folded.sheet_mass_kg == pytest.approx(area * 5 * 2680e-9, rel=1e-3)
    job = traced_piece(choosing, "alu5", outline, (hole,)).job
    again = traced_piece(job, "alu5", outline, (hole,)).job.as_entered("alu5").plate
    assert len({p.key for p in again.pieces}) == len(again.pieces)
    assert len({c.key for c in again.cutouts}) == len(again.cutouts)


def test_a_reading_keeps_its_instrument(choosing: Job) -> None:
    taken = Taken("calliper, simulated", 0.01, "2026-05-02T10:00:00+00:00")
    change = set_text(choosing, "bike.mounts.m1.thread_end_mm", "7.02 mm", "us", taken)
    mount = change.job.bike.mounts[0]
    fact = fact_of(mount, "thread_end_mm")
    assert mount.thread_end_mm == pytest.approx(7.02)
    assert (fact.known, fact.instrument, fact.resolution) == ("measured", taken.instrument, 0.01)
    assert fact.at == taken.at
    assert band_of(mount, "thread_end_mm") <= 0.2


def test_a_tyre_code_sets_the_radius(choosing: Job) -> None:
    job = set_text(choosing, "bike.front_tyre", "80/100-21").job
    assert job.bike.front_wheel_radius_mm == pytest.approx(21 * 25.4 / 2 + 80)
    with pytest.raises(InputError):
        set_text(choosing, "bike.front_tyre", "round")


def test_pairs_and_lines_get_keys_of_their_own(choosing: Job) -> None:
    job = add_pair(choosing, "w1", Pair("new", 80.0, 77.0)).job
    job = add_pair(job, "w1", Pair("new", 80.1, 77.0)).job
    assert len({p.key for p in job.weighings[0].pairs}) == 5
    lines = (
        KitLine(key="k1", kind="washer", name="washer", thread="M8"),
        KitLine(key="k1", kind="nut", name="nut", thread="M8"),
    )
    kit = add_lines(choosing, "alu5", lines).job.as_entered("alu5").kit
    assert len({line.key for line in kit}) == len(kit)
    with pytest.raises(InputError):
        add_lines(choosing, "alu5", lines * 200)


def test_the_budget_is_statics_of_two_wheels(choosing: Job) -> None:
    """12 kg over the rear axle load the rear spring only: sag = F / rate."""
    bike = replace(
        choosing.bike,
        added=(AddedMass("rack", "rack", 12.0, choosing.bike.wheelbase_mm),),
        sag=SagReadings(front_wheel_rate_n_per_mm=9.0, rear_wheel_rate_n_per_mm=11.0),
    )
    stock = choosing.candidate(choosing.stock.key)
    budget = budget_of(bike, stock, stock)
    assert budget.total_kg == pytest.approx(12.0)
    assert budget.front_sag_mm == pytest.approx(0.0, abs=1e-9)
    assert budget.rear_sag_mm == pytest.approx(12.0 * 9.80665 / 11.0, rel=1e-4)
    unknown = budget_of(replace(bike, sag=SagReadings()), stock, stock)
    assert (unknown.front_sag_mm, unknown.rear_sag_mm) == (None, None)
    assert {f.code for f in unknown.findings} == {"sag not known", "heavy, sag not known"}
