"""Force and deflection of a struck sheet at every place: bending, folding, stretching, tearing.

One form for edges, rims, corners and the middle. What a place takes before it folds is the least
over mechanisms; what the sheet gives further comes from its own stretch and its pull at mounts.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import numpy as np

from rugged_shield.core.amounts import percent
from rugged_shield.core.result import Source
from rugged_shield.core.weighup.response import Array, Index

FORM_SOURCE = Source(
    "place by place: mechanisms from the linear shape and straight hinges, constants fitted to 37 "
    "nonlinear finite element strikes on folded plates and four clamped plates; deflection rms "
    "5 %, force 11 %, load of the worst mount 13 % there and to a factor of 1.5 elsewhere",
    "medium",
)
MOUNT_BAND, BROKEN_MOUNT_BAND = 1.5, 2.1
"""Loads on mounts are known to about this factor, up and down; second, by a broken ring."""
DEFLECTION_BAND, BROKEN_DEFLECTION_BAND = 0.20, 0.35
FORCE_BAND, BROKEN_FORCE_BAND = 0.30, 0.40
PATCH_WHOLE = 0.95
"""Less of the stone's circle on sheet is an edge or a rim: no whole ring holds the place."""
BANDS = (
    f"Deflection is known to ±{percent(DEFLECTION_BAND)}, force to ±{percent(FORCE_BAND)}, the "
    f"load of a mount to a factor of {MOUNT_BAND:g}; at edges, rims and webs to "
    f"±{percent(BROKEN_DEFLECTION_BAND)}, ±{percent(BROKEN_FORCE_BAND)} and a factor of "
    f"{BROKEN_MOUNT_BAND:g}."
)

SHAPE_SHARE = 0.802
"""A linear shape dissipates more than the mechanism does that the sheet finds."""
LINE_SHARE = 1.03
FAN_LIMIT = 7.15
"""Plastic moments per length at which a fan opens under the stone, wherever it strikes."""
EDGE_DISSIPATION, CLAMPED_DISSIPATION = 6.27, 13.5
RING_EXPONENT = 1.57
RING_PULL = 0.757
RING_SHARE = 0.761
RING_FOLD = 0.144
PULL_WIDTH = 2.05
"""A mount tears a strip this many times the stone's radius wide."""
DRAWN_SHARE = 0.9
"""A sheet that is free to change its shape pulls less at its mounts than one that is not."""
_ELBOW = 3.52
_RING_UNLOADS = 1.5
_PLASTIC_UNLOADS = 0.9
"""Shares with which a sheet springs back: the ring it has folded, and plastic at its mounts."""
_COARSE_STEPS, _STEPS, _BEYOND_STEPS = 24, 40, 12
_MARGIN = 1.15
_ROUNDS = 20
_YIELDED = 0.97
_HALVINGS = 45


