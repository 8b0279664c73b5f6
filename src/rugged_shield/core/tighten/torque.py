"""The torque card of a joint: every source beside every limit, one target, its band."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from rugged_shield.core.amounts import amount, percent, show
from rugged_shield.core.fitup.joint import Joint, clamped
from rugged_shield.core.fitup.seat import Seat, seat_of
from rugged_shield.core.fitup.stack_model import StackResult
from rugged_shield.core.mechanics import threads
from rugged_shield.core.quantity import Range, Ranged
from rugged_shield.core.result import Finding, Input, Outcome, finding, merge_sources
from rugged_shield.core.survey.bike import Mount
from rugged_shield.core.tables.friction import (
    WRENCH_SOURCE,
    Condition,
)
from rugged_shield.core.tables.grades import NOT_READ
from rugged_shield.core.tables.hardware import PREVAILING_SOURCE
from rugged_shield.core.tables.heads import HEADS
from rugged_shield.core.tables.ratings import RATED_BY
from rugged_shield.core.tighten.faces import (
    drive_tool,
    nut_tool,
)
from rugged_shield.core.tighten.strength import screw_findings, strength_findings
from rugged_shield.core.tighten.torque_sources import (
    TorqueSource,
    decision_words,
)
from rugged_shield.core.tighten.worked import APP_UTILISATION, Worked, work_out
from rugged_shield.core.tighten.wrench import LEAST_SHARE, setting_nm

CONFLICT_SHARE = 0.20


@dataclass(frozen=True)
class WrenchTool(Ranged):
    """The click wrench and its extension: scale N·m, lengths mm, angle in degrees."""

    name: str
    scale_max_nm: Annotated[float, Range(2.0, 500.0, "N·m")]
    length_mm: Annotated[float, Range(80.0, 1500.0, "mm")]
    extension_mm: Annotated[float, Range(0.0, 500.0, "mm")] = 0.0
    angle_deg: Annotated[float, Range(0.0, 90.0, "°")] = 0.0


@dataclass(frozen=True)
class TorqueLimit:
    """One computed limit, N·m at the wrench."""

    name: str
    torque_nm: float
    governs: bool


@dataclass(frozen=True, kw_only=True)
class TorqueCard:
    """All that Tighten shows for a joint. Torque N·m, preload N, length mm."""

    joint: str
    number: int
    name: str
    sources: tuple[TorqueSource, ...]
    limits: tuple[TorqueLimit, ...]
    governing: str
    limit_nm: float
    target_nm: float
    low_nm: float
    high_nm: float
    preload_min_n: float
    preload_max_n: float
    yield_share_max: float
    treatment: str
    treatment_note: str
    lubricant_factor: float
    setting_nm: float
    setting_note: str
    turned: str
    tool: str
    counter_tool: str
    decision: str


def _findings(worked: Worked, seat: Seat | None) -> list[Finding]:
    joint, target, wanted = worked.joint, worked.target_nm, worked.wanted_nm
    found = [*(seat.findings if seat else ()), *_source_findings(worked)]
    limit = worked.limits.result.torque_set_nm
    governing = worked.named(worked.limits.result.governing)
    if joint.grade == NOT_READ:
        text = "The screw's class is not entered: read its head (8.8, 10.9, A2-70 …) first."
        found.append(finding("screw's class not read", text))
    if target > limit + 1e-9:
        found.append(
            finding(
                "manual above our limit",
                f"The bike's manual says {amount(target, 'N·m')}; by our reckoning the "
                f"{governing} bears {amount(limit, 'N·m')}. The manual stands for the "
                "bike's own thread: check that the figure, the screw's class and its treatment "
                "are these.",
            )
        )
    if wanted > target + 1e-9:
        found.append(
            finding(
                "held at the limit",
                f"{amount(wanted, 'N·m')} is above the limit of the {governing}: held at "
                f"{amount(target, 'N·m')}.",
            )
        )
    found += strength_findings(worked)
    found += screw_findings(joint)
    if any(layer.is_soft for layer in clamped(joint)):
        found.append(
            finding(
                "isolator by feel",
                "Rubber sets its own limit: stop when the washer seats and the rubber stops "
                "bulging further; its maker's figure comes first.",
            )
        )
    if threads.grade_of(joint.grade).stainless and joint.treatment == "dry stainless":
        found.append(finding("galls", "Dry stainless galls and seizes: use anti-seize."))
    return found


def _source_findings(worked: Worked) -> list[Finding]:
    """What is said of the sources themselves: missing, or in conflict."""
    found = []
    said = [s.torque_nm for s in worked.sources if s.key in ("bike manual", "plate sheet")]
    values = [v for v in said if v is not None]
    if not values and worked.joint.chosen_torque_nm is None:
        found.append(
            finding(
                "no torque source",
                "Neither manual nor sheet gives a torque: the target is computed, so that wrench "
                "and friction at their worst stay within the limit. "
                "The sheet or the service manual would settle it.",
            )
        )
    if len(values) == 2 and abs(values[0] - values[1]) > CONFLICT_SHARE * max(values):
        found.append(
            finding(
                "sources conflict",
                f"Manual and sheet differ by {amount(abs(values[0] - values[1]), 'N·m')}.",
            )
        )
    return found


def _treatment_note(condition: Condition, factor: float, kept_share: float) -> str:
    if condition.is_lubricant:
        return (
            f"Slippery: a dry figure is multiplied by {factor:.2f}. Kept as printed, the screw "
            f"would reach {percent(kept_share)} of its yield."
        )
    if condition.is_locker:
        return (
            "Wet locker slides about like a clean zinc thread (×1.00). Never under a "
            "nylon-insert nut. Let it cure as its label says before riding."
        )
    return "As the printed figures assume."


def torque_card(
    joint: Joint, mount: Mount | None, stack: StackResult, wrench: WrenchTool
) -> Outcome[TorqueCard]:
    """Target and band of a joint, with every source and limit beside it.

    The owner of the thread decides (bike's thread: manual; kit to kit: sheet),
    corrected for the lubricant, never above the computed limit. Sources are
    total torques; a prevailing nut's run-down is taken off for the preload.
    """
    worked = work_out(joint, mount, stack, wrench.scale_max_nm)
    card, seat = _card(worked, wrench), seat_of(joint, mount)
    limits, sources = worked.limits, worked.sources
    condition, notes = worked.condition, HEADS[joint.head].notes
    return Outcome(
        result=card,
        inputs=(
            *limits.inputs,
            *(Input(s.label, s.printed_nm, "N·m") for s in sources if s.printed_nm is not None),
            Input("Friction band", f"{condition.mu_min:g}–{condition.mu_max:g}"),
        ),
        findings=(*_findings(worked, seat), *_wrench_findings(card.setting_nm, wrench)),
        reasons=(card.decision, *limits.reasons, card.treatment_note),
        assumptions=(
            *limits.assumptions,
            *(("A nut of the screw's class outlasts the screw (ISO 898-2).",) if joint.nut else ()),
            *notes,
        ),
        sources=merge_sources(
            limits.sources,
            (condition.source, WRENCH_SOURCE, HEADS[joint.head].source),
            (PREVAILING_SOURCE,) if worked.given.prevailing_torque_nm else (),
            tuple(RATED_BY[name] for name in worked.given.other_limits_n),
        ),
    )


def _card(worked: Worked, wrench: WrenchTool) -> TorqueCard:
    joint, limit, target = worked.joint, worked.limits.result, worked.target_nm
    bolt_nm = limit.torque_limits_nm["bolt"]
    kept = APP_UTILISATION * target / worked.factor / bolt_nm
    turns_nut = joint.turns_nut
    governing = worked.named(limit.governing)
    return TorqueCard(
        joint=joint.key,
        number=joint.number,
        name=joint.name,
        sources=worked.sources,
        limits=tuple(
            TorqueLimit(
                worked.named(n), v + worked.given.prevailing_torque_nm, n == limit.governing
            )
            for n, v in limit.torque_limits_nm.items()
        ),
        governing=governing,
        limit_nm=limit.torque_set_nm,
        target_nm=target,
        low_nm=target * (1 - worked.error),
        high_nm=target * (1 + worked.error),
        preload_min_n=worked.preload_n[0],
        preload_max_n=worked.preload_n[1],
        yield_share_max=worked.yield_share,
        treatment=worked.condition.label,
        treatment_note=_treatment_note(worked.condition, worked.factor, kept),
        lubricant_factor=worked.factor,
        setting_nm=setting_nm(target, wrench.length_mm, wrench.extension_mm, wrench.angle_deg),
        setting_note=_setting_note(wrench),
        turned=_turned(joint),
        tool=nut_tool(joint) if turns_nut else drive_tool(joint),
        counter_tool=drive_tool(joint) if turns_nut else nut_tool(joint),
        decision=decision_words(worked.sources, worked.wanted_nm, target, governing),
    )


def _wrench_findings(setting: float, wrench: WrenchTool) -> tuple[Finding, ...]:
    least, most = LEAST_SHARE * wrench.scale_max_nm, wrench.scale_max_nm
    if least <= setting <= most:
        return ()
    return (
        finding(
            "outside wrench range",
            f"{amount(setting, 'N·m')} is outside 20–100 % of this wrench, "
            f"{amount(least, 'N·m')} to {amount(most, 'N·m')}: "
            "take another.",
        ),
    )


def _setting_note(wrench: WrenchTool) -> str:
    if wrench.extension_mm == 0:
        return "no extension: set the target itself"
    return (
        f"with {show(wrench.extension_mm, 'mm', decimals=0)} of extension at "
        f"{wrench.angle_deg:g}° on {show(wrench.length_mm, 'mm', decimals=0)} of wrench"
    )


def _turned(joint: Joint) -> str:
    if joint.is_stud:
        return "turn the nut; the stud must not turn with it"
    if joint.turns_nut:
        return "turn the nut, hold the head"
    return "turn the head, hold the nut" if joint.nut else "turn the head"
