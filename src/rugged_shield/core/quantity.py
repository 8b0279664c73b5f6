"""Units: reading what people type, showing both systems, checking ranges.

Inside the core a number's unit is in its name (``_mm``, ``_nm`` …). Text is
split here into one number and one unit by a small grammar; the unit goes to
Pint, which knows the factors and the dimension. Pint is imported late, since
it is slow and most entries need no conversion.
"""

from __future__ import annotations

import math
import re
from dataclasses import dataclass
from functools import cache, lru_cache
from typing import Annotated, Any, get_args, get_origin, get_type_hints

from rugged_shield.core.amounts import System, bound, entered, plain_number, shown_unit, with_unit
from rugged_shield.core.errors import InputError

_PINT_NAME = {
    "mm": "millimeter",
    "cm": "centimeter",
    "m": "meter",
    "in": "inch",
    "inch": "inch",
    "inches": "inch",
    '"': "inch",
    "″": "inch",
    "ft": "foot",
    "kg": "kilogram",
    "g": "gram",
    "lb": "pound",
    "lbs": "pound",
    "oz": "ounce",
    "n·m": "newton * meter",
    "nm": "newton * meter",
    "n.m": "newton * meter",
    "ft·lb": "foot * pound_force",
    "ft.lb": "foot * pound_force",
    "ft-lb": "foot * pound_force",
    "lbf·ft": "foot * pound_force",
    "lbf.ft": "foot * pound_force",
    "lbf ft": "foot * pound_force",
    "ft lb": "foot * pound_force",
    "ft lbf": "foot * pound_force",
    "lb ft": "foot * pound_force",
    "in·lb": "inch * pound_force",
    "in.lb": "inch * pound_force",
    "in lb": "inch * pound_force",
    "lbf·in": "inch * pound_force",
    "lbf.in": "inch * pound_force",
    "lbf in": "inch * pound_force",
    "kgf·m": "kilogram_force * meter",
    "kgf.m": "kilogram_force * meter",
    "kgf·cm": "kilogram_force * centimeter",
    "kgf.cm": "kilogram_force * centimeter",
    "n/mm": "newton / millimeter",
    "kn/mm": "kilonewton / millimeter",
    "lbf/in": "pound_force / inch",
    "lb/in": "pound_force / inch",
    "n": "newton",
    "lbf": "pound_force",
    "mpa": "megapascal",
    "psi": "psi",
    "km": "kilometer",
    "mi": "mile",
    "miles": "mile",
    "mile": "mile",
    "°": "degree",
    "deg": "degree",
    "°c": "degC",
    "mm²": "millimeter ** 2",
    "in²": "inch ** 2",
    "x": "dimensionless",
    "×": "dimensionless",
    "j": "joule",
    "ft·lbf": "foot * pound_force",
    "ft-lbf": "foot * pound_force",
    "m/s": "meter / second",
    "ft/s": "foot / second",
    "mph": "mile / hour",
    "km/h": "kilometer / hour",
    "min": "minute",
    "h": "hour",
}

_CORE_PINT = {
    "mm": "millimeter",
    "kg": "kilogram",
    "N·m": "newton * meter",
    "N": "newton",
    "MPa": "megapascal",
    "km": "kilometer",
    "°": "degree",
    "°C": "degC",
    "mm²": "millimeter ** 2",
    "×": "dimensionless",
    "J": "joule",
    "min": "minute",
    "N/mm": "newton / millimeter",
}

_NUMBER = r"[+-]?(?:\d+(?:[.,]\d+)?|[.,]\d+)(?:[eE][+-]?\d+)?"
_MIXED = re.compile(r"^([+-]?\d+)(?:[ ]+|-)(\d+)/(\d+)(?![\d.,])")
_FRACTION = re.compile(r"^([+-]?\d+)/(\d+)(?![\d.,])")
_DECIMAL = re.compile(rf"^({_NUMBER})")
_NAMES = re.compile(r"""[^\W\d_]|["″%°×]""")
"""What no unit is without: a letter, or one of the marks that stand for one."""


@dataclass(frozen=True)
class Range:
    """The allowed range of a number field and the unit it is in."""

    least: float
    most: float
    unit: str = ""

    def words(self, system: System = "metric") -> str:
        """The range in words, in the system the person works in: both ends are allowed."""
        least, most = (
            bound(end, self.unit, system, up)
            for end, up in ((self.least, True), (self.most, False))
        )
        return f"a number from {least} to {most}"


@cache
def _registry() -> Any:
    from pint import UnitRegistry

    return UnitRegistry(cache_folder=None)


