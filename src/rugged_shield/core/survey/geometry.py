"""The plate folded in space: area, mass, centre of gravity, lowest points."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache

from shapely import Point

from rugged_shield.core.mechanics.frames import Vec2, Vec3, add, dot
from rugged_shield.core.survey.panels import Panel, flat_panels
from rugged_shield.core.survey.plate import Plate
from rugged_shield.core.survey.pose import Pose
from rugged_shield.core.tables.materials import SHEET_MATERIALS


@dataclass(frozen=True, eq=False)
class FoldedPlate:
    """All panels of a plate in one pose: area mm², sheet mass kg, centre of gravity.

    Compared by identity: ``fold`` gives the same object for the same plate and pose.

    The centre of gravity is at half thickness of each panel; the mass is that of
    the sheets and the slider, without fittings.
    """

    panels: tuple[Panel, ...]
    area_mm2: float
    sheet_mass_kg: float
    centre_of_gravity_mm: Vec3
    slider_mm: float = 0.0

    def underside(self) -> tuple[tuple[Vec3, str], ...]:
        """Every corner of the lowest face, the slider's included, with its panel."""
        return _underside(self.panels, self.slider_mm)

    def lowest_mm(self) -> tuple[Vec3, str]:
        """Lowest corner of sheet or slider and the panel it is on."""
        return min(self.underside(), key=lambda found: found[0][2])

    def panel(self, name: str) -> Panel | None:
        """The panel of that name."""
        return next((p for p in self.panels if p.name == name), None)


def slider_ring(folded: FoldedPlate) -> tuple[Vec3, ...]:
    """The section of a slider along the bike: under the belly's front and rear edge; or nothing."""
    belly = folded.panel("belly")
    if belly is None or not folded.slider_mm:
        return ()
    corners = sorted(belly.corners(), key=lambda c: c[0])
    front, rear = corners[0], corners[-1]
    down = -folded.slider_mm
    return (front, rear, add(rear, belly.inward, down), add(front, belly.inward, down))


@lru_cache(maxsize=256)
def _underside(panels: tuple[Panel, ...], slider_mm: float) -> tuple[tuple[Vec3, str], ...]:
    found = []
    for panel in panels:
        down = slider_mm if panel.name == "belly" else 0.0
        found += [(add(c, panel.inward, -down), panel.name) for c in panel.corners()]
    return tuple(found)


@lru_cache(maxsize=512)
def fold(plate: Plate, pose: Pose = Pose()) -> FoldedPlate:
    """Fold a plate from its numbers; areas mm², centre of gravity in the bike frame.

    Raises InputError naming a cutout outside its panel, a crossing outline, a
    wing longer than its edge or a belly that would stand upright.
    """
    panels = tuple(
        replace(
            p,
            origin=pose.lift(p.origin),
            u=pose.turn(p.u),
            v=pose.turn(p.v),
            inward=pose.turn(p.inward),
        )
        for p in flat_panels(plate)
    )
    area = mass = 0.0
    moment: Vec3 = (0.0, 0.0, 0.0)
    for panel in panels:
        net = panel.net()
        density = SHEET_MATERIALS[panel.material].density_kg_m3 * 1e-9
        own = density * net.area * panel.thickness_mm
        middle = panel.to_bike((net.centroid.x, net.centroid.y))
        area += net.area
        mass += own
        moment = add(moment, add(middle, panel.inward, panel.thickness_mm / 2), own)
    slider = _slider(plate, panels[0])
    if slider is not None:
        own, middle = slider
        mass += own
        moment = add(moment, middle, own)
    centre = (moment[0] / mass, moment[1] / mass, moment[2] / mass)
    return FoldedPlate(panels, area, mass, centre, plate.slider_thickness_mm or 0.0)


