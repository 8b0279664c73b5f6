"""A strike at many places at once: how far, how hard, what it touches, what the mounts take."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from rugged_shield.core.weighup.mount_law import MountLaw, Reduced
from rugged_shield.core.weighup.response import Array, Curve, Index, deflection_at, dent_of
from rugged_shield.core.weighup.strike_linear import Linear, reduced_of

STEPS = 32
FARTHEST_MM = 150.0
_HALVINGS = 45


@dataclass(frozen=True, eq=False)
class Places:
    """Struck places (n,): what is linear about them, and how far they are from what is behind.

    ``moved`` (n, m, 3): how mounts move under a unit strike; ``mount_compliance`` mm/N: what
    they give in line with it; ``standoff_mm`` is infinite where nothing is behind.
    """

    linear: Linear
    laws: tuple[MountLaw, ...]
    moved: Array
    mount_compliance: Array
    standoff_mm: Array
    reduced: Reduced


@dataclass(frozen=True, eq=False, kw_only=True)
class Impact:
    """What one energy does at each place (n,): mm, N, J; loads on mounts (n, m)."""

    plate_mm: Array
    total_mm: Array
    force_n: Array
    dent_mm: Array
    touch_j: Array
    past_share: Array
    normal_n: Array
    shear_n: Array
    share: Array


def places_of(
    linear: Linear, laws: tuple[MountLaw, ...], nodes: Index, travel: Array, standoff_mm: Array
) -> Places:
    """Places at nodes, struck along ``travel`` (unit)."""
    springs = np.array([m.stiffness_n_per_mm for m in linear.mounts])
    moved = linear.at_mounts[nodes] @ travel
    given = (moved**2 * springs).sum(axis=(1, 2))
    return Places(linear, laws, moved, given, standoff_mm, reduced_of(linear, laws, moved))


@dataclass(frozen=True, eq=False)
class MountWay:
    """Every mount along a blow: moved mm and loaded N, each (n, s, m, 3)."""

    moved: Array
    loads: Array

    def given(self, forces: Array) -> Array:
        """What the mounts give in line with the strike, mm (n, s): Σ ΔR·Δδ / ΔF, summed up.

        Never less than nothing, whatever the mounts do: each law rises.
        """
        steps = (np.diff(self.loads, axis=1) * np.diff(self.moved, axis=1)).sum(axis=(2, 3))
        pushed = np.diff(forces, axis=1)
        grown = np.where(pushed > 0, steps / np.where(pushed > 0, pushed, 1.0), 0.0)
        return _summed(grown)

    def taken(self, which: list[int]) -> Array:
        """Energy that some of the mounts have taken, N·mm (n, s)."""
        loads, moved = self.loads[:, :, which], self.moved[:, :, which]
        mean = (loads[:, 1:] + loads[:, :-1]) / 2
        return _summed((mean * np.diff(moved, axis=1)).sum(axis=(2, 3)))


def _summed(steps: Array) -> Array:
    """Steps (n, s−1) added up from nothing, (n, s)."""
    return np.concatenate([np.zeros((len(steps), 1)), np.cumsum(steps, axis=1)], axis=1)


def mount_way(
    linear: Linear, laws: tuple[MountLaw, ...], straight: Array, corrections: Array
) -> MountWay:
    """Mounts that move by ``straight`` (n, s, m, 3) while all are springs, with what bends."""
    springs = np.array([m.stiffness_n_per_mm for m in linear.mounts])
    bent = [i for i, law in enumerate(laws) if law.is_bent]
    if not bent:
        return MountWay(straight, straight * springs)
    normals = np.array([law.normal for law in laws])
    moved = straight + np.einsum("pdj,nsj->nspd", linear.mutual(normals)[:, :, bent], corrections)
    loads = moved * springs
    loads[:, :, bent] -= corrections[..., None] * normals[bent]
    return MountWay(moved, loads)


def _crossing(rows: Array, at: Array, values: Array) -> Array:
    """For each row (n, s) that rises, the value where it passes ``at`` (n,), straight between."""
    after = np.clip((rows < at[:, None]).sum(axis=1), 1, rows.shape[1] - 1)
    row = np.arange(len(rows))
    low, high = rows[row, after - 1], rows[row, after]
    share = np.clip((at - low) / np.where(high > low, high - low, 1.0), 0.0, 1.0)
    return np.asarray(
        values[row, after - 1] + share * (values[row, after] - values[row, after - 1])
    )


@dataclass(frozen=True, eq=False)
class _Met:
    """Where a blow ends and what it meets on the way (n,): mm, N, and energies N·mm."""

    plate: Array
    total: Array
    force: Array
    touch: Array
    into_castings: Array


def _deflection_to(curve: Curve, compliance: Array, total_mm: Array) -> Array:
    """Plate deflection at which plate and straight mounts together have given so far, mm."""
    low, high = np.zeros_like(total_mm), total_mm
    for _ in range(_HALVINGS):
        middle = (low + high) / 2
        under = middle + compliance * curve.force(middle) < total_mm
        low, high = np.where(under, middle, low), np.where(under, high, middle)
    return (low + high) / 2


def _straight(curve: Curve, places: Places, energy: float, standoff: Array) -> _Met:
    """Mounts that are straight springs: no steps on the way are needed."""
    given = places.mount_compliance
    plate = deflection_at(curve, given, energy)
    force = curve.force(plate)
    total = plate + given * force
    at_touch = _deflection_to(curve, given, standoff)
    pushed = curve.force(at_touch)
    touch = curve.work(at_touch) + given * pushed**2 / 2
    until = np.where(standoff < total, pushed, force)
    springs = np.array([m.stiffness_n_per_mm for m in places.linear.mounts])
    castings = [i for i, law in enumerate(places.laws) if law.casting]
    taken = (places.moved[:, castings] ** 2 * springs[castings]).sum(axis=(1, 2)) * until**2 / 2
    return _Met(plate, total, force, touch, taken)


def _bent(curve: Curve, places: Places, energy: float, standoff: Array) -> _Met:
    """Mounts that bottom or yield: followed step by step until energy and standoff are passed."""
    stiffest = deflection_at(curve, np.zeros_like(standoff), energy)
    top = np.maximum(stiffest, np.minimum(standoff, FARTHEST_MM))
    plate = top[:, None] * np.linspace(0.0, 1.0, STEPS) ** 1.5
    column = curve.column()
    force = column.force(plate)
    straight = force[..., None, None] * places.moved[:, None]
    corrections = places.reduced.corrections(force[..., None] * places.reduced.own[:, None])
    way = mount_way(places.linear, places.laws, straight, corrections)
    given = way.given(force)
    middle = column.force((plate[:, 1:] + plate[:, :-1]) / 2)
    # Simpson for the sheet; mounts are straight between their corners
    strips = (force[:, 1:] + force[:, :-1] + 4 * middle) / 6 * np.diff(plate, axis=1)
    strips = strips + np.diff(given, axis=1) * (force[:, 1:] + force[:, :-1]) / 2
    work, total, asked = _summed(strips), plate + given, np.full(len(plate), energy)
    castings = [i for i, law in enumerate(places.laws) if law.casting]
    ends = _crossing(work, asked, total)
    return _Met(
        _crossing(work, asked, plate),
        ends,
        _crossing(work, asked, force),
        _crossing(total, standoff, work),
        _crossing(total, np.minimum(standoff, ends), way.taken(castings)),
    )


def gives_mm(curve: Curve, places: Places, energy_j: float) -> Array:
    """How far sheet and mounts give at every place, whatever is behind; (n,) mm."""
    energy, behind = energy_j * 1000, np.zeros_like(places.mount_compliance)
    if places.reduced.laws:
        return _bent(curve, places, energy, behind).total
    plate = deflection_at(curve, places.mount_compliance, energy)
    return np.asarray(plate + places.mount_compliance * curve.force(plate))


def _loads(places: Places, force: Array) -> tuple[Array, Array]:
    """Pressing force and shear on every mount at a force (n,), each (n, m)."""
    normals = np.array([law.normal for law in places.laws])
    straight = force[:, None, None, None] * places.moved[:, None]
    corrections = places.reduced.corrections(force[:, None, None] * places.reduced.own[:, None])
    loads = mount_way(places.linear, places.laws, straight, corrections).loads[:, 0]
    along = np.einsum("nmd,md->nm", loads, normals)
    across = loads - along[..., None] * normals
    return along, np.sqrt((across**2).sum(axis=2))


def impact(curve: Curve, places: Places, energy_j: float) -> Impact:
    """What an energy does at every place; mounts that bottom or yield are followed on the way."""
    energy = energy_j * 1000
    near = places.standoff_mm <= FARTHEST_MM
    standoff = np.where(near, places.standoff_mm, FARTHEST_MM)
    met = (_bent if places.reduced.laws else _straight)(curve, places, energy, standoff)
    touch = np.where(near, met.touch, np.inf)
    past = (np.maximum(energy - touch, 0.0) + met.into_castings) / energy
    normal, shear = _loads(places, met.force)
    share = np.stack(
        [law.share(normal[:, i], shear[:, i]) for i, law in enumerate(places.laws)], axis=1
    )
    return Impact(
        plate_mm=met.plate,
        total_mm=met.total,
        force_n=met.force,
        dent_mm=dent_of(curve, met.plate),
        touch_j=touch / 1000,
        past_share=np.minimum(past, 1.0),
        normal_n=normal,
        shear_n=shear,
        share=share,
    )


def straight_laws(linear: Linear, normals: Array) -> tuple[MountLaw, ...]:
    """Laws of mounts of which nothing but their springs is known."""
    return tuple(
        MountLaw(
            name=m.name,
            normal=(float(normal[0]), float(normal[1]), float(normal[2])),
            stiffness_n_per_mm=max(float(np.array(m.stiffness_n_per_mm) @ normal**2), 0.1),
        )
        for m, normal in zip(linear.mounts, normals, strict=True)
    )
