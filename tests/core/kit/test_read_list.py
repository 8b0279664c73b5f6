"""Lists as people write them: counts, sizes and kinds, and nothing dropped."""

from __future__ import annotations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from rugged_shield.core.errors import InputError
from rugged_shield.core.kit.read_list import (
    MAX_LETTERS,
    MAX_ROWS,
    ListLine,
    ReadListInput,
    read_list,
)

Said = tuple[int, str, str, float | None, str]
LINES: dict[str, list[Said]] = {
    "4x M8x20 hex bolt 8.8": [(4, "screw", "M8", 20.0, "hexagon")],
    "x4 M8 washers": [(4, "washer", "M8", None, "")],
    "M8 x4 washer": [(4, "washer", "M8", None, "")],
    "6 washers M6": [(6, "washer", "M6", None, "")],
    "pair of side brackets": [(2, "bracket", "", None, "")],
    "a dozen M6 washers": [(12, "washer", "M6", None, "")],
    "M8 20mm bolts - 4": [(4, "screw", "M8", 20.0, "")],
    "(2) M6x16 csk": [(2, "screw", "M6", 16.0, "countersunk")],
    "2 off spacer 16 mm": [(2, "spacer", "", 16.0, "")],
    "qty 4 M8x25 socket cap screw": [(4, "screw", "M8", 25.0, "cylinder")],
    "M10x1.25x40 flange bolt x2": [(2, "screw", "M10x1.25", 40.0, "flanged hexagon")],
    "M8 x 1.25 x 30 bolt (4)": [(4, "screw", "M8", 30.0, "")],
    "washer for M8 bolt 4": [(4, "washer", "M8", None, "")],
    "1. M6x12 button head 4 pcs": [(4, "screw", "M6", 12.0, "button")],
    "- 4 M8*30": [(4, "screw", "M8", 30.0, "")],
    "three rubber grommets": [(3, "isolator", "", None, "")],
    "2 brackets, left and right": [(2, "bracket", "", None, "")],
    '5/16-18 x 1 1/2" hex bolt (6)': [(6, "screw", "5/16-18 UNC", 38.1, "hexagon")],
    '1/4-28 x 3/4" button head qty 2': [(2, "screw", "1/4-28 UNF", 19.05, "button")],
    "12 mm spacer 4": [(4, "spacer", "", 12.0, "")],
    "spacer 1/2 in 4 off": [(4, "spacer", "", 12.7, "")],
    "M8x30 bolt, washer and nut, 4 each": [
        (4, "screw", "M8", 30.0, ""),
        (4, "washer", "M8", None, ""),
        (4, "nut", "M8", None, ""),
    ],
    "M8 × 40 (4) + M8 washer (8)": [(4, "screw", "M8", 40.0, ""), (8, "washer", "M8", None, "")],
    "thread locker 1": [(1, "other", "", None, "")],
    "M6 rivet nuts 4": [(4, "nut", "M6", None, "")],
}
UNSURE = ["M6;6", "side plate left", "Bag 1", "4 spacers 10mm x 8.5", "M8x20 bolt", "washer 8.4 16"]


def parts(text: str) -> tuple[ListLine, ...]:
    return read_list(ReadListInput(text)).result.lines


@pytest.mark.parametrize("text", LINES)
def test_a_line_says_what_a_reader_would_take_it_for(text: str) -> None:
    found = [(p.count, p.kind, p.thread, p.length_mm, p.head_form) for p in parts(text)]
    assert found == LINES[text]
    assert all(p.sure for p in parts(text))


@pytest.mark.parametrize("text", UNSURE)
def test_what_is_not_said_or_could_be_two_things_is_not_sure(text: str) -> None:
    assert not any(p.sure for p in parts(text))


def test_a_running_number_counts_nothing() -> None:
    for head in ("no,description,qty", "Pos;Part;Pcs", "#\tItem\tQuantity", "no|qty|name"):
        cut = next(c for c in (",", ";", "\t", "|") if c in head)
        order = [h.strip().casefold() for h in head.split(cut)]
        rows = []
        for number in (27, 28):
            cells = {order[0]: str(number)}
            for name in order[1:]:
                cells[name] = "2" if name in ("qty", "pcs", "quantity") else "M6 washer"
            rows.append(cut.join(cells[name] for name in order))
        assert [(p.count, p.kind) for p in parts("\n".join([head, *rows]))] == [(2, "washer")] * 2
    bare = parts("1;M8x20 bolt;4\n2;M8 washer;8\n3;M8 nut;4")
    assert [(p.count, p.kind) for p in bare] == [(4, "screw"), (8, "washer"), (4, "nut")]


def test_no_size_becomes_a_count_and_no_unit_system_a_size() -> None:
    six = parts("M6;6\nM8;4")
    assert [(p.count, p.thread, p.length_mm) for p in six] == [(6, "M6", None), (4, "M8", None)]
    assert parts("M8x20")[0].count == 1
    assert not parts("M8x20")[0].sure


@settings(max_examples=300, deadline=None)
@given(st.text(alphabet=st.characters(exclude_categories=("Cs",)), max_size=60))
def test_any_text_is_read_and_no_line_is_dropped(text: str) -> None:
    lines = [line for line in text.lstrip("\ufeff").splitlines() if any(map(str.isalnum, line))]
    if not lines:
        with pytest.raises(InputError, match="nothing was written"):
            parts(text)
        return
    found = parts(text)
    assert all(1 <= p.count <= 999 for p in found)
    if not any(cut in text for cut in ";\t|,"):  # no table, whose headings are no parts
        rows = [
            i for i, line in enumerate(text.lstrip("\ufeff").splitlines(), 1)
            if any(map(str.isalnum, line))
        ]  # fmt: skip
        assert sorted({p.row for p in found}) == rows


def test_a_list_has_an_end() -> None:
    with pytest.raises(InputError, match="at most"):
        parts("M8 washer 4\n" * (MAX_ROWS + 1))
    with pytest.raises(InputError, match="at most"):
        parts("a" * (MAX_LETTERS + 1))
