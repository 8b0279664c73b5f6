"""Reading what people type, and showing it back."""

from __future__ import annotations

import dataclasses
import importlib
import math
import pkgutil

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rugged_shield import core
from rugged_shield.core.amounts import System, plain_number, show, show_difference
from rugged_shield.core.errors import InputError
from rugged_shield.core.quantity import (
    TORQUE_UNITS_NM,
    Range,
    check_number,
    convert_torque,
    parse,
    ranges_of,
)

READ = [
    ("5/32 in", "mm", 3.96875),
    ("1 1/2 in", "mm", 38.1),
    ("3,5 mm", "mm", 3.5),
    ("3.5", "mm", 3.5),
    ("3,5", "mm", 3.5),
    (" 12 ", "mm", 12.0),
    ("2 cm", "mm", 20.0),
    ("0.5 m", "mm", 500.0),
    ('1/4"', "mm", 6.35),
    ("-2.5", "mm", -2.5),
    ("−4", "mm", -4.0),
    ("-1 1/2 in", "mm", -38.1),
    (".5", "mm", 0.5),
    ("1e2", "mm", 100.0),
    ("5 ft 2 in", "mm", 1574.8),
    ("21 lbf ft", "N·m", 28.472177),
    ("21 ft·lb", "N·m", 28.472177),
    ("21 ft-lb", "N·m", 28.472177),
    ("95 in·lb", "N·m", 10.733559),
    ("1.7 kgf·m", "N·m", 16.671305),
    ("22 Nm", "N·m", 22.0),
    ("22 N.m", "N·m", 22.0),
    ("5 lb 3 oz", "kg", 2.353011),
    ("350 g", "kg", 0.35),
    ("2,9", "kg", 2.9),
    ("100 mi", "km", 160.9344),
    ("45°", "°", 45.0),
    ("30 deg", "°", 30.0),
]

REFUSED = [
    "",
    "   ",
    "abc",
    "mm",
    "3.5.2",
    "3,5,2",
    "1/0 in",
    "5 kg",
    "12 parsec",
    "3 mm 4",
    "3 4 5 6",
    "nan",
    "inf",
    "--3",
    "5 mm 3 kg",
    "1e999",
    "0x10",
    "5 mm;drop",
    "٣" * 70,
    "5 lb 3 oz 2 g 1 mg",
]


@pytest.mark.parametrize(("text", "unit", "value"), READ)
def test_reads(text: str, unit: str, value: float) -> None:
    assert parse(text, unit) == pytest.approx(value, rel=1e-6)


@pytest.mark.parametrize("text", REFUSED)
def test_refuses_and_names_the_field(text: str) -> None:
    with pytest.raises(InputError) as caught:
        parse(text, "mm", "thickness_mm")
    assert caught.value.field == "thickness_mm"
    assert caught.value.allowed
    assert caught.value.remedy


@pytest.mark.parametrize(
    ("text", "unit", "value"),
    [
        ("12 000", "km", 12000.0),
        ("12\u202f000 km", "km", 12000.0),
        ("1 234 567", "", 1234567.0),
        ("12'000", "", 12000.0),
        ("189 €", "", 189.0),
        ("$ 1 250", "", 1250.0),
        ("5 1/2 in", "mm", 139.7),
        ("1 125/1000 in", "mm", 28.575),
        ("9-7/8 in", "mm", 250.825),
        ("1,219.50", "", 1219.5),
        ("$1,219.50", "", 1219.5),
        ("1.219,50", "", 1219.5),
        ("12,345,678.5 N", "N", 12345678.5),
        ("1.219,50 km", "km", 1219.5),
        ("219,-", "", 219.0),
        ("219.– €", "", 219.0),
        # One mark and three digits may be either: it stays the decimal that it was.
        ("1,219", "", 1.219),
        ("1.219", "", 1.219),
    ],
)
def test_groups_of_digits_and_currency_are_read(text: str, unit: str, value: float) -> None:
    assert parse(text, unit) == pytest.approx(value)


@pytest.mark.parametrize("text", ["1,21.50", "1,2190.5", "1.219,50,1", "219,-,-", "9-7", "219,-1"])
def test_marks_that_group_nothing_are_refused(text: str) -> None:
    with pytest.raises(InputError):
        parse(text, "")


def test_a_bound_too_small_to_be_shown_is_said_with_its_digits() -> None:
    """A tolerance of 0.01 mm at most was said as “from 0 to 0” in inches."""
    words = Range(0.0, 0.01, "mm").words("us")
    assert words == "a number from 0.000 in to 0.00039 in"
    assert Range(0.5, 25.0, "mm").words() == "a number from 0.5 mm to 25.0 mm"


