"""Countersunk heads: in a sink, in a cup washer, on a flat one."""

from __future__ import annotations

from dataclasses import replace

import pytest

from rugged_shield.core.fitup.joint import Joint, clamped
from rugged_shield.core.fitup.layer import Layer
from rugged_shield.core.fitup.seats import seat_findings
from rugged_shield.core.job.model import Job
from tests.ready_changes import sink


def cone(choosing: Job, *, under: Layer | None = None, **fields: object) -> Joint:
    """A countersunk joint of the plate in hand, with what is laid under its head."""
    first = next(j for j in choosing.in_hand.joints if j.clamps_plate)
    plate = next(k for k in first.layers if k.kind == "plate")
    layers = tuple(k for k in first.layers if k.kind not in ("washer",))
    assert plate in layers
    if under is not None:
        layers = (under, *layers)
    return replace(first, head="ISO 10642", layers=layers, **fields)  # type: ignore[arg-type]


def ring(kind: str, first: Joint) -> Layer:
    base = next(k for k in first.layers if k.kind == "plate")
    return replace(
        base, key="under", kind=kind, name=kind, material="steel", thickness_mm=2.0,
        outer_mm=22.0, hole_mm=8.4,
    )  # type: ignore[arg-type]  # fmt: skip


def codes(joint: Joint) -> list[str]:
    return [f.code for f in seat_findings(joint)]


def test_a_cup_washer_is_the_sink_that_the_head_was_made_for(choosing: Job) -> None:
    bare = cone(choosing, countersink=None)
    assert codes(bare) == ["sink not known"]
    assert codes(cone(choosing, countersink=None, under=ring("washer", bare))) == [
        "flat washer under a cone"
    ]
    cupped = cone(choosing, countersink=None, under=ring("cup washer", bare))
    assert codes(cupped) == []


def test_a_cup_washer_is_clamped_as_any_layer(choosing: Job) -> None:
    """Its height counts in the stack, and its material at the head."""
    bare = cone(choosing, countersink=None)
    cupped = cone(choosing, countersink=None, under=ring("cup washer", bare))
    thick = [sum(k.thickness_mm for k in clamped(j)) for j in (bare, cupped)]
    assert thick[1] - thick[0] == pytest.approx(2.0)
    assert clamped(cupped)[0].kind == "cup washer"


def test_an_angle_that_nobody_knows_is_not_taken_for_ninety(choosing: Job) -> None:
    known = cone(choosing, countersink=sink(sink_diameter_mm=18.0, hole_diameter_mm=8.4))
    assert codes(known) == []
    unknown = replace(known, countersink=replace(known.countersink, angle_deg=None))
    assert codes(unknown) == ["sink's angle not known"]
