"""A stud that stands in the bike: its nut from below, its seat above, the plate between."""

from __future__ import annotations

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rugged_shield.core.assess.fitup.joints import assess_joint, section_of, stack_words
from rugged_shield.core.assess.fitup.pose import hung_sheet, plate_pose
from rugged_shield.core.assess.kit.carry import carry_of
from rugged_shield.core.assess.kit.lines import needs_of
from rugged_shield.core.assess.tighten.cards import card_of, far_cards
from rugged_shield.core.assess.tighten.plan import plan_of
from rugged_shield.core.assess.tighten.settling import settled_figure
from rugged_shield.core.assess.weighup.mount_springs import mount_supports
from rugged_shield.core.errors import InputError
from rugged_shield.core.fitup.engagement import Engagement
from rugged_shield.core.fitup.joint import Joint, as_built
from rugged_shield.core.fitup.layer import Layer
from rugged_shield.core.fitup.presets import nut_female, standard_washer
from rugged_shield.core.fitup.seat import seat_of
from rugged_shield.core.fitup.stud import Stud
from rugged_shield.core.job.edits.joints import NewJoint, add_joint
from rugged_shield.core.job.edits.path import set_text
from rugged_shield.core.job.model import Job, MountedJoint, mounted
from rugged_shield.core.mechanics import strip
from rugged_shield.core.mechanics.preload import torque_per_preload_mm
from rugged_shield.core.mechanics.threads import geometry_of, stock_lengths_mm
from rugged_shield.core.survey.bike import Mount
from rugged_shield.core.tables.friction import CONDITIONS
from rugged_shield.core.tables.thread_materials import THREAD_MATERIALS
from rugged_shield.core.tighten.tools import turned_side
from rugged_shield.core.tighten.torque import WrenchTool

WRENCH = WrenchTool("click wrench", 60.0, 400.0)
PLATE = Layer(
    key="plate", kind="plate", name="plate", material="aluminium 5052-H32", thickness_mm=5.0
)
SEATED = Stud(seated_mm=16.0, treatment="medium locker")


@pytest.fixture
def started(choosing: Job) -> tuple[Job, str]:
    """The job with a stud in its cast mount, and the path of that joint."""
    mount = next(m for m in choosing.bike.mounts if m.female_kind == "blind_tapped")
    asked = NewJoint(preset="stud in the bike", stage="locate", mount=mount.key)
    job = add_joint(choosing, choosing.in_hand.key, asked, frozenset()).job
    return job, f"candidates.{job.in_hand.key}.joints.{job.in_hand.joints[-1].key}"


def boss(**more: object) -> Mount:
    """A blind M8 thread in cast aluminium: a lead of 1 ± 0.2 mm, full thread to 22 ± 0.3."""
    made = Mount(
        key="m",
        number=1,
        name="boss",
        x_mm=600.0,
        y_mm=0.0,
        z_mm=300.0,
        kind="engine boss",
        thread="M8",
        material="AlSi9Cu3 die cast",
        female_kind="blind_tapped",
        thread_start_mm=1.0,
        thread_end_mm=22.0,
    )
    return replace(made, **more)  # type: ignore[arg-type]


def stud(length_mm: float | None = 20.0, **more: object) -> Joint:
    """An M8 stud with a plate of 5 mm, a washer and a nut ISO 4032 on it."""
    made = Joint(
        key="s",
        number=1,
        name="stud",
        mount="m",
        thread="M8",
        head="stud",
        grade="8.8",
        layers=(PLATE, standard_washer("M8")),
        stage="locate",
        female=nut_female("ISO 4032", "M8", None),
        female_material="S235 steel",
        nut="ISO 4032",
        length_mm=length_mm,
        sheet_torque_nm=20.0,
        stud=SEATED,
    )
    return replace(made, **more)  # type: ignore[arg-type]


def codes(joint: Joint, mount: Mount | None = None) -> set[str]:
    return {f.code for f in assess_joint(joint, mount or boss()).findings}


