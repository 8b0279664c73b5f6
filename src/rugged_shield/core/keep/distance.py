"""How far and how long a plate was ridden: rides and counters of one record on one axis."""

from __future__ import annotations

from dataclasses import dataclass

from rugged_shield.core.event import Happened
from rugged_shield.core.keep.events import CounterRead, Ridden
from rugged_shield.core.remembered import ByIdentity


@dataclass(frozen=True)
class Odometer:
    """km and hours as they stood at lines of a record, in the record's order.

    ``counter_km`` is the bike's own counter now, None while it was never said; ``km`` are counted
    from the counter when fitted, or from 0 where that is not known.
    """

    counter_km: float | None
    km: float
    hours: float
    at_line: dict[int, tuple[float, float]]

    def since(self, seq: int) -> tuple[float, float]:
        """km and hours ridden after a line of the record."""
        km, hours = self.at_line[seq]
        return max(0.0, self.km - km), max(0.0, self.hours - hours)


def _odometer(record: tuple[Happened, ...], fitted_at_km: float | None) -> Odometer:
    counter, km, hours = fitted_at_km, 0.0, 0.0
    at_line: dict[int, tuple[float, float]] = {}
    for event in record:
        if isinstance(event, CounterRead):
            if counter is not None:
                km += max(0.0, event.km - counter)
            counter = event.km
        elif isinstance(event, Ridden):
            km += event.km or 0.0
            hours += event.hours or 0.0
            counter = None if counter is None else counter + (event.km or 0.0)
        at_line[event.seq] = (km, hours)
    return Odometer(counter, km, hours, at_line)


_AXES = ByIdentity[tuple[Happened, ...], Odometer](_odometer, 32)


def odometer(record: tuple[Happened, ...], fitted_at_km: float | None) -> Odometer:
    """The axis of a record. A counter tells the distance since the one before it; a ride adds.

    A ride of unknown length counts for none. The first counter of a bike whose counter was never
    said tells where it stands, not how far it went.
    """
    return _AXES(record, fitted_at_km)
