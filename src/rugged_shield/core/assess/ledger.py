"""The running ledger against stock, and where each station stands."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache

from rugged_shield.core.assess.job import Job
from rugged_shield.core.assess.stacks import assess_joints
from rugged_shield.core.assess.weigh import against, weigh
from rugged_shield.core.kit import check_line
from rugged_shield.core.result import Figure, Verdict, worst

LEDGER_KEYS: tuple[tuple[str, str], ...] = (
    ("mass", "Mass"),
    ("clearance", "Clearance"),
    ("breakover", "Breakover"),
    ("coverage:from below", "Shielded below"),
    ("coverage:from ahead 20° upward", "Shielded ahead"),
    ("standoff", "Least standoff"),
    ("heat_gap", "Heat gap"),
    ("oil_screws", "Screws for oil"),
    ("effort", "Fitting"),
    ("money", "Money"),
)


@dataclass(frozen=True, kw_only=True)
class LedgerLine:
    """One quantity: with this plate, with stock, the difference, and what moved last."""

    key: str
    label: str
    now: Figure
    stock: Figure
    delta: Figure
    moved_metric: str = ""
    moved_us: str = ""


@dataclass(frozen=True)
class StationState:
    """A station in a word and a number: what is settled, what is open."""

    key: str
    label: str
    settled: int
    of: int
    words: str
    verdict: Verdict


@lru_cache(maxsize=128)
def ledger(job: Job) -> tuple[LedgerLine, ...]:
    """The plate in hand against stock, line by line."""
    now, base = weigh(job, job.in_hand.key).figures, weigh(job, job.stock.key).figures
    return tuple(
        LedgerLine(
            key=key,
            label=label,
            now=now[key],
            stock=base[key],
            delta=_delta(now[key], base[key], label),
        )
        for key, label in LEDGER_KEYS
    )


def _delta(now: Figure, stock: Figure, label: str) -> Figure:
    """The difference; what is there now where one of the two has no number."""
    known = now.value is not None and stock.value is not None
    return against(now, stock, label) if known else replace(now, label=label)


def marked(lines: tuple[LedgerLine, ...], before: tuple[LedgerLine, ...]) -> tuple[LedgerLine, ...]:
    """The ledger with what moved since ``before`` shown on its lines."""
    earlier = {line.key: line for line in before}
    out = []
    for line in lines:
        old = earlier[line.key].now
        change = against(line.now, old, line.label)
        moved = change.metric if line.now.metric != old.metric else ""
        moved_us = change.us if line.now.us != old.us else ""
        out.append(
            LedgerLine(
                key=line.key,
                label=line.label,
                now=line.now,
                stock=line.stock,
                delta=line.delta,
                moved_metric=moved,
                moved_us=moved_us,
            )
        )
    return tuple(out)


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
