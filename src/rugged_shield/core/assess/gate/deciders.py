"""Which facts of a job decide a finding: where each stands, how it is known, within which band."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import is_dataclass, replace
from typing import Any

from rugged_shield.core.job.edits.plates import plate_path
from rugged_shield.core.job.model import Candidate, Job
from rugged_shield.core.judgement.known import LAYER_BAND_MM, Known, band_of, fact_of
from rugged_shield.core.result import Decider, Finding


def _decider(path: str, owner: Any, field: str, known: Known | None, band: float) -> Decider | None:
    """A fact of its owner; one without a value decides too: it is missing."""
    if not hasattr(owner, field):
        return None
    value = getattr(owner, field)
    if known is None:
        known, band = fact_of(owner, field).known, band_of(owner, field)
    word = "missing" if value is None else known
    return Decider(path=f"{path}.{field}", known=word, value=value, band=band)


def _owners(
    job: Job, candidate: Candidate, about: str
) -> Iterator[tuple[str, str, Any, Known | None, float]]:
    """Kind, path, thing, and how it is known where it has no facts of its own."""
    at = plate_path(job, candidate.key)
    plate = candidate.plate
    yield "plate", f"{at}.plate", plate, None, 0.0
    yield "belly", f"{at}.plate.belly", plate.belly, plate.known, band_of(plate, "z_front_mm")
    yield "bike", "bike", job.bike, None, 0.0
    for part in job.bike.parts:
        if part.key == about:
            yield "part", f"bike.parts.{part.key}", part, None, 0.0
    for joint in candidate.joints:
        if joint.key != about:
            continue
        own = f"{at}.joints.{joint.key}"
        yield "joint", own, joint, joint.known, 0.0
        for layer in joint.present():
            band = LAYER_BAND_MM[layer.known] or layer.tol_mm
            yield "layer", f"{own}.layers.{layer.key}", layer, layer.known, band
        mount = job.mount_of(joint)
        if mount is not None:
            yield "mount", f"bike.mounts.{mount.key}", mount, None, 0.0


def _in_job(job: Job, candidate: Candidate, decider: Decider) -> Decider:
    """A rule that sees one joint alone names its numbers from there."""
    if not decider.path.startswith("joints."):
        return decider
    return replace(decider, path=f"{plate_path(job, candidate.key)}.{decider.path}")


def deciders_of(job: Job, candidate: Candidate, found: Finding) -> tuple[Decider, ...]:
    """The facts that decide a finding, by what its rule names, else by the table."""
    if found.decided_by:
        return tuple(_in_job(job, candidate, d) for d in found.decided_by)
    names = found.kind.decides
    if not names:
        return ()
    out: list[Decider] = []
    for kind, path, owner, known, band in _owners(job, candidate, found.where):
        assert is_dataclass(owner)
        for name in names:
            of, _, field = name.partition(".")
            decider = _decider(path, owner, field, known, band) if of == kind else None
            if decider is not None:
                out.append(decider)
    return tuple(out)
