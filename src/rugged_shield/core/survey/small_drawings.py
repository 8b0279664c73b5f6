"""A bike's underside and its plate as a small picture: shapes alone, to be told at a glance."""

from __future__ import annotations

from dataclasses import replace

from rugged_shield.core.mechanics.drawing import Circle, Drawing, Path
from rugged_shield.core.mechanics.frames import Vec2, from_below
from rugged_shield.core.survey.bike import Bike
from rugged_shield.core.survey.geometry import FoldedPlate
from rugged_shield.core.survey.shapes import box_below, draw_part

MOUNT_MM = 9.0
MARGIN_MM = 18.0


def _rounded(points: tuple[Vec2, ...]) -> tuple[Vec2, ...]:
    """Whole millimetres are enough here, and a list of many jobs stays small."""
    return tuple((float(round(x)), float(round(y))) for x, y in points)


def _outlines(folded: FoldedPlate) -> list[Path]:
    return [
        Path(_rounded(tuple(from_below(c[0], c[1]) for c in p.corners())), True, "outline", "plate")
        for p in folded.panels
    ]


def _framed(
    title: str, paths: list[Path], circles: tuple[Circle, ...], extent: list[Vec2]
) -> Drawing:
    xs, ys = [p[0] for p in extent], [p[1] for p in extent]
    x, y = min(xs) - MARGIN_MM, min(ys) - MARGIN_MM
    return Drawing(
        title=title,
        x=round(x),
        y=round(y),
        width=round(max(xs) + MARGIN_MM - x),
        height=round(max(ys) + MARGIN_MM - y),
        paths=tuple(paths),
        circles=circles,
        marks=(),
        dimensions=(),
        scale_bar_mm=0.0,
    )


def small_underside(bike: Bike, plate: FoldedPlate | None) -> Drawing:
    """The bike from below without words: its parts, the plate over them, the mounts; mm.

    Front at the top, the rider's right at the left, as in every drawing from below.
    """
    paths: list[Path] = []
    circles: list[Circle] = []
    extent: list[Vec2] = []
    for part in sorted(bike.parts, key=lambda p: -p.z_min_mm):
        box = box_below(part)
        drawn, rounds = draw_part(part.shape, box, "part" if part.kind == "vital" else "none", "")
        paths += [replace(p, points=_rounded(p.points)) for p in drawn]
        circles += rounds
        extent += [(box.x0, box.y0), (box.x1, box.y1)]
    if plate is not None:
        outlines = _outlines(plate)
        paths += outlines
        extent += [point for path in outlines for point in path.points]
    places = [from_below(m.x_mm, m.y_mm) for m in bike.mounts]
    circles += [Circle(round(x), round(y), MOUNT_MM, "outline", "paper") for x, y in places]
    extent += places
    name = f"{bike.name} from below"
    return _framed(name, paths, tuple(circles), extent or [(0.0, 0.0)])


def small_plate(name: str, folded: FoldedPlate) -> Drawing:
    """A plate alone from below, with its openings; mm."""
    paths = _outlines(folded)
    extent = [point for path in paths for point in path.points]
    for panel in folded.panels:
        for _, opening in panel.openings:
            ring = [panel.to_bike((c[0], c[1])) for c in opening.exterior.coords]
            points = _rounded(tuple(from_below(p[0], p[1]) for p in ring))
            paths.append(Path(points, True, "thin", "paper"))
    return _framed(f"{name} from below", paths, (), extent)
