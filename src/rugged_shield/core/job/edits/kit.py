"""Commands on the kit: lines and counts."""

from __future__ import annotations

from dataclasses import replace

from rugged_shield.core.errors import InputError
from rugged_shield.core.job import Candidate, Job, KitCount
from rugged_shield.core.job.edits.keys import free_key
from rugged_shield.core.job.edits.path import Change, unset_item
from rugged_shield.core.job.edits.plates import plate_path
from rugged_shield.core.kit import KitLine

MAX_LINES = 300


def add_lines(job: Job, plate: str, lines: tuple[KitLine, ...]) -> Change:
    """Lines of a list onto a plate's kit, each under a key of its own."""
    candidate = job.as_entered(plate)
    if len(candidate.kit) + len(lines) > MAX_LINES:
        raise InputError("kit", len(candidate.kit) + len(lines), f"at most {MAX_LINES} lines")
    taken = {line.key for line in candidate.kit}
    new = []
    for line in lines:
        key = free_key(line.key, taken)
        taken.add(key)
        new.append(replace(line, key=key))
    changed = job.with_candidate(replace(candidate, kit=(*candidate.kit, *new)))
    return Change(changed, f"{len(new)} lines added to the kit of the {candidate.plate.name}")


def _line_of(candidate: Candidate, key: str) -> KitLine:
    line = next((k for k in candidate.kit if k.key == key), None)
    if line is None:
        raise InputError("line", key, "a line of this kit")
    return line


def add_line(job: Job, plate: str, line: KitLine) -> Change:
    """A line of one's own onto a plate's kit; its key is found here."""
    if not line.name.strip():
        raise InputError("name", line.name, "a name", "the line needs a name")
    added = add_lines(job, plate, (replace(line, key="own"),))
    return Change(added.job, f"added to the kit: {line.name}")


def remove_line(job: Job, plate: str, key: str) -> Change:
    """Take a line out of a plate's kit."""
    _line_of(job.as_entered(plate), key)
    return unset_item(job, f"{plate_path(job, plate)}.kit.{key}", "kit line taken out")


def set_count(job: Job, plate: str, key: str, counted: int) -> Change:
    """Note what was counted on the bench for a line."""
    line = _line_of(job.candidate(plate), key)
    count = KitCount(plate, key, counted)
    there = any((c.plate, c.line) == (plate, key) for c in job.counts)
    counts = (
        tuple(count if (c.plate, c.line) == (plate, key) else c for c in job.counts)
        if there
        else (*job.counts, count)
    )
    words = f"counted {counted} of {line.count} {line.name} {line.size}".strip()
    return Change(replace(job, counts=counts), words)


def remove_count(job: Job, plate: str, key: str) -> Change:
    """Take the count of a line back."""
    line = _line_of(job.candidate(plate), key)
    left = tuple(c for c in job.counts if (c.plate, c.line) != (plate, key))
    return Change(replace(job, counts=left), f"count of {line.name} taken back")
