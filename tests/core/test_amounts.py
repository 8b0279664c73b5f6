"""Numbers in sentences: both systems in one mark, of which the edge leaves one."""

from __future__ import annotations

import re

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from rugged_shield.core.amounts import (
    amount,
    amount_range,
    entered,
    in_both,
    in_system,
    place_words,
    show_difference,
)
from rugged_shield.core.errors import InputError
from rugged_shield.core.quantity import parse
from rugged_shield.core.text import check_text


@pytest.mark.parametrize(
    ("said", "metric", "us"),
    [
        (amount(76.2, "mm", 1), "76.2 mm", "3.00 in"),
        (amount(-3.0, "mm", 0), "−3 mm", "−0.1 in"),
        (amount(100.0, "°C", 0), "100 °C", "212 °F"),
        (amount(10.0, "K", 0), "10 K", "18 °F"),
        (amount(4.4482216152605, "kN", 1), "4.4 kN", "1000 lbf"),
        (amount(13.558179483314, "N·m"), "13.6 N·m", "10.0 ft·lb"),
        (entered(25.4, "mm"), "25.4 mm", "1 in"),
        (entered(42188.0, "km"), "42188 km", "26214 mi"),
        (entered(5.0, "mm", sign=True), "+5 mm", "+0.197 in"),
        (amount_range(20.0, 80.0, "°C"), "20 to 80 °C", "68 to 176 °F"),
        (place_words(254.0, -50.8), "x 254, y −51 mm", "x 10.0, y −2.0 in"),
        (amount(12.0, "€", 0), "12 €", "12 €"),
        (amount(-0.2, "mm", 0), "0 mm", "0.0 in"),
        (entered(26.0, "°"), "26°", "26°"),
        (entered(50.0, "%"), "50 %", "50 %"),
    ],
)
def test_a_number_is_said_in_either_system(said: str, metric: str, us: str) -> None:
    sentence = f"It is {said}, and that is it."
    assert in_system(sentence) == f"It is {metric}, and that is it."
    assert in_system(sentence, "us") == f"It is {us}, and that is it."
    both = metric if metric == us else f"{metric} ({us})"
    assert in_both(sentence) == f"It is {both}, and that is it."


@settings(max_examples=200)
@given(
    value=st.floats(-900, 900, allow_nan=False),
    unit=st.sampled_from(("mm", "kg", "N·m", "°C", "J", "km", "N/mm")),
)
def test_what_is_said_in_us_units_reads_back_as_the_number(value: float, unit: str) -> None:
    text = in_system(entered(value, unit), "us")
    assert parse(text, unit) == pytest.approx(value, rel=5e-3, abs=0.3 if unit == "°C" else 1e-3)


def test_a_difference_of_temperatures_has_no_zero_of_its_own() -> None:
    assert show_difference(60.0, 50.0, "°C", "us") == "+18 °F"


def test_a_temperature_is_read_in_fahrenheit() -> None:
    assert parse("212 °F", "°C") == pytest.approx(100.0)
    assert parse("-40", "°C", system="us") == pytest.approx(-40.0)
    with pytest.raises(InputError):
        parse("200 °F 3 °F", "°C")


def test_nobody_can_type_a_mark() -> None:
    for sign in re.findall("[\ue000-\uf8ff]", amount(1.0, "mm")):
        with pytest.raises(InputError, match="control character"):
            check_text("name", f"plate {sign}")
