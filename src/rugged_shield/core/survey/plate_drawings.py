"""The folded plate from below, from its left side and from ahead, to scale."""

from __future__ import annotations

from collections.abc import Callable
from typing import Literal

import shapely

from rugged_shield.core.mechanics.drawing import Drawing, Mark, Path, dimension
from rugged_shield.core.mechanics.frames import Vec2, Vec3, from_below, front, profile
from rugged_shield.core.survey.found import Scar
from rugged_shield.core.survey.geometry import FoldedPlate, slider_ring
from rugged_shield.core.survey.panels import Panel

PlateSide = Literal["from below", "from the left", "from ahead"]
_PROJECT: dict[PlateSide, Callable[[Vec3], Vec2]] = {
    "from below": lambda p: from_below(p[0], p[1]),
    "from the left": lambda p: profile(p[0], p[2]),
    "from ahead": lambda p: front(p[1], p[2]),
}
_NEARER: dict[PlateSide, Callable[[Vec3], float]] = {
    "from below": lambda p: -p[2],
    "from the left": lambda p: -p[1],
    "from ahead": lambda p: -p[0],
}
MARGIN_MM = 45.0


def _middle(panel: Panel) -> Vec3:
    return panel.to_bike((panel.outline.centroid.x, panel.outline.centroid.y))


def _panel_paths(panel: Panel, side: PlateSide) -> list[Path]:
    project = _PROJECT[side]
    ring = tuple(project(c) for c in panel.corners())
    paths = [Path(ring, True, "section", "plate", f"panel:{panel.name}")]
    for cutout, opening in panel.openings:
        hole = tuple(project(panel.to_bike((c[0], c[1]))) for c in opening.exterior.coords)
        fill: Literal["hole", "plate"] = "plate" if cutout.closed_door else "hole"
        paths.append(Path(hole, True, "outline", fill, f"cutout:{cutout.key}"))
    return paths


def scar_paths(folded: FoldedPlate, scars: tuple[Scar, ...]) -> list[Path]:
    """Dents as ovals, scrapes as strokes, where they were found, seen from below."""
    paths = []
    for scar in scars:
        panel = folded.panel(scar.panel)
        if panel is None:
            continue
        core = shapely.LineString(
            [
                (scar.u_mm - scar.length_mm / 2, scar.v_mm),
                (scar.u_mm + scar.length_mm / 2, scar.v_mm),
            ]
        )
        around = core.buffer(max(scar.width_mm / 2, 1.0)) if scar.kind == "dent" else core
        points = [panel.to_bike((c[0], c[1])) for c in shapely.get_coordinates(around)]
        paths.append(
            Path(
                tuple(from_below(p[0], p[1]) for p in points),
                scar.kind == "dent",
                "outline" if scar.kind == "dent" else "section",
                "none",
                f"scar:{scar.key}",
            )
        )
    return paths


def plate_drawing(folded: FoldedPlate, side: PlateSide, scars: tuple[Scar, ...] = ()) -> Drawing:
    """One view of the folded plate with its overall sizes; what is nearer is drawn later."""
    project, nearer = _PROJECT[side], _NEARER[side]
    paths: list[Path] = []
    points: list[Vec2] = []
    for panel in sorted(folded.panels, key=lambda p: nearer(_middle(p))):
        paths += _panel_paths(panel, side)
        points += [project(c) for c in panel.corners()]
    if side == "from below":
        paths += scar_paths(folded, scars)
    if side == "from the left" and folded.slider_mm:
        ring = tuple(project(c) for c in slider_ring(folded))
        paths.append(Path(ring, True, "thin", "plastic", "slider"))
        points += ring
    x0, x1 = min(p[0] for p in points), max(p[0] for p in points)
    y0, y1 = min(p[1] for p in points), max(p[1] for p in points)
    upright = "along" if side == "from below" else "high"
    level = "along" if side == "from the left" else "across"
    words = {"from below": "front", "from the left": "front", "from ahead": "from ahead"}[side]
    return Drawing(
        title=f"The folded plate {side}",
        x=x0 - MARGIN_MM,
        y=y0 - 70,
        width=x1 - x0 + 2 * MARGIN_MM + 90,
        height=y1 - y0 + 170,
        paths=tuple(paths),
        circles=(),
        marks=(Mark(x0, y0 - 40, words, "word", "front"),),
        dimensions=(
            dimension((x0, y1), (x1, y1), 36.0, level, x1 - x0),
            dimension((x1, y0), (x1, y1), 40.0, upright, y1 - y0),
        ),
        scale_bar_mm=100.0,
    )