def _one_part(text: str, field: str, original: str) -> tuple[float, str, str]:
    """Split the first number and its unit off ``text``; returns the rest too."""
    if m := _MIXED.match(text):
        if int(m[3]) == 0:
            raise InputError(field, original, "a number", "a fraction cannot be over zero")
        part = int(m[2]) / int(m[3])
        whole = int(m[1])
        number = whole - part if m[1].startswith("-") else whole + part
    elif m := _FRACTION.match(text):
        if int(m[2]) == 0:
            raise InputError(field, original, "a number", "a fraction cannot be over zero")
        number = int(m[1]) / int(m[2])
    elif m := _DECIMAL.match(text):
        number = float(m[1].replace(",", "."))
    else:
        raise InputError(field, original, "a number", f"“{original}” is not a number")
    rest = text[m.end() :].lstrip()
    unit_match = re.match(r"^[^\d+\-]*(?:[-·. ][^\d+\-]+)*", rest)
    unit = (unit_match[0] if unit_match else "").strip()
    return number, unit, rest[len(unit) :].strip()


@lru_cache(maxsize=256)
def _factor(unit: str, core_unit: str, field: str, original: str) -> float:
    name = _PINT_NAME.get(unit.lower().replace("*", "·").replace(" ·", "·"))
    target = _CORE_PINT.get(core_unit)
    if name is None or target is None:
        raise InputError(
            field,
            original,
            f"a value in {core_unit or 'plain numbers'}",
            f"the unit “{unit}” is not known here",
        )
    ureg = _registry()
    try:
        return float(ureg.Quantity(1.0, name).to(target).magnitude)
    except Exception as error:
        raise InputError(
            field,
            original,
            f"a value in {core_unit}",
            f"“{unit}” does not measure what this field holds",
        ) from error


def _unreadable(field: str, original: str) -> InputError:
    return InputError(field, original, "one number and one unit", f"cannot read “{original}”")


_GROUPED = re.compile(r"(?<=\d)[ '\u2009\u202f](?=\d{3}(?:[^\d/]|$))")
"""What stands between groups of three digits: 12 000."""
_CURRENCY = re.compile("[$¢£¥\u20a0-\u20bf]")
_NO_CENTS = re.compile(r"(?<=\d)[.,][-–—]{1,2}$")
"""How a price without cents is often written: 219,-"""
_THOUSANDS = re.compile(
    r"(?<![\d.,])(\d{1,3}(?:,\d{3})+)(\.\d+)|(?<![\d.,])(\d{1,3}(?:\.\d{3})+)(,\d+)"
)
"""Groups by one mark and a decimal by the other: 1,219.50 and 1.219,50 can mean one thing each."""


def _ungrouped(text: str) -> str:
    """Without the marks between groups of three digits, where they cannot be a decimal."""

    def joined(found: re.Match[str]) -> str:
        whole, part = (found[1], found[2]) if found[1] else (found[3], found[4])
        return f"{re.sub('[.,]', '', whole)}.{part[1:]}"

    return _THOUSANDS.sub(joined, _GROUPED.sub("", text))


def parse(text: str, unit: str, field: str = "value", system: System = "metric") -> float:
    """Read what a person typed into the core's unit.

    Accepts ``3,5 mm``, ``5/32 in``, ``1 1/2 in``, ``9-7/8 in``, ``21 lbf ft``, ``5 lb 3 oz``,
    ``12 000``, ``1,219.50``, ``1.219,50``, and for plain numbers ``189 €`` and ``219,-``;
    a bare number is in the unit that ``system`` shows. Raises InputError for
    anything else, naming the field and what was typed.
    """
    original = text.strip()
    if not original:
        raise InputError(
            field,
            text,
            f"a number in {shown_unit(unit, system)}".removesuffix(" in "),
            "nothing was entered",
        )
    rest = _ungrouped(original.replace("−", "-").replace("\u00a0", " "))
    if not unit:
        rest = _NO_CENTS.sub("", _CURRENCY.sub("", rest).strip()) or original
    if len(rest) > 60:
        raise InputError(field, original, "one number and one unit", "that is too long")
    total = 0.0
    bare = shown_unit(unit, system)
    sign = 1.0
    for position in range(3):
        number, name, rest = _one_part(rest, field, original)
        if (position and (not name or number < 0)) or (name and not _NAMES.search(name)):
            raise _unreadable(field, original)
        if not position and number < 0:
            sign = -1.0
        used = name or bare
        if unit == "°C" and used.lower() in ("°f", "f"):
            if rest or position:
                raise _unreadable(field, original)
            total = (sign * abs(number) - 32.0) / 1.8
            break
        factor = 1.0 if used.lower() == unit.lower() else _factor(used, unit, field, original)
        total += sign * abs(number) * factor
        if not rest:
            break
        if not name:
            raise _unreadable(field, original)
    else:
        raise _unreadable(field, original)
    if not math.isfinite(total):
        raise InputError(field, original, "a finite number", "that number is not finite")
    return total


