"""Numbers with their units as they are shown, in either system.

A sentence of the core says its numbers by ``amount`` and ``entered``, which hold both systems;
whoever hands the sentence out (an answer, a sheet, the command line) picks one by ``in_system``.
"""

from __future__ import annotations

import math
import re
from functools import lru_cache
from typing import Literal

System = Literal["metric", "us"]

# unit of the core -> (unit shown in US mode, factor to it, decimals metric, decimals US)
_SHOWN: dict[str, tuple[str, float, int, int]] = {
    "mm": ("in", 1 / 25.4, 1, 3),
    "kg": ("lb", 1 / 0.45359237, 2, 2),
    "N·m": ("ft·lb", 1 / 1.3558179483314003, 1, 1),
    "N": ("lbf", 1 / 4.4482216152605, 0, 0),
    "N/mm": ("lbf/in", 25.4 / 4.4482216152605, 0, 0),
    "MPa": ("psi", 145.03773773, 0, 0),
    "km": ("mi", 1 / 1.609344, 0, 0),
    "mm²": ("in²", 1 / 645.16, 0, 2),
    "°": ("°", 1.0, 1, 1),
    "%": ("%", 1.0, 0, 0),
    "×": ("×", 1.0, 2, 2),
    "": ("", 1.0, 0, 0),
    "s": ("s", 1.0, 2, 2),
    "µ": ("µ", 1.0, 2, 2),
    "g": ("oz", 1 / 28.349523125, 0, 1),
    "kN": ("lbf", 1 / 0.0044482216152605, 1, 0),
    "cm²": ("in²", 1 / 6.4516, 0, 1),
    "J": ("ft·lbf", 1 / 1.3558179483314003, 0, 0),
    "m/s": ("ft/s", 1 / 0.3048, 1, 0),
    "km/h": ("mph", 1 / 1.609344, 0, 0),
    "°C": ("°F", 1.8, 0, 0),
    "K": ("°F", 1.8, 0, 0),
}
"""A temperature is shown from its own zero, a difference of two (K) is not."""
_ZERO_F = 32.0

_OPEN, _OR, _END = "\ue000", "\ue001", "\ue002"
_MARKED = re.compile(f"{_OPEN}([^{_OR}]*){_OR}([^{_END}]*){_END}")
_US_PLACES = {"mm": 1, "cm²": 1, "mm²": 2, "g": 1, "kN": -3}
"""Places that a US text has more than the metric one."""


def show(value: float, unit: str, system: System = "metric", decimals: int | None = None) -> str:
    """A number with its unit, in one system; trailing zeros of whole metric sizes go."""
    us_unit, _, metric_places, us_places = _SHOWN.get(unit, (unit, 1.0, 0, 0))
    places = metric_places if system == "metric" else us_places
    if decimals is not None and system == "metric":
        places = decimals
    if unit == "×":
        places = max(0, 2 - len(str(int(abs(value)))) + 1)
    number = value if system == "metric" else _us(value, unit)
    name = unit if system == "metric" else us_unit
    return with_unit(f"{number:.{places}f}", name)


_ZERO = re.compile(r"^[-+]?0(?:\.0*)?$")


def with_unit(number: str, unit: str) -> str:
    """A number with its unit: no sign on a zero, a minus that is one, ° and × close to it."""
    text = number.lstrip("-+") if _ZERO.match(number) else number
    gap = "" if unit in ("°", "×") else " "
    return f"{_minus(text)}{gap}{unit}".strip()


BOUND_OFF = 0.02
"""A bound is shown with as many places as keep it this close to what it is, as a share."""


def bound(value: float, unit: str, system: System, up: bool) -> str:
    """An end of a range with its unit, rounded into the range (``up``: the lower end).

    What is shown is allowed: 1 mm as a least is 0.040 in, not 0.039 in, which is too small.
    """
    us_unit, _, metric_places, us_places = _SHOWN.get(unit, (unit, 1.0, 0, 0))
    exact = value if system == "metric" else _us(value, unit)
    places = metric_places if system == "metric" else us_places
    toward, hair = (math.ceil, -1e-12) if up else (math.floor, 1e-12)
    while True:
        scaled = exact * 10**places
        rounded = toward(scaled + hair * max(1.0, abs(scaled))) / 10**places
        if abs(rounded - exact) <= BOUND_OFF * abs(exact):
            return with_unit(f"{rounded:.{places}f}", unit if system == "metric" else us_unit)
        places += 1


def _us_unit(unit: str) -> str:
    return shown_unit(unit, "us")


def _us(value: float, unit: str) -> float:
    """A core value in its US unit."""
    return value * _SHOWN.get(unit, (unit, 1.0))[1] + (_ZERO_F if unit == "°C" else 0.0)


