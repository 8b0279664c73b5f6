"""A list of parts as people write it: free lines or a table; what is not understood stays."""

from __future__ import annotations

import re
from dataclasses import dataclass
from fractions import Fraction
from itertools import pairwise

from rugged_shield.core.computation import computation
from rugged_shield.core.errors import InputError
from rugged_shield.core.kit.list_words import (
    COUNT_HEADINGS,
    HEADS,
    KINDS,
    NUMBERS,
    ROW_HEADINGS,
    WORD_HEADINGS,
    HeadForm,
)
from rugged_shield.core.kit.needs import LineKind
from rugged_shield.core.result import Input, Outcome, Source
from rugged_shield.core.tables.threads import THREADS

MAX_LETTERS = 500_000
MAX_ROWS = 500
MOST = 999
INCH_MM = 25.4
MOST_PITCH_MM = 2.5
_BY = r"\s*[x×*]\s*"
_NUMBER = r"\d+(?:[.,]\d+)?"
_INCHES = r"(?:\d+[- ]\d+/\d+|\d+/\d+|\d*\.\d+|\d+)"
_METRIC = re.compile(
    rf"\bm\s?(?P<d>\d{{1,2}})(?![\d/])(?:{_BY}(?P<a>{_NUMBER})(?!\s*(?:off|pcs)\b))?"
    rf"(?:{_BY}(?P<b>{_NUMBER}))?(?:\s+(?P<c>{_NUMBER})(?=\s*mm\b))?(?:\s*mm\b)?",
)
_INCH = re.compile(
    rf"(?<![\d/.])(?P<d>1/4|5/16|3/8)(?:\"|”)?\s*-\s*(?P<n>\d\d)(?:\s*un[cf])?"
    rf"(?:{_BY}(?P<l>{_INCHES})(?:\s*(?:\"|”|inch(?:es)?\b|in\b))?)?",
)
_LENGTH = re.compile(
    rf"(?<![\w./])(?:(?P<mm>{_NUMBER})\s*mm\b|(?P<inch>{_INCHES})\s*(?:\"|”|inch(?:es)?\b|in\b))"
)
_GRADE = re.compile(
    r"(?<![\d.])(?:4\.6|5\.8|8\.8|10\.9|12\.9)(?![\d.])|\ba[24](?:-(?:50|70|80))?\b"
)
_WORDED = "|".join(NUMBERS)
_COUNTS = (
    re.compile(rf"\b(?:qty|quantity|count|pcs|pieces)\b\.?\s*[:=]?\s*(?P<n>\d{{1,3}}|{_WORDED})\b"),
    re.compile(r"[(\[]\s*[x×]?\s*(?P<n>\d{1,3})\s*(?:x|×|off|pcs?\.?|pieces)?\s*[)\]]"),
    re.compile(rf"\b(?P<n>\d{{1,3}}|{_WORDED})\s*(?:off|pcs?\b\.?|pieces?|nos?\b\.?)(?!\w)"),
    re.compile(r"^(?P<n>\d{1,3})\s*[x×*](?=\s|[a-z]|$)"),
    re.compile(r"(?:^|(?<=\s))[x×]\s?(?P<n>\d{1,3})\b(?![.,/]\d)"),
    re.compile(rf"^(?:an?\s+)?(?P<n>\d{{1,3}}|{_WORDED})(?:\s+of)?(?=\s)"),
    re.compile(r"(?:^|[\s:;|=,–-])(?P<n>\d{1,3})\s*[x×]?$"),
)
"""How a count is said, the plainest first."""
_BULLET = re.compile(r"^\s*(?:[-•*–]\s+|\d{1,3}[.)]\s+)")
_EACH = re.compile(r"\b(?P<n>\d{1,3})\s*(?:of\s+)?each\b")
_TITLE = re.compile(r"^(?:bag|packet|step|page|fig(?:ure)?|sheet|box)\b\.?\s*\d+\s*:?$")
_TOGETHER = re.compile(r"\s+(?:with|w/|incl\.?|including|plus|and)\s+|\s*[+&]\s*")
_PURPOSE = re.compile(r"\s(?:for|to|under|from|between)\s")
READ_SOURCE = Source("how people write lists of parts, by example", "low")


