"""Where each of the six stations of a job stands."""

from __future__ import annotations

from dataclasses import dataclass

from rugged_shield.core.assess.fitup import assess_joints
from rugged_shield.core.assess.weighup import weigh
from rugged_shield.core.job import Job
from rugged_shield.core.kit import check_line
from rugged_shield.core.result import Verdict, worst


@dataclass(frozen=True)
class StationState:
    """A station in a word and a number: what is settled, what is open."""

    key: str
    label: str
    settled: int
    of: int
    words: str
    verdict: Verdict


def _survey_state(job: Job) -> StationState:
    things = [p.known for p in job.bike.parts] + [m.known for m in job.bike.mounts]
    known = sum(1 for word in things if word != "assumed")
    words = "all measured" if known == len(things) else f"{len(things) - known} assumed"
    return StationState(
        "survey",
        "Survey",
        known,
        len(things),
        words,
        "sound" if known == len(things) else "not known",
    )


def _weighup_state(job: Job) -> StationState:
    if job.picked:
        weighed = weigh(job, job.picked)
        return StationState(
            "weigh-up", "Weigh-up", 1, 1, f"picked: {job.in_hand.plate.name}", weighed.verdict
        )
    return StationState(
        "weigh-up", "Weigh-up", 0, 1, f"{len(job.candidates)} to weigh", "not known"
    )


def _kit_state(job: Job) -> StationState:
    counted = job.counted(job.in_hand)
    states = [check_line(line, counted.get(line.key), ()) for line in job.in_hand.kit]
    done = sum(1 for s in states if s.counted is not None)
    short = sum(1 for s in states if s.missing)
    words = f"{done} of {len(states)} counted" + (f", {short} short" if short else "")
    verdict = worst(s.verdict for s in states) if states else "not known"
    return StationState("kit", "Kit", done, len(states), words, verdict)


def station_states(
    job: Job, torqued: int, step_at: int, steps: int, due_words: str, due_verdict: Verdict
) -> tuple[StationState, ...]:
    """Where each of the six stations stands; the record's figures come from outside."""
    plate = job.in_hand
    assessed = assess_joints(job.bike, plate)
    sound = sum(1 for a in assessed if a.verdict == "sound")
    fit: Verdict = "sound" if sound == len(assessed) else "mind"
    if any(a.verdict == "blocked" for a in assessed):
        fit = "blocked"
    joints = len(assessed)
    return (
        _survey_state(job),
        _weighup_state(job),
        _kit_state(job),
        StationState("fit-up", "Fit-up", sound, joints, f"{sound} of {joints} joints sound", fit),
        StationState(
            "tighten",
            "Tighten",
            torqued,
            joints,
            f"{torqued} of {joints} torqued, step {min(step_at, steps)} of {steps}",
            "sound" if joints and torqued == joints else "not known",
        ),
        StationState("keep", "Keep", 0, 1, due_words, due_verdict),
    )
