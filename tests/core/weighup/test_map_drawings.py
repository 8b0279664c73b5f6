"""Strike maps as drawings: shades cover what is struck, from below and ahead, hung anyhow."""

from __future__ import annotations

from dataclasses import replace

import pytest
from shapely import Point, Polygon, unary_union

from rugged_shield.core.assess.weighup.strike import strike_asked, strike_of
from rugged_shield.core.job.model import Job
from rugged_shield.core.mechanics.drawing import Drawing
from rugged_shield.core.survey.flat import flat_pattern, on_the_bench
from rugged_shield.core.survey.geometry import fold
from rugged_shield.core.survey.pose import Pose
from rugged_shield.core.weighup.coverage import DIRECTIONS
from rugged_shield.core.weighup.map_drawings import (
    SHADINGS,
    difference,
    is_from_ahead,
    map_drawing,
    nearest_ahead,
)
from rugged_shield.core.weighup.map_flat import flat_map_drawing
from rugged_shield.core.weighup.strike_field import StrikeMapInput
from rugged_shield.core.weighup.strike_map import strike_map

AHEAD = "from ahead 20° upward"


def coarse(job: Job, plate: str, direction: str = "from below") -> StrikeMapInput:
    return replace(strike_asked(job, plate, direction), mesh_mm=20.0)


def shaded(drawing: Drawing) -> float:
    """Area under shades, mm² of the drawing."""
    bands = [Polygon(p.points).buffer(0) for p in drawing.paths if p.fill.startswith("band")]
    return float(unary_union(bands).area)


def outlines(drawing: Drawing) -> float:
    return sum(Polygon(p.points).area for p in drawing.paths if p.weight == "outline")


@pytest.mark.parametrize("shading", list(SHADINGS))
def test_shades_cover_what_is_struck(choosing: Job, shading: str) -> None:
    asked = coarse(choosing, "steel25")
    drawing = map_drawing(asked, strike_map(asked).result, shading)
    assert shaded(drawing) == pytest.approx(outlines(drawing), rel=0.06), "less its holes"


@pytest.mark.parametrize("pose", [Pose(dz_mm=-3.0), Pose(2.0, 0.004, -0.003)])
def test_a_plate_that_hangs_otherwise_is_shaded_as_much(choosing: Job, pose: Pose) -> None:
    drawn, posed = coarse(choosing, "alu5"), replace(coarse(choosing, "alu5"), pose=pose)
    one = map_drawing(drawn, strike_map(drawn).result)
    other = map_drawing(posed, strike_map(posed).result)
    assert shaded(other) == pytest.approx(shaded(one), rel=0.01)


def test_from_ahead_the_apron_is_seen_in_full(choosing: Job) -> None:
    asked = coarse(choosing, "alu5", AHEAD)
    result = strike_map(asked).result
    below, ahead = map_drawing(asked, result), map_drawing(asked, result, view="ahead")
    apron = {
        name: next(Polygon(p.points).area for p in d.paths if p.ref == "apron")
        for name, d in (("below", below), ("ahead", ahead))
    }
    rise = choosing.candidate("alu5").plate.apron
    assert rise is not None
    assert apron["ahead"] > apron["below"]
    assert shaded(ahead) == pytest.approx(apron["ahead"], rel=0.2), "wings and belly edge-on"
    assert not [m for m in ahead.marks if m.kind == "mount"], "all its mounts are on the belly"
    assert len([m for m in below.marks if m.kind == "mount"]) == 6
    assert ahead.title.endswith("seen from ahead")


def test_only_stones_from_ahead_are_looked_at_from_ahead() -> None:
    assert {d for d in DIRECTIONS if is_from_ahead(d)} == {
        "from ahead 20° upward",
        "from ahead 40° upward",
        "level from ahead",
    }


def test_a_place_seen_from_ahead_is_found_on_what_faces_it(choosing: Job) -> None:
    asked = coarse(choosing, "alu5", AHEAD)
    result = strike_map(asked).result
    apron = [p for p in result.points if p.panel == "apron"]
    for want in apron[:: len(apron) // 5]:
        found = nearest_ahead(asked, result, want.place_mm[1], want.place_mm[2])
        assert found.panel == "apron"
        assert found.place_mm[1:] == pytest.approx(want.place_mm[1:], abs=1e-6)
    rest = tuple(c for c in asked.plate.cutouts if c.panel != "apron")
    flat_plate = replace(
        asked.plate,
        apron=None,
        wing_left=None,
        wing_right=None,
        cutouts=tuple(c for c in rest if c.panel == "belly"),
    )
    below = replace(asked, plate=flat_plate, direction="from below")
    flat = strike_map(below).result
    assert nearest_ahead(below, flat, 0.0, 0.0) in flat.points, "nothing faces it: any place"


def test_a_plate_against_itself_is_alike_everywhere(choosing: Job) -> None:
    asked = coarse(choosing, "alu35", AHEAD)
    result = strike_map(asked).result
    for view in ("below", "ahead"):
        drawing, compared = difference(asked, result, asked, result, view)  # type: ignore[arg-type]
        assert compared.alike == pytest.approx(1.0)
        assert compared.ratio == pytest.approx(1.0)
        assert {p.fill for p in drawing.paths if p.fill.startswith("band")} == {"band 4"}


def test_the_remembered_map_is_the_same(choosing: Job) -> None:
    asked = strike_asked(choosing, "alu35")
    assert strike_of(asked).result == strike_map(asked).result


@pytest.mark.parametrize("shading", ["touches", "dent"])
def test_on_the_flat_every_panel_is_shaded_at_its_true_size(choosing: Job, shading: str) -> None:
    """The shades cover the sheet of the main piece, unfolded: nothing is seen on edge."""
    asked = coarse(choosing, "alu5")
    result = strike_map(asked).result
    drawing = flat_map_drawing(asked, result, shading)
    sheet = sum(p.sheet.area for p in fold(asked.plate).panels if not p.piece)
    assert shaded(drawing) > 1.1 * shaded(map_drawing(asked, result, shading))
    assert shaded(drawing) == pytest.approx(sheet, rel=0.1)


def test_on_the_flat_levels_and_named_places_are_written(choosing: Job) -> None:
    asked = coarse(choosing, "alu5")
    drawing = flat_map_drawing(asked, strike_map(asked).result)
    words = [m.text for m in drawing.marks]
    assert sum(w.startswith(("touches first", "deepest")) for w in words) == len(drawing.circles)
    assert set(words) & set(SHADINGS["touches"].words())
    pattern = flat_pattern(asked.plate)
    panels = [Polygon([on_the_bench(p) for p in f.outline_mm]) for f in pattern.panels]
    for spot in drawing.circles:
        assert any(p.buffer(1.0).covers(Point(spot.cx, spot.cy)) for p in panels)