@dataclass(frozen=True)
class ReadListInput:
    """A list as it was written or pasted: free lines, or a table with any separator."""

    text: str


@dataclass(frozen=True, kw_only=True)
class ListLine:
    """One part of a list: how many of what, of which size; ``words``: what was not taken.

    ``length_mm`` of a spacer is its length. ``sure`` False: no count was said and one was taken,
    or a number could be two things. ``row``: which line of the text it stands on, from 1.
    """

    count: int
    kind: LineKind
    thread: str
    length_mm: float | None
    head_form: HeadForm
    grade: str
    words: str
    sure: bool
    row: int


@dataclass(frozen=True)
class ReadListResult:
    """The lines, in the order of the text."""

    lines: tuple[ListLine, ...]


class _Rest:
    """What of a text is not taken yet; what is taken leaves a gap that nothing joins over."""

    def __init__(self, text: str) -> None:
        self.text = text

    def take(self, pattern: re.Pattern[str]) -> re.Match[str] | None:
        """The first match, which is then gone."""
        found = pattern.search(self.text)
        if found is not None:
            self.text = f"{self.text[: found.start()]} {self.text[found.end() :]}".strip()
        return found


def _mm_of_inches(text: str) -> float:
    whole = sum(Fraction(part) for part in re.split(r"[- ]", text))
    return round(float(whole) * INCH_MM, 3)


def _number(text: str) -> float:
    return float(text.replace(",", "."))


def with_pitch(name: str, pitch_mm: float) -> str:
    """A metric thread by its pitch: the coarse one is not named."""
    row = THREADS.get(name)
    return name if row is not None and row.pitch_mm == pitch_mm else f"{name}x{pitch_mm:g}"


def _metric(rest: _Rest) -> tuple[str, float | None, int | None] | None:
    """Thread, length and a count that stood in a length's place (``M8 x4`` of a washer)."""
    found = rest.take(_METRIC)
    if found is None:
        return None
    name = f"M{int(found['d'])}"
    numbers = [_number(n) for n in (found["a"], found["b"], found["c"]) if n]
    if numbers and numbers[0] <= MOST_PITCH_MM and (len(numbers) > 1 or numbers[0] % 1):
        name = with_pitch(name, numbers.pop(0))
    length, count = (numbers[0] if numbers else None), None
    if length is not None and length <= 0.75 * int(found["d"]) and length % 1 == 0:
        count, length = int(length), None
    if name not in THREADS:
        rest.text = f"{rest.text} {name}".strip()
        return "", length, count
    return name, length, count


def _size(rest: _Rest) -> tuple[str, float | None, int | None]:
    """Thread, length mm and a count in a length's place, as far as they are said."""
    inch = rest.take(_INCH)
    if inch is not None:
        name = next((t for t in THREADS if t.startswith(f"{inch['d']}-{inch['n']} ")), "")
        if not name:
            rest.text = f"{rest.text} {inch['d']}-{inch['n']}".strip()
        return name, _mm_of_inches(inch["l"]) if inch["l"] else _length(rest), None
    metric = _metric(rest)
    if metric is None:
        return "", _length(rest), None
    thread, length, count = metric
    return thread, _length(rest) if length is None else length, count


def _length(rest: _Rest) -> float | None:
    found = rest.take(_LENGTH)
    if found is None:
        return None
    return _number(found["mm"]) if found["mm"] else _mm_of_inches(found["inch"])


def _count(rest: _Rest) -> int | None:
    if _TITLE.match(rest.text):
        return None  # a bag's number
    for pattern in _COUNTS:
        found = rest.take(pattern)
        if found is not None:
            said = found["n"]
            return NUMBERS[said] if said in NUMBERS else int(said)
    return None


