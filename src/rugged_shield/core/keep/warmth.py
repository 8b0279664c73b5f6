"""How much hotter it runs with the plate: same air, same ride, before and after."""

from __future__ import annotations

from dataclasses import dataclass

from rugged_shield.core.amounts import amount
from rugged_shield.core.event import Happened, of_kind
from rugged_shield.core.keep.events import RunsWarm
from rugged_shield.core.result import Verdict, verdict_of

SAME_AIR_C = 5.0
"""Two rides compare where the air was as warm, within so much."""
MIND_C, VENT_C = 3.0, 8.0
"""From here on it is worth a look; from there on a field of vents is."""


@dataclass(frozen=True, kw_only=True)
class Warmer:
    """Hotter by °C above the air, minutes of fan more, what that means; None: not comparable."""

    hotter_c: float | None
    fan_more_min: float | None
    words: str
    verdict: Verdict


def warmer(record: tuple[Happened, ...]) -> Warmer:
    """The last ride without the plate against the last with it, above the air of each.

    The air must have been the same within 5 °C and the ride must bear the same name: a fan and a
    thermostat hide what a plate does on another ride.
    """
    said = of_kind(record, RunsWarm)
    before = next((e for e in reversed(said) if not e.with_plate), None)
    after = next((e for e in reversed(said) if e.with_plate), None)
    if before is None or after is None:
        which = "without" if before is None else "with"
        return _unknown(f"not known: no reading {which} the plate")
    if before.ride.casefold().strip() != after.ride.casefold().strip():
        return _unknown("not known: the two rides bear different names")
    if abs(before.air_c - after.air_c) > SAME_AIR_C:
        return _unknown(
            f"not known: the air was {amount(abs(before.air_c - after.air_c), 'K', 0)} apart"
        )
    hotter = (after.running_c - after.air_c) - (before.running_c - before.air_c)
    fan = (
        None if before.fan_min is None or after.fan_min is None else after.fan_min - before.fan_min
    )
    is_same = hotter < MIND_C and (fan is None or fan <= 1.0)
    verdict = verdict_of(None if is_same else "runs hotter")
    words = f"{amount(hotter, 'K', 0, sign=True)} above the air"
    if fan is not None:
        words += f", the fan ran {fan:+.0f} min"
    if hotter >= VENT_C:
        words += ": a field of vents is worth drilling (Fit-up, Changes)"
    elif not is_same:
        words += ": watch it in slow, hot riding"
    return Warmer(hotter_c=hotter, fan_more_min=fan, words=words, verdict=verdict)


def _unknown(words: str) -> Warmer:
    return Warmer(hotter_c=None, fan_more_min=None, words=words, verdict=verdict_of("nothing told"))
