"""Blows of the record on the plate that took them: room behind each place, energy, mounts."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from rugged_shield.core.assess.fitup.pose import plate_pose
from rugged_shield.core.assess.weighup.strike import strike_asked
from rugged_shield.core.errors import InputError
from rugged_shield.core.event import PlateRecord, of_kind
from rugged_shield.core.job.model import Job
from rugged_shield.core.keep.blows import Blow, as_mended, felt_band_j, judge_blow, mended_since
from rugged_shield.core.keep.events import PlateStruck
from rugged_shield.core.mechanics.frames import Vec3
from rugged_shield.core.result import Outcome
from rugged_shield.core.survey.bike import Part
from rugged_shield.core.survey.geometry import sheet_normal_point
from rugged_shield.core.weighup.dent_back import DentInput, dent_energy
from rugged_shield.core.weighup.strike_field import standoffs as place_standoffs
from rugged_shield.core.weighup.strike_point import (
    MountLoad,
    StrikePointInput,
    StrikePointResult,
    strike_point,
)


@dataclass(frozen=True)
class StruckPlace:
    """Where a blow met the sheet, the part behind it, and the room between, mm."""

    at_mm: Vec3
    part: Part | None
    room_mm: float | None


@dataclass(frozen=True)
class BlowDetail:
    """What the shell says of a blow: energies of its dent, the mounts it went through, loaded most
    first; ``why_not`` where it cannot say.
    """

    blow: Blow
    mounts: tuple[MountLoad, ...]
    point: Outcome[StrikePointResult] | None
    why_not: str


def struck_place(job: Job, x_mm: float, y_mm: float) -> StruckPlace:
    """The sheet above a place pointed at from below. Raises InputError beside the plate."""
    posed = plate_pose(job.bike, job.in_hand)
    found = sheet_normal_point(posed.folded, x_mm, y_mm, with_pieces=True)
    if found is None:
        raise InputError(
            "x_mm",
            f"{x_mm:.0f}, {y_mm:.0f}",
            "a place on the plate",
            "the plate is not there",
            "Tap the plate itself, where it was struck.",
        )
    place, inward = found
    inner = np.array(place) + np.array(inward) * job.in_hand.plate.thickness_mm
    # What is low and hard beside the engine is struck itself; it is not behind the plate.
    parts = tuple(p for p in job.bike.parts if p.kind != "low")
    if not parts:
        return StruckPlace(place, None, None)
    distance, which = place_standoffs(inner[None, :], parts)
    return StruckPlace(place, parts[int(which[0])], float(distance[0]))


def blow_of(job: Job, struck: PlateStruck, dent_band_j: tuple[float, float] | None = None) -> Blow:
    """A blow as judged by feeling and dent; a place that is off the plate now has no room known."""
    try:
        place = struck_place(job, struck.x_mm, struck.y_mm)
    except InputError:
        place = StruckPlace((struck.x_mm, struck.y_mm, 0.0), None, None)
    part = place.part
    return judge_blow(
        struck,
        dent_band_j,
        place.room_mm,
        part.name if part else "",
        part.required_gap_mm if part else 0.0,
    )


def blows_of(job: Job, lines: PlateRecord) -> tuple[tuple[PlateStruck, Blow], ...]:
    """Every blow of the record with what it means, in order; mended plates as they are now."""
    out = []
    for struck in of_kind(lines, PlateStruck):
        blow, done = blow_of(job, struck), mended_since(struck, lines)
        out.append((struck, as_mended(blow, done) if done else blow))
    return tuple(out)


def blow_detail(job: Job, struck: PlateStruck) -> BlowDetail:
    """A blow run through the plate's own shell: its dent backwards, then its energy forwards.

    The mounts that took most of their limit are looked at first. Slow: the shell is solved.
    """
    key = job.in_hand.key
    try:
        asked = strike_asked(job, key)
        band = None
        if struck.dent_mm:
            found = dent_energy(DentInput(asked, struck.x_mm, struck.y_mm, struck.dent_mm)).result
            if found.least_j is not None and found.most_j is not None:
                band = (found.least_j, found.most_j)
        band = band or felt_band_j(struck.felt)
        blow = blow_of(job, struck, band)
        if band is None:
            return BlowDetail(blow, (), None, "neither feeling nor dent tells its energy")
        asked = strike_asked(job, key, energy_j=band[1])
        point = strike_point(StrikePointInput(asked, struck.x_mm, struck.y_mm))
    except InputError as error:
        return BlowDetail(blow_of(job, struck), (), None, error.message)
    mounts = sorted(point.result.loads, key=lambda m: -(m.share or 0.0))
    return BlowDetail(blow, tuple(mounts), point, "")
