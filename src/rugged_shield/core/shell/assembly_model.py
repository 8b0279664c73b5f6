"""The bodies of an assembly side by side, joined and held: its equations and their solution.

K q + Gᵀ λ = f with G q = 0: the stiffness of sheets, beams and springs; a condition for each
freedom that a joint ties; what the joint carries is its multiplier.
"""

from __future__ import annotations

import numpy as np

from rugged_shield.core.errors import InputError
from rugged_shield.core.mechanics.frames import Vec3
from rugged_shield.core.shell.assembly_input import (
    AssemblyInput,
    AssemblyLoad,
    AssemblyMount,
    AssemblySheet,
)
from rugged_shield.core.shell.beams import BeamChain, chain
from rugged_shield.core.shell.elements import Array
from rugged_shield.core.shell.mesh import Place, axes_of
from rugged_shield.core.shell.solve import OFF_PANEL_MM
from rugged_shield.core.shell.superelement import (
    ARM_MM,
    CondensedSheet,
    Hold,
    carried,
    condensed,
    dropped,
    space_of,
)

_LOOSE = 1e-12
_TIED = 1e-9


class AssemblyModel:
    """All bodies of an input, and how the places of its joints, mounts and loads move.

    Freedoms: those of the condensed sheets, then six of every node of the beams, in the order of
    the input; turnings in units of 1/100 rad, so that all are mm.
    """

    def __init__(self, given: AssemblyInput) -> None:
        self.given = given
        self._sheets = given.all_sheets()
        self._names = given.bodies()
        self._holds: list[list[Hold]] = [[] for _ in self._sheets]
        self._places: list[list[Vec3]] = [[] for _ in given.parts]
        ends = [
            (self._reach(j.name, j.a, j.at_mm), self._reach(j.name, j.b, j.at_mm))
            for j in given.joints
        ]
        held = [self._reach(m.name, m.on, m.at_mm, m) for m in given.mounts]
        pushed = [self._push(i, load) for i, load in enumerate(given.loads)]
        self.sheets = tuple(map(self._condense, self._sheets, self._holds))
        self.chains: tuple[BeamChain, ...] = tuple(
            chain(p, tuple(at)) for p, at in zip(given.parts, self._places, strict=True)
        )
        turning = [
            *(s.turning for s in self.sheets),
            *(np.tile([False] * 3 + [True] * 3, len(c.nodes)) for c in self.chains),
        ]
        self.first = np.concatenate([[0], np.cumsum([len(t) for t in turning])]).tolist()
        self.scale = np.where(np.concatenate(turning), 1 / ARM_MM, 1.0)
        self.ties = [
            self._moves(a, j.at_mm) - self._moves(b, j.at_mm)
            for (a, b), j in zip(ends, given.joints, strict=True)
        ]
        self.held = [self._moves(m, at.at_mm) for m, at in zip(held, given.mounts, strict=True)]
        self.pushed = [normal @ self._moves(at, None)[:3] for at, normal in pushed]

    def _reach(
        self, name: str, body: str, at_mm: Vec3, mount: AssemblyMount | None = None
    ) -> tuple[int, int]:
        """The body's number, and which of its holds a joint or a mount takes."""
        number = self._names.index(body)
        if number >= len(self._sheets):
            places = self._places[number - len(self._sheets)]
            places.append(at_mm)
            return number, len(places) - 1
        field = f"{'joints' if mount is None else 'mounts'}.{name}.at_mm"
        panels = self._sheets[number].panels
        place = dropped(panels, at_mm, field)
        point = mount is not None and mount.turning_n_mm_per_rad is None
        off = float(np.linalg.norm(space_of(panels, place) - np.array(at_mm)))
        if point and off > OFF_PANEL_MM:
            raise InputError(field, at_mm, "a place in the sheet's middle, or a mount that turns")
        return self._hold(number, Hold(place, disc=not point))

    def _hold(self, number: int, hold: Hold) -> tuple[int, int]:
        self._holds[number].append(hold)
        return number, len(self._holds[number]) - 1

    def _push(self, i: int, load: AssemblyLoad) -> tuple[tuple[int, int], Array]:
        """Where a load takes hold, and the outward normal there."""
        for number, sheet in enumerate(self._sheets):
            for k, panel in enumerate(sheet.panels):
                if panel.name == load.panel:
                    normal = axes_of(panel)[2]
                    outward = np.asarray(-normal if normal[2] < 0 else normal)
                    return self._hold(number, Hold(Place(k, load.at_mm), disc=False)), outward
        known = ", ".join(p.name for s in self._sheets for p in s.panels)
        raise InputError(f"loads.{i}.panel", load.panel, "one of " + known)

    def _condense(self, sheet: AssemblySheet, holds: list[Hold]) -> CondensedSheet:
        if not any(h.disc for h in holds):
            places = np.array([space_of(sheet.panels, h.place) for h in holds]).reshape(-1, 3)
            spread = (
                np.linalg.svd(places - places.mean(axis=0), compute_uv=False)
                if len(places)
                else [0.0]
            )
            if len(places) < 3 or spread[1] < 1e-6 * max(float(spread[0]), 1.0):
                raise mechanism(f"nothing, or points in one line, hold {sheet.name}")
        return condensed(
            sheet.panels,
            tuple(holds),
            thickness_mm=sheet.thickness_mm,
            youngs_modulus_mpa=sheet.youngs_modulus_mpa,
            poisson=sheet.poisson,
            mesh_mm=self.given.mesh_mm,
        )

    def _moves(self, hold: tuple[int, int], at_mm: Vec3 | None) -> Array:
        """How a place moves with all freedoms: shift and turning (6, n), or shift (3, n)."""
        number, which = hold
        if number < len(self.sheets):
            sheet = self.sheets[number]
            own, centre = sheet.moves[which], sheet.centres[which]
        else:
            beam = self.chains[number - len(self.sheets)]
            node = beam.held[which]
            own, centre = np.zeros((6, 6 * len(beam.nodes))), beam.nodes[node]
            own[:, 6 * node : 6 * node + 6] = np.eye(6)
        if len(own) == 6 and at_mm is not None:
            own = carried(np.array(at_mm) - centre) @ own
        out = np.zeros((len(own), len(self.scale)))
        out[:, self.first[number] : self.first[number + 1]] = own
        return np.asarray(out * self.scale)

    def stiffness(self) -> Array:
        """Of all bodies and mounts, not yet joined, (n, n)."""
        total = np.zeros((len(self.scale),) * 2)
        own = [*(s.stiffness for s in self.sheets), *(c.stiffness() for c in self.chains)]
        for start, end, k in zip(self.first, self.first[1:], own, strict=False):
            total[start:end, start:end] = k
        total *= np.outer(self.scale, self.scale)
        for mount, move in zip(self.given.mounts, self.held, strict=True):
            springs = springs_of(mount)
            total += move[: len(springs)].T @ (springs[:, None] * move[: len(springs)])
        return total

    def solve(self) -> tuple[Array, Array]:
        """Shifts (n, loads), and what every joint carries from a to b (6 joints, loads).

        Raises InputError for a mechanism, or two joints of the same two bodies on one disc.
        """
        forces = [p * load.force_n for p, load in zip(self.pushed, self.given.loads, strict=True)]
        arms = np.tile([1.0] * 3 + [ARM_MM] * 3, len(self.ties))
        ties = np.vstack([np.zeros((0, len(self.scale))), *self.ties]) * arms[:, None]
        shifts, carried_by = _solved(self.stiffness(), ties, np.array(forces).T)
        return shifts, carried_by * arms[:, None]

    def stress_mpa(self, which: int, shifts: Array) -> float:
        """Greatest normal stress in a part for the shifts of all freedoms, (n,)."""
        number = len(self.sheets) + which
        own = slice(self.first[number], self.first[number + 1])
        return self.chains[which].stress_mpa(shifts[own] * self.scale[own])


