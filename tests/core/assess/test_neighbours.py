"""Neighbours: computed where drawn, looked at where not; assumed places are never green."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
import pytest

from rugged_shield.core.assess.fitup.brackets import brackets_of
from rugged_shield.core.assess.fitup.neighbours import NeighbourJudged, neighbours_judged
from rugged_shield.core.assess.fitup.pose import plate_pose
from rugged_shield.core.assess.gate.ready import ready_of
from rugged_shield.core.errors import InputError
from rugged_shield.core.fitup.gap_seen import GapSeen
from rugged_shield.core.fitup.layer import Layer
from rugged_shield.core.job.edits.clearances import forget_gap, note_gap, usual_neighbours
from rugged_shield.core.job.model import Job, mounted
from rugged_shield.core.mechanics.threads import head_of
from rugged_shield.core.survey.geometry import sheet_point
from rugged_shield.core.survey.neighbours import Neighbour


def lever(height: float = 150.0, known: str = "measured", **more: object) -> Neighbour:
    """A rod along the bike under the plate, turning a little about an axis across it."""
    return Neighbour(
        key="lever",
        name="brake pedal",
        state="through its travel",
        kind="moving",
        pivot_x_mm=700.0,
        pivot_y_mm=0.0,
        pivot_z_mm=height,
        tip_x_mm=550.0,
        tip_y_mm=0.0,
        tip_z_mm=height,
        from_deg=0.0,
        to_deg=10.0,
        half_thick_mm=6.0,
        known=known,  # type: ignore[arg-type]
        **more,  # type: ignore[arg-type]
    )


def beside(job: Job, *neighbours: Neighbour) -> Job:
    return replace(job, bike=replace(job.bike, neighbours=neighbours))


def judged(job: Job) -> NeighbourJudged:
    return neighbours_judged(job, job.in_hand)[1]


def test_the_usual_ones_are_listed_once_and_nobody_has_looked(choosing: Job) -> None:
    job = usual_neighbours(choosing).job
    rows = neighbours_judged(job, job.in_hand)
    assert {"gear lever", "brake pedal", "side stand", "front wheel"} <= {r.name for r in rows}
    assert all(r.verdict == "not known" for r in rows)
    with pytest.raises(InputError, match="neighbours"):
        usual_neighbours(job)


def test_measured_places_are_computed_and_the_gap_is_the_geometrys(choosing: Job) -> None:
    low = judged(beside(choosing, lever(120.0)))
    higher = judged(beside(choosing, lever(140.0)))
    assert low.gap_mm is not None
    assert higher.gap_mm is not None
    assert 15.0 < low.gap_mm - higher.gap_mm < 25.0, "nearer by about what it was raised"
    assert low.verdict == "sound"
    assert low.film is not None


def test_a_rod_through_the_sheet_strikes(choosing: Job) -> None:
    belly = choosing.in_hand.plate.belly.z_rear_mm
    found = judged(beside(choosing, lever(belly - 10.0)))
    assert found.gap_mm == 0.0
    assert found.verdict == "blocked"


def test_assumed_places_tell_what_to_look_at_and_no_more(choosing: Job) -> None:
    found = judged(beside(choosing, lever(100.0, known="assumed")))
    assert found.verdict == "not known"
    assert "assumed" in found.findings[0].text


def test_a_boot_reaches_farther_and_an_unknown_boot_is_not_known(choosing: Job) -> None:
    bare = beside(choosing, lever(130.0))
    shod = beside(choosing, lever(130.0, boot=True))
    assert judged(shod).verdict == "not known"
    with_boot = replace(shod, use=replace(shod.use, boot_toe_mm=80.0))
    near, far = judged(with_boot).gap_mm, judged(bare).gap_mm
    assert near is not None
    assert far is not None
    assert 5.0 < far - near <= 40.0 - 6.0, "half the boot less half the pedal, at most"


@pytest.mark.parametrize(
    ("seen", "verdict"),
    [
        (GapSeen(key="lever", gap_mm=20.0), "sound"),
        (GapSeen(key="lever", gap_mm=6.5), "mind"),
        (GapSeen(key="lever", gap_mm=3.0), "blocked"),
        (GapSeen(key="lever", gap_mm=7.0, looked_with="a pencil passes"), "sound"),
        (GapSeen(key="lever", gap_mm=0.0, looked_with="it touches"), "blocked"),
    ],
)
def test_what_was_looked_at_is_held_against_what_it_wants(
    choosing: Job, seen: GapSeen, verdict: str
) -> None:
    job = beside(choosing, lever(100.0, known="assumed"))
    looked = note_gap(job, job.in_hand.key, seen).job
    assert judged(looked).verdict == verdict
    again = forget_gap(looked, job.in_hand.key, "lever").job
    assert judged(again).verdict == "not known"


def test_a_pencil_says_nothing_of_a_hot_pipe_that_wants_more(choosing: Job) -> None:
    hot = replace(lever(100.0, known="assumed"), kind="hot", least_mm=20.0)
    job = beside(choosing, hot)
    seen = GapSeen(key="lever", gap_mm=7.0, looked_with="a pencil passes")
    assert judged(note_gap(job, job.in_hand.key, seen).job).verdict == "not known"


def test_ready_to_ride_waits_for_the_pedal(choosing: Job) -> None:
    job = beside(choosing, lever(100.0, known="assumed"))
    assert any("brake pedal" in m for m in ready_of(job, ()).missing_words)
    with pytest.raises(InputError, match="key"):
        note_gap(job, job.in_hand.key, GapSeen(key="nobody", gap_mm=1.0))


def test_a_motion_too_long_to_work_out_breaks_no_screen(choosing: Job) -> None:
    long = replace(
        lever(150.0), tip_x_mm=-590.0, turns_about="upright", from_deg=-180.0, to_deg=180.0
    )
    found = judged(beside(choosing, long))
    assert found.verdict == ("not known" if found.gap_mm is None else "sound")


def test_a_gloved_finger_goes_round_what_it_holds(choosing: Job) -> None:
    bare = beside(choosing, lever(130.0))
    held = beside(choosing, lever(130.0, glove=True))
    assert judged(held).verdict == "not known"
    assert "with the glove on" in judged(held).findings[0].text
    gloved = replace(held, use=replace(held.use, glove_finger_mm=24.0))
    near, far = judged(gloved).gap_mm, judged(bare).gap_mm
    assert near is not None
    assert far is not None
    assert 12.0 < far - near <= 24.0, "the finger, at most, where the tip is what comes nearest"


def strapped(job: Job, runs_deg: float | None) -> Job:
    """A bracket of 90 mm on the third joint, behind the plate."""
    joint = job.in_hand.joints[2]
    strap = Layer(
        key="strap",
        kind="bracket",
        name="bracket",
        material="steel",
        thickness_mm=4.0,
        outer_mm=20.0,
        span_mm=90.0,
        runs_deg=runs_deg,
    )
    plate = next(i for i, layer in enumerate(joint.layers) if layer.clamps_plate)
    layers = (*joint.layers[: plate + 1], strap, *joint.layers[plate + 1 :])
    return job.with_candidate(
        replace(
            job.in_hand,
            joints=tuple(
                replace(j, layers=layers) if j == joint else j for j in job.in_hand.joints
            ),
        )
    )


def test_a_bracket_stands_where_its_stack_and_its_way_put_it(choosing: Job) -> None:
    """The strap's middle: plate and half of its own above the outer face, half its length off."""
    at = mounted(choosing.bike, choosing.in_hand)[2]
    for runs, ahead, right in ((0.0, 45.0, 0.0), (90.0, 0.0, 45.0), (180.0, -45.0, 0.0)):
        job = strapped(choosing, runs)
        folded = plate_pose(job.bike, job.in_hand).folded
        [bracket] = brackets_of(job.bike, job.in_hand, folded)
        x, y, z = np.mean(bracket.thing.polygon, axis=0)
        assert (x, y) == pytest.approx((at.x_mm - ahead, at.y_mm + right))
        under = sheet_point(folded, at.x_mm, at.y_mm, every=True)
        assert under is not None
        assert z == pytest.approx(under[2] + job.in_hand.plate.thickness_mm + 2.0)


