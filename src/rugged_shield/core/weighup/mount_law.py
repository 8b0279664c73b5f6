"""What a mount does beyond its spring: rubber that bottoms, a strip that yields, and its limits.

Solved on the reduced model: the linear shell stays factorised as it is, and every mount that
leaves its straight line pushes or pulls on it with the difference.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Annotated, Protocol

import numpy as np
import numpy.typing as npt

from rugged_shield.core.errors import InputError
from rugged_shield.core.mechanics.frames import Vec3
from rugged_shield.core.quantity import Range, Ranged
from rugged_shield.core.weighup.response import Array

HARDENING = 0.02
BOTTOMED_N_PER_MM = 50_000.0
_MOST_STEPS = 60
_CLOSE_MM = 1e-6
_HALVINGS = 12

Load = Annotated[float | None, Range(1.0, 1e7, "N")]
Moment = Annotated[float | None, Range(1.0, 1e9)]
PRIED = "the screw is pried"


@dataclass(frozen=True, kw_only=True)
class MountLaw(Ranged):
    """One mount along the sheet's normal (unit, into the bike), and what it bears.

    ``bottoms_at_mm``: pressed so far, rubber is as stiff as what is behind it.
    ``yields_at_n``: a strip gives way there with 2 % of its stiffness until ``stroke_mm``.
    ``turns_at_nmm``: turned across its screw it yields at that moment; None: as a spring alone.
    Limits N: pulled, pressed, sheared, each with what fails; N·mm: ``pries_at_nmm`` is what
    turning may bring onto the screw. None is not known.
    ``casting``: what it loads is a casting that a strike can break.
    """

    name: str
    normal: Vec3
    stiffness_n_per_mm: Annotated[float, Range(0.1, 1e8)]
    bottoms_at_mm: Annotated[float | None, Range(0.01, 100.0, "mm")] = None
    yields_at_n: Load = None
    stroke_mm: Annotated[float | None, Range(0.1, 200.0, "mm")] = None
    turns_at_nmm: Moment = None
    pries_at_nmm: Moment = None
    pull_limit_n: Load = None
    pull_fails: str = ""
    press_limit_n: Load = None
    press_fails: str = ""
    shear_limit_n: Load = None
    shear_fails: str = ""
    casting: bool = False

    def __post_init__(self) -> None:
        super().__post_init__()
        if abs(math.hypot(*self.normal) - 1) > 1e-6:
            raise InputError(f"laws.{self.name}.normal", self.normal, "a unit vector")

    def unlimited(self) -> MountLaw:
        """How it moves, whatever it bears: its spring and its corners alone."""
        return MountLaw(
            name=self.name,
            normal=self.normal,
            stiffness_n_per_mm=self.stiffness_n_per_mm,
            bottoms_at_mm=self.bottoms_at_mm,
            yields_at_n=self.yields_at_n,
            stroke_mm=self.stroke_mm,
            turns_at_nmm=self.turns_at_nmm,
        )

    @property
    def both_ways(self) -> bool:
        """Whether it turns its corners whichever way it is pressed: a strip does, rubber not."""
        return self.yields_at_n is not None

    @property
    def is_bent(self) -> bool:
        """Whether it leaves its straight line anywhere."""
        return self.bottoms_at_mm is not None or self.yields_at_n is not None

    def corners(self) -> tuple[tuple[float, float], ...]:
        """(displacement pressed in mm, change of stiffness N/mm there), in order."""
        k = self.stiffness_n_per_mm
        found = []
        if self.yields_at_n is not None:
            found.append((self.yields_at_n / k, (HARDENING - 1) * k))
            if self.stroke_mm is not None:
                stop = self.yields_at_n / k + self.stroke_mm
                found.append((stop, BOTTOMED_N_PER_MM - HARDENING * k))
        if self.bottoms_at_mm is not None:
            found.append((self.bottoms_at_mm, max(BOTTOMED_N_PER_MM - k, 0.0)))
        return tuple(sorted(found))

    def share(self, normal_n: Array, shear_n: Array, moment_nmm: Array) -> Array:
        """Load over limit, √(max(N/N_l, M/M_l − N/F_l)² + (V/V_l)²); 0 where none is known.

        N is positive when pressed. What turns a mount pries its screw over the rim of its face:
        on top of what pulls it, and less what presses it.
        """
        pressed = np.maximum(normal_n, 0.0) / (self.press_limit_n or np.inf)
        pulled = -normal_n / (self.pull_limit_n or np.inf)
        pried = pulled + moment_nmm / (self.pries_at_nmm or np.inf)
        sheared = shear_n / (self.shear_limit_n or np.inf)
        return np.asarray(np.hypot(np.maximum(pressed, pried), sheared))

    def fails(self, normal_n: float, shear_n: float, moment_nmm: float) -> str:
        """What is nearest to its limit under a load."""
        limit, word = (
            (self.press_limit_n, self.press_fails)
            if normal_n >= 0
            else (self.pull_limit_n, self.pull_fails)
        )
        along = abs(normal_n) / (limit or np.inf)
        across = shear_n / (self.shear_limit_n or np.inf)
        pressed = normal_n / (self.pull_limit_n or np.inf) if normal_n > 0 else 0.0
        pried = moment_nmm / (self.pries_at_nmm or np.inf) - pressed
        if along == across == 0.0 and pried <= 0.0:
            return "no limit known"
        if pried > max(along, across):
            return PRIED
        return word if along >= across else self.shear_fails


class Bend(Protocol):
    """A spring that leaves its straight line at corners."""

    @property
    def both_ways(self) -> bool:
        """Whether it does so whichever way it is moved."""

    def corners(self) -> tuple[tuple[float, float], ...]:
        """(displacement, change of stiffness there), in order."""


@dataclass(frozen=True, eq=False)
class Corners:
    """The corners of several laws in one, so that all are asked at once.

    ``at_mm`` and ``change_n_per_mm`` (c, q): where each turns and by how much; ``both`` (q,):
    a strip turns whichever way it is pressed.
    """

    at_mm: Array
    change_n_per_mm: Array
    both: npt.NDArray[np.bool_]

    @classmethod
    def of(cls, laws: Sequence[Bend]) -> Corners:
        """Of at least one law."""
        corners = [law.corners() for law in laws]
        most = max(map(len, corners))
        # A law with fewer corners than another has its last ones out of reach.
        padded = [[*c, *[(np.inf, 0.0)] * (most - len(c))] for c in corners]
        at, change = np.array(padded).reshape(len(laws), most, 2).transpose(2, 1, 0)
        return cls(at, change, np.array([law.both_ways for law in laws]))

    def _over_mm(self, pressed_mm: Array) -> Array:
        size = np.where(self.both, np.abs(pressed_mm), pressed_mm)
        return np.maximum(size[:, None] - self.at_mm, 0.0)

    def excess(self, pressed_mm: Array) -> tuple[Array, Array]:
        """Force over the straight line, N, and its slope, N/mm, each (n, q)."""
        over = self._over_mm(pressed_mm)
        force = (self.change_n_per_mm * over).sum(axis=1)
        slope = (self.change_n_per_mm * (over > 0)).sum(axis=1)
        return np.where(self.both & (pressed_mm < 0), -force, force), slope

    def energy(self, pressed_mm: Array) -> Array:
        """Work of that force from rest, all mounts together, N·mm (n,)."""
        over = self._over_mm(pressed_mm)
        return np.asarray((self.change_n_per_mm * over**2).sum(axis=(1, 2)) / 2)


@dataclass(frozen=True, eq=False)
class Reduced:
    """The shell seen from its bent mounts: how they move, mm/N, with all springs straight.

    ``own`` (n, q): pressed in by a unit strike at each place; ``mutual`` (q, q): by unit
    forces at each other.
    """

    laws: tuple[Bend, ...]
    own: Array
    mutual: Array

    def corrections(self, free: Array) -> Array:
        """Force of each bent mount on the sheet beyond its spring, N, (n, s, q).

        ``free`` (n, s, q): how far each would be pressed in were all springs straight, along n
        blows. Newton's method on δ = free − mutual·excess(δ), all blows at once, each step from
        the one before. The energy behind it is convex: every law rises.
        """
        out = np.zeros_like(free)
        if not self.laws:
            return out
        corners = Corners.of(self.laws)
        pressed = np.zeros_like(free[:, 0])
        for step in range(free.shape[1]):
            if step:
                pressed = pressed + free[:, step] - free[:, step - 1]
            pressed, out[:, step] = self._settled(corners, free[:, step], pressed)
        return out

    def _settled(self, corners: Corners, free: Array, start: Array) -> tuple[Array, Array]:
        """Where the bent mounts come to rest, (n, q), and their force beyond their springs."""
        stiffness: Array = np.asarray(np.linalg.inv(self.mutual), dtype=np.float64)

        def energy(at: Array, aim: Array) -> Array:
            away = at - aim
            return np.asarray(((away @ stiffness) * away).sum(axis=1) / 2 + corners.energy(at))

        pressed, over = start.copy(), np.zeros_like(start)
        open_ = np.arange(len(start))
        for _ in range(_MOST_STEPS):
            at, aim = pressed[open_], free[open_]
            force, slope = corners.excess(at)
            rest = at - aim + force @ self.mutual.T
            over[open_] = force
            left = np.abs(rest).max(axis=1) >= _CLOSE_MM
            if not left.any():
                return pressed, -over
            open_, at, aim, rest, slope = open_[left], at[left], aim[left], rest[left], slope[left]
            matrix = np.eye(len(self.laws)) + self.mutual * slope[:, None, :]
            step = -np.linalg.solve(matrix, rest[..., None])[..., 0]
            now, share = energy(at, aim), np.ones((len(at), 1))
            for _ in range(_HALVINGS):
                there = at + share * step
                worse = energy(there, aim) > now + 1e-9 * (1 + np.abs(now))
                if not worse.any():
                    break
                share[worse] /= 2
            pressed[open_] = at + share * step
        raise ArithmeticError("bent mounts did not settle")