def springs_of(mount: AssemblyMount) -> Array:
    """A mount's springs in the order of a place's freedoms, (3,) or (6,)."""
    return np.array([*mount.stiffness_n_per_mm, *(mount.turning_n_mm_per_rad or ())])


def mechanism(words: str) -> InputError:
    """Something that can move as a whole."""
    return InputError(
        "mounts",
        words,
        "every body held by joints or mounts so that it cannot move as a whole",
        f"something can turn or slide as a whole: {words}",
    )


def _solved(stiffness: Array, ties: Array, forces: Array) -> tuple[Array, Array]:
    count, tied = len(stiffness), len(ties)
    weight = float(np.abs(np.diag(stiffness)).max())
    if tied:
        sizes = np.linalg.svd(ties, compute_uv=False)
        if sizes[-1] < _TIED * sizes[0]:
            raise InputError("joints", tied // 6, "joints of the same two bodies 12 mm apart")
    whole = np.zeros((count + tied, count + tied))
    whole[:count, :count] = stiffness / weight
    whole[count:, :count] = ties
    whole[:count, count:] = ties.T
    sizes = np.linalg.svd(whole, compute_uv=False)
    if sizes[-1] < _LOOSE * sizes[0]:
        raise mechanism("joints and mounts do not hold every body")
    right = np.zeros((count + tied, forces.shape[1]))
    right[:count] = forces / weight
    found = np.asarray(np.linalg.solve(whole, right), dtype=np.float64)
    return found[:count], found[count:] * weight
