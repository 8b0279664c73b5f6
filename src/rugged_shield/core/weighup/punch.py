"""Whether a narrow stone goes through: shear around it, or strain under it."""

from __future__ import annotations

import math

import numpy as np
import numpy.typing as npt

from rugged_shield.core.result import FindingCode

Array = npt.NDArray[np.float64]

STRAIN_AT_PUNCH = {"aluminium": 0.15, "steel": 0.30}
GRAVE_SHARE = 1.5
"""From here on a plate is pierced whatever the criterion's own error; own estimate."""
GRAVE_PLACES = 0.05
"""Pierced at fewer of its places, it is at a corner or an edge that few stones meet."""
_SHEAR_OF_ULTIMATE = 0.6
_STRAIN_OF_RING = 0.4


PUNCH_SAYS: dict[FindingCode, str] = {
    "may punch through": "may punch through",
    "punches through": "goes through",
}
"""What the stone does, by what is found."""


def punch_code(share: float, places: float = 1.0) -> FindingCode | None:
    """What a share says, reached or passed at this part of all places (0 to 1).

    Nothing below 1; near its limit below 1.5, or where few stones meet it; pierced from there on.
    """
    if share < 1.0:
        return None
    grave = share >= GRAVE_SHARE and places >= GRAVE_PLACES
    return "punches through" if grave else "may punch through"


def punch_share(
    force_n: Array, ring_mm2: Array, *, yield_mpa: float, ultimate_mpa: float | None, family: str
) -> Array:
    """Force over what the sheet bears around the stone; from 1 on it may punch through.

    The worse of F/(ring · 0.6 σ_u) and of the strain 0.4 F/(ring · σ) over 0.15 (aluminium) or
    0.3 (steel); ``ring_mm2`` is the sheet's section around the stone, 2πrt where all of it meets
    sheet. A warning that no test has verified.
    """
    bears = ring_mm2 * _SHEAR_OF_ULTIMATE * ultimate_mpa if ultimate_mpa else np.inf
    strain = _STRAIN_OF_RING * force_n / (ring_mm2 * yield_mpa)
    return np.asarray(np.maximum(force_n / bears, strain / STRAIN_AT_PUNCH.get(family, math.inf)))
