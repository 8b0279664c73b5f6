"""Was the pick right? What the choice was made by, beside what became of it; and the way back."""

from __future__ import annotations

from dataclasses import dataclass

from rugged_shield.core.amounts import amount
from rugged_shield.core.assess.keep.blows import blows_of
from rugged_shield.core.assess.keep.due import Kept, kept
from rugged_shield.core.assess.tighten.plan import plan_of
from rugged_shield.core.assess.weighup.scorecard import against, weigh
from rugged_shield.core.event import PlateRecord, of_kind, of_plate
from rugged_shield.core.figures import figure
from rugged_shield.core.fitup.modification import change_words
from rugged_shield.core.job.events import Record
from rugged_shield.core.job.model import Job
from rugged_shield.core.keep.due import FittedJoint, is_lost
from rugged_shield.core.keep.events import OilChanged, PartReplaced, counting
from rugged_shield.core.keep.warmth import warmer
from rugged_shield.core.result import Figure, FindingCode, Verdict, verdict_of
from rugged_shield.core.tables.cautions import CAUTIONS
from rugged_shield.core.tighten.taken import minutes_taken


@dataclass(frozen=True, kw_only=True)
class Became:
    """One quantity of the choice: as it was weighed, what became of it, and how that is judged."""

    key: str
    label: str
    weighed: Figure
    now: str
    verdict: Verdict


def pick_became(job: Job, record: Record) -> tuple[Became, ...]:
    """The decision's own quantities against the record; what nobody told is not known."""
    lines = counting(of_plate(record, job.in_hand.key))
    figures = weigh(job, job.in_hand.key).figures
    now = kept(job, record)
    return (
        _money(job, lines, figures["money"], now),
        _oil(lines, figures["oil_screws"]),
        _room(job, lines, figures["standoff"]),
        _warm(lines, figures["heat_gap"]),
        _fitting(lines, now.joints, figures["effort"]),
    )


def _money(job: Job, lines: PlateRecord, weighed: Figure, now: Kept) -> Became:
    if now.fitted_at is None:
        words = "not fitted yet"
        return Became(
            key="money",
            label="Money",
            weighed=weighed,
            now=words,
            verdict=verdict_of("nothing told"),
        )
    km = now.odometer.km
    bought = of_kind(lines, PartReplaced)
    spent = sum(e.cost or 0.0 for e in bought)
    words = f"{spent:.0f} {job.currency} for parts since"
    total = spent + (weighed.value or 0.0)
    if km >= 100.0 and weighed.value is not None:
        words += f"; {1000.0 * total / km:.0f} {job.currency} in {amount(1000.0, 'km', 0)}"
    unpriced = sum(e.cost is None for e in bought)
    if unpriced:
        words += f"; {unpriced} parts without a price"
    code: FindingCode | None = None if spent == 0.0 else "became dearer"
    verdict = verdict_of("nothing told" if unpriced else code)
    return Became(key="money", label="Money", weighed=weighed, now=words, verdict=verdict)


def _oil(lines: PlateRecord, weighed: Figure) -> Became:
    told = [e.minutes for e in of_kind(lines, OilChanged) if e.minutes is not None]
    if not told:
        return Became(
            key="oil",
            label="Oil change",
            weighed=weighed,
            now="none told yet",
            verdict=verdict_of("nothing told"),
        )
    mean = sum(told) / len(told)
    words = f"{mean:.0f} min on average over {len(told)}"
    return Became(
        key="oil", label="Oil change", weighed=weighed, now=words, verdict=verdict_of(None)
    )