def test_what_stands_out_by_hand() -> None:
    """5.1 + 1.8 + 6.8 (nut) + 1.25 (one pitch beyond it) = 14.95 mm at least."""
    found = assess_joint(stud(), boss())
    assert found.stack.result.length_needed_min_mm == pytest.approx(14.95)
    assert found.stack.result.length_allowed_max_mm is None
    assert found.verdict == "sound"
    assert "too short" in codes(stud(14.0))


@given(st.sampled_from([x for x in stock_lengths_mm("M8") if 10 <= x <= 60]))
def test_a_stud_is_a_screw_whose_head_is_the_bike(length_mm: float) -> None:
    """The same layers, nut and length: what is held and what stands out are the same."""
    as_stud = assess_joint(stud(length_mm), boss()).evaluation
    as_screw = assess_joint(
        stud(length_mm, head="ISO 4017", turned="nut", stud=Stud()), boss()
    ).evaluation
    assert as_stud == as_screw


def test_a_plain_shank_keeps_the_nut_from_clamping() -> None:
    """40 mm with 20 of thread leave 20 mm of shank under a grip of 6.6."""
    assert "bottoms" in codes(stud(40.0, stud=replace(SEATED, thread_mm=20.0)))
    assert "bottoms" not in codes(stud(40.0, stud=replace(SEATED, thread_mm=35.0)))


def test_nothing_of_it_is_sound_until_it_was_measured() -> None:
    assert codes(stud(None)) == {"stud not measured"}
    assert codes(stud(stud=Stud())) == {"stud's seat not known"}
    assert assess_joint(stud(stud=Stud()), boss()).verdict == "not known"
    alone = assess_joint(stud(mount=""), None)
    assert {f.code for f in alone.findings} == {"stud's seat not known"}
    deep = replace(SEATED, seated_mm=40.0)
    assert codes(stud(stud=deep), boss(overall_height_mm=26.0)) == {"stud's seat not known"}
    other = boss(thread="M10")
    assert codes(stud(), other) == {"stud's seat not known"}


def test_the_seat_by_hand() -> None:
    """16 − 1.25 − 1.2 = 13.55 mm held at worst; cast aluminium wants 1.5 d = 12 mm."""
    seat = seat_of(stud(), boss())
    assert seat is not None
    assert seat.held_mm == pytest.approx(13.55)
    assert seat.wanted_mm == 12.0
    shallow = replace(SEATED, seated_mm=12.0)
    assert codes(stud(stud=shallow)) == {"stud sits too shallow"}
    assert assess_joint(stud(stud=shallow), boss()).verdict == "blocked"
    welded = Stud(seat="welded or pressed in")
    assert codes(stud(stud=welded)) == set()
    assert seat_of(replace(stud(), head="ISO 4017"), boss()) is None


def test_a_nut_that_brakes_turns_a_stud_that_nothing_holds() -> None:
    locking = {"nut": "ISO 7040", "length_mm": 30.0}
    assert codes(stud(**locking, stud=replace(SEATED, treatment="dry zinc"))) == {"stud may turn"}
    assert "stud may turn" not in codes(stud(**locking))


def test_the_thread_in_the_bike_limits_the_nut() -> None:
    """A_shear · τ / 2 of the seat, times K: nothing of the nut strips."""
    shallow = replace(SEATED, seated_mm=8.0)
    card, seat = card_of(stud(stud=shallow), boss(), WRENCH), seat_of(stud(stud=shallow), boss())
    assert seat is not None
    assert seat.held_mm is not None
    strength = THREAD_MATERIALS["AlSi9Cu3 die cast"].shear_strength_mpa
    load_n = strip.shear_areas("M8").internal * seat.held_mm * strength / 2
    mu = CONDITIONS["dry zinc"].mu
    turned_mm = (11.63 + standard_washer("M8").hole_mm) / 2
    per_n_mm = torque_per_preload_mm(geometry_of("M8"), turned_mm, mu, mu)
    limits = {x.name: x.torque_nm for x in card.result.limits}
    assert limits["female thread strip"] == pytest.approx(load_n * per_n_mm / 1000)
    assert card.result.governing == "female thread strip"
    assert card.result.target_nm < card_of(stud(), boss(), WRENCH).result.target_nm
    assert "stud sits too shallow" in {f.code for f in card.findings}
    assert card.result.turned == "turn the nut; the stud must not turn with it"
    assert (card.result.tool, card.result.counter_tool) == ("13 mm spanner", "")
    assert turned_side(stud()).tools == ("13 mm spanner",)


