"""A strike at many places at once: how far, how hard, what it touches, what the mounts take."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from rugged_shield.core.weighup.far_mounts import NO_FAR_MOUNTS, FarMounts
from rugged_shield.core.weighup.mount_law import MountLaw, Reduced
from rugged_shield.core.weighup.place_form import FormWay, crossing, dents, form_way
from rugged_shield.core.weighup.response import Array, Index
from rugged_shield.core.weighup.strike_linear import Linear, reduced_of
from rugged_shield.core.weighup.strike_places import PlaceForms
from rugged_shield.core.weighup.turning import Turning, turning_of

FARTHEST_MM = 150.0


@dataclass(frozen=True, eq=False, kw_only=True)
class Places:
    """Struck places (n,): what is linear about them, and how far they are from what is behind.

    ``far``: mounts that stand behind those of the sheet, by way of another part.
    ``moved`` (n, m, 3): how mounts move under a unit strike; ``turned`` (n, m, 3): how those turn
    that others stand behind; ``mount_compliance`` mm/N: what they give in line with it;
    ``standoff_mm`` is infinite where nothing is behind.
    """

    linear: Linear
    laws: tuple[MountLaw, ...]
    moved: Array
    mount_compliance: Array
    standoff_mm: Array
    reduced: Reduced
    turning: Turning
    far: FarMounts
    turned: Array

    def at(self, rows: Index) -> Places:
        """The same for some of the places."""
        return replace(
            self,
            moved=self.moved[rows],
            mount_compliance=self.mount_compliance[rows],
            standoff_mm=self.standoff_mm[rows],
            reduced=replace(self.reduced, own=self.reduced.own[rows]),
            turning=self.turning.at(rows),
            turned=self.turned[rows],
        )

    def behind(self, loads: Array, force: Array) -> Array:
        """Force and moment on every mount behind, (n, b, 6): loads (n, m, 3) of blows (n,)."""
        turning = np.array([m.rotational_nmm_per_rad for m in self.linear.mounts])
        moments = self.turned * turning[:, None] * force[:, None, None]
        return self.far.loads(np.concatenate([loads, moments], axis=2))

    @property
    def springs(self) -> Array:
        """Of each mount along the bike's axes, (m, 3) N/mm."""
        return np.array([m.stiffness_n_per_mm for m in self.linear.mounts])

    @property
    def judged(self) -> tuple[MountLaw, ...]:
        """Laws of the sheet's own mounts, then of those behind them."""
        return (*self.laws, *self.far.laws)

    @property
    def castings(self) -> list[int]:
        """Numbers among ``judged`` of those that load a casting."""
        return [i for i, law in enumerate(self.judged) if law.casting]

    @property
    def into_castings(self) -> list[int]:
        """Numbers of the sheet's own mounts whose load ends in a casting, there or behind."""
        own = {i for i, law in enumerate(self.laws) if law.casting}
        return sorted(own | set(self.far.through))


@dataclass(frozen=True, eq=False, kw_only=True)
class Impact:
    """What one energy does at each place (n,): mm, N, J; ``loads`` on mounts (n, m + b, 3).

    ``dent_mm`` is NaN where it cannot be said; pressing force, shear, moment N·mm and share
    (n, m + b): on its own mounts, then on those behind them.
    """

    plate_mm: Array
    total_mm: Array
    force_n: Array
    dent_mm: Array
    touch_j: Array
    past_share: Array
    loads: Array
    normal_n: Array
    shear_n: Array
    moment_nmm: Array
    share: Array


def places_of(
    linear: Linear,
    laws: tuple[MountLaw, ...],
    nodes: Index,
    travel: Array,
    standoff_mm: Array,
    far: FarMounts = NO_FAR_MOUNTS,
) -> Places:
    """Places at nodes, struck along ``travel`` (unit)."""
    springs = np.array([m.stiffness_n_per_mm for m in linear.mounts])
    moved = linear.at_mounts[nodes] @ travel
    given = (moved**2 * springs).sum(axis=(1, 2))
    reduced, turning = reduced_of(linear, laws, moved), turning_of(linear, laws, nodes, travel)
    return Places(
        linear=linear,
        laws=laws,
        moved=moved,
        mount_compliance=given,
        standoff_mm=standoff_mm,
        reduced=reduced,
        turning=turning,
        far=far,
        turned=linear.turned[nodes] @ travel if far.laws else np.zeros_like(moved),
    )


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


def mount_way(places: Places, force: Array, drawn: Array | None = None) -> MountWay:
    """Mounts along forces (n, s): as springs, with what bends; ``drawn`` (n, s, m, 3) is added.

    ``drawn``: how far the stretched sheet, and what others no longer hold against turning, draws
    each mount beside, mm.
    """
    straight = force[..., None, None] * places.moved[:, None]
    bent = [i for i, law in enumerate(places.laws) if law.is_bent]
    if drawn is not None:
        straight = straight + drawn
    if not bent:
        return MountWay(straight, straight * places.springs)
    normals = np.array([law.normal for law in places.laws])
    free = np.einsum("nsmd,md->nsm", straight, normals)[..., bent]
    corrections = places.reduced.corrections(free)
    mutual = places.linear.mutual(normals)[:, :, bent]
    moved = straight + np.einsum("pdj,nsj->nspd", mutual, corrections)
    loads = moved * places.springs
    loads[:, :, bent] -= corrections[..., None] * normals[bent]
    return MountWay(moved, loads)


@dataclass(frozen=True, eq=False)
class BlowWay:
    """Blows step by step (n, s): the sheet's way, sheet and mounts together mm, work N·mm."""

    sheet: FormWay
    total_mm: Array
    work_nmm: Array


