"""What goes out comes in again, whatever its texts say and at each limit."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from rugged_shield.core.errors import InputError
from rugged_shield.core.job.model import Job
from rugged_shield.core.kit.hardware import MAX_KIT, KitLine, check_line
from rugged_shield.core.kit.read_list import MAX_LETTERS as MAX_TEXT
from rugged_shield.core.tables.friction import CONDITIONS
from rugged_shield.core.tables.grades import GRADES
from rugged_shield.core.tables.heads import SCREW_HEADS
from rugged_shield.core.tables.threads import THREADS
from rugged_shield.core.text import MAX_LETTERS, check_text
from rugged_shield.formats.hardwarecsv import read_hardware
from rugged_shield.formats.kitlist import kit_csv


def is_text(text: str) -> bool:
    """What a field takes and leaves as it is."""
    try:
        check_text("text", text)
    except InputError:
        return False
    return text == " ".join(text.split())


WRITTEN = st.text(max_size=30).filter(is_text)
RISKY = st.builds("".join, st.lists(st.sampled_from("=+-@'\"＝＋;,|x \u00a0"), max_size=6)).filter(
    is_text
)
TEXT = st.one_of(WRITTEN, RISKY)
MM = st.integers(5, 2000).map(lambda tenths: tenths / 10)
ACROSS = st.integers(20, 900).map(lambda tenths: tenths / 10)


@st.composite
def kit_lines(draw: st.DrawFn) -> KitLine:
    kind = draw(st.sampled_from(("screw", "washer", "nut", "spacer", "bracket", "pad", "other")))
    known = {
        name: draw(st.sampled_from(("", *values)))
        for name, values in (
            ("head", SCREW_HEADS), ("grade", tuple(GRADES)), ("treatment", tuple(CONDITIONS)),
        )
    }  # fmt: skip
    threads = tuple(THREADS) if kind == "screw" else ("", *THREADS)
    count = draw(st.integers(1, 200))
    hole = draw(st.none() | ACROSS)
    return KitLine(
        key="k",
        kind=kind,
        name=draw(TEXT.filter(bool)),
        thread=draw(st.sampled_from(threads)),
        length_mm=draw(st.none() | MM),
        count=count,
        already_fitted=draw(st.integers(0, count)),
        drive=draw(TEXT),
        fitted_to=draw(TEXT),
        when=draw(st.sampled_from(("", "year 2019-2022", "no upper bars"))),
        bag=draw(TEXT),
        part_number=draw(TEXT),
        came=draw(st.sampled_from(("loose", "assembled, do not take apart", "locker already on"))),
        hole_mm=hole,
        outer_mm=None if hole is None else draw(st.just(hole + 4.0)),
        **known,
    )


def csv_of(lines: tuple[KitLine, ...]) -> str:
    keyed = tuple(replace(line, key=f"k{i}") for i, line in enumerate(lines))
    return kit_csv(keyed, {line.key: check_line(line, None, ()) for line in keyed})


@settings(max_examples=150, deadline=None)
@given(st.lists(kit_lines(), min_size=1, max_size=5), st.sampled_from(("metric", "us")))
def test_a_kit_that_went_out_comes_in_the_same(lines: list[KitLine], system: Any) -> None:
    read = read_hardware(csv_of(tuple(lines)), system)
    assert [(r.trouble, r.sure) for r in read.lines] == [("", True)] * len(lines)
    assert [replace(r.line, key="k") for r in read.lines if r.line] == lines


def test_the_longest_kit_of_the_longest_texts_comes_in() -> None:
    """Its screens took three hundred lines, its own table two hundred."""
    long = ("W" * (MAX_LETTERS - 1) + "x", "“" * MAX_LETTERS, "漢" * MAX_LETTERS)
    line = KitLine(
        key="k", kind="screw", name=long[0], thread="M10x1.25", length_mm=40.0, head="ISO 7380-1",
        grade="10.9", drive=long[1], fitted_to=long[2], bag=long[0], part_number=long[1],
    )  # fmt: skip
    text = csv_of((line,) * MAX_KIT)
    assert len(text) <= MAX_TEXT
    read = read_hardware(text)
    assert [replace(r.line, key="k") for r in read.lines if r.line] == [line] * MAX_KIT


def test_a_kit_is_as_long_by_file_as_by_screen(choosing: Job) -> None:
    line = KitLine(key="k", kind="pad", name="pad")
    kit = tuple(replace(line, key=f"k{i}") for i in range(MAX_KIT + 1))
    candidate = choosing.as_entered(choosing.in_hand.key)
    assert replace(candidate, kit=kit[:-1]).kit
    with pytest.raises(InputError, match="at most 300 lines"):
        replace(candidate, kit=kit)
