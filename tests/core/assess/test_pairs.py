"""Left and right: what differs between opposite joints, and what should not be the same."""

from __future__ import annotations

from dataclasses import replace

import pytest

from rugged_shield.core.assess.fitup.pairs import opposite, pair_of
from rugged_shield.core.assess.fitup.pose import fitted_joints
from rugged_shield.core.job.model import Job, MountedJoint, mounted

PAIRS = {"a1": "a2", "a3": "a4", "a5": "a6"}


def pair(job: Job, key: str, joints: tuple[MountedJoint, ...] | None = None):  # type: ignore[no-untyped-def]
    own = joints or mounted(job.bike, job.in_hand)
    return pair_of(key, fitted_joints(job.in_hand.plate, own), own)


@pytest.mark.parametrize(("left", "right"), PAIRS.items())
def test_opposite_is_the_mirror_image_either_way(choosing: Job, left: str, right: str) -> None:
    joints = mounted(choosing.bike, choosing.in_hand)
    by_key = {m.joint.key: m for m in joints}
    for one, other in ((left, right), (right, left)):
        found = opposite(by_key[one], joints)
        assert found is not None
        assert found.joint.key == other


def test_on_the_centre_line_there_is_no_other_side(choosing: Job) -> None:
    joints = mounted(choosing.bike, choosing.in_hand)
    middle = replace(joints[0], y_mm=0.0)
    assert opposite(middle, (middle, *joints[1:])) is None
    assert pair(choosing, "nobody") is None


def test_what_differs_is_named_from_here(choosing: Job) -> None:
    joints = mounted(choosing.bike, choosing.in_hand)
    spacer = next(m for m in joints if any(x.kind == "spacer" for x in m.joint.layers))
    key = spacer.joint.key
    layers = tuple(x for x in spacer.joint.layers if x.kind != "spacer")
    bare = replace(spacer.joint, layers=layers, length_mm=25.0, treatment="anti-seize")
    changed = tuple(replace(m, joint=bare) if m.joint.key == key else m for m in joints)
    words = " | ".join(pair(choosing, key, changed).differences)
    assert "on the other side, not here" in words
    assert "spacer" in words
    assert "anti-seize here" in words
    there = {v: k for k, v in PAIRS.items()} | PAIRS
    back = " | ".join(pair(choosing, there[key], changed).differences)
    assert "here, not on the other side" in back


def test_the_same_on_unlike_mounts_is_odd(choosing: Job) -> None:
    joints = mounted(choosing.bike, choosing.in_hand)
    by_key = {m.joint.key: m for m in joints}
    left, right = by_key["a1"], by_key["a2"]
    assert left.mount is not None
    same = replace(right.joint, layers=left.joint.layers, length_mm=left.joint.length_mm)
    deeper = replace(left.mount, thread_end_mm=left.mount.thread_end_mm + 4.0)
    alike = replace(right, joint=same, mount=replace(left.mount, y_mm=-left.mount.y_mm))
    for mount, odd in ((alike.mount, False), (replace(deeper, y_mm=-deeper.y_mm), True)):
        changed = tuple(replace(alike, mount=mount) if m.joint.key == "a2" else m for m in joints)
        found = pair(choosing, "a1", changed)
        if found.differences:
            pytest.fail(str(found.differences))
        assert bool(found.odd) is odd
