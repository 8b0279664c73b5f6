"""Plate geometry against closed forms and symmetry; distances against brute force."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely import Polygon

from rugged_shield.core.errors import InputError
from rugged_shield.core.survey.bike import Part
from rugged_shield.core.survey.flat import flat_pattern
from rugged_shield.core.survey.geometry import FoldedPlate, fold
from rugged_shield.core.survey.measures import PlateGeometryInput, plate_geometry
from rugged_shield.core.survey.panels import Panel
from rugged_shield.core.survey.plate import Apron, Belly, Cutout, Plate, Tail, Wing
from rugged_shield.core.survey.standoff import StandoffInput, standoff, standoffs

FLAT = Plate(
    key="p",
    name="pan",
    role="candidate",
    material="aluminium 5052-H32",
    thickness_mm=4.0,
    form="flat",
    mounting="frame",
    belly=Belly(
        start_x_mm=500,
        length_mm=400,
        front_width_mm=240,
        rear_width_mm=240,
        z_front_mm=280,
        z_rear_mm=280,
    ),
)
FULL = replace(
    FLAT,
    belly=Belly(
        start_x_mm=500,
        length_mm=400,
        front_width_mm=260,
        rear_width_mm=200,
        z_front_mm=290,
        z_rear_mm=275,
    ),
    apron=Apron(180, 50, 170),
    tail=Tail(90, 110, 15),
    wing_left=Wing(40, 250, 90, 60),
    wing_right=Wing(40, 250, 90, 60),
    cutouts=(
        Cutout(
            key="drain",
            panel="belly",
            shape="round",
            purpose="drain",
            u_mm=210,
            v_mm=10,
            width_mm=60,
            height_mm=60,
        ),
        Cutout(
            key="vent",
            panel="apron",
            shape="slot",
            purpose="vent",
            u_mm=90,
            v_mm=0,
            width_mm=20,
            height_mm=90,
        ),
        Cutout(
            key="side",
            panel="wing left",
            shape="rectangle",
            purpose="vent",
            u_mm=120,
            v_mm=45,
            width_mm=80,
            height_mm=30,
        ),
    ),
)


def box(x: float, y: float, z: float, dx: float, dy: float, dz: float) -> Part:
    return Part(
        key="b",
        name="box",
        kind="vital",
        shape="case",
        x_min_mm=x,
        x_max_mm=x + dx,
        y_min_mm=y,
        y_max_mm=y + dy,
        z_min_mm=z,
        z_max_mm=z + dz,
    )


def measured(plate: Plate):  # type: ignore[no-untyped-def]
    return plate_geometry(PlateGeometryInput(plate)).result


def test_a_rectangular_trough_has_its_closed_forms() -> None:
    """Belly 400×240 with two upright walls 400×100: areas, mass, centre of gravity."""
    trough = replace(
        FLAT, wing_left=Wing(0, 400, 100, 90), wing_right=Wing(0, 400, 100, 90), thickness_mm=2.0
    )
    got = measured(trough)
    area = 400 * 240 + 2 * 400 * 100
    assert got.area_mm2 == pytest.approx(area)
    assert got.mass_kg == pytest.approx(2680e-9 * 2.0 * area)
    height = (400 * 240 * 1.0 + 2 * 400 * 100 * 50.0) / area
    assert got.centre_of_gravity_mm == pytest.approx((700, 0, 280 + height))
    assert got.size_mm == pytest.approx((400, 240, 100))
    assert got.fold_length_mm == pytest.approx(800)


def test_inward_is_toward_the_engine_on_every_panel() -> None:
    """Also on upright walls, where no normal points up."""
    trough = replace(FULL, wing_left=Wing(40, 250, 90, 90), wing_right=Wing(40, 250, 90, 90))
    inward = {p.name: p.inward for p in fold(trough).panels}
    assert inward["belly"][2] > 0.99
    assert inward["wing left"][1] > 0.9
    assert inward["wing right"][1] < -0.9
    assert inward["apron"][0] > 0
    for vector in inward.values():
        assert math.hypot(*vector) == pytest.approx(1)


def test_mirror_shift_and_thickness() -> None:
    got = measured(FULL)
    swapped = {"wing left": "wing right"}
    mirrored = replace(
        FULL,
        cutouts=tuple(
            replace(
                c,
                panel=swapped.get(c.panel, c.panel),
                v_mm=c.v_mm if c.panel.startswith("wing") else -c.v_mm,
            )
            for c in FULL.cutouts
        ),
    )
    other = measured(mirrored)
    x, y, z = got.centre_of_gravity_mm
    assert other.centre_of_gravity_mm == pytest.approx((x, -y, z))
    assert other.mass_kg == pytest.approx(got.mass_kg)
    moved = measured(replace(FULL, belly=replace(FULL.belly, start_x_mm=563)))
    assert moved.centre_of_gravity_mm == pytest.approx((x + 63, y, z))
    thick = measured(replace(FULL, thickness_mm=8.0))
    assert thick.mass_kg == pytest.approx(2 * got.mass_kg)
    assert thick.area_mm2 == pytest.approx(got.area_mm2)


def test_a_slider_weighs_hangs_lower_and_leaves_the_inside_alone() -> None:
    slid = replace(FLAT, slider_material="HDPE", slider_thickness_mm=10.0)
    got, base = measured(slid), measured(FLAT)
    assert got.mass_kg - base.mass_kg == pytest.approx(955e-9 * 10 * 400 * 240)
    assert got.lowest_point_mm[2] == pytest.approx(base.lowest_point_mm[2] - 10)
    part = box(600, -50, 320, 100, 100, 50)
    assert standoffs(fold(slid), (part,)) == standoffs(fold(FLAT), (part,))
    with pytest.raises(InputError, match="slider_thickness_mm"):
        replace(FLAT, slider_material="HDPE")


def test_a_closed_door_weighs_and_an_open_hole_does_not() -> None:
    hole = Cutout(
        key="d",
        panel="belly",
        shape="rectangle",
        purpose="drain",
        u_mm=200,
        v_mm=0,
        width_mm=100,
        height_mm=50,
    )
    opened = measured(replace(FLAT, cutouts=(hole,)))
    shut = measured(replace(FLAT, cutouts=(replace(hole, closed_door=True),)))
    assert shut.area_mm2 - opened.area_mm2 == pytest.approx(5000)
    assert shut.area_mm2 == pytest.approx(400 * 240)


def test_the_flat_pattern_keeps_areas_and_fold_lengths() -> None:
    from shapely import union_all

    pattern = flat_pattern(FULL)
    panels = {p.name: Polygon(p.outline_mm) for p in pattern.panels}
    for panel in fold(FULL).panels:
        assert panels[panel.name].area == pytest.approx(panel.outline.area)
    together = union_all(list(panels.values()))
    assert together.area == pytest.approx(sum(p.area for p in panels.values()), rel=1e-9)
    lengths = {f.panel: f.length_mm for f in pattern.folds}
    assert lengths["apron"] == pytest.approx(260)
    assert lengths["wing left"] == pytest.approx(250)
    assert lengths["tail"] == pytest.approx(110)
    assert measured(FULL).fold_length_mm == pytest.approx(260 + 500 + 110)


def _dense(panel: Panel, step: float = 2.0) -> np.ndarray:
    import shapely

    net = panel.net()
    u0, v0, u1, v1 = net.bounds
    grid = np.stack(np.meshgrid(np.arange(u0, u1 + step, step), np.arange(v0, v1 + step, step)), -1)
    uv = grid.reshape(-1, 2)
    uv = uv[shapely.intersects_xy(net, uv[:, 0], uv[:, 1])]
    edge = shapely.get_coordinates(shapely.segmentize(net.boundary, step))
    uv = np.vstack([uv, edge])
    origin = np.array(panel.origin) + np.array(panel.inward) * panel.thickness_mm
    return origin + uv[:, :1] * np.array(panel.u) + uv[:, 1:] * np.array(panel.v)


def _sampled(folded: FoldedPlate, part: Part) -> float:
    points = np.vstack([_dense(p) for p in folded.panels])
    low = np.array([part.x_min_mm, part.y_min_mm, part.z_min_mm])
    high = np.array([part.x_max_mm, part.y_max_mm, part.z_max_mm])
    gap = np.maximum(np.maximum(low - points, points - high), 0)
    return float(np.linalg.norm(gap, axis=1).min())


@settings(max_examples=60, deadline=None)
@given(
    x=st.floats(350, 950),
    y=st.floats(-250, 250),
    z=st.floats(230, 420),
    dx=st.floats(5, 200),
    dy=st.floats(5, 200),
    dz=st.floats(5, 120),
)
def test_standoff_agrees_with_brute_force(
    x: float, y: float, z: float, dx: float, dy: float, dz: float
) -> None:
    """Sampling every 2 mm is never shorter, and at most its own step longer."""
    folded = fold(FULL)
    part = box(x, y, z, dx, dy, dz)
    (got,) = standoffs(folded, (part,))
    sampled = _sampled(folded, part)
    assert got.distance_mm <= sampled + 1e-6
    assert got.distance_mm >= sampled - 1.5
    place = np.array(got.place_mm)
    low = np.array([part.x_min_mm, part.y_min_mm, part.z_min_mm])
    high = np.array([part.x_max_mm, part.y_max_mm, part.z_max_mm])
    gap = np.maximum(np.maximum(low - place, place - high), 0)
    assert float(np.linalg.norm(gap)) == pytest.approx(got.distance_mm, abs=1e-6)


def test_standoff_through_a_hole_is_to_its_rim() -> None:
    """A stud that hangs through the drain hole: distance to the rim, not to the sheet."""
    holed = replace(
        FLAT,
        cutouts=(
            Cutout(
                key="d",
                panel="belly",
                shape="round",
                purpose="drain",
                u_mm=200,
                v_mm=0,
                width_mm=80,
                height_mm=80,
            ),
        ),
    )
    stud = box(695, -5, 275, 10, 10, 60)
    (got,) = standoffs(fold(holed), (stud,))
    assert got.distance_mm == pytest.approx(40 - math.hypot(5, 5), abs=0.15)
    (shut,) = standoffs(fold(FLAT), (stud,))
    assert shut.distance_mm == 0


def test_standoff_says_what_is_too_near() -> None:
    near = replace(box(600, -50, 290, 100, 100, 50), required_gap_mm=10.0, known="measured")
    out = standoff(StandoffInput(FLAT, (near, replace(near, key="far", z_min_mm=320))))
    assert [f.code for f in out.findings] == ["standoff small"]
    assert out.result.least == "b"
    assert out.result.least_spare_mm == pytest.approx(290 - 284 - 10)
    with pytest.raises(InputError, match="parts"):
        StandoffInput(FLAT, ())


def test_a_traced_belly_replaces_the_four_corners() -> None:
    outline = ((0.0, -100.0), (300.0, -100.0), (300.0, 0.0), (150.0, 0.0), (150.0, 100.0), (0, 100))
    traced = replace(FLAT, belly=replace(FLAT.belly, points_mm=outline))
    assert measured(traced).area_mm2 == pytest.approx(300 * 100 + 150 * 100)
    with pytest.raises(InputError, match="traced belly"):
        fold(replace(traced, wing_left=Wing(0, 100, 50, 45)))
    bow = ((0.0, 0.0), (100.0, 100.0), (100.0, 0.0), (0.0, 100.0))
    with pytest.raises(InputError, match="crosses itself"):
        fold(replace(FLAT, belly=replace(FLAT.belly, points_mm=bow)))


def test_a_plate_in_the_wrong_unit_is_noticed() -> None:
    long = replace(
        FLAT, belly=replace(FLAT.belly, start_x_mm=0, length_mm=1400), tail=Tail(900, 100, 0)
    )
    assert "larger than a bike" in [
        f.code for f in plate_geometry(PlateGeometryInput(long)).findings
    ]


def test_cutouts_cost_no_more_than_in_proportion() -> None:
    """Forty holes: every one is in the sheet, the area closes to rounding."""
    holes = tuple(
        Cutout(
            key=f"h{i}",
            panel="belly",
            shape="round",
            purpose="vent",
            u_mm=30 + 37 * (i % 10),
            v_mm=-90 + 60 * (i // 10),
            width_mm=12,
            height_mm=12,
        )
        for i in range(40)
    )
    got = measured(replace(FLAT, cutouts=holes))
    one = measured(replace(FLAT, cutouts=holes[:1]))
    taken = 400 * 240 - one.area_mm2
    assert got.area_mm2 == pytest.approx(400 * 240 - 40 * taken)
    with pytest.raises(InputError, match="cutouts"):
        replace(FLAT, cutouts=tuple(replace(holes[0], key=f"k{i}") for i in range(401)))
