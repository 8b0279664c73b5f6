"""Which line a screw is: tables outside, properties, and what nothing tells apart."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from rugged_shield.core.errors import InputError
from rugged_shield.core.kit.identify import (
    IdentifyInput,
    Listed,
    Measured,
    difference_words,
    expected_mm,
    identify,
)
from rugged_shield.core.mechanics.threads import nominal_size
from rugged_shield.core.tables.heads import HEADS, SCREW_HEADS, head_limits_mm
from rugged_shield.core.tables.threads import ISO_THREADS, THREADS, allowance_mm

TD_6G = {0.7: 0.140, 0.8: 0.150, 1.0: 0.180, 1.25: 0.212, 1.5: 0.236, 1.75: 0.265}
"""Tolerances of the major diameter, ISO 965-1 6g."""
LINES = (
    Listed("a", "M8", 30.0, "ISO 7380-1"),
    Listed("b", "M8", 35.0, "ISO 4762"),
    Listed("c", "M8", None, "ISO 4762"),
    Listed("d", "M6", 25.0, "ISO 10642"),
)


def found(lines: tuple[Listed, ...] = LINES, **read: Any) -> Any:
    return identify(IdentifyInput(measured=Measured(**read), lines=lines)).result


@pytest.mark.parametrize("thread", ISO_THREADS)
def test_the_band_of_a_diameter_is_that_of_the_standard(thread: str) -> None:
    row = THREADS[thread]
    assert row.d_mm - allowance_mm(thread) - row.d_min_mm == pytest.approx(TD_6G[row.pitch_mm])


@settings(max_examples=150)
@given(
    thread=st.sampled_from(sorted(THREADS)),
    length=st.sampled_from((16.0, 30.0, 75.0)),
    head=st.sampled_from(sorted(SCREW_HEADS)),
    at=st.floats(-1, 1),
    way=st.integers(0, 1),
)
def test_a_screw_agrees_with_its_own_line(
    thread: str, length: float, head: str, at: float, way: int
) -> None:
    line = Listed("own", thread, length, head)
    read = {}
    for name in ("diameter_mm", "length_mm", "head_diameter_mm"):
        said = expected_mm(line, name)  # type: ignore[arg-type]
        if said:
            middle, half = said[way % len(said)]
            read[name] = middle + at * half
    result = found((line,), pitch_mm=THREADS[thread].pitch_mm, **read)
    assert result.agree == ("own",)
    assert result.told_apart
    assert result.measure_next is None
    assert result.distances["own"] <= 1.0


PRINTED: dict[str, dict[str, tuple[float, float]]] = {
    "ISO 4017": {"M4": (7.66, 6.78), "M5": (8.79, 7.78), "M6": (11.05, 9.78), "M8": (14.38, 12.73),
                 "M10": (17.77, 15.73), "M12": (20.03, 17.73)},
    "ISO 7380-1": {"M4": (7.24, 0), "M5": (9.14, 0), "M6": (10.07, 0), "M8": (13.57, 0),
                   "M10": (17.07, 0), "M12": (20.48, 0)},
    "ISO 10642": {"M4": (7.53, 0), "M8": (15.24, 0), "M12": (23.12, 0)},
}  # fmt: skip
"""Least across corners and flats (ISO 4017), least head diameters (ISO 7380-1, ISO 10642)."""


@pytest.mark.parametrize(
    ("head", "size"), [(head, size) for head, rows in PRINTED.items() for size in rows]
)
def test_least_sizes_are_those_that_the_standards_print(head: str, size: str) -> None:
    least = [low for low, _ in head_limits_mm(head, size)]
    printed = [value for value in PRINTED[head][size] if value]
    assert least == pytest.approx(printed, abs=0.011)


def test_true_screws_are_not_lost_and_wrong_ones_seldom_taken() -> None:
    """Three hundred screws drawn within their own standards, read with a calliper's error.

    Lost: a screw whose own line is ruled out. Wrong: another line stands nearest.
    """
    draw = np.random.default_rng(35)
    heads = [h for h in SCREW_HEADS if h not in ("DIN 186",)]
    lost = wrong = 0
    for _ in range(300):
        lines = []
        for i in range(8):
            head = str(draw.choice(heads))
            size = str(draw.choice(sorted(HEADS[head].rows)))
            thread = next(t for t in sorted(THREADS) if nominal_size(t) == size)
            length = float(draw.choice([16, 20, 25, 30, 35, 40, 50]))
            lines.append(Listed(f"l{i}", thread, length, head))
        true = lines[0]
        low, high = draw.permutation(head_limits_mm(true.head, nominal_size(true.thread)))[0]
        (length, half), (across, play) = (
            expected_mm(true, name)[0] for name in ("length_mm", "diameter_mm")
        )
        result = found(
            tuple(lines),
            diameter_mm=across + draw.uniform(-play, play) + draw.normal(0, 0.015),
            length_mm=length + draw.uniform(-half, half) + draw.normal(0, 0.05),
            pitch_mm=THREADS[true.thread].pitch_mm,
            head_diameter_mm=draw.uniform(low, high) + draw.normal(0, 0.03),
        )
        own = (true.thread, true.length_mm, true.head)
        same = {x.key for x in lines if (x.thread, x.length_mm, x.head) == own}
        lost += "l0" not in result.agree
        wrong += bool(result.agree) and result.agree[0] not in same
    assert lost <= 6, f"{lost} of 300 thrown out"
    assert wrong <= 15, f"{wrong} of 300 taken for another"


def test_a_line_that_says_no_length_is_not_ruled_out_by_one() -> None:
    result = found(diameter_mm=7.88, length_mm=35.1)
    assert set(result.agree) == {"b", "c"}
    assert not result.told_apart


def test_what_nothing_tells_apart_is_not_asked_for() -> None:
    twins = (Listed("a", "M8", 30.0, "ISO 4762"), Listed("b", "M8", 30.0, "ISO 4762"))
    result = found(twins, diameter_mm=7.88)
    assert result.agree == ("a", "b")
    assert result.measure_next is None


def test_the_form_of_the_head_rules_out_though_every_number_agrees() -> None:
    result = found(diameter_mm=7.88, head_form="button")
    assert result.agree == ("a",)
    assert result.distances["b"] < 1.0


def test_pitch_is_asked_where_length_tells_nothing() -> None:
    lines = (Listed("a", "M8", 30.0, "ISO 4762"), Listed("b", "M8x1", 30.0, "ISO 4762"))
    assert found(lines, diameter_mm=7.86).measure_next == "pitch_mm"
    assert found(lines, diameter_mm=7.86, pitch_mm=1.0).agree == ("b",)


def test_a_foreign_screw_is_named() -> None:
    result = found(diameter_mm=7.85, pitch_mm=1.41)
    assert result.agree == ()
    assert result.measure_next is None
    assert result.foreign == ("5/16-18 UNC",)
    assert "1/4-20 UNC" in found(diameter_mm=6.25).foreign


def test_a_countersunk_head_reads_between_least_and_sharp() -> None:
    lines = (Listed("d", "M8", 25.0, "ISO 10642"),)
    for read, agrees in ((15.0, False), (15.3, True), (17.9, True), (18.2, False)):
        assert bool(found(lines, head_diameter_mm=read).agree) is agrees


def test_a_wider_band_agrees_with_more() -> None:
    assert found(diameter_mm=7.5).agree == ()
    assert found(diameter_mm=7.5, diameter_band_mm=0.5).agree != ()


def test_no_line_and_no_reading() -> None:
    assert found((), diameter_mm=7.88).agree == ()
    with pytest.raises(InputError, match="nothing was read"):
        Measured()
    with pytest.raises(InputError, match="head_form"):
        Measured(head_form="round")
    with pytest.raises(InputError, match="each key once"):
        found((LINES[0], LINES[0]), diameter_mm=8.0)


def test_a_difference_in_words() -> None:
    assert "5.0 mm" in difference_words(LINES[1], LINES[0])
    assert "longer" in difference_words(LINES[1], LINES[0])
    assert "cylinder head against button" in difference_words(LINES[1], LINES[0])
    assert difference_words(LINES[0], LINES[3]).startswith("M8 against M6")
    assert difference_words(LINES[0], LINES[0]) == ""