def test_the_washer_under_the_nut_takes_the_pressure() -> None:
    """Without it the nut bears on the sheet: that bears less than with a washer between."""
    with_washer = card_of(stud(), boss(), WRENCH).result.limits
    bare = card_of(stud(layers=(PLATE,)), boss(), WRENCH).result.limits
    pressure = [next(x for x in ls if "pressure" in x.name) for ls in (with_washer, bare)]
    assert pressure[1].name == "bearing pressure on plate"
    assert pressure[1].torque_nm < pressure[0].torque_nm


def test_layers_between_plate_and_bike_lower_it_and_those_under_the_nut_do_not(
    choosing: Job,
) -> None:
    own = choosing.candidate("alu5")
    first = own.joints[0]
    mount = choosing.bike.mount(first.mount)
    assert mount is not None
    made = stud(mount=first.mount, key=first.key, thread=mount.thread, length_mm=40.0)
    spacer = replace(PLATE, key="up", kind="spacer", name="spacer", material="steel")

    def height(joint: Joint) -> float:
        hung = replace(own, joints=(joint,))
        return plate_pose(choosing.bike, hung).folded.lowest_mm()[0][2]

    plain = height(made)
    above = replace(made, layers=(spacer, *made.layers))
    below = replace(made, layers=(*made.layers, replace(spacer, key="down")))
    assert height(above) == pytest.approx(plain - spacer.thickness_mm)
    assert height(below) == pytest.approx(plain)
    heads = {
        name: hung_sheet(own.plate, mounted(choosing.bike, replace(own, joints=(j,)))).heads[0].z_mm
        - height(j)
        for name, j in (("plain", made), ("above", above), ("below", below))
    }
    assert heads["plain"] == pytest.approx(heads["below"]) == pytest.approx(-(40.0 - 5.0))
    assert heads["above"] == pytest.approx(-(40.0 - 10.0)), "less of the stud hangs below"


def test_built_from_its_starting_point(started: tuple[Job, str]) -> None:
    job, path = started
    joint = job.in_hand.joints[-1]
    mount = job.mount_of(joint)
    assert mount is not None
    assert joint.is_stud
    assert joint.x_mm is None
    assert stack_words(assess_joint(joint, mount))[0] == "stud in the bike"
    for field, text in (("length_mm", "45"), ("grade", "8.8"), ("stud.seated_mm", "18")):
        job = set_text(job, f"{path}.{field}", text).job
    assert job.in_hand.joints[-1].stud.seated_mm == 18.0
    assert as_built(job.in_hand.joints[-1]) != as_built(joint)
    for head, nut in (("ISO 4762", None), (None, "")):
        with pytest.raises(InputError) as refused:
            set_text(job, f"{path}.{'head' if head else 'nut'}", head or nut or "")
        assert "stud" in refused.value.message
    steps = [s for s in plan_of(job, job.in_hand.key).steps if s.joint == joint.key]
    assert steps[0].text.startswith("Its nut on the stud.")
    assert all(s.tool == "13 mm spanner" and "stud" not in s.hardware for s in steps)
    hang = next(s for s in plan_of(job, job.in_hand.key).steps if s.key == "hang")
    assert f"Over the stud of joint {joint.number} first" in hang.text