def blow_way(forms: PlaceForms, places: Places, energy_nmm: Array, standoff_mm: Array) -> BlowWay:
    """The way of each blow until its energy is taken and what is behind is reached."""
    sheet = form_way(forms.form, energy_nmm, standoff_mm)
    force = sheet.force_n
    if places.reduced.laws:
        given = mount_way(places, force).given(force)
    else:
        given = places.mount_compliance[:, None] * force
        if not len(places.turning.of):
            return BlowWay(sheet, sheet.sheet_mm + given, sheet.energy_nmm + given * force / 2)
    given = given + places.turning.gives_mm(places.turning.passed_on(force))
    strips = np.diff(given, axis=1) * (force[:, 1:] + force[:, :-1]) / 2
    return BlowWay(sheet, sheet.sheet_mm + given, sheet.energy_nmm + _summed(strips))


def drawn_mounts(forms: PlaceForms, places: Places, drawn_mm2: Array) -> Array:
    """How far the stretched sheet draws each mount, mm (n, s, m, 3) for squares (n, s).

    No further than the strip of sheet at the mount bears.
    """
    drawn = forms.drawn[:, None] * drawn_mm2[..., None, None]
    pull = np.linalg.norm(drawn * places.springs, axis=3, keepdims=True)
    return np.asarray(drawn * np.minimum(1.0, forms.form.tear_n / np.maximum(pull, 1e-9)))


def gives_mm(forms: PlaceForms, places: Places, energy_j: float) -> Array:
    """How far sheet and mounts give at every place, whatever is behind; (n,) mm."""
    energy = np.full_like(places.mount_compliance, energy_j * 1000)
    way = blow_way(forms, places, energy, np.zeros_like(energy))
    return crossing(way.work_nmm, energy, way.total_mm)


def _into_castings(forms: PlaceForms, places: Places, way: BlowWay, until_mm: Array) -> Array:
    """Energy that mounts on castings have taken when the place has given so far, N·mm (n,)."""
    which = places.into_castings
    if not which:
        return np.zeros_like(until_mm)
    if places.reduced.laws:
        drawn = drawn_mounts(forms, places, way.sheet.drawn_mm2)
        drawn = drawn + places.turning.drawn(places.turning.passed_on(way.sheet.force_n))
        taken = mount_way(places, way.sheet.force_n, drawn).taken(which)
        return crossing(way.total_mm, until_mm, taken)
    force = crossing(way.total_mm, until_mm, way.sheet.force_n)
    square = crossing(way.total_mm, until_mm, way.sheet.drawn_mm2)
    drawn = drawn_mounts(forms, places, square[:, None])
    drawn = drawn + places.turning.drawn(places.turning.passed_on(force[:, None]))
    moved = mount_way(places, force[:, None], drawn).moved
    return np.asarray((moved[:, 0, which] ** 2 * places.springs[which]).sum(axis=(1, 2)) / 2)


def impact(forms: PlaceForms, places: Places, energy_j: float) -> Impact:
    """What an energy does at every place; mounts that bottom or yield are followed on the way."""
    energy = np.full_like(places.mount_compliance, energy_j * 1000)
    near = places.standoff_mm <= FARTHEST_MM
    standoff = np.where(near, places.standoff_mm, np.inf)
    way = blow_way(forms, places, energy, np.where(near, standoff, 0.0))
    total, force, plate, stretch, square = (
        crossing(way.work_nmm, energy, values)
        for values in (
            way.total_mm,
            way.sheet.force_n,
            way.sheet.sheet_mm,
            way.sheet.stretch_mm2,
            way.sheet.drawn_mm2,
        )
    )
    touch = np.where(near, crossing(way.total_mm, standoff, way.work_nmm), np.inf)
    into = _into_castings(forms, places, way, np.minimum(standoff, total))
    past = (np.maximum(energy - touch, 0.0) + into) / energy
    passed_on = places.turning.passed_on(force[:, None])
    drawn = drawn_mounts(forms, places, square[:, None]) + places.turning.drawn(passed_on)
    loads = mount_way(places, force[:, None], drawn).loads
    moment = places.turning.moments(force, passed_on[:, 0])
    behind = places.behind(loads[:, 0], force)
    normal, shear, moment, share = _judged(places, loads[:, 0], moment, behind)
    return Impact(
        plate_mm=plate,
        total_mm=total,
        force_n=force,
        dent_mm=dents(forms.form, plate, force, stretch),
        touch_j=touch / 1000,
        past_share=np.minimum(past, 1.0),
        loads=np.concatenate([loads[:, 0], behind[..., :3]], axis=1),
        normal_n=normal,
        shear_n=shear,
        moment_nmm=moment,
        share=share,
    )


def _judged(
    places: Places, loads: Array, moment: Array, behind: Array
) -> tuple[Array, Array, Array, Array]:
    """Pressing force, shear and moment on every mount and what is behind, and its load over its
    limit, each (n, m + b)."""
    normals = np.array([law.normal for law in places.judged])
    loads = np.concatenate([loads, behind[..., :3]], axis=1)
    far_normals = normals[len(places.laws) :]
    along_screw = (behind[..., 3:] * far_normals).sum(axis=2, keepdims=True) * far_normals
    turned = np.linalg.norm(behind[..., 3:] - along_screw, axis=2)
    moment = np.concatenate([moment, turned], axis=1)
    along = np.einsum("nmd,md->nm", loads, normals)
    across = np.linalg.norm(loads - along[..., None] * normals, axis=2)
    laws = enumerate(places.judged)
    share = np.stack(
        [law.share(along[:, i], across[:, i], moment[:, i]) for i, law in laws], axis=1
    )
    return along, across, moment, share


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