def test_a_neighbour_meets_a_bracket_only_where_it_runs(choosing: Job) -> None:
    """A still rod 50 mm above the sheet, inward, over a bracket that runs to the right."""
    at = mounted(choosing.bike, choosing.in_hand)[2]
    folded = plate_pose(choosing.bike, choosing.in_hand).folded
    under = sheet_point(folded, at.x_mm, at.y_mm, every=True)
    assert under is not None
    x, y, z = at.x_mm, at.y_mm + 50.0, under[2] + 50.0
    rod = Neighbour(
        key="rod", name="rod", known="measured", half_thick_mm=10.0, least_mm=80.0,
        pivot_x_mm=x - 5, pivot_y_mm=y, pivot_z_mm=z, tip_x_mm=x + 5, tip_y_mm=y, tip_z_mm=z,
    )  # fmt: skip

    def found(runs: float | None) -> NeighbourJudged:
        job = strapped(choosing, runs)
        job = replace(job, bike=replace(job.bike, neighbours=(rod,)))
        return next(n for n in neighbours_judged(job, job.in_hand) if n.key == "rod")

    toward, away, unsaid = found(90.0), found(-90.0), found(None)
    assert toward.gap_mm is not None
    assert away.gap_mm is not None
    assert toward.gap_mm < away.gap_mm
    assert any("say which way it runs" in f.text for f in unsaid.findings)
    assert unsaid.gap_mm == away.gap_mm, "what nobody placed is no gap, and no green one either"
    assert unsaid.verdict != "sound"


