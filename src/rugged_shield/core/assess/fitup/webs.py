"""Openings that cut a panel in two, or leave it hanging on thin webs.

A web carries what hangs on it as a strip in bending and tear; sheet-metal practice leaves 4 t and
15 mm at least (own estimate, low confidence).
"""

from __future__ import annotations

from collections.abc import Iterator
from functools import lru_cache

from shapely import Polygon
from shapely.geometry.base import BaseGeometry

from rugged_shield.core.amounts import amount, percent
from rugged_shield.core.result import Finding, from_table
from rugged_shield.core.survey.geometry import fold
from rugged_shield.core.survey.panels import Panel
from rugged_shield.core.survey.plate import Plate

WEB_MM, WEB_T = 15.0, 4.0
TEARS_T = 2.0
"""A web that is narrower than so many thicknesses tears as soon as it bends."""
PART_SHARE = 0.08
"""A piece of a panel that is smaller is a lug or a sliver, and carries nothing."""
_CLOSE_MM = 0.5


def _parts(net: BaseGeometry, whole_mm2: float) -> list[Polygon]:
    """Pieces that count, largest first."""
    pieces = [p for p in getattr(net, "geoms", (net,)) if isinstance(p, Polygon)]
    counting = [p for p in pieces if p.area >= PART_SHARE * whole_mm2]
    return sorted(counting, key=lambda p: -p.area)


def _web_mm(net: BaseGeometry, whole_mm2: float, most_mm: float) -> float:
    """Width at which the panel comes apart as its sheet is pared from all sides, mm.

    Bisection between a width that holds together and ``most_mm``, at which it does not.
    """
    low, high = 0.0, most_mm
    while high - low > _CLOSE_MM:
        middle = (low + high) / 2
        if len(_parts(net.buffer(-middle / 2), whole_mm2)) > 1:
            high = middle
        else:
            low = middle
    return high


def _of_panel(panel: Panel) -> Iterator[Finding]:
    opened = [opening for cutout, opening in panel.openings if not cutout.closed_door]
    if not opened:
        return
    net, whole, thick = panel.net(), panel.outline.area, panel.thickness_mm
    wanted = max(WEB_MM, WEB_T * thick)
    pared = _parts(net.buffer(-wanted / 2), whole)
    # a sheet that is narrow itself, like a tail, comes apart without any opening
    if len(pared) < 2 or len(_parts(panel.outline.buffer(-wanted / 2), whole)) > 1:
        return
    web = _web_mm(net, whole, wanted)
    yield from_table(
        "panel cut in two" if web < TEARS_T * thick else "panel on thin webs",
        panel.name,
        panel=panel.name,
        web=amount(web, "mm", 0),
        share=percent(sum(p.area for p in pared[1:]) / sum(p.area for p in pared)),
        wanted=amount(wanted, "mm", 0),
    )


@lru_cache(maxsize=256)
def web_findings(plate: Plate) -> tuple[Finding, ...]:
    """What openings leave of each panel; what the bike came with is not asked.

    Remembered by the plate as drawn: how it hangs leaves its webs as they are.
    """
    if plate.role == "stock":
        return ()
    return tuple(found for panel in fold(plate).panels for found in _of_panel(panel))
