"""Joints of a job, their starting points, and the section drawn to scale."""

from __future__ import annotations

from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from rugged_shield.core.assess.fitup.joints import assess_joint, assess_joints
from rugged_shield.core.errors import InputError
from rugged_shield.core.fitup.joint import (
    Joint,
    above_plate_mm,
    below_plate_mm,
    clamped,
    female_of,
    stack_input,
    with_plate,
)
from rugged_shield.core.fitup.layer import Layer
from rugged_shield.core.fitup.presets import PRESETS, PresetRequest, joint_from_preset
from rugged_shield.core.fitup.section import section_drawing
from rugged_shield.core.fitup.stack import joint_stack
from rugged_shield.core.job.model import Job, mounted
from rugged_shield.core.mechanics.drawing import Drawing
from rugged_shield.core.tables.threads import THREADS


def joint_of(job: Job, plate: str, key: str) -> Joint:
    return next(j for j in job.candidate(plate).settled_joints() if j.key == key)


def section(job: Job, joint: Joint, length: float | None = None) -> Drawing:
    mount = job.mount_of(joint)
    assessed = assess_joint(joint, mount)
    female, material = female_of(joint, mount)
    return section_drawing(
        joint, female, material, length or assessed.length_mm, assessed.stack.result
    )


def span(drawing: Drawing, ref: str) -> tuple[float, float]:
    xs = [x for path in drawing.paths if path.ref == ref for x, _ in path.points]
    return min(xs), max(xs)


def thicker(joint: Joint, key: str, by: float) -> Joint:
    layers = tuple(
        replace(k, thickness_mm=k.thickness_mm + by) if k.key == key else k for k in joint.layers
    )
    return replace(joint, layers=layers)


@settings(max_examples=25, deadline=None)
@given(st.floats(0.1, 20))
def test_one_mm_more_of_a_layer_is_one_mm_at_scale(choosing: Job, more: float) -> None:
    joint = joint_of(choosing, "alu5", "a3")
    before, after = (
        section(choosing, joint, 50),
        section(choosing, thicker(joint, "spacer", more), 50),
    )
    assert span(after, "spacer")[1] - span(before, "spacer")[1] == pytest.approx(more)
    assert span(after, "female")[0] - span(before, "female")[0] == pytest.approx(more)
    assert span(after, "plate") == span(before, "plate")
    assert span(after, "screw") == span(before, "screw")


def test_layers_lie_head_to_tail_from_zero(choosing: Job) -> None:
    for plate in ("alu5", "steel25", "hdpe10"):
        for joint in choosing.candidate(plate).settled_joints():
            drawing = section(choosing, joint)
            at = 0.0
            for layer in clamped(joint):
                start, end = span(drawing, layer.key)
                assert start == pytest.approx(at)
                assert end == pytest.approx(at + layer.thickness_mm)
                at = end
            assert span(drawing, "female")[0] == pytest.approx(at)


def test_the_screw_is_as_long_as_it_says(choosing: Job) -> None:
    joint = joint_of(choosing, "alu5", "a3")
    for length in (30.0, 35.0, 60.0):
        assert span(section(choosing, joint, length), "screw") == pytest.approx((0, length))


def test_dimensions_say_what_the_stack_says(choosing: Job) -> None:
    joint = joint_of(choosing, "alu5", "a3")
    assessed = assess_joint(joint, choosing.mount_of(joint))
    drawn = {d.label: d for d in section(choosing, joint).dimensions}
    assert drawn["grip"].x2 - drawn["grip"].x1 == pytest.approx(18.6)
    held = drawn["thread held"]
    assert held.x2 - held.x1 == pytest.approx(assessed.evaluation.engagement_effective_mm)
    bottom = drawn["before it bottoms"]
    assert bottom.x2 - bottom.x1 == pytest.approx(assessed.evaluation.bottom_margin_nominal_mm)
    levels = [d.offset for d in drawn.values()]
    assert len(set(levels)) == len(levels), "no two dimension lines share a level"


def test_everything_is_inside_the_frame(choosing: Job) -> None:
    for candidate in (choosing.stock, *choosing.candidates):
        for joint in candidate.settled_joints():
            d = section(choosing, joint)
            for path in d.paths:
                for x, y in path.points:
                    assert d.x <= x <= d.x + d.width
                    assert d.y <= y <= d.y + d.height