def _slider(plate: Plate, belly: Panel) -> tuple[float, Vec3] | None:
    """Mass kg and middle of the slider layer under the belly."""
    if not plate.slider_material or plate.slider_thickness_mm is None:
        return None
    net = belly.net()
    density = SHEET_MATERIALS[plate.slider_material].density_kg_m3 * 1e-9
    middle = belly.to_bike((net.centroid.x, net.centroid.y))
    thickness = plate.slider_thickness_mm
    return density * net.area * thickness, add(middle, belly.inward, -thickness / 2)


def sheet_point(folded: FoldedPlate, x_mm: float, y_mm: float, every: bool = False) -> Vec3 | None:
    """The point of the sheet straight above or below (x, y), or None off it.

    Belly, tail and apron are looked at; with ``every`` wings and further pieces too.
    """
    for panel in folded.panels:
        if not every and panel.name not in ("belly", "tail", "apron"):
            continue
        found = _point_on(panel, x_mm, y_mm)
        if found is not None:
            return found
    return None


def piece_alone(folded: FoldedPlate, piece: str) -> FoldedPlate:
    """A plate with the panels of one piece only; the main one is the empty key."""
    return replace(folded, panels=tuple(p for p in folded.panels if p.piece == piece))


def sheets_over(folded: FoldedPlate, x_mm: float, y_mm: float) -> dict[str, float]:
    """Height mm of every piece's sheet straight above or below (x, y), by key; main one empty."""
    found: dict[str, float] = {}
    for panel in folded.panels:
        point = _point_on(panel, x_mm, y_mm)
        if point is not None:
            found.setdefault(panel.piece, point[2])
    return found


def sheet_place(folded: FoldedPlate, x_mm: float, y_mm: float) -> tuple[Panel, Vec2] | None:
    """The panel of the main piece straight above or below (x, y), and where on it; None off it."""
    for panel in folded.panels:
        found = _point_on(panel, x_mm, y_mm) if panel.piece == "" else None
        if found is not None:
            away = add(found, panel.origin, -1.0)
            return panel, (dot(away, panel.u), dot(away, panel.v))
    return None


def sheet_normal_point(
    folded: FoldedPlate, x_mm: float, y_mm: float, with_pieces: bool = False
) -> tuple[Vec3, Vec3] | None:
    """The point of the main piece straight above or below (x, y), and the way into the bike.

    ``with_pieces``: of any piece, the main one first.
    """
    for panel in sorted(folded.panels, key=lambda p: p.piece != ""):
        if panel.piece == "" or with_pieces:
            found = _point_on(panel, x_mm, y_mm)
            if found is not None:
                return found, panel.inward
    return None


def _in_plane(panel: Panel, x_mm: float, y_mm: float) -> tuple[float, float, float] | None:
    """Height of a panel's plane at (x, y), and where that is in its u, v; None where it is steep.

    A panel that stands upright has no place above or below anything.
    """
    n, o = panel.normal, panel.origin
    if abs(n[2]) < 1e-9:
        return None
    z = o[2] - (n[0] * (x_mm - o[0]) + n[1] * (y_mm - o[1])) / n[2]
    relative = (x_mm - o[0], y_mm - o[1], z - o[2])
    return z, dot(relative, panel.u), dot(relative, panel.v)


def _point_on(panel: Panel, x_mm: float, y_mm: float) -> Vec3 | None:
    """The point of a panel's plane at (x, y), if it lies on the panel."""
    found = _in_plane(panel, x_mm, y_mm)
    if found is None or not panel.allowed().covers(Point(found[1:])):
        return None
    return (x_mm, y_mm, found[0])


def panel_under(
    folded: FoldedPlate, x_mm: float, y_mm: float
) -> tuple[Panel, tuple[float, float]] | None:
    """The panel of the main piece at (x, y), and where that is in its own u, v."""
    for panel in folded.panels:
        found = _in_plane(panel, x_mm, y_mm) if panel.piece == "" else None
        if found is not None and panel.outline.covers(Point(found[1:])):
            return panel, found[1:]
    return None
