"""A sheet's hardware list pasted or read as CSV: what is understood of each line, and what not.

Separator, decimal mark and headings are found out, never asked. A cell that is
not understood is said with its row and column; the line then stays out.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from typing import get_args

from rugged_shield.core.amounts import System
from rugged_shield.core.errors import InputError
from rugged_shield.core.kit.hardware import Came, KitLine
from rugged_shield.core.kit.needs import LineKind
from rugged_shield.core.kit.read_list import (
    MOST_PITCH_MM,
    ListLine,
    ReadListInput,
    read_list,
    with_pitch,
)
from rugged_shield.core.quantity import parse
from rugged_shield.core.survey.conditions import check_condition
from rugged_shield.core.tables.friction import CONDITIONS
from rugged_shield.core.tables.grades import GRADES
from rugged_shield.core.tables.heads import SCREW_HEADS
from rugged_shield.core.tables.threads import THREADS
from rugged_shield.core.text import check_text
from rugged_shield.formats.kitlist import plain_cell
from rugged_shield.formats.pasted import SEPARATORS, bare_heading, split_rows

_HEADINGS: dict[str, tuple[str, ...]] = {
    "kind": ("kind", "type", "category"),
    "name": ("name", "item", "part", "description", "designation", "what"),
    "thread": ("thread", "size", "dia", "diameter", "thread size"),
    "length_mm": ("length", "len", "l", "long"),
    "head": ("head", "head standard", "standard", "norm"),
    "drive": ("drive", "tool", "key"),
    "grade": ("grade", "class", "property class", "strength"),
    "count": ("count", "qty", "quantity", "pcs", "pieces", "number", "no", "count on sheet"),
    "already_fitted": ("already fitted", "fitted", "premounted"),
    "fitted_to": ("fitted to", "on bracket", "on"),
    "treatment": ("treatment", "thread treatment", "locker"),
    "when": ("when", "condition", "only if", "for"),
    "bag": ("bag", "packet", "pouch"),
    "part_number": ("part number", "part no", "item number", "article"),
    "outer_mm": ("outer", "outside", "od", "width", "outside diameter"),
    "hole_mm": ("hole", "inside", "bore", "inside diameter"),
    "came": ("came", "state"),
}
"""Our field, and headings that mean it; units in a heading are read apart."""
_RUNNING = ("no", "number")
_HEAD_OF = {
    "hexagon": "ISO 4017",
    "flanged hexagon": "EN 1665",
    "cylinder": "ISO 4762",
    "button": "ISO 7380-1",
    "flanged button": "ISO 7380-2",
    "countersunk": "ISO 10642",
}
"""The metric standard that a form of head is usually bought by."""
_NO_HEADING = ("kind", "name", "thread", "length_mm", "head", "grade", "count")
_KIND_WORDS: tuple[tuple[str, LineKind], ...] = (
    ("clip nut", "clip nut"),
    ("clip-nut", "clip nut"),
    ("screw", "screw"),
    ("bolt", "screw"),
    ("washer", "washer"),
    ("nut", "nut"),
    ("spacer", "spacer"),
    ("sleeve", "sleeve"),
    ("bush", "sleeve"),
    ("bracket", "bracket"),
    ("isolator", "isolator"),
    ("rubber", "isolator"),
    ("pad", "pad"),
)
_HEAD_WORDS: tuple[tuple[str, str], ...] = (
    ("button flange", "ISO 7380-2"),
    ("flanged button", "ISO 7380-2"),
    ("button", "ISO 7380-1"),
    ("hex flange", "EN 1665"),
    ("hexagon flange", "EN 1665"),
    ("flange", "EN 1665"),
    ("countersunk", "ISO 10642"),
    ("cylinder", "ISO 4762"),
    ("socket", "ISO 4762"),
    ("cap", "ISO 4762"),
    ("hex", "ISO 4017"),
    ("pan", "ISO 14583"),
)
_TREATMENT_WORDS = (
    ("lock", "medium locker"),
    ("anti", "anti-seize"),
    ("stainless", "dry stainless"),
    ("dry", "dry zinc"),
    ("none", "dry zinc"),
)
_CAME_WORDS: tuple[tuple[str, Came], ...] = (
    ("assembl", "assembled, do not take apart"),
    ("locker", "locker already on"),
    ("loose", "loose"),
)
_THREAD = re.compile(
    r"\bM\s?(?P<d>\d{1,2})(?:\s*[x×*]\s*(?P<a>\d+(?:[.,]\d+)?))?(?:\s*[x×*]\s*(?P<b>\d+(?:[.,]\d+)?))?",
    re.IGNORECASE,
)


@dataclass(frozen=True)
class ReadLine:
    """One row: the line it becomes, or the trouble with it; what was taken as meant.

    ``sure`` False: how many is not said, or a number could be two things.
    """

    row: int
    line: KitLine | None
    trouble: str = ""
    assumed: tuple[str, ...] = ()
    sure: bool = True


@dataclass(frozen=True)
class HardwareList:
    """A whole list as understood: separator in words, our field by heading, the rows."""

    separator: str
    columns: dict[str, str]
    lines: tuple[ReadLine, ...]


def _columns(first: list[str]) -> tuple[dict[int, str], dict[int, str], bool]:
    """Our field by column, the unit by column, and whether the first row is headings."""
    found: dict[int, str] = {}
    units: dict[int, str] = {}
    bares = [bare_heading(cell)[0] for cell in first]
    counted = any(b in _HEADINGS["count"] and b not in _RUNNING for b in bares)
    for i, cell in enumerate(first):
        bare, unit = bare_heading(cell)
        if bare in _RUNNING and counted:
            continue  # a running number: another column says how many
        field = next((f for f, words in _HEADINGS.items() if bare in words), None)
        if field and field not in found.values():
            found[i] = field
            units[i] = unit
    if len(found) >= 2:
        return found, units, True
    return dict(enumerate(_NO_HEADING[: len(first)])), {}, False


def _thread_and_length(cell: str) -> tuple[str, str]:
    """Thread and length said in one: ``M8x30``, ``M10 × 1.25 × 40``."""
    if cell in THREADS:
        return cell, ""
    said = _THREAD.search(cell)
    if not said:
        raise InputError("thread", cell, "one of " + ", ".join(THREADS))
    name = f"M{int(said['d'])}"
    numbers = [float(n.replace(",", ".")) for n in (said["a"], said["b"]) if n]
    length = ""
    if numbers and numbers[0] <= MOST_PITCH_MM:
        name = with_pitch(name, numbers.pop(0))
    if numbers:
        length = f"{numbers[0]:g}"
    if name not in THREADS:
        raise InputError("thread", cell, "one of " + ", ".join(THREADS))
    return name, length


def _worded(cell: str, known: tuple[str, ...], words: tuple[tuple[str, str], ...]) -> str:
    """A cell as one of the known values: by its standard number, else by a word in it."""
    flat = re.sub(r"[\s–]", "", cell).casefold()
    for value in sorted(known, key=len, reverse=True):
        if re.sub(r"\s", "", value).casefold() in flat:
            return value
    for word, value in words:
        if word in cell.casefold():
            return value
    return ""


@dataclass
class _Row:
    """Cells of one row by our field while it is being read."""

    cells: dict[str, str]
    units: dict[str, str]
    system: System

    def __post_init__(self) -> None:
        self.assumed: list[str] = []

    def get(self, field: str) -> str:
        return plain_cell(self.cells.get(field, "").strip())

    def number(self, field: str, default: int) -> int:
        text = self.get(field)
        if not text:
            return default
        text = re.sub(r"\s*(x|×|pcs?\.?|pieces)$", "", text, flags=re.IGNORECASE)
        value = parse(text, "", field)
        if value != int(value):
            raise InputError(field, text, "a whole number")
        return int(value)

    def kind(self) -> LineKind:
        said = f"{self.get('kind')} {self.get('name')}".casefold()
        if self.get("kind").casefold() in get_args(LineKind):
            return next(k for k in get_args(LineKind) if k == self.get("kind").casefold())
        for word, kind in _KIND_WORDS:
            if word in said:
                self.assumed.append(f"taken as a {kind}")
                return kind
        if self.get("kind"):
            raise InputError("kind", self.get("kind"), "one of " + ", ".join(get_args(LineKind)))
        self.assumed.append("kind not said: other")
        return "other"

    def sized(self) -> tuple[str, float | None]:
        thread, length = "", self.get("length_mm")
        text = self.get("thread")
        if not text and _THREAD.search(self.get("name")):
            text = self.get("name")
            self.assumed.append("size read from the name")
        if text:
            thread, with_it = _thread_and_length(text)
            length = length or with_it
        if not length:
            return thread, None
        return thread, self._millimetres("length_mm", length)

    def _millimetres(self, field: str, text: str) -> float:
        """A size; a bare number is in its heading's unit, else in the reader's own."""
        if not re.search(r"[a-zA-Z\"″]", text):
            text = f"{text} {self.units.get(field) or ('in' if self.system == 'us' else 'mm')}"
        return round(parse(text, "mm", field), 3)

    def size(self, field: str) -> float | None:
        """A further size, mm; empty: not said."""
        text = self.get(field)
        if not text or text in ("-", "–", "?"):
            return None
        return self._millimetres(field, text)

    def came(self) -> Came:
        said = self.get("came").casefold()
        for word, came in _CAME_WORDS:
            if word in said:
                return came
        if said:
            raise InputError("came", said, "one of " + ", ".join(get_args(Came)))
        return "loose"

    def worded(self, field: str, known: tuple[str, ...], words: tuple[tuple[str, str], ...]) -> str:
        cell = self.get(field)
        if not cell or cell in ("-", "–", "?"):
            return ""
        value = _worded(cell, known, words)
        if not value:
            raise InputError(field, cell, "one of " + ", ".join(known))
        if value.casefold() != cell.casefold():
            self.assumed.append(f"{field} “{cell}” taken as {value}")
        return value


def _line(row: _Row, key: str) -> KitLine:
    kind = row.kind()
    thread, length = row.sized()
    when = row.get("when")
    check_condition(when)
    name = row.get("name") or row.get("kind") or kind
    for field, text in row.cells.items():
        check_text(field, text)
    return KitLine(
        key=key,
        kind=kind,
        name=name,
        thread=thread,
        length_mm=length,
        head=row.worded("head", SCREW_HEADS, _HEAD_WORDS),
        grade=row.worded("grade", tuple(GRADES), ()),
        count=row.number("count", 1),
        already_fitted=row.number("already_fitted", 0),
        drive=row.get("drive"),
        fitted_to=row.get("fitted_to"),
        treatment=row.worded("treatment", tuple(CONDITIONS), _TREATMENT_WORDS),
        when=when,
        bag=row.get("bag"),
        part_number=row.get("part_number"),
        came=row.came(),
        outer_mm=row.size("outer_mm"),
        hole_mm=row.size("hole_mm"),
    )


def _not_taken(at: int, error: InputError) -> ReadLine:
    return ReadLine(at, None, f"{error.field}: {error.message}; allowed: {error.allowed}")


def _as_written(line: ListLine, i: int) -> ReadLine:
    """A line of free words as a line of the kit, with what was taken as meant."""
    assumed = [] if line.sure else ["how many is not sure: look at the bag, change it below"]
    if line.kind == "other":
        assumed.append("kind not said: other")
    metric = line.thread.startswith("M")
    head = _HEAD_OF.get(line.head_form, "") if metric else ""
    if line.head_form:
        assumed.append(f"{line.head_form} head{f' taken as {head}' if head else ''}")
    name = line.words or line.kind
    check_text("name", name)
    kit = KitLine(
        key=f"list-{line.row}-{i}",
        kind=line.kind,
        name=name,
        thread=line.thread,
        length_mm=line.length_mm,
        head=head,
        grade=line.grade if line.grade in GRADES else "",
        count=line.count,
    )
    return ReadLine(line.row, kit, "", tuple(assumed), line.sure)


def _written(text: str) -> HardwareList:
    """A list without our headings: free lines, or a table whose columns are found out."""
    out = []
    for i, line in enumerate(read_list(ReadListInput(text)).result.lines):
        try:
            out.append(_as_written(line, i))
        except InputError as error:
            out.append(_not_taken(line.row, error))
    return HardwareList("lines", {}, tuple(out))


def read_hardware(text: str, system: System = "metric") -> HardwareList:
    """Read a pasted list; bad rows carry their trouble, the rest is understood.

    Raises InputError when there is no list at all.
    """
    separator, rows = split_rows(text.lstrip("\ufeff"))
    columns, units, has_headings = _columns(rows[0])
    in_our_order = all(cells[0].strip().casefold() in get_args(LineKind) for cells in rows)
    if not has_headings and not (in_our_order and len(rows[0]) > 2):
        return _written(text)
    out = []
    for i, cells in enumerate(rows[1:] if has_headings else rows):
        at = i + (2 if has_headings else 1)
        if len(cells) > len(rows[0]):
            out.append(
                ReadLine(
                    at,
                    None,
                    f"{len(cells)} cells under {len(rows[0])} headings: put a text "
                    f"that holds a {SEPARATORS[separator]} in quotes",
                )
            )
            continue
        by_field = {columns[c]: cell for c, cell in enumerate(cells) if c in columns}
        row = _Row(by_field, {f: units.get(c, "") for c, f in columns.items()}, system)
        try:
            out.append(ReadLine(at, _line(row, f"list-{at}"), "", tuple(row.assumed)))
        except InputError as error:
            out.append(_not_taken(at, error))
    said = {
        rows[0][c].strip() if has_headings else f"column {c + 1}": f for c, f in columns.items()
    }
    return HardwareList(SEPARATORS[separator], said, tuple(out))