def _kind(text: str) -> LineKind | None:
    """The kind of the last word that names one, before what the part is for."""
    purpose = _PURPOSE.search(f" {text} ")
    main = text if purpose is None else text[: max(purpose.start() - 1, 0)]
    best: tuple[int, int, LineKind] | None = None
    for pattern, kind in KINDS:
        for found in re.finditer(rf"(?<![\w-])(?:{pattern})(?!\w)", main):
            end = found.end(), found.end() - found.start()
            if best is None or end > best[:2]:
                best = (*end, kind)
    return None if best is None else best[2]


def _head(rest: _Rest) -> HeadForm:
    for pattern, form in HEADS:
        if rest.take(re.compile(rf"(?<!\w)(?:{pattern})(?!\w)")):
            return form
    return ""


_HAS_HEAD: tuple[LineKind | None, ...] = ("screw", None)


def _part(text: str, row: int, before: ListLine | None, counted: int | None) -> ListLine:
    """One part from its words; ``before``: what it was named together with."""
    rest = _Rest(text)
    thread, length, in_place = _size(rest)
    grade = rest.take(_GRADE)
    count = _count(rest) if counted is None else counted
    if count is None and in_place is not None:
        count = in_place
    kind = _kind(rest.text)
    head = _head(rest) if kind in _HAS_HEAD else ""
    if kind is None and (head or (thread and length is not None)):
        kind = "screw"
    said = count is not None
    if before is not None:
        thread = thread or before.thread
        if count is None:
            count, said = before.count, before.sure
    loose = re.search(r"\d", rest.text) is not None
    count = 1 if count is None else count
    return ListLine(
        count=min(max(count, 1), MOST),
        kind=kind or "other",
        thread=thread,
        length_mm=length,
        head_form=head,
        grade="" if grade is None else grade[0].upper(),
        words=" ".join(rest.text.split()).strip(" ,;:-–()"),
        sure=said and not loose and 1 <= count <= MOST and (kind is not None or not thread),
        row=row,
    )


def _free(text: str, row: int, counted: int | None = None) -> list[ListLine]:
    """The parts of one line: “with washer” is a second one."""
    plain = _BULLET.sub("", text.casefold().replace("″", '"').replace("\u00a0", " ")).strip()
    rest = _Rest(plain)
    each = rest.take(_EACH)
    counted = int(each["n"]) if each is not None and counted is None else counted
    out: list[ListLine] = []
    for piece in _pieces(rest.text):
        own = counted if each is not None or not out else None
        out.append(_part(piece, row, out[-1] if out else None, own))
    return out


def _pieces(text: str) -> list[str]:
    """What is named together, apart; words without a part of their own stay with the one before."""
    pieces: list[str] = []
    for piece in _TOGETHER.split(text):
        for i, bit in enumerate(piece.split(", ")):
            if pieces and (_kind(bit) is None or (i and _kind(pieces[-1]) is None)):
                pieces[-1] += f" {bit}"
            elif bit.strip():
                pieces.append(bit)
    return pieces


def _cells(line: str, separator: str) -> list[str]:
    return [cell.strip().strip('"') for cell in line.split(separator)]


@dataclass(frozen=True)
class _Table:
    """A table's rows with their numbers; which column counts, and which holds words."""

    rows: tuple[tuple[int, list[str]], ...]
    count: int | None
    words: tuple[int, ...]


def _bare(heading: str) -> str:
    return re.sub(r"\s*[\[(].*?[\])]", "", heading.casefold()).strip(" .:")


