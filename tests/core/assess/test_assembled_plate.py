"""A plate with parts between it and the bike: what is a support, what a casting takes, the plan."""

from __future__ import annotations

from dataclasses import replace
from functools import cache
from typing import Any

import numpy as np
import pytest

from rugged_shield.core.assess.fitup.holes import holes_judged
from rugged_shield.core.assess.fitup.supports import plate_supports, support_findings
from rugged_shield.core.assess.keep.log import oil_joints
from rugged_shield.core.assess.tighten.plan import plan_of
from rugged_shield.core.assess.weighup.mount_springs import joint_springs, mount_supports
from rugged_shield.core.assess.weighup.strike import strike_asked, strike_of
from rugged_shield.core.assess.weighup.through import alone_as_together
from rugged_shield.core.errors import InputError
from rugged_shield.core.fitup.joint import Joint, Stage
from rugged_shield.core.fitup.layer import Layer
from rugged_shield.core.fitup.presets import PresetRequest, joint_from_preset
from rugged_shield.core.job.model import Candidate, Job, MountedJoint, mounted
from rugged_shield.core.shell.assembly import assembly_response
from rugged_shield.core.shell.assembly_input import (
    AssemblyInput,
    AssemblyJoint,
    AssemblyLoad,
    AssemblyMount,
    AssemblySheet,
)
from rugged_shield.core.survey.geometry import fold
from rugged_shield.core.survey.plate import Piece, Plate
from rugged_shield.core.tables.materials import SHEET_MATERIALS
from rugged_shield.core.weighup.strike_field import struck_field, struck_of
from rugged_shield.core.weighup.strike_linear import shell_panels
from rugged_shield.demo.jobs import demo_job

KEY = "alu5"
SUB = Piece(
    key="sub",
    name="sub-plate",
    order=-1,
    x_mm=470.0,
    y_mm=0.0,
    z_mm=292.0,
    length_mm=395.0,
    front_width_mm=200.0,
    rear_width_mm=170.0,
    thickness_mm=6.0,
    material="aluminium 5083-H111",
)
PLACES = ((560.0, -50.0), (560.0, 50.0), (760.0, -50.0), (760.0, 50.0))


def of_piece(thickness_mm: float, key: str = "sub") -> Layer:
    return Layer(
        key=f"sheet-{key}",
        kind="panel",
        name=key,
        material="aluminium 5083-H111",
        thickness_mm=thickness_mm,
        outer_mm=27.0,
        hole_mm=9.0,
        piece=key,
    )


def between(number: int, place: tuple[float, float] | None, **more: Any) -> Joint:
    """A screw with its nut through the plate and a piece."""
    made = joint_from_preset(
        PresetRequest(
            preset="through nut",
            key=f"p{number}",
            number=number,
            thread="M8",
            plate_thickness_mm=5.0,
            plate_material="aluminium 5052-H32",
            x_mm=0.0,
            y_mm=0.0,
            stage="stiff",
        )
    )
    x, y = place or (None, None)
    plate = next(i for i, layer in enumerate(made.layers) if layer.kind == "plate")
    layers = (*made.layers[: plate + 1], of_piece(6.0), *made.layers[plate + 1 :])
    return replace(made, **{"layers": layers, "x_mm": x, "y_mm": y, "joins": "sub", **more})


def changed(job: Job, joints: tuple[Joint, ...], *pieces: Piece) -> Job:
    own = job.as_entered(KEY)
    made = replace(own, plate=replace(own.plate, pieces=pieces), joints=joints)
    return replace(job.with_candidate(made), picked="", weighing=KEY)


@cache
def choosing() -> Job:
    return demo_job("choosing").job


