"""Mass of a plate, and two sheets compared by mass and stiffness."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

from rugged_shield.core.amounts import amount, entered
from rugged_shield.core.computation import computation
from rugged_shield.core.errors import InputError, choose
from rugged_shield.core.quantity import Range, Ranged
from rugged_shield.core.result import Finding, Input, Outcome, Source, finding
from rugged_shield.core.survey.geometry import fold
from rugged_shield.core.survey.panels import flat_panels
from rugged_shield.core.survey.plate import Plate
from rugged_shield.core.tables.materials import ROOM_C, SHEET_MATERIALS

CLAIM_TOLERANCE = 0.12
MASS_SOURCE = Source("mass = density × thickness × developed area less cutouts", "high")
STIFFNESS_SOURCE = Source("thin-plate bending stiffness E·t³/(12(1−ν²)), Timoshenko", "high")


@dataclass(frozen=True, kw_only=True)
class PlateMassInput(Ranged):
    """A plate by its numbers, or by area: material, thickness mm, area mm² less cutouts."""

    plate: Plate | None = None
    material: str = ""
    thickness_mm: Annotated[float | None, Range(0.5, 25.0, "mm")] = None
    area_mm2: Annotated[float | None, Range(100.0, 3e6, "mm²")] = None
    cutout_area_mm2: Annotated[float, Range(0.0, 3e6, "mm²")] = 0.0
    fittings_mass_kg: Annotated[float, Range(0.0, 20.0, "kg")] = 0.0
    claimed_mass_kg: Annotated[float | None, Range(0.05, 40.0, "kg")] = None

    def __post_init__(self) -> None:
        super().__post_init__()
        if self.plate is not None:
            return
        choose("material", self.material, SHEET_MATERIALS, "sheet material")
        if self.thickness_mm is None:
            raise InputError("thickness_mm", None, "a thickness from 0.5 to 25 mm")
        if self.area_mm2 is None:
            raise InputError("area_mm2", None, "an area in mm², or a plate")
        if self.cutout_area_mm2 >= self.area_mm2:
            raise InputError(
                "cutout_area_mm2",
                self.cutout_area_mm2,
                f"less than {entered(self.area_mm2, 'mm²')}",
            )


@dataclass(frozen=True, kw_only=True)
class PlateMassResult:
    """Masses kg; the thickness mm a claimed mass would mean; area mm², density kg/m³.

    ``mass_kg`` is the computed one, ``held_mass_kg`` the one that holds, ``held_as`` says which:
    a scale before the sheet's claim before the computation.
    """

    area_mm2: float
    density_kg_m3: float
    sheet_mass_kg: float
    mass_kg: float
    claimed_mass_kg: float | None
    claimed_difference: float | None
    implied_thickness_mm: float | None
    held_mass_kg: float
    held_as: Literal["weighed", "claimed", "computed"]


@dataclass(frozen=True, kw_only=True)
class _Sheet:
    """What is computed, kg: the plate's own sheet, other sheets, fittings; area mm², thickness mm.

    Other sheets are the slider, and pieces of another material or thickness; ``put_on_kg`` of all
    that is in no claim.
    """

    material: str
    area_mm2: float
    thickness_mm: float
    main_kg: float
    others_kg: float
    fittings_kg: float
    put_on_kg: float = 0.0

    def means_mm(self, mass_kg: float) -> float:
        """The thickness that a mass would mean, mm."""
        return self.thickness_mm * (mass_kg - self.fittings_kg - self.others_kg) / self.main_kg


def _sheet_of(given: PlateMassInput) -> _Sheet:
    plate = given.plate
    if plate is not None:
        main = _own_sheet_kg(plate)
        return _Sheet(
            material=plate.material,
            area_mm2=fold(plate).area_mm2,
            thickness_mm=plate.thickness_mm,
            main_kg=main,
            others_kg=fold(plate).sheet_mass_kg - main,
            fittings_kg=plate.brackets_mass_kg + plate.wear_piece_kg + given.fittings_mass_kg,
            put_on_kg=_put_on_kg(plate),
        )
    area, thickness = (given.area_mm2 or 0.0) - given.cutout_area_mm2, given.thickness_mm or 0.0
    return _Sheet(
        material=given.material,
        area_mm2=area,
        thickness_mm=thickness,
        main_kg=SHEET_MATERIALS[given.material].density_kg_m3 * 1e-9 * thickness * area,
        others_kg=0.0,
        fittings_kg=given.fittings_mass_kg,
    )


@computation(
    "plate-mass",
    page="plates",
    check="test_mass_of_a_box",
)
def plate_mass(given: PlateMassInput) -> Outcome[PlateMassResult]:
    """Mass = ρ·t·A + fittings; a claim over 12 % off says which thickness it means."""
    plate, own = given.plate, _sheet_of(given)
    claimed, weighed, ratio = given.claimed_mass_kg, None, 1.0
    if plate is not None:
        claimed = plate.claimed_mass_kg if claimed is None else claimed
        weighed, ratio = plate.weighed_mass_kg, plate.mass_ratio
    sheet, fittings, thickness = own.main_kg + own.others_kg, own.fittings_kg, own.thickness_mm
    total = (sheet + fittings) * ratio
    put_on = own.put_on_kg * ratio
    row = SHEET_MATERIALS[own.material]
    findings = [
        _claim_finding(word, mass, total - put_on, own.means_mm(mass + put_on), thickness)
        for word, mass in (("Claimed", claimed), ("Weighed", weighed))
        if mass is not None and abs(mass / (total - put_on) - 1) > CLAIM_TOLERANCE
    ]
    return Outcome(
        result=PlateMassResult(
            area_mm2=own.area_mm2,
            density_kg_m3=row.density_kg_m3,
            sheet_mass_kg=sheet,
            mass_kg=total,
            claimed_mass_kg=claimed,
            claimed_difference=None if claimed is None else claimed / (total - put_on) - 1,
            implied_thickness_mm=None if claimed is None else own.means_mm(claimed + put_on),
            held_mass_kg=_held_kg(weighed or claimed, put_on, total),
            held_as="weighed" if weighed else "claimed" if claimed else "computed",
        ),
        inputs=(
            Input("Material", own.material),
            Input("Density", row.density_kg_m3, "kg/m³"),
            Input("Thickness", thickness, "mm"),
            Input("Sheet area less cutouts", own.area_mm2, "mm²"),
            Input("Slider and pieces of another sheet", own.others_kg, "kg"),
            Input("Brackets and hardware", fittings, "kg"),
            Input("Computed mass", total, "kg"),
            Input("Claimed mass", claimed, "kg"),
            Input("Weighed mass", weighed, "kg"),
        ),
        findings=tuple(findings),
        reasons=("Mass = density × thickness × sheet area less cutouts, plus fittings.",),
        assumptions=("Bends are sharp; holes for screws, paint and weld beads are not counted.",),
        sources=(MASS_SOURCE, row.source),
    )


def _held_kg(told: float | None, put_on: float, total: float) -> float:
    """What the scales or the sheet said, and what was put on besides; else what is computed."""
    return told + put_on if told else total


def _put_on_kg(plate: Plate) -> float:
    """Mass of the pieces that no claim knows of, kg."""
    besides = {p.key for p in plate.pieces if p.put_on}
    return sum(
        SHEET_MATERIALS[panel.material].density_kg_m3 * 1e-9 * panel.thickness_mm * panel.net().area
        for panel in flat_panels(plate)
        if panel.piece in besides
    )


def _own_sheet_kg(plate: Plate) -> float:
    """Mass of what is made of the plate's own material and thickness, kg."""
    own = (plate.material, plate.thickness_mm)
    density = SHEET_MATERIALS[plate.material].density_kg_m3 * 1e-9
    area = sum(
        panel.net().area
        for panel in flat_panels(plate)
        if (panel.material, panel.thickness_mm) == own
    )
    return density * plate.thickness_mm * area


