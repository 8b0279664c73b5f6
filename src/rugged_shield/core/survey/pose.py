"""How a stiff plate hangs off the place that its maker drew."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from rugged_shield.core.mechanics.frames import Vec3, dot, unit


@dataclass(frozen=True)
class Pose:
    """How a stiff plate hangs off its drawn place: a turn about a point, then a shift up, mm.

    ``slope_x`` and ``slope_y``: how a level sheet then rises along x and y. The turn is the least
    one that does it, so no length or angle of the plate changes.
    """

    dz_mm: float = 0.0
    slope_x: float = 0.0
    slope_y: float = 0.0
    about_mm: Vec3 = (0.0, 0.0, 0.0)

    @cached_property
    def _rows(self) -> tuple[Vec3, Vec3, Vec3]:
        """The rotation that turns the vertical into the level sheet's normal (Rodrigues 1840)."""
        x, y, c = unit((-self.slope_x, -self.slope_y, 1.0))
        s = 1.0 / (1.0 + c)
        return (1 - x * x * s, -x * y * s, x), (-x * y * s, 1 - y * y * s, y), (-x, -y, c)

    def lift(self, p: Vec3) -> Vec3:
        """A point moved with the plate."""
        if self == DRAWN:
            return p
        a, b, c = self.about_mm
        x, y, z = self.turn((p[0] - a, p[1] - b, p[2] - c))
        return (a + x, b + y, c + z + self.dz_mm)

    def lifted(self, points: NDArray[np.float64]) -> NDArray[np.float64]:
        """Many points (n, 3) moved with the plate."""
        about = np.array(self.about_mm)
        turned = (points - about) @ np.array(self._rows).T
        return np.asarray(turned + about + np.array([0.0, 0.0, self.dz_mm]))

    def turn(self, direction: Vec3) -> Vec3:
        """A direction turned with the plate."""
        first, second, third = self._rows
        return dot(first, direction), dot(second, direction), dot(third, direction)


DRAWN = Pose()
"""As its maker drew it."""
