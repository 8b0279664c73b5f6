"""Opinions on a joint's torque: manual, sheet, rider, and which of them decides."""

from __future__ import annotations

from dataclasses import dataclass

from rugged_shield.core.fitup.joint import Joint
from rugged_shield.core.mechanics import threads
from rugged_shield.core.survey.bike import Mount
from rugged_shield.core.tables.friction import CONDITIONS, SPEC_CONDITION, Condition
from rugged_shield.core.tighten.limits import LimitInput, LubricantInput, lubricant_change


@dataclass(frozen=True)
class TorqueSource:
    """What one source says of the torque, as printed and as it reads for this treatment, N·m."""

    key: str
    label: str
    printed_nm: float | None
    torque_nm: float | None
    decides: bool
    note: str


def _specified_for(joint: Joint, source: str) -> Condition:
    """The condition a printed torque means: the bike's own bolt, or the kit's screw."""
    if source == "plate sheet" and threads.grade_of(joint.grade).stainless:
        return CONDITIONS["dry stainless"]
    return CONDITIONS[SPEC_CONDITION]


def lubricant_factor(joint: Joint, given: LimitInput, condition: Condition, source: str) -> float:
    """What this treatment makes of a torque that the source prints for dry threads."""
    spec = _specified_for(joint, source)
    if not condition.is_lubricant:
        return 1.0
    return lubricant_change(
        LubricantInput(
            thread=joint.thread,
            torque_dry_nm=10.0,
            mu_dry=spec.mu,
            mu_new=condition.mu,
            head_bearing_diameter_mm=given.head_bearing_diameter_mm,
            head_bearing_hole_mm=given.head_bearing_hole_mm,
            bolt_rp02_mpa=given.bolt_rp02_mpa,
        )
    ).result.factor


def sources_of(
    joint: Joint, mount: Mount | None, factors: dict[str, float], limit_nm: float
) -> tuple[TorqueSource, ...]:
    """Bike manual, plate sheet and computed limit; one of them decides."""
    manual = joint.manual_torque_nm or (mount.manual_torque_nm if mount else None)
    sheet = joint.sheet_torque_nm
    owner = "bike manual" if joint.thread_owner == "bike" else "plate sheet"
    printed = {"bike manual": manual, "plate sheet": sheet}
    decides = (
        owner
        if printed[owner] is not None
        else next((name for name, value in printed.items() if value is not None), "computed limit")
    )
    if joint.chosen_torque_nm is not None:
        decides = "rider"
    rows = [
        TorqueSource(
            name,
            name[0].upper() + name[1:],
            value,
            None if value is None else value * factors[name],
            name == decides,
            _note(value, factors[name], name == owner),
        )
        for name, value in printed.items()
    ]
    rows.append(
        TorqueSource(
            "computed limit",
            "Computed limit",
            None,
            limit_nm,
            decides == "computed limit",
            "never passed, whatever a sheet says",
        )
    )
    if joint.chosen_torque_nm is not None:
        rows.append(
            TorqueSource(
                "rider",
                "Your decision",
                joint.chosen_torque_nm,
                joint.chosen_torque_nm,
                True,
                joint.chosen_reason,
            )
        )
    return tuple(rows)


def _note(value: float | None, factor: float, is_owner: bool) -> str:
    if value is None:
        return "gives no figure for this joint"
    words = "owner of the thread" if is_owner else "second opinion"
    return f"{words}; ×{factor:.2f} for the lubricant" if abs(factor - 1) > 0.005 else words


def decision_words(
    sources: tuple[TorqueSource, ...], wanted: float, target: float, governing: str
) -> str:
    """Who decides the torque, and whether the limit held it back."""
    deciding = next(s for s in sources if s.decides)
    words = {
        "bike manual": "The bike's manual decides: the thread is the bike's own.",
        "plate sheet": "The plate's sheet decides.",
        "computed limit": "No figure is printed: one that keeps clear of the limit stands in.",
        "rider": f"Your decision: {deciding.note}",
    }[deciding.key]
    if wanted > target + 1e-9:
        words += f" Held at the limit of the {governing}."
    return words
