"""A pasted hardware list as understood, for every screen that takes one."""

from __future__ import annotations

from rugged_shield.core.amounts import System, entered, in_system
from rugged_shield.core.kit.hardware import KitLine
from rugged_shield.formats.guarded import read_guarded
from rugged_shield.formats.hardwarecsv import read_hardware
from rugged_shield.web.views import CsvLineView, CsvPreview


def _in_words(line: KitLine, system: System) -> str:
    """A line as understood, in words."""
    name = "" if line.name in (line.kind, f"{line.kind}s") else line.name
    bare = not line.thread and line.length_mm is not None
    size = in_system(entered(line.length_mm or 0.0, "mm"), system) if bare else line.size
    count = f"{line.count} piece{'' if line.count == 1 else 's'}"
    parts = [line.kind, name, size, line.head, line.grade, count]
    if line.already_fitted:
        parts.append(f"{line.already_fitted} of them on {line.fitted_to or 'a bracket'}")
    if line.treatment:
        parts.append(line.treatment)
    if line.when:
        parts.append(f"only if {line.when}")
    return " · ".join(p for p in parts if p)


def list_preview(text: str, system: System) -> CsvPreview:
    """What a pasted list would become, row by row; nothing is saved."""
    found = read_guarded(read_hardware, text, system)
    lines = tuple(
        CsvLineView(
            r.row,
            _in_words(r.line, system) if r.line else "",
            r.trouble,
            "; ".join(r.assumed),
            r.sure,
        )
        for r in found.lines
    )
    good = sum(1 for r in found.lines if r.line)
    return CsvPreview(lines, good, len(lines) - good, found.columns, found.separator)
