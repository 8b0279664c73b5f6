"""Coverage drawn: every vital by the share of it that is shielded, from below and ahead."""

from __future__ import annotations

from collections.abc import Callable

from rugged_shield.core.mechanics.drawing import Drawing, Fill, Mark, Path
from rugged_shield.core.mechanics.frames import Vec2, Vec3, from_below, front
from rugged_shield.core.survey.bike import Bike, Part
from rugged_shield.core.survey.drawings import mark_places
from rugged_shield.core.survey.geometry import FoldedPlate
from rugged_shield.core.survey.shapes import DrawnBox, draw_part
from rugged_shield.core.weighup.map_drawings import FILLS

BARE_EDGES = (0.95, 0.75, 0.5, 0.25, 0.05)
BARE_WORDS = (
    "under 5 % shielded",
    "5 to 25 % shielded",
    "25 to 50 % shielded",
    "50 to 75 % shielded",
    "75 to 95 % shielded",
    "shielded",
)
MARGIN_MM = 50.0


def bare_fill(share: float) -> Fill:
    """Shade of a vital by the share of it that is shielded."""
    bare = 1 - share
    for edge, fill in zip(BARE_EDGES, FILLS, strict=False):
        if bare > edge:
            return fill
    return FILLS[-1]


def _plain(place: Vec3) -> Vec2:
    return from_below(place[0], place[1])


def _ahead(place: Vec3) -> Vec2:
    return front(place[1], place[2])


def _box(part: Part, flat: Callable[[Vec3], Vec2]) -> DrawnBox:
    a = flat((part.x_min_mm, part.y_min_mm, part.z_min_mm))
    b = flat((part.x_max_mm, part.y_max_mm, part.z_max_mm))
    return DrawnBox(min(a[0], b[0]), min(a[1], b[1]), max(a[0], b[0]), max(a[1], b[1]))


def _view(
    title: str,
    bike: Bike,
    folded: FoldedPlate,
    shares: dict[str, float],
    flat: Callable[[Vec3], Vec2],
    depth: Callable[[Part], float],
) -> Drawing:
    """Vitals shaded, the plate's outline and openings over them, percents beside their parts."""
    paths: list[Path] = []
    circles, marks, points = [], [], []
    boxes: dict[str, DrawnBox] = {}
    for part in sorted(bike.vitals(), key=depth):
        box = _box(part, flat)
        shapes, rounds = draw_part(part.shape, box, bare_fill(shares[part.key]), part.key)
        paths += shapes
        circles += rounds
        points += [(box.x0, box.y0), (box.x1, box.y1)]
        boxes[part.key] = box
    for key, place in mark_places(boxes, []).items():
        marks.append(Mark(*place, f"{100 * shares[key]:.0f}", "part", key))
    for panel in folded.panels:
        ring = tuple(flat(c) for c in panel.corners())
        points += ring
        paths.append(Path(ring, True, "section", "none", f"panel:{panel.name}"))
        for cutout, opening in panel.openings:
            corners = tuple(flat(panel.to_bike((c[0], c[1]))) for c in opening.exterior.coords)
            paths.append(Path(corners, True, "thin", "none", f"cutout:{cutout.key}"))
    low = (min(p[0] for p in points) - MARGIN_MM, min(p[1] for p in points) - 90.0)
    high = (max(p[0] for p in points) + MARGIN_MM, max(p[1] for p in points) + MARGIN_MM)
    marks += [
        Mark(low[0] + 10, low[1] + 24, "right · throttle side", "side", "side right"),
        Mark(high[0] - 10, low[1] + 24, "left · clutch side", "side", "side left"),
    ]
    return Drawing(
        title=title,
        x=low[0],
        y=low[1],
        width=high[0] - low[0],
        height=high[1] - low[1],
        paths=tuple(paths),
        circles=tuple(circles),
        marks=tuple(marks),
        dimensions=(),
        scale_bar_mm=100.0,
    )


def cover_below(
    bike: Bike, folded: FoldedPlate, shares: dict[str, float], direction: str
) -> Drawing:
    """The underside; ``shares`` shielded 0–1 by vital."""
    return _view(
        f"Bare from below up, for stones {direction}",
        bike,
        folded,
        shares,
        _plain,
        lambda p: -p.z_min_mm,
    )


def cover_front(
    bike: Bike, folded: FoldedPlate, shares: dict[str, float], direction: str
) -> Drawing:
    """The same from ahead: the rider's right at the left of the screen."""
    return _view(
        f"Bare from ahead, for stones {direction}",
        bike,
        folded,
        shares,
        _ahead,
        lambda p: -p.x_min_mm,
    )