@cache
def on_sub_plate() -> Job:
    """Four of the plate's own mounts hold a sub-plate, and that holds the plate by four screws."""
    below = tuple(
        replace(
            j,
            layers=tuple(of_piece(6.0) if x.kind == "plate" else x for x in j.layers),
            length_mm=None,
        )
        for j in choosing().as_entered(KEY).joints
        if j.mount in ("m1", "m2", "m3", "m4")
    )
    above = tuple(between(20 + i, at) for i, at in enumerate(PLACES))
    return changed(choosing(), (*below, *above), SUB)


def joints_of(job: Job) -> tuple[MountedJoint, ...]:
    return mounted(job.bike, job.candidate(KEY))


def candidate(job: Job) -> Candidate:
    return job.candidate(KEY)


def bench(job: Job, *more: Joint) -> Job:
    return changed(job, (*job.as_entered(KEY).joints, *more), replace(SUB, z_mm=281.0, order=1))


def two_on_the_bench() -> Job:
    places = ((660.0, -40.0), (660.0, 40.0))
    return bench(choosing(), *(between(30 + i, at, stage="bench") for i, at in enumerate(places)))


def test_bench_joints_hold_nothing_on_the_bike() -> None:
    """Two of them in the belly turned “reached at 2 J” into 18 J, and four oil screws into six."""
    plain, with_bench = bench(choosing()), two_on_the_bench()
    assert len(plate_supports(joints_of(with_bench))) == len(plate_supports(joints_of(plain)))
    before, after = (strike_asked(job, KEY) for job in (plain, with_bench))
    assert before.mounts == after.mounts
    assert strike_of(after).result.first_touch_j == strike_of(before).result.first_touch_j
    assert oil_joints(replace(with_bench, picked=KEY)) == oil_joints(replace(plain, picked=KEY))
    assert support_findings(fold(candidate(plain).plate), joints_of(plain)) == support_findings(
        fold(candidate(with_bench).plate), joints_of(with_bench)
    )
    holes = {h.key for h in holes_judged(candidate(with_bench).plate, joints_of(with_bench)).holes}
    assert not {"p30", "p31"} & holes, "no thread of the bike stands behind them"


def test_on_bench_joints_alone_it_hangs_on_nothing() -> None:
    joints = tuple(between(30 + i, at, stage="bench") for i, at in enumerate(PLACES))
    job = changed(choosing(), joints, SUB)
    assert plate_supports(joints_of(job)) == ()
    with pytest.raises(InputError, match="nothing holds the plate"):
        strike_of(strike_asked(job, KEY))


def test_a_bench_joint_needs_no_place_and_is_judged_without_one() -> None:
    job = bench(choosing(), between(30, None, stage="bench"))
    at = next(m for m in joints_of(job) if m.joint.key == "p30")
    assert not at.is_placed
    steps = keys(job)
    assert steps.index("start:p30") < steps.index("hang")
    with pytest.raises(InputError, match="a place on the bike"):
        joints_of(changed(choosing(), (between(30, None, joins=""),)))


@pytest.mark.parametrize(
    ("more", "field"),
    [({"mount": "m1"}, "mount"), ({"joins": "nothing"}, "joints.p30.joins")],
)
def test_what_cannot_be_is_refused(more: dict[str, Any], field: str) -> None:
    with pytest.raises(InputError) as refused:
        bench(choosing(), between(30, (660.0, 0.0), stage="bench", **more))
    assert refused.value.field == field


def test_a_casting_under_a_sub_plate_takes_its_share() -> None:
    """Worst mount on a casting showed 0 % as soon as a sub-plate lay between."""
    result = strike_of(strike_asked(on_sub_plate(), KEY)).result
    straight = strike_of(strike_asked(choosing(), KEY)).result
    through = max(p.casting_share or 0.0 for p in result.points)
    assert through > 0.3 * max(p.casting_share or 0.0 for p in straight.points)
    assert {p.worst_mount for p in result.points} & {"joint 1", "joint 2", "joint 3", "joint 4"}


