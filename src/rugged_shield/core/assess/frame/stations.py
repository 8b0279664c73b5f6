"""Where each of the six stations of a job stands."""

from __future__ import annotations

from dataclasses import dataclass

from rugged_shield.core.assess.fitup.pose import fitted_joints
from rugged_shield.core.assess.gate.fit import fit_seen
from rugged_shield.core.assess.gate.judged import judged
from rugged_shield.core.assess.gate.ready import TO_DO
from rugged_shield.core.assess.keep.due import due_of
from rugged_shield.core.assess.kit.debts import owed
from rugged_shield.core.assess.kit.lines import kit_check
from rugged_shield.core.assess.tighten.cards import card_of, reading_figure
from rugged_shield.core.assess.tighten.plan import done_steps, plan_of, step_at
from rugged_shield.core.assess.weighup.scorecard import weigh
from rugged_shield.core.event import of_plate
from rugged_shield.core.job.events import Record
from rugged_shield.core.job.model import Job, mounted
from rugged_shield.core.judgement.codes import HOLDS
from rugged_shield.core.result import Verdict, verdict_of, worst
from rugged_shield.core.tighten.all_started import joint_states


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
        verdict_of(None if known == len(things) else "survey not whole"),
    )


def _weighup_state(job: Job) -> StationState:
    if job.picked:
        weighed = weigh(job, job.picked)
        return StationState(
            "weigh-up", "Weigh-up", 1, 1, f"picked: {job.in_hand.plate.name}", weighed.verdict
        )
    return StationState(
        "weigh-up",
        "Weigh-up",
        0,
        1,
        f"{len(job.candidates)} to weigh",
        verdict_of("no plate picked"),
    )


def _kit_state(job: Job) -> StationState:
    check, debts = kit_check(job), len(owed(job))
    states = check.lines.values()
    done = sum(1 for s in states if s.counted is not None)
    short = sum(1 for s in states if s.missing)
    lacking = len(check.shared.unmet)
    parts = (
        f"{done} of {len(states)} counted" if states else "no list yet",
        f"{short} short" if short else "",
        f"{lacking} in no line" if lacking and states else "",
        f"{debts} owed" if debts else "",
    )
    verdict = worst((check.verdict, verdict_of("owed"))) if debts else check.verdict
    return StationState("kit", "Kit", done, len(states), ", ".join(filter(None, parts)), verdict)


def _fitup_state(job: Job) -> StationState:
    verdicts = [a.verdict for a in fitted_joints(job.in_hand.plate, mounted(job.bike, job.in_hand))]
    sound, joints = sum(v == "sound" for v in verdicts), len(verdicts)
    words = f"{sound} of {joints} joints sound" if joints else "no joint entered"
    found: list[Verdict] = [worst(verdicts) if joints else verdict_of("no joints entered")]
    for what, findings in fit_seen(job).items():
        verdict = worst(f.verdict for f in findings)
        found.append(verdict)
        if verdict != "sound":
            words += f"; {what}: {verdict}"
    return StationState("fit-up", "Fit-up", sound, joints, words, worst(found))


def _tighten_state(job: Job, record: Record) -> StationState:
    plan = plan_of(job, job.in_hand.key)
    lines = of_plate(record, job.in_hand.key)
    states = joint_states(lines, plan.built)
    shown = [
        reading_figure(states[at.joint.key], card_of(at.joint, at.mount, job.wrench).result)
        for at in mounted(job.bike, job.in_hand)
    ]
    verdicts = [
        figure.verdict if figure is not None else verdict_of("not torqued") for figure in shown
    ]
    joints = len(verdicts)
    torqued = sum(state.reading is not None for state in states.values())
    at, steps = step_at(plan, done_steps(plan, lines)), len(plan.steps)
    words = f"{torqued} of {joints} torqued, step {min(at, steps)} of {steps}"
    found = worst(verdicts) if joints else verdict_of("no joints entered")
    if joints and torqued == joints:
        # All is torqued: from here on the mark is the gate's, and says what it says.
        holds = [f for f in judged(job, record) if f.kind.gates and f.code not in TO_DO]
        found = min((found, *(f.verdict for f in holds)), key=HOLDS.__getitem__)
        held = sum(f.verdict in ("blocked", "not known") for f in holds)
        words += f"; {held} speak against riding" if held else ""
    return StationState("tighten", "Tighten", torqued, joints, words, found)


def station_states(job: Job, record: Record) -> tuple[StationState, ...]:
    """Where each of the six stations of a job stands."""
    due = due_of(job, record)
    return (
        _survey_state(job),
        _weighup_state(job),
        _kit_state(job),
        _fitup_state(job),
        _tighten_state(job, record),
        StationState("keep", "Keep", 0, 1, due.short, due.verdict),
    )


@dataclass(frozen=True)
class Standing:
    """Where a job stands in words, and the station to go to."""

    words: str
    station: str


def standing(job: Job, states: tuple[StationState, ...]) -> Standing:
    """Where a job stands as a whole."""
    by_key = {s.key: s for s in states}
    tighten, fit = by_key["tighten"], by_key["fit-up"]
    if not job.picked:
        return Standing("choosing a plate", "weigh-up")
    if tighten.settled == tighten.of and tighten.of:
        return Standing("fitted", "keep")
    if tighten.settled:
        return Standing(f"half fitted: {tighten.words}", "tighten")
    if fit.verdict == "blocked":
        return Standing(f"picked, a joint is blocked: {fit.words}", "fit-up")
    return Standing(f"picked: {by_key['kit'].words}", "kit")
