"""What mounts hold against turning: springs that yield, and what they no longer take goes on."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from rugged_shield.core.weighup.mount_law import HARDENING, MountLaw, Reduced
from rugged_shield.core.weighup.response import Array, Index
from rugged_shield.core.weighup.strike_linear import Linear

LEVELS = 6
"""Forces along a blow at which turning is settled; straight between them."""


@dataclass(frozen=True)
class TurnLaw:
    """A spring against turning about one axis, N·mm/rad, that gives way at a moment, N·mm."""

    stiffness_nmm_per_rad: float
    yields_at_nmm: float

    both_ways = True

    def corners(self) -> tuple[tuple[float, float], ...]:
        """(angle rad, change of stiffness N·mm/rad there)."""
        k = self.stiffness_nmm_per_rad
        return ((self.yields_at_nmm / k, (HARDENING - 1) * k),)


@dataclass(frozen=True, eq=False)
class Turning:
    """Mounts that hold turning, each about two axes across its screw (t in all).

    ``of`` (t,): whose each is; ``springs`` solved on the shell as ``Reduced``: ``own`` (n, t)
    rad/N under a unit strike at each place, ``mutual`` (t, t) rad/N·mm; ``moves`` (m, 3, t)
    mm/N·mm: how mounts move under a unit moment about each axis.
    """

    of: Index
    springs: Reduced
    moves: Array

    def at(self, rows: Index) -> Turning:
        """The same for some of the places."""
        return replace(self, springs=replace(self.springs, own=self.springs.own[rows]))

    def passed_on(self, force: Array) -> Array:
        """Moments that yielded mounts no longer take, N·mm (n, s, t) along forces (n, s)."""
        own, last = self.springs.own, np.maximum(force.max(axis=1), 1e-9)
        if not len(self.of):
            return np.zeros((*force.shape, 0))
        steps = min(LEVELS, force.shape[1])
        shares = np.arange(steps + 1) / steps
        levels = (last[:, None] * shares)[..., None] * own[:, None]
        known = np.zeros_like(levels)
        yields = np.array([law.corners()[0][0] for law in self.springs.laws])
        some = np.flatnonzero((np.abs(levels[:, -1]) > yields).any(axis=1))
        if len(some):
            known[some] = self.springs.corrections(levels[some])
        at = force / last[:, None] * steps
        low = np.clip(at.astype(int), 0, steps - 1)
        share = (at - low)[..., None]
        below = np.take_along_axis(known, low[..., None], axis=1)
        above = np.take_along_axis(known, low[..., None] + 1, axis=1)
        return np.asarray(below + share * (above - below))

    def gives_mm(self, passed_on: Array) -> Array:
        """How much more each place gives for what is passed on, mm (n, s): Maxwell 1864."""
        return np.asarray((self.springs.own[:, None] * passed_on).sum(axis=2))

    def drawn(self, passed_on: Array) -> Array:
        """How far what is passed on moves each mount, mm (n, s, m, 3)."""
        return np.asarray(np.einsum("pdt,nst->nspd", self.moves, passed_on))

    def moments(self, force: Array, passed_on: Array) -> Array:
        """What turns each mount across its screw, N·mm (n, m), at forces (n,)."""
        own, laws = self.springs.own, self.springs.laws
        turned = own * force[:, None] + passed_on @ self.springs.mutual.T
        stiffness = np.array([law.corners()[0][1] / (HARDENING - 1) for law in laws])
        each = turned * stiffness - passed_on
        out = np.zeros((len(own), len(self.moves)))
        for axis in range(0, len(self.of), 2):
            out[:, self.of[axis]] = np.hypot(each[:, axis], each[:, axis + 1])
        return out


def _across(normal: Array) -> Array:
    """Two unit axes across a normal, (2, 3)."""
    least = np.eye(3)[int(np.abs(normal).argmin())]
    first = np.cross(normal, least)
    first /= np.linalg.norm(first)
    return np.array([first, np.cross(normal, first)])


def turning_of(linear: Linear, laws: tuple[MountLaw, ...], nodes: Index, travel: Array) -> Turning:
    """The mounts whose law says at which moment they yield, for strikes along ``travel``."""
    which = [
        i
        for i, law in enumerate(laws)
        if law.turns_at_nmm is not None and linear.mounts[i].rotational_nmm_per_rad > 0
    ]
    of = np.repeat(np.array(which, dtype=np.int64), 2)
    axes = np.array([_across(np.array(laws[i].normal)) for i in which]).reshape(-1, 3)
    # A place moves under a unit moment at a mount as that mount turns under a unit force there.
    own = np.einsum("ntad,ta,d->nt", linear.turned[nodes][:, of], axes, travel)
    under = np.einsum("pftk,tk->pft", linear.mutual_turned[:, :, of], axes)
    mutual = np.einsum("tas,ta->ts", under[of, 3:], axes)
    turn_laws = tuple(
        TurnLaw(linear.mounts[i].rotational_nmm_per_rad, laws[i].turns_at_nmm or 0.0) for i in of
    )
    return Turning(of, Reduced(turn_laws, own, (mutual + mutual.T) / 2), under[:, :3])