def test_what_the_sheet_passes_on_is_all_there() -> None:
    """A force on any joint comes out at the mounts behind, whole, about any axis."""
    job = on_sub_plate()
    supports = mount_supports(candidate(job).plate, joints_of(job))
    places = np.array(supports.far.at_mm)
    table = np.array(supports.far.carried)
    for m, mount in enumerate(supports.mounts):
        at = np.array([mount.at_mm[0], mount.at_mm[1], 292.0])
        for axis in range(6):
            put = np.eye(6)[axis]
            force, moment = table[:, m, axis, :3], table[:, m, axis, 3:]
            assert force.sum(axis=0) == pytest.approx(put[:3], abs=1e-6)
            turned = (np.cross(places, force) + moment).sum(axis=0)
            assert turned == pytest.approx(np.cross(at, put[:3]) + put[3:], abs=1e-3), axis
    assert [supports.mounts[i].name for i in supports.far.through]


def as_assembly(job: Job, loads: tuple[AssemblyLoad, ...]) -> AssemblyInput:
    """The same plate, sub-plate and mounts in full: nothing of the sheet's springs is used."""
    plate, folded = candidate(job).plate, fold(candidate(job).plate)

    def metal(name: str) -> dict[str, float]:
        sheet = SHEET_MATERIALS[name]
        return {
            "youngs_modulus_mpa": sheet.youngs_modulus_gpa * 1000,
            "poisson": sheet.poisson_ratio,
        }

    mounts, joints = [], []
    for at in joints_of(job):
        if at.joint.joins:
            joints.append(
                AssemblyJoint(at.joint.key, "plate", "sheet:sub", (at.x_mm, at.y_mm, 288.0))
            )
            continue
        along, across, turning = joint_springs(at.joint, at.mount)
        mounts.append(
            AssemblyMount(
                f"joint {at.joint.number}",
                "sheet:sub",
                (at.x_mm, at.y_mm, 292.0),
                (across, across, along),
                (turning,) * 3,
            )
        )
    return AssemblyInput(
        panels=shell_panels(folded),
        thickness_mm=plate.thickness_mm,
        **metal(plate.material),
        sheets=(
            AssemblySheet(
                name="sub",
                panels=shell_panels(folded, "sub"),
                thickness_mm=6.0,
                **metal("aluminium 5083-H111"),
            ),
        ),
        joints=tuple(joints),
        mounts=tuple(mounts),
        loads=loads,
        mesh_mm=16.0,
    )


def test_mounts_behind_take_what_the_whole_assembly_gives_them() -> None:
    """Against the assembly solved in full: the worst mount within 10 %, deflection 0.9 to 1.6."""
    job = on_sub_plate()
    asked = strike_asked(job, KEY)
    linear, field = struck_field(struck_of(asked))
    places = field.places
    at_mounts = places.behind(places.moved * places.springs, np.ones(len(places.moved)))
    nodes = linear.mesh.nodes[field.nodes]
    names = [law.name for law in field.places.far.laws]
    for x, y in ((500.0, 0.0), (660.0, 0.0), (660.0, 90.0), (560.0, -80.0), (820.0, 30.0)):
        i = int(np.linalg.norm(nodes - [x, y, 284.0], axis=1).argmin())
        panel = linear.mesh.panels[int(field.panel[i])].name
        assert panel == "belly"
        uv = (float(nodes[i][0] - 470.0), float(nodes[i][1]))
        found = assembly_response(as_assembly(job, (AssemblyLoad("belly", uv, 1.0),))).result
        whole = found.loads[0].mounts
        worst = max(names, key=lambda n: abs(whole[n].force_n[2]))
        mine = float(at_mounts[i, names.index(worst), 2])
        assert mine == pytest.approx(whole[worst].force_n[2], rel=0.1), (x, y)
        gives = float(linear.compliance[field.nodes[i], 2, 2])
        assert 0.9 < gives / found.loads[0].deflection_mm < 1.6, (x, y)


def keys(job: Job) -> list[str]:
    return [s.key for s in plan_of(job, KEY).steps]


