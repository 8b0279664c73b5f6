"""The radius of a tyre from the code that stands on it."""

from __future__ import annotations

import re

from rugged_shield.core.amounts import entered
from rugged_shield.core.errors import InputError

_TYRE = re.compile(
    r"^\s*(?P<width>\d{2,3})\s*/\s*(?P<ratio>\d{2,3})\s*(?:-|[A-Z]{0,2}\s*R\s*|[A-Z]?\s*-?\s*)"
    r"(?P<rim>\d{2})\b",
    re.IGNORECASE,
)


_INCH_TYRE = re.compile(r"^\s*(?P<width>\d(?:[.,]\d{1,2})?)\s*[-x]\s*(?P<rim>\d{2})\b")


INCH_MM = 25.4


_RADIUS = re.compile(
    r"^\s*(?:radius\s*)?(?P<value>\d{1,3}(?:[.,]\d+)?)\s*(?P<unit>mm|in)\s*$", re.IGNORECASE
)
LEAST_RADIUS_MM, MOST_RADIUS_MM = 150.0, 450.0


def tyre_radius_mm(code: str, field: str = "tyre") -> float:
    """Free radius of a tyre from its code, mm: rim/2 + width × ratio (ETRTO designation).

    Reads metric codes such as 90/90-21 and 150/70 R17 and inch codes such as
    3.00-21, whose section is about as high as wide; or the radius itself, as measured from the
    axle to the ground: ``345 mm``, ``13.6 in``. Raises InputError.
    """
    radius = _RADIUS.match(code)
    if radius:
        return _radius(radius, code, field)
    metric = _TYRE.match(code)
    if metric:
        width, ratio, rim = (int(metric[name]) for name in ("width", "ratio", "rim"))
        _check_tyre(field, code, rim, 50 <= width <= 260 and 30 <= ratio <= 110)
        return rim * INCH_MM / 2 + width * ratio / 100
    inch = _INCH_TYRE.match(code)
    if inch:
        wide, rim = float(inch["width"].replace(",", ".")), int(inch["rim"])
        _check_tyre(field, code, rim, 2.0 <= wide <= 6.0)
        return rim * INCH_MM / 2 + wide * INCH_MM
    raise InputError(
        field,
        code,
        "a tyre code such as 90/90-21, 150/70 R17 or 3.00-21, or the radius: 345 mm",
        f"“{code}” is not read as a tyre code",
    )


def _radius(read: re.Match[str], code: str, field: str) -> float:
    value = float(read["value"].replace(",", "."))
    radius_mm = value * (INCH_MM if read["unit"] == "in" else 1.0)
    if not LEAST_RADIUS_MM <= radius_mm <= MOST_RADIUS_MM:
        allowed = (
            f"a radius from {entered(LEAST_RADIUS_MM, 'mm')} to {entered(MOST_RADIUS_MM, 'mm')}"
        )
        raise InputError(field, code, allowed, f"“{code}” is no radius of a motorcycle's wheel")
    return radius_mm


def _check_tyre(field: str, code: str, rim: int, fits: bool) -> None:
    if not fits or not 8 <= rim <= 23:
        raise InputError(
            field,
            code,
            "a rim from 8 to 23 in and a usual section",
            f"“{code}” is no size of motorcycle tyre",
        )