def _headed(first: list[str]) -> tuple[int | None, tuple[int, ...]] | None:
    """By its headings: the column of counts, and those of words; None: no headings."""
    bare = [_bare(cell) for cell in first]
    count = next((i for i, h in enumerate(bare) if h in COUNT_HEADINGS), None)
    known = [h in (*COUNT_HEADINGS, *ROW_HEADINGS, *WORD_HEADINGS) for h in bare]
    if sum(known) < 2 or any(re.search(r"\d", cell) for cell in first):
        return None
    if count is None:
        count = next((i for i, h in enumerate(bare) if h in ("no", "number", "#")), None)
    words = [i for i, h in enumerate(bare) if i != count and h not in ROW_HEADINGS]
    named = any(bare[i] in WORD_HEADINGS for i in words)
    words += [i for i, h in enumerate(bare) if h == "item" and not named]
    return count, tuple(sorted(words))


def _bare_columns(rows: list[tuple[int, list[str]]]) -> tuple[int | None, tuple[int, ...]] | None:
    """Without headings: the last column of whole numbers counts; None: it is no table."""
    wide = len(rows[0][1])
    counts = re.compile(r"\d{1,3}\s*(?:x|pcs?\.?)?")
    whole = [i for i in range(wide) if all(counts.fullmatch(r[i]) for _, r in rows)]
    if not whole:
        return None
    running = [i for i in whole if i != whole[-1] and _runs([r[i] for _, r in rows])]
    words = tuple(i for i in range(wide) if i != whole[-1] and i not in running)
    return (whole[-1], words) if words else None


def _runs(cells: list[str]) -> bool:
    numbers = [int(re.sub(r"\D", "", c)) for c in cells]
    return len(numbers) > 1 and all(b == a + 1 for a, b in pairwise(numbers))


def _table(lines: list[tuple[int, str]]) -> _Table | None:
    """The text as a table by the separator that all of its rows share, if it is one."""
    for separator in ("\t", ";", "|", ","):
        rows = [(n, _cells(line, separator)) for n, line in lines]
        wide = len(rows[0][1])
        if wide < 2 or any(len(cells) != wide for _, cells in rows):
            continue
        by_heading = _headed(rows[0][1])
        if by_heading is not None:
            return _Table(tuple(rows[1:]), *by_heading)
        by_cells = _bare_columns(rows)
        if by_cells is not None:
            return _Table(tuple(rows), *by_cells)
    return None


def _from_table(table: _Table) -> list[ListLine]:
    out: list[ListLine] = []
    for number, cells in table.rows:
        text = " ".join(cells[i] for i in table.words if cells[i])
        said = "" if table.count is None else re.sub(r"[^\d]", "", cells[table.count])
        out += _free(text, number, int(said) if said else None)
    return out


@computation("read-list", page="read-list", check="list-p01")
def read_list(given: ReadListInput) -> Outcome[ReadListResult]:
    """Every line of a list as what it says; what is not understood stays, with its words.

    Raises InputError for no text, or more than ``MAX_LETTERS`` or ``MAX_ROWS`` of it.
    """
    text = given.text.lstrip("\ufeff")
    if len(text) > MAX_LETTERS:
        raise InputError("text", f"{len(text)} letters", f"at most {MAX_LETTERS} letters")
    # A rule of dashes between parts is none itself.
    lines = [
        (i, line) for i, line in enumerate(text.splitlines(), 1) if any(map(str.isalnum, line))
    ]
    if not lines:
        raise InputError("text", "", "a list with a line for each part", "nothing was written")
    if len(lines) > MAX_ROWS:
        raise InputError("text", f"{len(lines)} lines", f"at most {MAX_ROWS} lines")
    table = _table(lines)
    if table is not None:
        found = _from_table(table)
    else:
        found = [part for number, line in lines for part in _free(line, number)]
    return Outcome(
        result=ReadListResult(tuple(found)),
        inputs=(Input("Lines", len(lines)),),
        reasons=(
            "Sizes first, then counts, then what kind the last noun before “for” names.",
            "A running number counts nothing; a size is never a count.",
        ),
        assumptions=("Metric sizes are mm in every unit system.",),
        sources=(READ_SOURCE,),
    )
