"""A part put on with all its joints: what is built, where, and that none of it is plain green."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import pytest

from rugged_shield.core.assess.fitup.pieces import pieces_judged
from rugged_shield.core.assess.fitup.pose import fitted_joints
from rugged_shield.core.assess.fitup.supports import plate_supports
from rugged_shield.core.assess.gate.ready import ready_of
from rugged_shield.core.assess.tighten.plan import plan_of
from rugged_shield.core.assess.weighup.mount_springs import mount_supports
from rugged_shield.core.assess.weighup.scorecard import weigh
from rugged_shield.core.errors import InputError
from rugged_shield.core.job.edits.joints import NewJoint, add_joint
from rugged_shield.core.job.edits.parts import NewPart, add_part
from rugged_shield.core.job.edits.path import set_text
from rugged_shield.core.job.model import Job, MountedJoint, mounted
from rugged_shield.core.survey.geometry import fold, sheets_over
from rugged_shield.core.survey.mass import PlateMassInput, plate_mass
from rugged_shield.core.tighten.tools import reaches

KEY = "alu5"
MOUNTS = ("m1", "m2", "m3", "m4")


def put_on(job: Job, **more: Any) -> Job:
    return add_part(job, KEY, NewPart(**more), ()).job


def joints_of(job: Job) -> tuple[MountedJoint, ...]:
    return mounted(job.bike, job.candidate(KEY))


@pytest.fixture
def sub(choosing: Job) -> Job:
    return put_on(choosing, preset="sub-plate", mounts=MOUNTS)


@pytest.fixture
def guarded(choosing: Job) -> Job:
    return put_on(choosing, preset="side guard")


def test_a_sub_plate_hangs_on_its_mounts_and_the_plate_on_it(sub: Job) -> None:
    plate = sub.candidate(KEY).plate
    by_mount = {at.joint.mount: at for at in joints_of(sub) if at.joint.mount}
    for key in MOUNTS:
        assert by_mount[key].joint.sheets == ("sub",)
    above = [at for at in joints_of(sub) if at.joint.joins == "sub"]
    assert len(above) == 4
    folded = fold(plate)
    for at in above:
        assert {"", "sub"} <= set(sheets_over(folded, at.x_mm, at.y_mm))
    assert len(plate_supports(joints_of(sub))) == 2 + 4, (
        "the rail tabs, and by way of the sub-plate"
    )
    assert mount_supports(plate, joints_of(sub)).far.through, "engine bosses stand behind it"


def test_stacks_fill_the_air_between_the_sheets(sub: Job) -> None:
    """The sub-plate lies at the faces of its mounts, 6 mm over the plate."""
    above = next(at.joint for at in joints_of(sub) if at.joint.joins)
    kinds = [(x.kind, x.thickness_mm) for x in above.present()]
    assert ("spacer", 6.0) in kinds
    assert kinds.index(("spacer", 6.0)) < next(i for i, x in enumerate(above.layers) if x.piece)
    assert not [f for f in pieces_judged(sub, KEY, reaches).findings if "stack" in f.code]


def test_it_hangs_first_and_is_tight_before_it_is_covered(sub: Job) -> None:
    steps = [s.key for s in plan_of(sub, KEY).steps]
    own = [at.joint.key for at in joints_of(sub) if at.joint.sheets == ("sub",)]
    for key in own:
        assert steps.index("hang:sub") < steps.index(f"full:{key}") < steps.index("hang")


def test_guards_left_and_right_are_of_the_bench(guarded: Job, choosing: Job) -> None:
    assert {p.key for p in guarded.candidate(KEY).plate.pieces} == {"guard-left", "guard-right"}
    bench = [at.joint for at in joints_of(guarded) if at.joint.stage == "bench"]
    assert [j.side for j in bench] == ["left", "left", "right", "right"]
    assert len(plate_supports(joints_of(guarded))) == len(plate_supports(joints_of(choosing)))
    lacking = [f for f in pieces_judged(guarded, KEY, reaches).findings if "stack" in f.code]
    assert {f.where for f in lacking} == {"a5", "a6"}, "the rail tabs lie where the guards do"
    assert not any("its head lies under" in f.text for f in lacking), "a guard lies over the plate"


@pytest.mark.parametrize("which", ["sub", "guarded"])
def test_nothing_of_it_is_plain_green(which: str, request: pytest.FixtureRequest) -> None:
    job: Job = request.getfixturevalue(which)
    new = {j.key for j in job.as_entered(KEY).joints if j.known == "assumed"}
    assert new
    judged = fitted_joints(job.candidate(KEY).plate, joints_of(job))
    assert all(a.verdict != "sound" for a in judged if a.joint.key in new)
    assert ready_of(job, ()).verdict != "sound"


def test_one_side_alone_and_its_own_sheet(choosing: Job) -> None:
    job = put_on(
        choosing, preset="side guard", side="left", material="stainless 304", thickness_mm=2.0
    )
    (piece,) = job.candidate(KEY).plate.pieces
    assert (piece.key, piece.material, piece.thickness_mm) == ("guard-left", "stainless 304", 2.0)
    again = put_on(job, preset="side guard", side="left")
    assert [p.key for p in again.candidate(KEY).plate.pieces] == ["guard-left", "guard-left-2"]


@pytest.mark.parametrize(
    ("more", "field"),
    [
        ({"preset": "wheel"}, "preset"),
        ({"preset": "sub-plate", "mounts": ("m1", "m2")}, "mounts"),
        ({"preset": "sub-plate", "mounts": ("m1", "m1", "m1")}, "mounts"),
        ({"preset": "sub-plate", "mounts": ("m1", "m2", "x")}, "mounts"),
        ({"preset": "side guard", "side": "up"}, "side"),
        ({"preset": "side guard", "material": "glass"}, "material"),
    ],
)
def test_what_cannot_be_put_on_is_refused(choosing: Job, more: dict[str, Any], field: str) -> None:
    with pytest.raises(InputError) as refused:
        put_on(choosing, **more)
    assert refused.value.field == field


def test_a_joint_of_a_piece_is_built_without_a_place(guarded: Job) -> None:
    asked = NewJoint(preset="through nut", stage="bench", joins="guard-left")
    job = add_joint(guarded, KEY, asked, ()).job
    made = job.as_entered(KEY).joints[-1]
    assert (made.joins, made.x_mm, made.mount) == ("guard-left", None, "")
    assert made.sheets == ("", "guard-left")
    assert not any(x.key == "tab" for x in made.layers), "no tab of the bike stands behind it"
    with pytest.raises(InputError) as refused:
        add_joint(guarded, KEY, NewJoint(preset="through nut", stage="bench", x_mm=600.0), ())
    assert refused.value.field == "y_mm"
    with pytest.raises(InputError) as refused:
        add_joint(guarded, KEY, NewJoint(preset="through nut", stage="stiff", joins="nothing"), ())
    assert refused.value.field == "joins"


def test_a_part_weighs_what_its_sheet_does_whatever_the_plate_was_said_to_weigh(
    choosing: Job, sub: Job
) -> None:
    """5052 of 2.68 kg/dm³: 410 mm long, 226 to 186 mm wide, 6 mm: 1.358 kg over the claim."""
    plain, laden = (
        plate_mass(PlateMassInput(plate=job.as_entered(KEY).plate)).result
        for job in (choosing, sub)
    )
    assert plain.claimed_mass_kg is not None
    assert laden.held_mass_kg - plain.held_mass_kg == pytest.approx(
        2.68e-6 * 410 * (226 + 186) / 2 * 6, rel=1e-3
    )
    assert laden.claimed_difference == pytest.approx(plain.claimed_difference)
    assert laden.implied_thickness_mm == pytest.approx(plain.implied_thickness_mm)
    assert laden.mass_kg > plain.mass_kg


def test_work_on_the_bench_is_counted_once(choosing: Job) -> None:
    """The screws of a piece count by the sheet's word, or by their steps: never by both."""

    def screws(job: Job) -> list[str]:
        fitting = weigh(job, KEY).figures["effort"]
        return [i.label for i in fitting.inputs if "screws of wings and pieces" in i.label]

    def told(job: Job, key: str) -> Job:
        path = f"candidates.{KEY}.plate.pieces.{key}.own_screws"
        return set_text(job, path, "2").job

    own = screws(choosing)
    on_it = put_on(choosing, preset="side guard", side="left")
    assert screws(told(on_it, "guard-left")) == own
    joints = tuple(j for j in on_it.as_entered(KEY).joints if not j.joins)
    bare = on_it.with_candidate(replace(on_it.as_entered(KEY), joints=joints))
    assert screws(told(bare, "guard-left")) != own
    plain, with_guard = (weigh(j, KEY).figures["effort"].value for j in (choosing, on_it))
    assert plain is not None
    assert with_guard is not None
    # Two screws in the plan: started, half, full; about what the same two take as a word.
    assert 5.0 < with_guard - plain < 10.0


def test_a_head_that_a_later_sheet_leaves_no_room_is_said_to_have_none(sub: Job) -> None:
    """A socket head of 8 mm in the 6 mm between sub-plate and plate."""
    own = sub.as_entered(KEY)
    tall = tuple(replace(j, head="ISO 4762") if j.mount == "m1" else j for j in own.joints)
    judged = pieces_judged(sub.with_candidate(replace(own, joints=tall)), KEY, reaches)
    (found,) = [f for f in judged.findings if f.code == "sheet not in the stack"]
    assert "its head lies under that sheet, and has no room there" in found.text
