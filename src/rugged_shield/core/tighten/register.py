"""The register of what is open on the bike: opened by the work, closed before it is ridden."""

from __future__ import annotations

from rugged_shield.core.event import Happened, of_kind
from rugged_shield.core.tighten.events import BikeJointClosed, BikeJointOpened, Loosened

KNOWN_LOOSENED: dict[str, Loosened] = {
    "foot-peg bolt": "screw",
    "side-stand bolt": "screw",
    "centre-stand bolt": "screw",
    "cradle bolt": "screw",
    "engine bolt": "screw",
    "exhaust clamp": "screw",
    "exhaust spring": "spring",
    "stand spring": "spring",
    "suspension strap": "strap",
    "vapour hose": "hose",
    "coolant hose": "hose",
    "oil filler cap": "cap",
}
"""What is most often loosened beside a plate."""


def open_on_bike(record: tuple[Happened, ...]) -> tuple[BikeJointOpened, ...]:
    """What was opened and not closed since, in the order in which it was opened."""
    found: dict[str, BikeJointOpened] = {}
    for event in of_kind(record, BikeJointOpened, BikeJointClosed):
        found.pop(event.joint, None)
        if isinstance(event, BikeJointOpened):
            found[event.joint] = event
    return tuple(found.values())