def _claim_finding(
    word: str, mass: float, total: float, implied: float, thickness: float
) -> Finding:
    means = f"; that mass would mean a sheet of {amount(implied, 'mm', 1)}" if implied > 0 else ""
    return finding(
        "mass differs from claim",
        f"{word} {amount(mass, 'kg', 2)}, computed {amount(total, 'kg', 2)} from "
        f"{entered(thickness, 'mm')}{means}.",
        word.lower(),
    )


@dataclass(frozen=True)
class ThicknessInput(Ranged):
    """Two sheets of equal area: material names and thicknesses mm (the base second)."""

    material: str
    thickness_mm: Annotated[float, Range(0.5, 25.0, "mm")]
    base_material: str
    base_thickness_mm: Annotated[float, Range(0.5, 25.0, "mm")]

    def __post_init__(self) -> None:
        super().__post_init__()
        choose("material", self.material, SHEET_MATERIALS, "sheet material")
        choose("base_material", self.base_material, SHEET_MATERIALS, "sheet material")


@dataclass(frozen=True)
class ThicknessResult:
    """Ratios of the first sheet to the base; flexural rigidity D in N·m."""

    thickness_ratio: float
    mass_ratio: float
    stiffness_ratio: float
    flexural_rigidity_nm: float
    base_flexural_rigidity_nm: float


def _rigidity_nm(material: str, thickness_mm: float) -> float:
    row = SHEET_MATERIALS[material]
    modulus = row.youngs_modulus_gpa * 1000
    return modulus * thickness_mm**3 / (12 * (1 - row.poisson_ratio**2)) / 1000


@computation(
    "thickness-compare",
    page="plates",
    check="test_stiffness_goes_with_the_cube_and_mass_with_the_first_power",
)
def thickness_compare(given: ThicknessInput) -> Outcome[ThicknessResult]:
    """Mass goes with the first power of thickness, bending stiffness with its cube.

    mass ratio ρt/ρ't', stiffness ratio Et³(1−ν'²)/(E't'³(1−ν²)).
    """
    a, b = SHEET_MATERIALS[given.material], SHEET_MATERIALS[given.base_material]
    d_a = _rigidity_nm(given.material, given.thickness_mm)
    d_b = _rigidity_nm(given.base_material, given.base_thickness_mm)
    result = ThicknessResult(
        thickness_ratio=given.thickness_mm / given.base_thickness_mm,
        mass_ratio=a.density_kg_m3
        * given.thickness_mm
        / (b.density_kg_m3 * given.base_thickness_mm),
        stiffness_ratio=d_a / d_b,
        flexural_rigidity_nm=d_a,
        base_flexural_rigidity_nm=d_b,
    )
    return Outcome(
        result=result,
        inputs=(
            Input("Material", given.material),
            Input("Thickness", given.thickness_mm, "mm"),
            Input("Base material", given.base_material),
            Input("Base thickness", given.base_thickness_mm, "mm"),
        ),
        reasons=(
            f"{entered(given.thickness_mm, 'mm')} {given.material} against "
            f"{entered(given.base_thickness_mm, 'mm')} "
            f"{given.base_material}: {result.mass_ratio:.2f} times the mass per area, "
            f"{result.stiffness_ratio:.2f} times as stiff in bending.",
        ),
        assumptions=(f"Same outline and same supports; plastics at {entered(ROOM_C, '°C')}.",),
        sources=(STIFFNESS_SOURCE, a.source),
    )