def test_a_bare_number_is_in_the_system_shown() -> None:
    assert parse("1", "mm", system="us") == pytest.approx(25.4)
    assert parse("10", "N·m", system="us") == pytest.approx(13.558, abs=1e-3)
    assert parse("1 mm", "mm", system="us") == 1.0


@given(st.floats(-4000, 4000), st.sampled_from(["mm", "kg", "N·m", "km"]))
def test_plain_number_round_trips(value: float, unit: str) -> None:
    """What a field shows reads back as what is stored, within the digits shown."""
    assert parse(plain_number(value, unit, "metric"), unit) == pytest.approx(value, rel=1e-9)
    back = parse(plain_number(value, unit, "us"), unit, system="us")
    assert back == pytest.approx(value, abs=0.02 if unit != "km" else 0.2)


@given(
    st.floats(0.01, 1e4),
    st.sampled_from(list(TORQUE_UNITS_NM)),
    st.sampled_from(list(TORQUE_UNITS_NM)),
)
def test_torque_conversion_round_trips(value: float, a: str, b: str) -> None:
    assert convert_torque(convert_torque(value, a, b), b, a) == pytest.approx(value, rel=1e-12)


@given(st.floats(-500, 500), st.floats(-500, 500))
def test_differences_shown_add_up(now: float, base: float) -> None:
    """Base as shown plus difference as shown is now as shown."""

    def number(text: str) -> float:
        return float(text.replace("−", "-").replace("+", "").split()[0])

    for system in ("metric", "us"):
        total = number(show(base, "mm", system)) + number(show_difference(now, base, "mm", system))
        assert math.isclose(total, number(show(now, "mm", system)), abs_tol=1e-6)


def test_shows_both_systems() -> None:
    assert show(25.4, "mm") == "25.4 mm"
    assert show(25.4, "mm", "us") == "1.000 in"
    assert show(-0.01, "mm") == "0.0 mm"
    assert show(-3, "mm") == "−3.0 mm"
    assert show(214.86, "×") == "215×"
    assert show(1.5, "×") == "1.50×"


@pytest.mark.parametrize("value", [0.49, 25.01, float("nan"), float("inf"), "5", True, None])
def test_range_refuses_just_outside(value: object) -> None:
    with pytest.raises(InputError, match="thickness_mm"):
        check_number("thickness_mm", value, Range(0.5, 25, "mm"))


@pytest.mark.parametrize("value", [0.5, 25.0, 3])
def test_range_takes_its_ends(value: float) -> None:
    check_number("thickness_mm", value, Range(0.5, 25, "mm"))


def every_range() -> dict[tuple[float, float, str], str]:
    """Each different range of the core, with a field that has it."""
    found: dict[tuple[float, float, str], str] = {}
    for module in pkgutil.walk_packages(core.__path__, "rugged_shield.core."):
        for thing in vars(importlib.import_module(module.name)).values():
            if isinstance(thing, type) and dataclasses.is_dataclass(thing):
                for name, allowed in ranges_of(thing).items():
                    ends = (allowed.least, allowed.most, allowed.unit)
                    found.setdefault(ends, f"{thing.__name__}.{name}")
    return found


@pytest.mark.parametrize("system", ["metric", "us"])
def test_what_a_refusal_names_as_allowed_is_allowed(system: System) -> None:
    """Both ends of every range in the program are typed as a refusal shows them."""
    ranges = every_range()
    assert len(ranges) > 150
    for (least, most, unit), field in ranges.items():
        if unit == "K":  # a difference of temperatures is never typed
            continue
        allowed = Range(least, most, unit)
        ends = allowed.words(system).removeprefix("a number from ").split(" to ")
        for text, end in zip(ends, (least, most), strict=True):
            value = parse(text, unit, field, system)
            check_number(field, value, allowed, system)
            assert value == pytest.approx(end, rel=0.03), (field, text)


@pytest.mark.parametrize("system", ["metric", "us"])
def test_a_number_just_outside_is_not_shown_as_one_inside(system: System) -> None:
    """“1000 mm is too large: up to 1000 mm” says nothing to anybody."""
    for (least, most, unit), field in every_range().items():
        if unit == "K" or not 1e-3 < most - least < 1e6:
            continue
        allowed = Range(least, most, unit)
        for value in (most + 0.004 * (most - least), least - 0.004 * (most - least)):
            with pytest.raises(InputError) as caught:
                check_number(field, value, allowed, system)
            assert parse(caught.value.value, unit, field, system) == pytest.approx(
                value, rel=2e-2, abs=1e-3 * (most - least)
            )
            assert caught.value.value not in caught.value.allowed.split(" to ")
