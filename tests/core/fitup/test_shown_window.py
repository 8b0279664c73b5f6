"""What is shaded on the scale of lengths, and the depths of a hole."""

from __future__ import annotations

from dataclasses import replace

import pytest

from rugged_shield.core.assess.fitup.joints import LengthMark, Span, assess_joint, shaded_spans
from rugged_shield.core.errors import InputError
from rugged_shield.core.job.edits.path import set_text
from rugged_shield.core.job.model import Job, mounted
from rugged_shield.core.survey.bike import Mount
from rugged_shield.core.survey.sketches import tape_sketch


def marks(**verdicts: str) -> tuple[LengthMark, ...]:
    return tuple(LengthMark(float(k[1:]), v, False, False) for k, v in verdicts.items())


def test_a_window_without_blocked_lengths_is_shaded_whole() -> None:
    found = shaded_spans(
        24.0, 31.0, marks(l20="too short", l25="sound", l30="sound", l35="bottoms")
    )
    assert found == (Span(24.0, 31.0),)


def test_a_blocked_length_is_cut_out_half_way_to_its_neighbours() -> None:
    """A shank that jams from 30 on: what is left ends between 25 and 30."""
    given = marks(l20="too short", l25="sound", l30="bottoms", l35="bottoms", l40="bottoms")
    assert shaded_spans(24.0, 37.0, given) == (Span(24.0, 27.5),)
    middle = marks(l25="sound", l30="bottoms", l35="sound")
    assert shaded_spans(24.0, 36.0, middle) == (Span(24.0, 27.5), Span(32.5, 36.0))


def test_nothing_is_shaded_where_nothing_would_do() -> None:
    assert shaded_spans(None, 30.0, marks(l25="too short")) == ()
    assert shaded_spans(24.0, 31.0, marks(l25="knife-edged countersink")) == ()
    assert shaded_spans(24.0, 27.0, marks(l20="too short", l25="bottoms", l30="bottoms")) == ()


@pytest.mark.parametrize("head", ["ISO 4762", "EN 1665", "DIN 7991", "ISO 7380-1"])
def test_no_blocked_length_of_a_real_joint_is_shaded(choosing: Job, head: str) -> None:
    for key in ("a1", "a3", "a5"):
        job = set_text(choosing, f"candidates.alu5.joints.{key}.head", head).job
        at = next(m for m in mounted(job.bike, job.in_hand) if m.joint.key == key)
        judged = assess_joint(at.joint, at.mount)
        for mark in judged.lengths:
            inside = any(s.start_mm <= mark.length_mm <= s.end_mm for s in judged.shaded_mm)
            assert not (inside and mark.verdict != "sound"), (key, mark)


def mount_of(job: Job, **fields: object) -> Mount:
    return replace(job.bike.mounts[0], **fields)  # type: ignore[arg-type]


def test_fourteen_deep_thread_in_a_sixteen_deep_hole_ends_at_fourteen(choosing: Job) -> None:
    blind = mount_of(
        choosing, female_kind="blind_tapped", thread_end_mm=14.0, overall_height_mm=16.0,
        free_space_mm=30.0,
    )  # fmt: skip
    female = blind.female()
    assert not female.is_through
    assert (female.thread_end_mm, female.free_space_mm) == (14.0, None)
    joint = next(j for j in choosing.in_hand.settled_joints() if j.key == "a3")
    through = mount_of(
        choosing, female_kind="through_tapped", thread_end_mm=14.0, overall_height_mm=16.0,
        free_space_mm=30.0,
    )  # fmt: skip
    longest = assess_joint(joint, blind).stack.result.length_allowed_max_mm
    grip = assess_joint(joint, blind).stack.result.grip_nominal_mm
    assert longest is not None
    assert longest <= grip + 14.0
    assert (assess_joint(joint, through).stack.result.length_allowed_max_mm or 0) > longest + 20


def test_a_thread_deeper_than_its_hole_is_refused_by_name(choosing: Job) -> None:
    with pytest.raises(InputError, match="deeper than its hole") as refused:
        mount_of(choosing, female_kind="blind_tapped", thread_end_mm=16.0, overall_height_mm=14.0)
    assert refused.value.field == "overall_height_mm"


@pytest.mark.parametrize(
    ("kind", "said"),
    [
        ("blind_tapped", {"lead", "thread", "hole"}),
        ("through_tapped", {"lead", "thread", "height", "free"}),
    ],
)
def test_one_sketch_shows_every_depth(choosing: Job, kind: str, said: set[str]) -> None:
    mount = mount_of(
        choosing, female_kind=kind, thread_start_mm=1.0, thread_end_mm=14.0,
        overall_height_mm=16.0, free_space_mm=9.0,
    )  # fmt: skip
    for field in ("thread_end_mm", "overall_height_mm"):
        drawing = tape_sketch(choosing.bike, mount, field).drawing
        assert {d.label for d in drawing.dimensions} == said
        spans = {d.label: d.x2 - d.x1 for d in drawing.dimensions}
        assert spans["thread"] == pytest.approx(14.0)