def test_a_screw_does_not_become_a_stud_by_its_head(choosing: Job) -> None:
    first = choosing.in_hand.joints[0]
    with pytest.raises(InputError, match="stud"):
        set_text(choosing, f"candidates.{choosing.in_hand.key}.joints.{first.key}.head", "stud")
    with pytest.raises(InputError, match="stud"):
        replace(first, head="stud", nut="")


def test_no_kit_brings_it_and_no_roll_carries_it(started: tuple[Job, str]) -> None:
    job, _ = started
    joint = job.in_hand.joints[-1]
    parts = {n.part for n in needs_of(assess_joint(joint, job.mount_of(joint)))}
    assert "screw" not in parts
    assert "nut" in parts
    carried = carry_of(job)
    assert all(str(joint.number) not in s.spare.joints for s in carried.screws)
    assert joint.number not in carried.none_fits
    assert any(joint.number in part.joints for part in carried.loose if "nut" in part.what)


def test_it_is_drawn_with_its_seat() -> None:
    """16 mm left of the face, 20 mm right of it; the nut's face at 6.6 mm."""
    drawing = section_of(assess_joint(stud(), boss()), boss())
    xs = [x for p in drawing.paths if p.ref == "screw" for x, _ in p.points]
    assert (min(xs), max(xs)) == (-16.0, 20.0)
    assert any(p.ref == "seat" for p in drawing.paths)
    nut = [x for p in drawing.paths if p.ref == "female" for x, _ in p.points]
    assert min(nut) == pytest.approx(6.6)
    seated = next(d for d in drawing.dimensions if d.label == "seated")
    assert seated.metric == "16.0 mm"
    assert drawing.x < -16.0


def test_a_stud_that_holds_two_plates() -> None:
    """14.95 of the first nut, then 4.1 + 1.8 + 6.8 of the second plate, washer and nut."""
    far = Engagement(key="far", between="second plate", between_mm=4.0, torque_nm=15.0)
    both = stud(40.0, beyond=(far,))
    found = assess_joint(both, boss())
    assert found.stack.result.length_needed_min_mm == pytest.approx(14.95 + 12.7)
    assert found.verdict == "sound"
    assert "too short" in codes(stud(20.0, beyond=(far,)))
    ((_, card),) = far_cards(both, boss(), WRENCH)
    assert "stud" not in " ".join(f.code for f in card.findings), "its seat is the first nut's"
    assert card.result.target_nm == 15.0
    deep = replace(SEATED, seated_mm=8.0)
    ((_, same),) = far_cards(replace(both, stud=deep), boss(), WRENCH)
    assert same.result == card.result


def test_a_pull_takes_it_out_of_the_casting_it_sits_in(choosing: Job) -> None:
    """A strike's pull is borne by the seat in the boss, a push by the boss, and it is a casting."""
    plate = choosing.candidate("alu5").plate
    shallow = stud(stud=replace(SEATED, seated_mm=6.0))
    laws = {
        name: mount_supports(plate, (MountedJoint(joint, boss(), 600.0, 0.0),)).laws[0]
        for name, joint in (
            ("shallow", shallow),
            ("deep", stud()),
            ("on a steel tab", replace(stud(), head="ISO 4017", turned="nut")),
        )
    }
    assert laws["shallow"].pull_fails == "the stud pulls out of its thread"
    assert laws["deep"].pull_fails == "the screw yields"
    assert laws["deep"].casting
    assert not laws["on a steel tab"].casting


def test_what_is_left_when_it_has_settled() -> None:
    """As a screw in that boss whose head is as wide as the nut: the same stack upside down."""
    left = settled_figure(stud(), boss(), 8000.0).value
    layers = (standard_washer("M8"), PLATE)
    screw = stud(head="ISO 4017", nut="", female=None, female_material="", layers=layers)
    as_screw = settled_figure(screw, boss(), 8000.0).value
    assert left is not None
    assert as_screw is not None
    assert left == pytest.approx(as_screw, rel=0.03)
