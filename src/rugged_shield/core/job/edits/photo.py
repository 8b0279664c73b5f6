"""Commands: what a photograph beside a sheet says of a plate's outline and of the bike's mounts."""

from __future__ import annotations

from dataclasses import replace

from rugged_shield.core.errors import choose
from rugged_shield.core.job.edits.path import Change
from rugged_shield.core.job.model import Job
from rugged_shield.core.judgement.known import Fact, band_of, with_fact
from rugged_shield.core.survey.photo_outline import (
    PhotoOutlineInput,
    PhotoPlacesInput,
    photo_outline,
    photo_places,
)
from rugged_shield.core.survey.plate import Cutout

PHOTOGRAPH = "photograph"
_SURE = 2.0
"""Standard uncertainties that a band is wide, either way."""


def traced_from_photo(
    asked: PhotoOutlineInput,
) -> tuple[tuple[tuple[float, float], ...], tuple[Cutout, ...]]:
    """An outline and its holes as a traced file gives them: u, v in mm, holes on the belly."""
    found = photo_outline(asked).result
    holes = tuple(
        Cutout(
            key=f"photo-{i}",
            panel="belly",
            shape="round",
            purpose="mount",
            u_mm=round(h.u_mm, 1),
            v_mm=round(h.v_mm, 1),
            width_mm=round(h.diameter_mm, 1),
            height_mm=round(h.diameter_mm, 1),
        )
        for i, h in enumerate(found.holes, start=1)
    )
    return tuple((round(u, 1), round(v, 1)) for u, v in found.outline_mm), holes


def mounts_from_photo(
    job: Job, known: str, asked: PhotoPlacesInput, tapped: tuple[str, ...]
) -> Change:
    """Mounts to where a photograph has them, from one whose place is known; all in one act.

    Each place counts as measured, within twice its uncertainty and the band of the known one.
    """
    keys = [m.key for m in job.bike.mounts]
    for key in (known, *tapped):
        choose("mount", key, keys, "mount of this bike")
    places = dict(zip(tapped, photo_places(asked).result, strict=True))
    start = next(m for m in job.bike.mounts if m.key == known)
    mounts = []
    for mount in job.bike.mounts:
        at = places.get(mount.key)
        if at is not None and mount.key != known:
            mount = replace(mount, x_mm=round(at.x_mm, 1), y_mm=round(at.y_mm, 1))
            for field in ("x_mm", "y_mm"):
                band = round(_SURE * at.u_mm + band_of(start, field), 1)
                mount = with_fact(mount, Fact(field, "measured", band, PHOTOGRAPH))
        mounts.append(mount)
    many = "s" if len(places) > 1 else ""
    words = f"{len(places)} mount{many} placed from a photograph"
    return Change(replace(job, bike=replace(job.bike, mounts=tuple(mounts))), words)