@dataclass(frozen=True, eq=False, kw_only=True)
class Form:
    """Constants of n places; the sheet's own are floats.

    ``toward`` (n, m): how the stretched sheet pulls at each mount toward the place, N per mm²,
    ``away_mm`` (n, m) how far it is; ``hinge`` (n,): least length over lever of a straight fold
    divided by the cosine of the blow; ``yield_mpa`` softened as the sheet is warm; ``strength``
    (n,): what is left of it where the place folds, less than 1 beside a weld.
    """

    stiffness_n_per_mm: Array
    dissipation: Array
    membrane_n_per_mm3: Array
    hinge: Array
    toward: Array
    away_mm: Array
    thickness_mm: float
    yield_mpa: float
    rigidity_nmm: float
    radius_mm: float
    plastic: bool
    strength: Array

    def at(self, rows: Index) -> Form:
        """The same for some of the places."""
        return replace(
            self,
            stiffness_n_per_mm=self.stiffness_n_per_mm[rows],
            dissipation=self.dissipation[rows],
            membrane_n_per_mm3=self.membrane_n_per_mm3[rows],
            hinge=self.hinge[rows],
            toward=self.toward[rows],
            away_mm=self.away_mm[rows],
            strength=self.strength[rows],
        )

    @property
    def disc_mm(self) -> Array:
        """Radius of the clamped disc that gives as much, mm."""
        return np.asarray(np.sqrt(16 * math.pi * self.rigidity_nmm / self.stiffness_n_per_mm))

    @property
    def moment_n(self) -> Array:
        """Plastic moment per length, σt²/4, N."""
        return np.asarray(self.strength * self.yield_mpa * self.thickness_mm**2 / 4)

    @property
    def tear_n(self) -> float:
        """What a mount bears before the sheet tears or draws through its strip, N."""
        return self.yield_mpa * self.thickness_mm * PULL_WIDTH * self.radius_mm

    @property
    def mechanism(self) -> Array:
        """Least over the sheet's own shape and a straight hinge, in plastic moments per length."""
        shape = SHAPE_SHARE * self.dissipation
        hinged = np.asarray(LINE_SHARE * 2 / math.sqrt(3) * self.hinge)
        return _least(shape, hinged, 12)

    @property
    def folds_n(self) -> Array:
        """Force at which the place folds, N."""
        return np.asarray(self.moment_n * _least(self.mechanism, FAN_LIMIT, 4))

    @property
    def through_mounts(self) -> Array:
        """C: the part of K3 that the pull at the mounts makes, N/mm³."""
        pulled = (self.toward / self.away_mm).sum(axis=1)
        return np.asarray(np.minimum(pulled, self.membrane_n_per_mm3))

    @property
    def inside(self) -> Array:
        """ψ, 0 to 1: how far the place is ringed by sheet, as by what its mechanism costs."""
        span = CLAMPED_DISSIPATION - EDGE_DISSIPATION
        ringed = (self.mechanism / SHAPE_SHARE - EDGE_DISSIPATION) / span
        return np.asarray(np.clip(ringed, 0.0, 1.0) ** RING_EXPONENT)

    @property
    def ring_n_per_mm(self) -> Array:
        """What a ring of yielded sheet adds for each mm, N/mm."""
        spread = np.log(np.maximum(self.disc_mm / self.radius_mm, 2.0))
        sheet = 2 * math.pi * self.strength * self.yield_mpa * self.thickness_mm
        return np.asarray(RING_PULL * self.inside * sheet / spread)

    def elastic_square(self, energy_nmm: Array) -> Array:
        """Square of the deflection at which an elastic sheet would hold the energy, mm²."""
        k, k3 = self.stiffness_n_per_mm, self.membrane_n_per_mm3
        # The root of k x/2 + K3 x²/4 = U, written so that a sheet that never stretches is one.
        return np.asarray(4 * energy_nmm / (k + np.sqrt(k * k + 4 * k3 * energy_nmm)))


def _least(a: Array, b: Array | float, power: float) -> Array:
    """A smooth minimum: (a⁻ⁿ + b⁻ⁿ)^(−1/n); zero and infinity are what they are."""
    b = np.broadcast_to(np.asarray(b, dtype=float), np.shape(a))
    low, high = np.minimum(a, b), np.maximum(a, b)
    ratio = np.divide(low, high, out=np.zeros(np.shape(a)), where=(high > 0) & np.isfinite(high))
    return np.asarray(low / (1 + ratio**power) ** (1 / power))


@dataclass(frozen=True, eq=False)
class FormWay:
    """The way of n blows in s steps (n, s): sheet's deflection mm, force N, its energy N·mm.

    ``stretch_mm2``: the square of a deflection that its stretch goes with, less than its own
    once it yields. Energy of the sheet alone.
    """

    sheet_mm: Array
    force_n: Array
    energy_nmm: Array
    stretch_mm2: Array

    @property
    def drawn_mm2(self) -> Array:
        """The square that the pull at the mounts goes with."""
        return np.asarray(np.minimum(self.stretch_mm2, DRAWN_SHARE * self.sheet_mm**2))


def _march(form: Form, w: Array) -> FormWay:
    """Along deflections (n, s) that rise from nothing."""
    force, energy, stretch = np.zeros_like(w), np.zeros_like(w), np.zeros_like(w)
    k, folds, ring_pull = form.stiffness_n_per_mm, form.folds_n, form.ring_n_per_mm
    ring = RING_SHARE * (form.membrane_n_per_mm3 - form.through_mounts)
    for s in range(1, w.shape[1]):
        at, step = w[:, s], w[:, s] - w[:, s - 1]
        reached = energy[:, s - 1] + force[:, s - 1] * step
        x = np.minimum(at**2, form.elastic_square(reached))
        pulled = _least(form.toward * x[:, None], form.tear_n, 2) / form.away_mm
        force[:, s] = (
            _least(k * at, folds, _ELBOW)
            + _least(ring * at**3, RING_FOLD * folds + ring_pull * at, 2)
            + at * pulled.sum(axis=1)
        )
        energy[:, s] = energy[:, s - 1] + (force[:, s] + force[:, s - 1]) / 2 * step
        stretch[:, s] = x
    return FormWay(w, force, energy, stretch)


