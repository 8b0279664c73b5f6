"""A whole job judged at once: every plate, every joint, the ledger, the plan, and the verdict."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace
from typing import Literal

from rugged_shield.core.assess.fitup.joints import JointAssessment
from rugged_shield.core.assess.fitup.pose import fitted_joints
from rugged_shield.core.assess.frame.ledger import ledger
from rugged_shield.core.assess.gate.deciders import deciders_of
from rugged_shield.core.assess.gate.judged import judged
from rugged_shield.core.assess.gate.ready import TO_DO, Ready, ready_of
from rugged_shield.core.assess.keep.due import due_of
from rugged_shield.core.assess.tighten.cards import (
    card_of,
    reading_figure,
    standing_word,
    state_findings,
)
from rugged_shield.core.assess.tighten.plan import plan_of
from rugged_shield.core.assess.weighup.protection import figures_of, struck_all_round
from rugged_shield.core.assess.weighup.scorecard import weigh
from rugged_shield.core.assess.weighup.strike import StruckPlate
from rugged_shield.core.event import of_plate
from rugged_shield.core.job.events import Record
from rugged_shield.core.job.model import Job, MountedJoint, mounted
from rugged_shield.core.judgement.kinds import Station, StepKind
from rugged_shield.core.result import (
    Decider,
    Figure,
    Finding,
    FindingCode,
    Verdict,
    verdict_of,
    worst,
)
from rugged_shield.core.tighten.all_started import JointState, joint_states
from rugged_shield.core.tighten.torque import TorqueCard

FIRST_DIRECTION = "from below"


@dataclass(frozen=True)
class Bite:
    """Where a hand can act on a finding: a station, and a kind of step in its work."""

    station: Station
    step: StepKind | Literal[""] = ""


@dataclass(frozen=True, kw_only=True)
class Said:
    """A finding with what it is about: the key of a part, a joint, a line or a plate.

    ``gates``: whether it counts for riding; ``bites``: where a hand can still act on it;
    ``decided_by``: the facts that decide it; ``remedy``: what clears it.
    """

    code: FindingCode
    verdict: Verdict
    about: str
    words: str
    gates: bool
    bites: tuple[Bite, ...]
    decided_by: tuple[Decider, ...]
    remedy: str


@dataclass(frozen=True)
class Number:
    """A figure in short; ``value`` is None where it is not known."""

    value: float | None
    unit: str
    verdict: Verdict
    words: str


@dataclass(frozen=True)
class GateSaid:
    """A gate of the choice: what it says, and what would clear it."""

    key: str
    verdict: Verdict
    words: str
    clears: str


@dataclass(frozen=True)
class PlateSaid:
    """One plate on this bike."""

    verdict: Verdict
    findings: tuple[Said, ...]
    gates: tuple[GateSaid, ...]
    figures: dict[str, Number]


@dataclass(frozen=True)
class Torque:
    """What a joint is to be torqued to, what limits it, and the standing reading, N·m."""

    target_nm: float
    low_nm: float
    high_nm: float
    limit_nm: float
    governs: str
    reading_nm: float | None


@dataclass(frozen=True)
class JointSaid:
    """One joint of the plate in hand.

    ``state``: not started, started, torqued, outside its band, above its limit, changed since it
    was torqued.
    """

    verdict: Verdict
    state: str
    findings: tuple[Said, ...]
    torque: Torque


@dataclass(frozen=True)
class LedgerSaid:
    """A line of the ledger: with the plate in hand, with stock, the difference."""

    key: str
    label: str
    now: Number
    stock: Number
    delta: Number


@dataclass(frozen=True)
class StepSaid:
    """A step of the order of work; ``after`` names the steps that come before it."""

    key: str
    title: str
    joint: str
    after: tuple[str, ...]
    minutes: float


@dataclass(frozen=True, kw_only=True)
class Assessment:
    """Everything judged of a job; ``plate`` is the one in hand, ``verdict`` speaks of it."""

    verdict: Verdict
    plate: str
    findings: tuple[Said, ...]
    plates: dict[str, PlateSaid]
    joints: dict[str, JointSaid]
    ledger: tuple[LedgerSaid, ...]
    plan: tuple[StepSaid, ...]
    ready: Ready


def _said(job: Job, key: str, findings: Iterable[Finding], about: str) -> tuple[Said, ...]:
    """Findings about a plate of the job as data."""
    candidate = job.candidate(key)
    return tuple(
        Said(
            code=f.code,
            verdict=f.verdict,
            about=f.where or about,
            words=f.text,
            gates=f.kind.gates,
            bites=(
                Bite(f.kind.station),
                *(Bite(f.kind.station, step) for step in f.kind.steps),
            ),
            decided_by=deciders_of(job, candidate, f),
            remedy=f.remedy,
        )
        for f in findings
    )


def _number(figure: Figure) -> Number:
    return Number(figure.value, figure.unit, figure.verdict, figure.metric)


def plate_said(job: Job, key: str, strikes: bool) -> PlateSaid:
    """Everything judged of one plate of the job; never sound while its strike is not known."""
    weighed = weigh(job, key)
    figures = figures_of(job, weighed) if strikes else weighed.figures
    struck = struck_all_round(job, key, FIRST_DIRECTION) if strikes else StruckPlate(key, (), ())
    findings = tuple(dict.fromkeys((*weighed.findings, *struck.findings)))
    verdict = worst(f.verdict for f in findings)
    is_open = not struck.figures or any(f.verdict == "not known" for f in struck.figures)
    return PlateSaid(
        worst((verdict, verdict_of("no map of strikes"))) if is_open else verdict,
        _said(job, key, findings, key),
        tuple(GateSaid(g.key, g.verdict, g.reason, g.clears) for g in weighed.gates),
        {f.key: _number(f) for f in (*figures.values(), *struck.figures)},
    )


def _torque(card: TorqueCard, reading_nm: float | None) -> Torque:
    return Torque(
        card.target_nm, card.low_nm, card.high_nm, card.limit_nm, card.governing, reading_nm
    )


def _joint(job: Job, at: MountedJoint, assessed: JointAssessment, state: JointState) -> JointSaid:
    card = card_of(at.joint, at.mount, job.wrench)
    reading = reading_figure(state, card.result)
    found = (
        *assessed.findings,
        *card.findings,
        *(reading.findings if reading else ()),
        *(f for f in state_findings(state, card.result) if f.verdict == "blocked"),
    )
    where = standing_word(state, reading)
    read = state.reading.torque_nm if state.reading else None
    about = tuple(replace(f, where=at.joint.key) for f in found)
    return JointSaid(
        worst(f.verdict for f in found),
        where,
        _said(job, job.in_hand.key, about, at.joint.key),
        _torque(card.result, read),
    )


def assessment(job: Job, record: Record, plates: dict[str, PlateSaid]) -> Assessment:
    """Every rule applied to a job whose ``plates`` are each judged already, stock included."""
    plate = job.in_hand
    plan = plan_of(job, plate.key)
    lines = of_plate(record, plate.key)
    states = joint_states(lines, plan.built)
    places = mounted(job.bike, plate)
    joints = {
        at.joint.key: _joint(job, at, assessed, states[at.joint.key])
        for at, assessed in zip(places, fitted_joints(plate.plate, places), strict=True)
    }
    due = due_of(job, record)
    kept = _said(job, plate.key, (f for f in due.findings if f.verdict != "sound"), plate.key)
    # Work that is not done yet is the gate's; everything else that is found of the plate is here.
    whole = _said(
        job, plate.key, (f for f in judged(job, record) if f.code not in TO_DO), plate.key
    )
    findings = tuple(
        dict.fromkeys(
            (
                *plates[plate.key].findings,
                *(f for j in joints.values() for f in j.findings),
                *kept,
                *whole,
            )
        )
    )
    return Assessment(
        verdict=worst(f.verdict for f in findings),
        plate=plate.key,
        findings=findings,
        plates=plates,
        joints=joints,
        ledger=tuple(
            LedgerSaid(x.key, x.label, _number(x.now), _number(x.stock), _number(x.delta))
            for x in ledger(job)
        ),
        plan=tuple(StepSaid(s.key, s.title, s.joint, s.after, s.minutes) for s in plan.steps),
        ready=ready_of(job, record),
    )
