"""Friction by condition of the thread, and how far wrenches scatter."""

from __future__ import annotations

from dataclasses import dataclass, replace

from rugged_shield.core.result import Source


@dataclass(frozen=True, kw_only=True)
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
    "dry zinc": Condition(
        label="dry, zinc as delivered",
        mu=0.14,
        mu_min=0.10,
        mu_max=0.20,
        is_lubricant=False,
        is_locker=False,
        source=_SOURCE,
    ),
    "dry stainless": Condition(
        label="dry, stainless",
        mu=0.25,
        mu_min=0.18,
        mu_max=0.35,
        is_lubricant=False,
        is_locker=False,
        source=_SOURCE,
    ),
    "medium locker": Condition(
        label="medium thread locker, wet",
        mu=0.14,
        mu_min=0.12,
        mu_max=0.18,
        is_lubricant=False,
        is_locker=True,
        source=_SOURCE,
    ),
    "anti-seize": Condition(
        label="anti-seize",
        mu=0.10,
        mu_min=0.08,
        mu_max=0.12,
        is_lubricant=True,
        is_locker=False,
        source=_SOURCE,
    ),
}

_STAINLESS_SOURCE = Source(
    "VDI 2230-1:2015 Table A5: class C of stainless on stainless, class B with a paste", "low"
)

STAINLESS: dict[str, Condition] = {
    "medium locker": replace(
        CONDITIONS["medium locker"], mu=0.19, mu_min=0.14, mu_max=0.24, source=_STAINLESS_SOURCE
    ),
    "anti-seize": replace(
        CONDITIONS["anti-seize"], mu=0.12, mu_min=0.08, mu_max=0.16, source=_STAINLESS_SOURCE
    ),
}
"""The same treatments on a stainless screw."""


def condition_of(treatment: str, stainless: bool) -> Condition:
    """Friction of a treatment on a screw of steel or stainless."""
    return STAINLESS.get(treatment, CONDITIONS[treatment]) if stainless else CONDITIONS[treatment]


SPEC_CONDITION = "dry zinc"
"""The condition a printed torque is meant for unless its source says otherwise."""

WRENCH_SOURCE = Source("ISO 6789-1: ±4 %, ±6 % of a wrench up to 10 N·m", "high")
WRENCH_CLASS_NM = 10.0


def wrench_error(torque_nm: float, scale_max_nm: float | None = None) -> float:
    """Relative error of a click wrench (ISO 6789-1, by its maximum) at a torque, N·m.

    Of a wrench that is not known, that of the smallest class that could set the torque.
    """
    return 0.04 if (scale_max_nm or torque_nm) > WRENCH_CLASS_NM else 0.06
