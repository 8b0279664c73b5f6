"""What is looked at again on a fitted plate, and how often: rules as data."""

from __future__ import annotations

from dataclasses import dataclass

from rugged_shield.core.result import Source

PRACTICE = Source("workshop practice for plates under engines", "medium")
ESTIMATE = Source("own estimate; ride and see", "low")


@dataclass(frozen=True, kw_only=True)
class DueRule:
    """How often: km, hours, months, whichever comes first; None: not by that.

    ``softer`` is the share of the interval where something makes it due sooner.
    """

    key: str
    label: str
    words: str
    every_km: float | None
    every_hours: float | None
    every_months: float | None
    softer: float
    source: Source


FIRST_RECHECK = DueRule(
    key="first re-check",
    label="First re-check",
    words="every joint by the wrench, cold, in the order of the torques",
    every_km=100.0,
    every_hours=4.0,
    every_months=3.0,
    softer=1.0,
    source=PRACTICE,
)
RECHECK = DueRule(
    key="re-check",
    label="Re-check",
    words="every joint by the wrench, cold",
    every_km=1000.0,
    every_hours=25.0,
    every_months=12.0,
    softer=0.5,
    source=PRACTICE,
)
LOOK = DueRule(
    key="wash and look",
    label="Wash and look over",
    words="stones above the plate, oil on it, hoses, chafe, heads",
    every_km=600.0,
    every_hours=15.0,
    every_months=3.0,
    softer=1.0,
    source=ESTIMATE,
)
RUBBER = DueRule(
    key="rubber",
    label="Look at the rubber",
    words="isolators: cracks, squeezed out, let go from their metal",
    every_km=5000.0,
    every_hours=150.0,
    every_months=12.0,
    softer=1.0,
    source=ESTIMATE,
)
SOON_SHARE = 0.8
"""From this share of an interval on, what comes next is said to be due soon."""
DAYS_A_MONTH = 30.4375
DAYS_AHEAD_MOST = 730
"""A day further off than this is not forecast from how much was ridden."""

LOOKS: dict[str, str] = {
    "stones above the plate": "rinse them out: they grind at sump and hoses",
    "oil on the plate": "find where it comes from before it is wiped",
    "hoses and wires": "none on the plate, none against a head",
    "leaks": "sump, drain, filter, coolant",
    "chafe": "bright marks on frame, plate, exhaust",
    "rubber": "isolators whole, none squeezed out",
    "wear piece": "thick enough at its thinnest",
    "heads": "none ground off, every socket still takes its key",
    "brackets and bosses": "no crack, no bend, no boss torn",
}
"""What is looked at when the plate is washed or off, and what to look for."""

AFTER_A_BLOW: tuple[str, ...] = ("brackets and bosses", "leaks", "chafe", "heads")
"""Looked at after every hard blow, before the next ride."""