def either(metric: str, us: str) -> str:
    """A mark that holds both words; ``in_system`` leaves one of them."""
    return metric if metric == us else f"{_OPEN}{metric}{_OR}{us}{_END}"


def amount(value: float, unit: str, places: int | None = None, sign: bool = False) -> str:
    """A number in a sentence, in both systems: whoever hands the sentence out picks one.

    ``places`` of the metric text; as many as usual for the unit where they are not given.
    """
    if places is None:
        return either(show(value, unit), show(value, unit, "us"))
    form = f"{'+' if sign else ''}.{{}}f"
    more = max(places + _US_PLACES.get(unit, 0), 0)
    metric = with_unit(format(value, form.format(places)), unit)
    return either(metric, with_unit(format(_us(value, unit), form.format(more)), _us_unit(unit)))


def entered(value: float, unit: str, sign: bool = False) -> str:
    """A number in a sentence as it was entered, in both systems: no place that says nothing."""
    plus = "+" if sign else ""
    shown = _us(value, unit)
    digits = 3 if abs(shown) < 1 else 4
    us = format(shown, f"{plus}.{digits}g" if abs(shown) < 1e4 else f"{plus}.0f")
    return either(with_unit(format(value, plus + ".10g"), unit), with_unit(us, _us_unit(unit)))


def percent(share: float) -> str:
    """A share in a sentence, as a whole percentage with its space (ISO 80000-1, 7.1.4)."""
    return f"{100.0 * share:.0f} %"


def amount_range(least: float, most: float, unit: str, places: int = 0) -> str:
    """“from … to …” of two numbers in one unit, which is said once."""
    more = max(places + _US_PLACES.get(unit, 0), 0)
    metric = with_unit(f"{least:.{places}f} to {most:.{places}f}", unit)
    us = f"{_us(least, unit):.{more}f} to {_us(most, unit):.{more}f}"
    return either(metric, with_unit(us, _us_unit(unit)))


def place_words(x_mm: float, y_mm: float, places: int = 0) -> str:
    """A place in a sentence, ``x 420, y 15 mm``, in both systems."""
    us = f"x {x_mm / 25.4:.{places + 1}f}, y {y_mm / 25.4:.{places + 1}f} in"
    return either(_minus(f"x {x_mm:.{places}f}, y {y_mm:.{places}f} mm"), _minus(us))


def _minus(text: str) -> str:
    return text.replace("-", "−")


def in_both(text: str) -> str:
    """A sentence for paper, which is read in either system: ``20.0 N·m (14.8 ft·lb)``."""
    return _MARKED.sub(r"\1 (\2)", text)


def in_system(text: str, system: System = "metric") -> str:
    """A sentence (or a whole document of them) with its numbers in one system."""
    return _MARKED.sub(r"\2" if system == "us" else r"\1", text) if _OPEN in text else text


def show_difference(value: float, base: float, unit: str, system: System = "metric") -> str:
    """Difference of two numbers as shown, with its sign: what is on the screen adds up."""
    _, factor, metric_places, us_places = _SHOWN.get(unit, (unit, 1.0, 0, 0))
    places = metric_places if system == "metric" else us_places
    scale = 1.0 if system == "metric" else factor
    difference = round(value * scale, places) - round(base * scale, places)
    text = show(difference / scale, difference_unit(unit), system)
    return f"+{text}" if round(difference, places) > 0 else text


def difference_unit(unit: str) -> str:
    """The unit of a difference or a tolerance: of two temperatures it has no zero of its own."""
    return "K" if unit == "°C" else unit


def shown_unit(unit: str, system: System) -> str:
    """The unit a field of this core unit is typed in."""
    return unit if system == "metric" else _SHOWN.get(unit, (unit,))[0]


def plain_number(value: float, unit: str, system: System) -> str:
    """A number without its unit, as it stands in a field."""
    us_unit, _, _, us_places = _SHOWN.get(unit, (unit, 1.0, 2, 3))
    if system == "metric" or us_unit == unit:
        return f"{value:.10g}"
    return f"{_us(value, unit):.{us_places + 1}f}".rstrip("0").rstrip(".") or "0"


@lru_cache(maxsize=16384)
def in_words(value: float | int | str | None, unit: str, system: System) -> str:
    """Any input as a reason shows it: five digits at most, in one system."""
    if value is None:
        return "not given"
    if isinstance(value, str):
        return f"{value} {unit}".strip()
    us_unit = shown_unit(unit, "us")
    shown, name = (value, unit) if system == "metric" else (_us(value, unit), us_unit)
    digits = f"{shown:.5g}" if abs(shown) < 1e5 else f"{shown:.0f}"
    return f"{digits} {name}".strip().replace("-", "−")
