"""A plate's geometry in numbers: panels, areas, mass, centre of gravity, low points, folds."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from rugged_shield.core.amounts import amount
from rugged_shield.core.computation import computation
from rugged_shield.core.mechanics.frames import Vec3
from rugged_shield.core.quantity import Ranged
from rugged_shield.core.result import Finding, Input, Outcome, Source, finding
from rugged_shield.core.survey.flat import Fold, flat_pattern
from rugged_shield.core.survey.geometry import FoldedPlate, fold
from rugged_shield.core.survey.panel_clearance import least_panel_clearance_mm
from rugged_shield.core.survey.plate import Plate
from rugged_shield.core.survey.standoff import Face, outer_face

GEOMETRY_SOURCE = Source("polygons in space: shoelace areas, sharp bends on the outer face", "high")
LARGER_THAN_A_BIKE_MM = 1800.0


@dataclass(frozen=True)
class PlateGeometryInput(Ranged):
    """A plate by its numbers."""

    plate: Plate


@dataclass(frozen=True)
class PanelMeasures:
    """One panel: corners of its outer face in the bike frame, mm, and areas, mm²."""

    name: str
    corners_mm: tuple[Vec3, ...]
    inward: Vec3
    area_mm2: float
    net_area_mm2: float
    openings: int


@dataclass(frozen=True)
class PieceGap:
    """Least distance between the outer faces of two pieces, mm; less is thickness between."""

    first: str
    second: str
    gap_mm: float


@dataclass(frozen=True, kw_only=True)
class PlateGeometryResult:
    """Areas mm², mass kg, centre of gravity and lowest point mm, folds, gaps between pieces."""

    panels: tuple[PanelMeasures, ...]
    area_mm2: float
    gross_area_mm2: float
    mass_kg: float
    centre_of_gravity_mm: Vec3
    lowest_point_mm: Vec3
    lowest_panel: str
    size_mm: Vec3
    folds: tuple[Fold, ...]
    fold_length_mm: float
    piece_gaps: tuple[PieceGap, ...]


def piece_gaps(folded: FoldedPlate) -> tuple[PieceGap, ...]:
    """Least distance of every two pieces, outer face to outer face."""
    pieces: dict[str, list[Face]] = {}
    if all(panel.piece == "" for panel in folded.panels):
        return ()
    for panel in folded.panels:
        pieces.setdefault(panel.piece, []).append(outer_face(panel))
    names = list(pieces)
    found = []
    for i, first in enumerate(names):
        for second in names[i + 1 :]:
            gap = least_panel_clearance_mm(tuple(pieces[first]), tuple(pieces[second]))
            found.append(PieceGap(first or "main piece", second or "main piece", gap))
    return tuple(found)


def _size_mm(folded: FoldedPlate) -> Vec3:
    corners = np.array([c for panel in folded.panels for c in panel.corners()])
    x, y, z = (float(d) for d in corners.max(axis=0) - corners.min(axis=0))
    return (x, y, z)


def geometry_findings(folded: FoldedPlate, gaps: tuple[PieceGap, ...]) -> tuple[Finding, ...]:
    """Pieces that run through each other, and a plate larger than any bike."""
    found = [
        finding("pieces cross", f"{g.first} and {g.second} run through each other.", g.second)
        for g in gaps
        if g.gap_mm == 0.0
    ]
    size = _size_mm(folded)
    if max(size) > LARGER_THAN_A_BIKE_MM:
        found.append(
            finding(
                "larger than a bike",
                f"{amount(max(size), 'mm', 0)} long: check the unit of its sizes.",
            )
        )
    return tuple(found)


@computation(
    "plate-geometry",
    page="survey",
    check="test_a_rectangular_trough_has_its_closed_forms",
)
def plate_geometry(given: PlateGeometryInput) -> Outcome[PlateGeometryResult]:
    """Fold a plate and measure it.

    Areas of polygons less open cutouts; mass ρ·t·A with slider and fittings;
    centre of gravity at half thickness; lowest corner of sheet or slider.
    """
    plate = given.plate
    folded = fold(plate)
    gaps = piece_gaps(folded)
    folds = flat_pattern(plate).folds
    point, panel_name = folded.lowest_mm()
    panels = tuple(
        PanelMeasures(p.name, p.corners(), p.inward, p.outline.area, p.net().area, len(p.openings))
        for p in folded.panels
    )
    mass = folded.sheet_mass_kg + plate.brackets_mass_kg + plate.wear_piece_kg
    return Outcome(
        result=PlateGeometryResult(
            panels=panels,
            area_mm2=folded.area_mm2,
            gross_area_mm2=sum(p.area_mm2 for p in panels),
            mass_kg=mass,
            centre_of_gravity_mm=folded.centre_of_gravity_mm,
            lowest_point_mm=point,
            lowest_panel=panel_name,
            size_mm=_size_mm(folded),
            folds=folds,
            fold_length_mm=sum(f.length_mm for f in folds),
            piece_gaps=gaps,
        ),
        inputs=(
            Input("Material", plate.material),
            Input("Thickness", plate.thickness_mm, "mm"),
            Input("Panels", len(panels)),
            Input("Cutouts", len(plate.cutouts)),
        ),
        findings=geometry_findings(folded, gaps),
        reasons=("Every panel is a flat polygon on the outer face; inside is one thickness in.",),
        assumptions=(
            "Bends are sharp; no bend allowance in the flat pattern.",
            "Fittings weigh, but do not move the centre of gravity.",
        ),
        sources=(GEOMETRY_SOURCE,),
    )
