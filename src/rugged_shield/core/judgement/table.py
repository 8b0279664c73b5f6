"""The one table of findings: every code with its verdict, its remedy, and where it bites."""

from __future__ import annotations

from rugged_shield.core.judgement.codes import FindingCode, Verdict, worst
from rugged_shield.core.judgement.kinds import FindingKind
from rugged_shield.core.judgement.rows.joints import JOINTS
from rugged_shield.core.judgement.rows.plain import PLAIN
from rugged_shield.core.judgement.rows.plates import PLATES
from rugged_shield.core.judgement.rows.sheets import SHEETS
from rugged_shield.core.judgement.rows.torques import TORQUE
from rugged_shield.core.judgement.rows.work import DONE

FINDINGS: dict[FindingCode, FindingKind] = {
    **JOINTS,
    **SHEETS,
    **TORQUE,
    **PLATES,
    **DONE,
    **PLAIN,
}
"""Nothing else in the code says how grave a finding is."""


def verdict_of(code: FindingCode | None) -> Verdict:
    """How grave a finding of this code is; nothing found is sound."""
    return worst(()) if code is None else FINDINGS[code].verdict


def gating() -> tuple[FindingCode, ...]:
    """Codes that hold from riding, or say what to ride with in mind."""
    return tuple(code for code, kind in FINDINGS.items() if kind.gates)