def test_the_bench_comes_first_and_what_it_made_hangs_in_one() -> None:
    steps = keys(two_on_the_bench())
    assert steps.index("full:p31") < steps.index("hang")
    assert "hang:sub" not in steps
    assert "verify:p30" not in steps
    hang = next(s for s in plan_of(two_on_the_bench(), KEY).steps if s.key == "hang")
    assert "With what was screwed to it: sub-plate." in hang.text


def test_what_the_plate_covers_is_tight_before_it_hangs() -> None:
    job = on_sub_plate()
    steps = keys(job)
    assert steps.index("hang:sub") < steps.index("start:a3") < steps.index("full:a3")
    assert steps.index("full:a3") < steps.index("hang") < steps.index("start:p20")
    assert "verify:a3" not in steps
    assert "verify:p20" in steps
    plan = plan_of(job, KEY)
    assert plan.reasons["a4"] == "the plate will cover it: tight before that"


def bracket(number: int, place: tuple[float, float], stage: Stage = "bracket") -> Joint:
    """A screw that holds a bracket to a tab of the frame, and no sheet."""
    made = between(number, place, joins="", stage=stage)
    layers = tuple(
        replace(x, key="arm", kind="bracket", name="arm", piece="") if x.piece else x
        for x in made.layers
        if x.kind != "plate"
    )
    return replace(made, layers=layers)


def test_brackets_stand_loose_follow_the_plate_and_are_tight_last() -> None:
    job = choosing()
    job = changed(job, (*job.as_entered(KEY).joints, bracket(40, (300.0, 0.0))))
    steps = keys(job)
    assert steps.index("start:p40") < steps.index("hang")
    assert steps.index("full:p40") > max(i for i, s in enumerate(steps) if s == "full:a6")
    assert steps.index("verify:p40") > steps.index("full:p40")
    covered = changed(job, (*choosing().as_entered(KEY).joints, bracket(41, (660.0, 0.0))))
    steps = keys(covered)
    assert steps.index("full:p41") < steps.index("hang"), "the plate would cover it"


def test_springs_that_were_never_coupled_stay_what_they_are() -> None:
    """The fixed point: what is behind each freedom alone is its spring, whatever the sheet."""
    rng = np.random.default_rng(7)
    half = rng.normal(size=(6, 6))
    sheet = half @ half.T
    apart = rng.uniform(1.0, 9.0, size=6)
    assert alone_as_together(sheet, np.diag(apart)) == pytest.approx(apart, rel=1e-9)
    coupled = np.diag(apart) + 0.2 * half @ half.T
    found = alone_as_together(sheet, coupled)
    wanted = np.diag(np.linalg.inv(sheet + coupled))
    assert np.diag(np.linalg.inv(sheet + np.diag(found))) == pytest.approx(wanted, rel=1e-6)


def test_a_sub_plate_on_two_mounts_in_a_line_is_said_by_name() -> None:
    own = on_sub_plate().as_entered(KEY)
    soft = tuple(j for j in own.joints if j.joins or j.mount == "m3")
    job = changed(choosing(), soft, SUB)
    supports = mount_supports(candidate(job).plate, joints_of(job))
    assert supports.far.laws, "one boss that holds turning holds it, if badly"
    off = tuple(replace(j, x_mm=400.0) if j.key == "p20" else j for j in own.joints)
    with pytest.raises(InputError, match="not on the piece that it holds"):
        mount_supports(plate_of(off), joints_of(changed(choosing(), off, SUB)))
    near = tuple(replace(j, x_mm=565.0, y_mm=-48.0) if j.key == "p21" else j for j in own.joints)
    with pytest.raises(InputError, match="stand at one place"):
        mount_supports(plate_of(near), joints_of(changed(choosing(), near, SUB)))


def plate_of(joints: tuple[Joint, ...]) -> Plate:
    return candidate(changed(choosing(), joints, SUB)).plate