@pytest.mark.parametrize("thread", THREADS)
@pytest.mark.parametrize("preset", PRESETS)
def test_every_starting_point_gives_a_joint_that_can_be_fitted(preset: str, thread: str) -> None:
    if thread == "M4" and preset == "spacer behind a foot peg":
        pytest.skip("the flanged hexagon head is not held in M4")
    plate = ("HDPE", 10.0) if "plastic" in preset else ("aluminium 5052-H32", 4.0)
    joint = joint_from_preset(
        PresetRequest(
            preset=preset,
            key="own",
            number=7,
            thread=thread,
            plate_thickness_mm=plate[1],
            plate_material=plate[0],
            x_mm=600,
            y_mm=50,
            stage="stiff",
        )
    )
    assessed = assess_joint(joint, None)
    assert assessed.stack.result.grip_nominal_mm > 0
    assert assessed.stack.result.clamp_carried_by_sleeve in (None, True)
    assert assessed.stack.result.length_needed_min_mm is not None
    assert section_drawing(
        joint, *female_of(joint, None), assessed.length_mm, assessed.stack.result
    ).paths


def test_unknown_starting_point_is_named() -> None:
    with pytest.raises(InputError, match="glue"):
        joint_from_preset(
            PresetRequest(
                preset="glue",
                key="o",
                number=1,
                thread="M8",
                plate_thickness_mm=4,
                plate_material="HDPE",
                x_mm=0,
                y_mm=0,
                stage="stiff",
            )
        )


def test_a_sleeve_counts_once_and_the_plate_not(choosing: Job) -> None:
    joint = joint_of(choosing, "hdpe10", "h1")
    kinds = [layer.kind for layer in clamped(joint)]
    assert kinds == ["washer", "sleeve", "spacer"]
    assert stack_input(joint, choosing.mount_of(joint)).sleeve is not None
    assert above_plate_mm(joint) == 12
    assert below_plate_mm(joint) == 2.0


def test_a_layer_left_out_is_out_of_the_grip(choosing: Job) -> None:
    joint = joint_of(choosing, "alu5", "a3")
    layers = tuple(replace(k, left_out=k.kind == "washer") for k in joint.layers)
    less = replace(joint, layers=layers)
    assert sum(k.thickness_mm for k in clamped(less)) == pytest.approx(17.0)
    assert below_plate_mm(less) == 0


def test_plate_layers_follow_the_plate(choosing: Job) -> None:
    joint = with_plate(joint_of(choosing, "alu5", "a3"), 8.0, "HDPE")
    plate = next(k for k in joint.layers if k.kind == "plate")
    assert (plate.thickness_mm, plate.material) == (8.0, "HDPE")


def test_demo_joints_bring_out_their_findings(choosing: Job) -> None:
    codes = {
        plate: {
            f.code
            for a in assess_joints(mounted(choosing.bike, choosing.candidate(plate)))
            for f in a.findings
        }
        for plate in ("alu5", "steel25", "hdpe10")
    }
    assert codes["alu5"] == set()
    assert {"hits neighbour", "wrong screw in hand"} <= codes["steel25"]
    assert "sleeve shorter than its plate" in codes["hdpe10"]


def test_refusals(choosing: Job) -> None:
    joint = joint_of(choosing, "alu5", "a3")
    with pytest.raises(InputError, match="smaller than the screw"):
        replace(joint, layers=(replace(joint.layers[0], hole_mm=6.0),))
    with pytest.raises(InputError, match="nothing is clamped"):
        replace(joint, layers=())
    with pytest.raises(InputError, match="treatment"):
        replace(joint, treatment="honey")
    with pytest.raises(InputError, match="as wide as it is"):
        Layer(
            key="x",
            kind="washer",
            name="w",
            material="steel",
            thickness_mm=1.6,
            tol_mm=0.1,
            outer_mm=8.0,
            hole_mm=8.4,
        )
    with pytest.raises(InputError, match="threads into nothing"):
        female_of(replace(joint, mount="m99"), None)


@pytest.mark.parametrize(
    ("head", "thread_mm"),
    [("EN 1665", 22.0), ("EN 1662", 22.0), ("DIN 7991", 22.0), ("ISO 7380-2", 28.0)],
)
def test_screws_longer_than_their_thread_can_jam(
    choosing: Job, head: str, thread_mm: float
) -> None:
    """A shank that meets the female thread stops the screw before it clamps."""
    joint = next(j for j in choosing.candidate("alu5").settled_joints() if j.key == "a3")
    asked = stack_input(joint, choosing.mount_of(joint))
    by_head = replace(
        asked, head=head, countersink=None, thread_length_b_mm=None, evaluate_lengths_mm=(80.0,)
    )
    assert by_head.thread_mm[0] == thread_mm
    grip = joint_stack(by_head).result.grip_nominal_mm
    assert 80.0 - thread_mm > grip, "the shank would stand in the thread"
    assert joint_stack(by_head).result.evaluations[0].shank_jams
    full = replace(by_head, head="ISO 4017")
    assert not joint_stack(full).result.evaluations[0].shank_jams
