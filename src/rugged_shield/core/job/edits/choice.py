"""Commands of the choice: which plate is picked, and which the ledger shows meanwhile."""

from __future__ import annotations

from dataclasses import replace

from rugged_shield.core.errors import InputError
from rugged_shield.core.job.edits.path import Change
from rugged_shield.core.job.model import Job


def pick(job: Job, plate: str, reason: str = "") -> Change:
    """Make a plate the job's plate."""
    candidate = job.candidate(plate)
    picked = replace(job, picked=plate, weighing=plate, pick_reason=reason)
    return Change(picked, f"picked: {candidate.plate.name}")


def take_pick_back(job: Job) -> Change:
    """No plate is picked any more."""
    return Change(replace(job, picked="", pick_reason=""), "pick taken back")


def show_in_ledger(job: Job, plate: str) -> Change:
    """Put a plate in the ledger without picking it; refused while one is picked."""
    candidate = job.candidate(plate)
    if job.picked:
        raise InputError(
            "plate",
            plate,
            job.picked,
            "a plate is picked, and the ledger shows it",
            "Take the pick back to weigh others in the ledger.",
        )
    return Change(replace(job, weighing=plate), f"ledger shows {candidate.plate.name}")
