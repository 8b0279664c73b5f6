"""Commands on the kit: lines and counts."""

from __future__ import annotations

from dataclasses import replace

from rugged_shield.core.errors import InputError
from rugged_shield.core.job.edits.keys import free_key
from rugged_shield.core.job.edits.path import Change, unset_item
from rugged_shield.core.job.edits.plates import plate_path
from rugged_shield.core.job.model import Candidate, Job, KitCount
from rugged_shield.core.kit.hardware import MAX_KIT, KitLine
from rugged_shield.core.kit.revision import differences


def add_lines(job: Job, plate: str, lines: tuple[KitLine, ...]) -> Change:
    """Lines of a list onto a plate's kit, each under a key of its own."""
    candidate = job.as_entered(plate)
    if len(candidate.kit) + len(lines) > MAX_KIT:
        raise InputError("kit", len(candidate.kit) + len(lines), f"at most {MAX_KIT} lines")
    taken = {line.key for line in candidate.kit}
    new = []
    for line in lines:
        key = free_key(line.key, taken)
        taken.add(key)
        new.append(replace(line, key=key))
    changed = job.with_candidate(replace(candidate, kit=(*candidate.kit, *new)))
    return Change(changed, f"{len(new)} lines added to the kit of the {candidate.plate.name}")


def line_of(candidate: Candidate, key: str) -> KitLine:
    """The kit's line of that key; raises InputError."""
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
    line_of(job.as_entered(plate), key)
    return unset_item(job, f"{plate_path(job, plate)}.kit.{key}", "kit line taken out")


def count_all(job: Job, plate: str, keys: frozenset[str] | None = None) -> Change:
    """Every line that applies and was not counted yet is all there; ``keys``: only these."""
    candidate = job.candidate(plate)
    done = job.counted(candidate)
    new = tuple(
        KitCount(plate, line.key, line.count - line.already_fitted)
        for line in candidate.kit
        if line.key not in done and (keys is None or line.key in keys)
    )
    if not new:
        raise InputError("kit", "", "a line that is not counted", "every line is counted already")
    return Change(replace(job, counts=(*job.counts, *new)), f"{len(new)} lines all there")


def set_count(job: Job, plate: str, key: str, counted: int) -> Change:
    """Note what was counted on the bench for a line."""
    line = line_of(job.candidate(plate), key)
    count = KitCount(plate, key, counted)
    there = any((c.plate, c.line) == (plate, key) for c in job.counts)
    counts = (
        tuple(count if (c.plate, c.line) == (plate, key) else c for c in job.counts)
        if there
        else (*job.counts, count)
    )
    words = f"counted {counted} of {line.count} {line.name} {line.size}".strip()
    return Change(replace(job, counts=counts), words)


def revise(job: Job, plate: str, lines: tuple[KitLine, ...], take: frozenset[str]) -> Change:
    """A revised list: of what it alters, the changes taken by their keys; the others are refused.

    A line that is gone goes with its count. Raises InputError where nothing was taken.
    """
    candidate = job.as_entered(plate)
    changes = [c for c in differences(candidate.kit, lines) if c.key in take]
    if not changes:
        raise InputError("take", "", "at least one change of the new list", "nothing was taken")
    became = {c.old.key: c.new for c in changes if c.old is not None}
    kit = [became.get(line.key, line) for line in candidate.kit]
    kept = tuple(line for line in kit if line is not None)
    gone = {line.key for line in candidate.kit} - {line.key for line in kept}
    counts = tuple(c for c in job.counts if c.plate != plate or c.line not in gone)
    changed = replace(job, counts=counts).with_candidate(replace(candidate, kit=kept))
    added = tuple(c.new for c in changes if c.new is not None and c.old is None)
    if added:
        changed = add_lines(changed, plate, added).job
    return Change(changed, f"{len(changes)} changes of the revised sheet taken")


def add_page(job: Job, plate: str, photo: str) -> Change:
    """A page of the plate's sheet, kept as a picture beside the job."""
    candidate = job.as_entered(plate)
    sheet = replace(candidate.sheet, pages=(*candidate.sheet.pages, photo))
    changed = job.with_candidate(replace(candidate, sheet=sheet))
    return Change(changed, f"page {len(sheet.pages)} of the sheet kept")


def remove_page(job: Job, plate: str, photo: str) -> Change:
    """Take a page off the sheet; its picture stays beside the job for an undo."""
    candidate = job.as_entered(plate)
    if photo not in candidate.sheet.pages:
        raise InputError("page", photo, "a page of this sheet")
    pages = tuple(p for p in candidate.sheet.pages if p != photo)
    changed = replace(candidate, sheet=replace(candidate.sheet, pages=pages))
    return Change(job.with_candidate(changed), "a page of the sheet taken out")


def remove_count(job: Job, plate: str, key: str) -> Change:
    """Take the count of a line back."""
    line = line_of(job.candidate(plate), key)
    left = tuple(c for c in job.counts if (c.plate, c.line) != (plate, key))
    return Change(replace(job, counts=left), f"count of {line.name} taken back")