def form_way(form: Form, energy_nmm: Array, reach_mm: Array) -> FormWay:
    """The way until the sheet alone has taken ``energy_nmm`` and given ``reach_mm``, each (n,).

    Raises ArithmeticError if it does not get there: never a shortened answer.
    """
    k, folds = form.stiffness_n_per_mm, form.folds_n
    # Less than the form everywhere: elastic, then folding, both less the elbow between them.
    asked = energy_nmm * 2 ** (1 / _ELBOW)
    bends = folds**2 / (2 * k)
    far = np.where(asked <= bends, np.sqrt(2 * asked / k), asked / folds + folds / (2 * k))
    coarse = _march(form, far[:, None] * np.linspace(0.0, 1.0, _COARSE_STEPS) ** 2)
    ends = _MARGIN * crossing(coarse.energy_nmm, energy_nmm, coarse.sheet_mm)
    for _ in range(_ROUNDS):
        way = _march(form, _steps(ends, reach_mm))
        short = way.energy_nmm[:, _STEPS - 1] < energy_nmm
        if not short.any():
            return way
        ends = np.where(short, 1.3 * ends, ends)
    raise ArithmeticError("the way of a blow ended before its energy was taken")


def _steps(ends_mm: Array, reach_mm: Array) -> Array:
    """Deflections (n, s): close together until ``ends_mm``, then on to ``reach_mm``."""
    beyond = np.maximum(reach_mm - ends_mm, 0.0)[:, None]
    near = ends_mm[:, None] * np.linspace(0.0, 1.0, _STEPS) ** 1.5
    on = ends_mm[:, None] + beyond * np.linspace(0.0, 1.0, _BEYOND_STEPS + 1)[1:]
    return np.concatenate([near, on], axis=1)


def crossing(rows: Array, at: Array, values: Array) -> Array:
    """For each row (n, s) that rises, the value where it passes ``at`` (n,), straight between."""
    after = np.clip((rows < at[:, None]).sum(axis=1), 1, rows.shape[1] - 1)
    row = np.arange(len(rows))
    low, high = rows[row, after - 1], rows[row, after]
    share = np.clip((at - low) / np.where(high > low, high - low, 1.0), 0.0, 1.0)
    return np.asarray(
        values[row, after - 1] + share * (values[row, after] - values[row, after - 1])
    )


def dents(form: Form, sheet_mm: Array, force_n: Array, stretch_mm2: Array) -> Array:
    """What stays after unloading, mm (n,): 0 while nothing yields, NaN where it cannot be said.

    k (w − d) + U (w² − d²) w = F, U what springs back of the stretched sheet. Metal within 30 %
    on eight finite element plates, plastic within a half on two.
    """
    w, k = sheet_mm, form.stiffness_n_per_mm
    own = form.membrane_n_per_mm3 - form.through_mounts
    cube = np.maximum(w, 1e-9) ** 3
    if form.plastic:
        springs = np.minimum(
            _PLASTIC_UNLOADS * form.through_mounts, RING_SHARE * form.membrane_n_per_mm3
        )
    else:
        folded = _least(RING_SHARE * own * cube, RING_FOLD * form.folds_n, 2)
        ringed = np.maximum(1.2 * form.inside * own, _RING_UNLOADS * folded / cube)
        springs = form.through_mounts + ringed
    low, high = np.zeros_like(w), w.copy()
    left = k * w + springs * cube - force_n
    for _ in range(_HALVINGS):
        middle = (low + high) / 2
        over = k * (w - middle) + springs * (w**2 - middle**2) * w > force_n
        low, high = np.where(over, middle, low), np.where(over, high, middle)
    yielded = stretch_mm2 < _YIELDED * w**2
    return np.where(yielded, np.where(left > 0, low, np.nan), 0.0)