@pytest.mark.parametrize("washer_mm", [0.0, 40.0])
@pytest.mark.parametrize("beside_mm", [9.0, 14.0, 26.0])
def test_a_head_is_as_wide_and_as_deep_as_it_is(
    choosing: Job, washer_mm: float, beside_mm: float
) -> None:
    """Closed form: a level rod beside a screw, against two coaxial cylinders under the sheet."""
    at = mounted(choosing.bike, choosing.in_hand)[0]
    joint = at.joint
    washer = Layer(
        key="wide", name="wide washer", kind="washer", thickness_mm=3.0, material="steel",
        hole_mm=8.4, outer_mm=washer_mm or 16.0,
    )  # fmt: skip
    others = tuple(layer for layer in joint.layers if layer.kind != "washer")
    layers = (washer, *others) if washer_mm else others
    fitted = tuple(replace(j, layers=layers) if j == joint else j for j in choosing.in_hand.joints)
    job = choosing.with_candidate(replace(choosing.in_hand, joints=fitted))
    hung = plate_pose(job.bike, job.in_hand)
    face = sheet_point(hung.folded, at.x_mm, at.y_mm)
    assert face is not None
    head = head_of(joint.head, joint.thread)
    deep = (washer.thickness_mm if washer_mm else 0.0) + head.height_mm / 2
    rod = Neighbour(
        key="rod", name="rod", known="measured", half_thick_mm=1.0,
        pivot_x_mm=at.x_mm - 10, tip_x_mm=at.x_mm + 10,
        pivot_y_mm=at.y_mm + beside_mm, tip_y_mm=at.y_mm + beside_mm,
        pivot_z_mm=face[2] - deep, tip_z_mm=face[2] - deep,
    )  # fmt: skip
    gap = judged(beside(job, rod)).gap_mm
    to_head = beside_mm - head.diameter_mm / 2 - 1.0
    over = math.hypot(max(beside_mm - washer_mm / 2, 0.0), head.height_mm / 2) - 1.0
    to_washer = over if washer_mm else math.inf
    truth = max(min(to_head, to_washer, deep - 1.0), 0.0)
    assert gap is not None
    assert gap <= truth + 0.05, "never more room than there is"
    assert gap >= truth - 2.2, "a slice's rim and the ring's corners, no more"