def _room(job: Job, lines: PlateRecord, weighed: Figure) -> Became:
    struck = blows_of(job, lines)
    left = [b.left_mm for _, b in struck if b.left_mm is not None]
    hard = sum(b.is_hard for _, b in struck)
    if not struck:
        return Became(
            key="room",
            label="Room",
            weighed=weighed,
            now="no blow told yet",
            verdict=verdict_of("nothing told"),
        )
    words = f"{len(struck)} blows, {hard} of them hard"
    if not left:
        return Became(
            key="room", label="Room", weighed=weighed, now=words, verdict=verdict_of("nothing told")
        )
    least = min(left)
    blow: FindingCode | None = "hard blow" if hard else None
    worst_blow = verdict_of("dented to what lies behind" if least <= 0.0 else blow)
    words += f"; {amount(least, 'mm', 1)} left at least"
    return Became(key="room", label="Room", weighed=weighed, now=words, verdict=worst_blow)


def _warm(lines: PlateRecord, weighed: Figure) -> Became:
    found = warmer(lines)
    return Became(key="warm", label="Heat", weighed=weighed, now=found.words, verdict=found.verdict)


def _fitting(lines: PlateRecord, joints: tuple[FittedJoint, ...], weighed: Figure) -> Became:
    taken = sum(minutes_taken(lines).values())
    known = [j for j in joints if j.found_nm is not None]
    held = sum(not is_lost(j) for j in known)
    said = [f"{taken:.0f} min told"] if taken >= 1.0 else []
    said += [f"{held} of {len(known)} joints held"] if known else []
    words = "; ".join(said) or "none told yet"
    code: FindingCode | None = None if held == len(known) else "loss found"
    verdict = verdict_of(code if known else "nothing told")
    return Became(key="fitting", label="Fitting", weighed=weighed, now=words, verdict=verdict)


@dataclass(frozen=True, kw_only=True)
class BackStep:
    """One step of the way back to stock."""

    title: str
    text: str
    caution: str = ""


@dataclass(frozen=True, kw_only=True)
class BackToStock:
    """The plan in reverse, what the bag of stock parts holds, and what the bike gets back."""

    steps: tuple[BackStep, ...]
    bag: tuple[str, ...]
    stays: tuple[str, ...]
    gives_back: tuple[Figure, ...]


def back_to_stock(job: Job) -> BackToStock:
    """The way back from the plate in hand: joints loosened from the last torqued to the first.

    The joint that is loosened last carries the plate: somebody holds it.
    """
    plate, plan = job.in_hand, plan_of(job, job.in_hand.key)
    joints = {j.key: j for j in plate.joints}
    order = [joints[key] for key in reversed(plan.joint_order) if key in joints]
    strip = CAUTIONS["strip"]
    steps = [BackStep(title="Support the bike", text="Cold exhaust; it cannot fall.")]
    for i, joint in enumerate(order):
        is_last = i == len(order) - 1
        text = "Hold the plate before it is out." if is_last else "Loosen it, leave a few turns in."
        caution = strip[0] if is_last and strip else ""
        steps.append(
            BackStep(title=f"Joint {joint.number}, {joint.name}", text=text, caution=caution)
        )
    steps.append(
        BackStep(title=f"Take the {plate.plate.name} down", text="Its hardware into its own bag.")
    )
    kept_aside = [s for s in job.strip if s.keeping == "into the stock bag"]
    bag = tuple(f"{s.count} × {s.name}" if s.count > 1 else s.name for s in kept_aside)
    if bag:
        steps.append(BackStep(title="Stock parts back on", text=", ".join(bag)))
    steps.append(
        BackStep(
            title="Torque by the bike's manual",
            text="Every joint of the stock guard and whatever was loosened for it.",
        )
    )
    now, base = weigh(job, plate.key).figures, weigh(job, job.stock.key).figures
    back = tuple(
        against(base[key], now[key], label)
        if base[key].value is not None and now[key].value is not None
        else figure(key, label, None, now[key].unit)
        for key, label in (("mass", "Mass"), ("clearance", "Clearance"), ("breakover", "Breakover"))
    )
    stays = tuple(change_words(c) for c in plate.changes if c.done)
    return BackToStock(steps=tuple(steps), bag=bag, stays=stays, gives_back=back)
