"""Pasted lists: separators, decimals, headings, words of people; what is not understood is said."""

from __future__ import annotations

import pytest

from rugged_shield.core.errors import InputError
from rugged_shield.core.kit.read_list import MAX_LETTERS, MAX_ROWS
from rugged_shield.formats.hardwarecsv import read_hardware

ROWS = [
    ["name", "size", "length", "class", "count"],
    ["belly bolt", "M8", "30", "8.8", "4"],
    ["washer", "M8", "1.6", "", "4"],
]


@pytest.mark.parametrize(
    ("mark", "word"), [(";", "semicolon"), ("\t", "tab"), ("|", "bar"), (",", "comma")]
)
def test_the_separator_is_found_out(mark: str, word: str) -> None:
    found = read_hardware("\n".join(mark.join(row) for row in ROWS))
    assert found.separator == word
    lines = [r.line for r in found.lines]
    assert all(lines)
    assert [(k.kind, k.thread, k.length_mm, k.count) for k in lines if k] == [
        ("screw", "M8", 30.0, 4),
        ("washer", "M8", 1.6, 4),
    ]


@pytest.mark.parametrize(
    ("cell", "thread", "length"),
    [
        ("M8", "M8", None),
        ("M8x30", "M8", 30.0),
        ("M8 × 30", "M8", 30.0),
        ("M8x1.25x30", "M8", 30.0),
        ("M8x1", "M8x1", None),
        ("M8 x 1 x 25", "M8x1", 25.0),
        ("M10x1,25x40", "M10x1.25", 40.0),
        ("m6*16", "M6", 16.0),
        ("M10x1.5", "M10", None),
    ],
)
def test_thread_and_length_said_in_one(cell: str, thread: str, length: float | None) -> None:
    line = read_hardware(f"name;size\nbolt;{cell}").lines[0].line
    assert line is not None
    assert (line.thread, line.length_mm) == (thread, length)


@pytest.mark.parametrize(
    ("text", "system", "length"),
    [
        ("name;size;length\nbolt;M8;30,5", "metric", 30.5),
        ('name,size,length\nbolt,M8,"30,5"', "metric", 30.5),
        ("name;size;length (in)\nbolt;M8;1.25", "metric", 31.75),
        ("name;size;length\nbolt;M8;1.25", "us", 31.75),
        ("name;size;length\nbolt;M8;30 mm", "us", 30.0),
        ("name;size;length_mm\nbolt;M8;30", "us", 30.0),
    ],
)
def test_decimals_and_units(text: str, system: str, length: float) -> None:
    line = read_hardware(text, system).lines[0].line  # type: ignore[arg-type]
    assert line is not None
    assert line.length_mm == pytest.approx(length)


@pytest.mark.parametrize(
    ("words", "head"),
    [
        ("button flange", "ISO 7380-2"),
        ("button", "ISO 7380-1"),
        ("hex flange", "EN 1665"),
        ("hexagon", "ISO 4017"),
        ("countersunk", "ISO 10642"),
        ("socket cap", "ISO 4762"),
        ("ISO4762", "ISO 4762"),
        ("iso 7380-2", "ISO 7380-2"),
    ],
)
def test_heads_in_words_and_by_number(words: str, head: str) -> None:
    found = read_hardware(f"name;size;head\nbolt;M8;{words}").lines[0]
    assert found.line is not None
    assert found.line.head == head
    assert any(head in note for note in found.assumed) or words.casefold() == head.casefold()


def test_without_headings_the_order_of_the_sheet_counts() -> None:
    found = read_hardware("screw;belly bolt;M8;30;ISO 4762;8.8;4")
    line = found.lines[0].line
    assert line is not None
    assert (line.name, line.length_mm, line.count) == ("belly bolt", 30.0, 4)


@pytest.mark.parametrize(
    ("row", "words"),
    [
        ("bolt;M7;30;;;4;", "thread"),
        ("bolt;M8;long;;;4;", "length_mm"),
        ("bolt;M8;30;odd;;4;", "head"),
        ("bolt;M8;30;;9.9;4;", "grade"),
        ("bolt;M8;30;;;2.5;", "whole number"),
        ("bolt;M8;30;;;4;sometimes", "not understood"),
        ("bolt;M8;30;;;4;;;;", "cells under"),
        ("bolt;;30;;;4;", "thread"),
        ("bolt;M8;30;;;0;", "count"),
    ],
)
def test_bad_rows_say_why_and_leave_the_others(row: str, words: str) -> None:
    text = f"name;size;length;head;class;count;only if\n{row}\nnut;M8;;;;2;bars\n"
    found = read_hardware(text)
    bad, good = found.lines
    assert bad.line is None
    assert words in bad.trouble
    assert good.line is not None
    assert good.line.when == "bars"


@pytest.mark.parametrize(
    "text",
    ["", "  \n ", "a\x00b", "x;y\n" * (MAX_ROWS + 5), "x" * (MAX_LETTERS + 1)],
    ids=["empty", "blank", "nul", "too many", "too long"],
)
def test_what_is_no_list_is_refused(text: str) -> None:
    with pytest.raises(InputError):
        read_hardware(text)


def test_a_formula_stays_a_name() -> None:
    line = read_hardware("name;size\n=1+1;M8").lines[0].line
    assert line is not None
    assert line.name == "=1+1"
