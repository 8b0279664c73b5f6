"""Further pieces: where they stand, what they are made of, bent, laid flat, how near each other."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely import Polygon

from rugged_shield.core.errors import InputError
from rugged_shield.core.survey.flat import flat_pattern
from rugged_shield.core.survey.geometry import fold
from rugged_shield.core.survey.mass import PlateMassInput, plate_mass
from rugged_shield.core.survey.measures import PlateGeometryInput, piece_gaps, plate_geometry
from rugged_shield.core.survey.panel_clearance import panel_clearance_mm
from rugged_shield.core.survey.plate import Piece
from rugged_shield.core.tables.materials import SHEET_MATERIALS
from tests.core.survey.test_measures import FLAT, _dense, measured


def piece(**more: object) -> Piece:
    base = Piece(
        key="guard",
        name="linkage guard",
        order=1,
        x_mm=905,
        y_mm=0,
        z_mm=275,
        length_mm=150,
        front_width_mm=120,
        rear_width_mm=100,
    )
    return replace(base, **more)  # type: ignore[arg-type]


def test_gap_between_pieces() -> None:
    """A guard 5 mm behind and 5 mm below the belly's rear edge."""
    plate = replace(FLAT, pieces=(piece(),))
    (gap,) = piece_gaps(fold(plate))
    assert gap.gap_mm == pytest.approx(math.hypot(5, 5))
    overlapping = replace(FLAT, pieces=(piece(x_mm=880, z_mm=274),))
    assert piece_gaps(fold(overlapping))[0].gap_mm == pytest.approx(6)
    crossing = replace(FLAT, pieces=(piece(x_mm=850, pitch_deg=5, z_mm=278),))
    out = plate_geometry(PlateGeometryInput(crossing))
    assert [f.code for f in out.findings] == ["pieces cross"]
    assert out.verdict == "blocked"


@settings(max_examples=25, deadline=None)
@given(
    x=st.floats(880, 1000), z=st.floats(240, 320), pitch=st.floats(-60, 60), roll=st.floats(-60, 60)
)
def test_gap_agrees_with_brute_force(x: float, z: float, pitch: float, roll: float) -> None:
    plate = replace(FLAT, pieces=(piece(x_mm=x, z_mm=z, pitch_deg=pitch, roll_deg=roll),))
    belly, guard = (replace(p, thickness_mm=0.0) for p in fold(plate).panels)
    a, b = _dense(belly, 6.0), _dense(guard, 6.0)
    sampled = min(float(np.linalg.norm(a - point, axis=1).min()) for point in b)
    got = panel_clearance_mm(belly, guard)
    assert got <= sampled + 1e-6
    assert got >= sampled - 6.1


def test_pieces_have_their_own_thickness() -> None:
    plate = replace(FLAT, pieces=(piece(thickness_mm=8.0),))
    area = 150 * (120 + 100) / 2
    density = SHEET_MATERIALS[FLAT.material].density_kg_m3 * 1e-9
    assert measured(plate).mass_kg == pytest.approx(density * (4 * 400 * 240 + 8 * area))


def test_pieces_have_their_own_material() -> None:
    """What a mass means for the plate's thickness is asked of the plate's own sheet alone."""
    plate = replace(FLAT, pieces=(piece(material="HDPE", thickness_mm=8.0),))
    area = 150 * (120 + 100) / 2
    own, other = (SHEET_MATERIALS[m].density_kg_m3 * 1e-9 for m in (FLAT.material, "HDPE"))
    main, guard = own * 4 * 400 * 240, other * 8 * area
    assert measured(plate).mass_kg == pytest.approx(main + guard)
    said = plate_mass(PlateMassInput(plate=replace(plate, claimed_mass_kg=2 * main + guard)))
    assert said.result.implied_thickness_mm == pytest.approx(8.0)
    with pytest.raises(InputError, match="sheet material"):
        piece(material="wood")


def test_bent_edges_stand_where_the_bend_puts_them() -> None:
    bent = piece(
        left_bend_mm=40.0, rear_bend_mm=30.0, rear_bend_angle_deg=-30.0, front_width_mm=100
    )
    panels = {p.name: p for p in fold(replace(FLAT, pieces=(bent,))).panels}
    assert (
        set(panels)
        == {"belly", "guard", "guard rear", "guard left"}
        == {"belly", *bent.panel_names}
    )
    left = np.array(panels["guard left"].corners())
    assert sorted(left[:, 2]) == pytest.approx([275, 275, 315, 315])
    assert set(left[:, 1]) == {-50.0}
    rear = np.array(panels["guard rear"].corners())
    assert rear[:, 0].max() == pytest.approx(905 + 150 + 30 * math.cos(math.radians(30)))
    assert rear[:, 2].min() == pytest.approx(275 - 15)
    assert {p.piece for n, p in panels.items() if n != "belly"} == {"guard"}
    with pytest.raises(InputError, match="traced"):
        piece(points_mm=((0.0, 0.0), (50.0, 0.0), (0.0, 50.0)), left_bend_mm=40.0)
    with pytest.raises(InputError, match="right_bend_angle_deg"):
        piece(right_bend_mm=40.0, right_bend_angle_deg=100.0)


BENT = st.one_of(st.none(), st.floats(10, 120))
TURN = st.floats(-90, 90)


@settings(max_examples=40, deadline=None)
@given(
    bends=st.tuples(BENT, BENT, BENT, BENT),
    turns=st.tuples(TURN, TURN, TURN, TURN),
    rear=st.floats(30, 200),
    pitch=st.floats(-80, 80),
    roll=st.floats(-80, 80),
)
def test_a_bent_piece_is_one_sheet_laid_flat(
    bends: tuple[float | None, ...],
    turns: tuple[float, ...],
    rear: float,
    pitch: float,
    roll: float,
) -> None:
    """Area in space is the area to cut, in one ring; every bend keeps its edge where it was."""
    edges = ("front", "rear", "left", "right")
    given_ = {f"{e}_bend_mm": b for e, b in zip(edges, bends, strict=True)}
    given_ |= {f"{e}_bend_angle_deg": t for e, t in zip(edges, turns, strict=True)}
    guard = piece(rear_width_mm=rear, pitch_deg=pitch, roll_deg=roll, z_mm=900, **given_)
    plate = replace(FLAT, pieces=(guard,))
    folded, pattern = fold(plate), flat_pattern(plate)
    rings = [Polygon(ring) for ring in pattern.cuts_mm()]
    assert len(rings) == 2
    assert sum(r.area for r in rings) == pytest.approx(folded.area_mm2, rel=1e-4)
    assert not rings[0].intersects(rings[1])
    own = {p.name: p for p in folded.panels}
    base = own["guard"].corners()
    for name in guard.panel_names[1:]:
        start, end = own[name].corners()[:2]
        for corner in (start, end):
            assert min(math.dist(corner, c) for c in base) == pytest.approx(0, abs=1e-6)
    assert [f.panel for f in pattern.folds] == list(guard.panel_names[1:])