def hints_of(cls: Any) -> dict[str, Any]:
    """The types of a dataclass's fields, ranges included; found out once for each class."""
    return _hints_of(cls)


@cache
def _hints_of(cls: Any) -> dict[str, Any]:
    return get_type_hints(cls, include_extras=True)


def ranges_of(cls: Any) -> dict[str, Range]:
    """The documented range of every ranged field of a dataclass."""
    return _ranges_of(cls)


@cache
def _ranges_of(cls: Any) -> dict[str, Range]:
    found: dict[str, Range] = {}
    for name, hint in hints_of(cls).items():
        options = (hint, *get_args(hint)) if get_origin(hint) is not Annotated else (hint,)
        for option in options:
            if get_origin(option) is Annotated:
                for extra in get_args(option)[1:]:
                    if isinstance(extra, Range):
                        found[name] = extra
    return found


def check_number(field: str, value: object, allowed: Range, system: System = "metric") -> None:
    """Refuse a value that is no finite number inside ``allowed``."""
    if isinstance(value, bool) or not isinstance(value, (int, float)):
        raise InputError(field, value, allowed.words(system), f"“{value}” is not a number")
    if not math.isfinite(value):
        raise InputError(field, value, allowed.words(system), "that number is not finite")
    if not allowed.least <= value <= allowed.most:
        words = allowed.words(system)
        number = plain_number(float(value), allowed.unit, system)
        shown = with_unit(number, shown_unit(allowed.unit, system))
        side = "too small" if value < allowed.least else "too large"
        raise InputError(field, shown, words, f"{shown} is {side}")


def check_ranges(obj: object) -> None:
    """Check every ranged field of a frozen dataclass (called from ``__post_init__``)."""
    for name, allowed in ranges_of(type(obj)).items():
        value = getattr(obj, name)
        if value is not None:
            check_number(name, value, allowed)


def check_order(
    low: tuple[str, float],
    high: tuple[str, float],
    unit: str,
    message: str,
    touching: bool = False,
) -> None:
    """Refuse two fields (name, value) whose order is wrong; ``touching``: equal ones are allowed.

    The refusal is at the higher one, and reads the other way round where the lower was typed.
    """
    if low[1] < high[1] or (touching and low[1] == high[1]):
        return
    below, above = (entered(value, unit) for _, value in (low, high))
    least, most = ("at least", "at most") if touching else ("more than", "less than")
    refusal = InputError(high[0], above, f"{least} {below}", message)
    refusal.counterpart = InputError(low[0], below, f"{most} {above}", message)
    raise refusal


class Ranged:
    """Mixin for input dataclasses: documented ranges are enforced when built."""

    def __post_init__(self) -> None:
        check_ranges(self)


TORQUE_UNITS_NM: dict[str, float] = {
    "N.m": 1.0,
    "lbf.ft": 1.3558179483314003,
    "lbf.in": 0.11298482902761668,
    "kgf.m": 9.80665,
    "kgf.cm": 0.0980665,
}
"""Exact factors to N·m (the pound is 0.45359237 kg, the inch 25.4 mm, g 9.80665 m/s²)."""

_TORQUE_ALIAS = {
    "N·m": "N.m",
    "ft·lb": "lbf.ft",
    "ft.lb": "lbf.ft",
    "lbf·ft": "lbf.ft",
    "in·lb": "lbf.in",
    "in.lb": "lbf.in",
    "lbf·in": "lbf.in",
    "kgf·m": "kgf.m",
    "kgf·cm": "kgf.cm",
}


def convert_torque(value: float, unit_from: str, unit_to: str) -> float:
    """Convert a torque between N·m, lbf·ft, lbf·in, kgf·m and kgf·cm with exact factors."""
    known = ", ".join(TORQUE_UNITS_NM)
    factors = []
    for field, name in (("unit_from", unit_from), ("unit_to", unit_to)):
        key = _TORQUE_ALIAS.get(name, name)
        if key not in TORQUE_UNITS_NM:
            raise InputError(field, name, f"one of {known}", f"“{name}” is no torque unit")
        factors.append(TORQUE_UNITS_NM[key])
    if isinstance(value, bool) or not math.isfinite(value):
        raise InputError("value", value, "a finite number", "that is not a finite number")
    return value * factors[0] / factors[1]
