"""Friction by condition of the thread, and how far wrenches scatter."""

from __future__ import annotations

from dataclasses import dataclass

from rugged_shield.core.result import Source


@dataclass(frozen=True)
class Condition:
    """Coefficient of friction (thread and head alike) with its band."""

    label: str
    mu: float
    mu_min: float
    mu_max: float
    is_lubricant: bool
    is_locker: bool
    source: Source


_SOURCE = Source("VDI 2230-1 friction classes B and A; band as met in practice", "medium")

CONDITIONS: dict[str, Condition] = {
    "dry zinc": Condition("dry, zinc as delivered", 0.14, 0.10, 0.20, False, False, _SOURCE),
    "dry stainless": Condition("dry, stainless", 0.25, 0.18, 0.35, False, False, _SOURCE),
    "medium locker": Condition("medium thread locker, wet", 0.14, 0.12, 0.18, False, True, _SOURCE),
    "anti-seize": Condition("anti-seize", 0.10, 0.08, 0.12, True, False, _SOURCE),
}

SPEC_CONDITION = "dry zinc"
"""The condition a printed torque is meant for unless its source says otherwise."""

WRENCH_SOURCE = Source("ISO 6789: ±4 % from 10 N·m, ±6 % below", "high")


def wrench_error(torque_nm: float) -> float:
    """Relative error of a click wrench (ISO 6789) at this torque, N·m."""
    return 0.04 if torque_nm >= 10.0 else 0.06
