"""Mounts that a sheet reaches through another part: what its joints pass on to them.

A sub-plate or bracket between sheet and bike takes the loads of the joints above it and puts them
on mounts of its own; linear, so that a table of shares tells all of it (Guyan 1965).
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from rugged_shield.core.errors import InputError
from rugged_shield.core.mechanics.frames import Vec3
from rugged_shield.core.weighup.mount_law import MountLaw
from rugged_shield.core.weighup.response import Array

Six = tuple[float, float, float, float, float, float]
Passed = tuple[Six, Six, Six, Six, Six, Six]
"""Force N and moment N·mm on a far mount for 1 N along x, y, z and 1 N·mm about x, y, z."""


def six_of(values: list[float]) -> Six:
    """Six numbers: along x, y, z, and about them."""
    x, y, z, about_x, about_y, about_z = values
    return (x, y, z, about_x, about_y, about_z)


def passed_of(rows: list[Six]) -> Passed:
    """Six rows: for a force along x, y, z, and for a moment about them."""
    x, y, z, about_x, about_y, about_z = rows
    return (x, y, z, about_x, about_y, about_z)


@dataclass(frozen=True, kw_only=True)
class FarMounts:
    """What lies behind the joints of a sheet: each far mount's law and place, in one order.

    ``carried[b][m]``: what a unit force or moment of the sheet on mount m puts on far mount b, a
    row for each axis; ``through``: numbers of the mounts that lead to a casting.
    """

    laws: tuple[MountLaw, ...] = ()
    at_mm: tuple[Vec3, ...] = ()
    carried: tuple[tuple[Passed, ...], ...] = ()
    through: tuple[int, ...] = ()

    def __post_init__(self) -> None:
        if not len(self.laws) == len(self.at_mm) == len(self.carried):
            raise InputError("far", len(self.laws), "a law, a place and a row of shares for each")

    def check(self, mounts: int) -> None:
        """Refuse shares of other mounts than the sheet has."""
        for law, row in zip(self.laws, self.carried, strict=True):
            if len(row) != mounts:
                raise InputError(f"far.{law.name}", len(row), f"{mounts}, one for each mount")
        for number in self.through:
            if not 0 <= number < mounts:
                raise InputError("far.through", number, f"from 0 to {mounts - 1}")

    def unlimited(self) -> FarMounts:
        """The same whatever its mounts bear."""
        return FarMounts(
            laws=tuple(law.unlimited() for law in self.laws),
            at_mm=self.at_mm,
            carried=self.carried,
            through=self.through,
        )

    def loads(self, on_mounts: Array) -> Array:
        """Force and moment on every far mount, (n, b, 6), for those on the sheet's (n, m, 6)."""
        if not self.laws:
            return np.zeros((len(on_mounts), 0, 6))
        table = np.array(self.carried)
        return np.asarray(np.einsum("bmdk,nmd->nbk", table, on_mounts))


NO_FAR_MOUNTS = FarMounts()
