"""Changes of a plate taken back: in their turn all of it, out of turn nothing."""

from __future__ import annotations

from dataclasses import replace

import pytest

from rugged_shield.core.errors import InputError
from rugged_shield.core.job.edits.asked import Modify
from rugged_shield.core.job.edits.modify import modify, unmake
from rugged_shield.core.job.model import Job


def with_changes(job: Job, *asked: dict[str, object]) -> Job:
    for one in asked:
        job = modify(job, job.in_hand.key, Modify(**one)).job  # type: ignore[arg-type]
    return job


BENT = {"kind": "bend", "panel": "wing left", "turn_deg": 4.0}


@pytest.mark.parametrize(
    "asked",
    [
        (BENT, {"kind": "other side", "panel": "wing left"}),
        ({"kind": "other side", "panel": "wing left"}, BENT),
        (BENT, {"kind": "bend", "panel": "wing left", "turn_deg": 3.0}),
        (
            {"kind": "spacer", "thick_mm": 8.0, "joints": ("a1",)},
            {"kind": "spacer", "thick_mm": 3.0, "joints": ("a1",)},
        ),
    ],
    ids=["bent, then turned", "turned, then bent", "bent twice", "spaced twice"],
)
def test_what_a_later_change_builds_on_goes_after_it(
    choosing: Job, asked: tuple[dict[str, object], ...]
) -> None:
    """Taken back in their turn, the plate is what it was; out of turn nothing is left askew."""
    own = choosing.in_hand
    wing = replace(own.plate.wing_left, own_screws=3)  # type: ignore[type-var]
    job = choosing.with_candidate(replace(own, plate=replace(own.plate, wing_left=wing)))
    two = with_changes(job, *asked)
    first, second = two.in_hand.changes
    with pytest.raises(InputError, match="builds on it"):
        unmake(two, two.in_hand.key, first.key)
    one = unmake(two, two.in_hand.key, second.key).job
    back = unmake(one, one.in_hand.key, first.key).job
    assert back.in_hand.plate == job.in_hand.plate
    assert back.in_hand.joints == job.in_hand.joints


def test_changes_at_other_places_go_in_any_order(choosing: Job) -> None:
    other = {"kind": "bend", "panel": "apron", "turn_deg": 3.0}
    two = with_changes(choosing, BENT, other)
    one = unmake(two, two.in_hand.key, two.in_hand.changes[0].key).job
    back = unmake(one, one.in_hand.key, one.in_hand.changes[0].key).job
    assert back.in_hand.plate == choosing.in_hand.plate
