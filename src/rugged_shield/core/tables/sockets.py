"""How wide a tool is: what a socket needs around a hexagon, and a key around its recess."""

from __future__ import annotations

from rugged_shield.core.errors import InputError
from rugged_shield.core.result import Source

SOCKET_SOURCE = Source(
    "ISO 2725-1, hand sockets: largest outside diameter at the hexagon, 10 mm square drive, "
    "as commonly printed; measure the socket where it is close",
    "medium",
)
SOCKET_OUTER_MM: dict[float, float] = {
    7: 11.0,
    8: 12.2,
    10: 14.7,
    11: 16.0,
    11.112: 16.0,
    12: 17.2,
    12.7: 18.5,
    13: 18.5,
    14: 19.7,
    14.287: 21.0,
    15: 21.0,
    16: 22.2,
    17: 23.5,
    18: 24.7,
    19: 26.0,
}
"""By width across flats, mm."""
BIT_SOCKET_MM = 18.0
"""Outside diameter of a bit socket's body, 10 mm square drive."""
BIT_LONG_MM = 30.0
"""How far its bit stands out of the body."""
KEY_ROOM_MM = 1.0
"""A bare key needs its corners and this much more."""


def socket_outer_mm(across_flats_mm: float) -> float:
    """Largest outside diameter of a socket, mm; the next larger one where it is not listed.

    Raises InputError above the table.
    """
    for flats in sorted(SOCKET_OUTER_MM):
        if flats >= across_flats_mm - 0.2:
            return SOCKET_OUTER_MM[flats]
    raise InputError("across_flats_mm", across_flats_mm, f"at most {max(SOCKET_OUTER_MM):g} mm")
