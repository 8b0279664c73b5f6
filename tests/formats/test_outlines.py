"""Outlines from DXF and SVG: what is read, what is refused and where, what goes out again."""

from __future__ import annotations

import io
import math
from collections.abc import Callable
from dataclasses import replace

import pytest
from ezdxf import recover
from ezdxf.filemanagement import new
from ezdxf.layouts import Modelspace
from shapely import Polygon

from rugged_shield.core.errors import InputError
from rugged_shield.core.survey.flat import flat_pattern
from rugged_shield.core.survey.geometry import fold
from rugged_shield.core.survey.plate import Apron, Belly, Plate, Wing
from rugged_shield.formats.dxf import flat_dxf, read_dxf
from rugged_shield.formats.svg import flat_svg, read_svg
from rugged_shield.formats.traced import Placing, Traced

PLATE = Plate(
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


def dxf(draw: Callable[[Modelspace], object], unit: int = 4) -> str:
    document = new("R2010")
    document.header["$INSUNITS"] = unit
    draw(document.modelspace())
    out = io.StringIO()
    document.write(out)
    return out.getvalue()


def rectangle(space: Modelspace, scale: float = 1.0) -> None:
    corners = [(0, 0), (240 * scale, 0), (240 * scale, 400 * scale), (0, 400 * scale)]
    for a, b in zip(corners, [*corners[1:], corners[0]], strict=True):
        space.add_line(a, b)
    space.add_circle((120 * scale, 100 * scale), 30 * scale)


def panel_of(got: Traced) -> Plate:
    belly = replace(PLATE.belly, points_mm=got.outline_mm)
    return replace(PLATE, belly=belly, cutouts=got.holes)


def test_lines_and_a_circle_become_a_belly_with_a_round_hole() -> None:
    got = read_dxf(dxf(rectangle))
    assert (got.length_mm, got.width_mm, got.unit) == (400, 240, "mm")
    (hole,) = got.holes
    assert hole.shape == "round"
    assert hole.width_mm == pytest.approx(60, abs=0.2)
    assert (hole.u_mm, hole.v_mm) == pytest.approx((300, 0), abs=0.01)
    area = fold(panel_of(got)).area_mm2
    assert area == pytest.approx(400 * 240 - math.pi * 900, rel=1e-3)


@pytest.mark.parametrize(("code", "scale"), [(1, 1 / 25.4), (5, 0.1), (6, 0.001)])
def test_units_of_the_file(code: int, scale: float) -> None:
    got = read_dxf(dxf(lambda s: rectangle(s, scale), code))
    assert got.length_mm == pytest.approx(400)


def test_a_file_without_a_unit_is_asked_about() -> None:
    text = dxf(rectangle, 0)
    with pytest.raises(InputError) as caught:
        read_dxf(text)
    assert caught.value.field == "unit"
    assert read_dxf(text, Placing("mm")).length_mm == 400
    with pytest.raises(InputError, match="unit"):
        read_dxf(text, Placing("in"))


@pytest.mark.parametrize(
    ("front", "seen", "u", "v"),
    [
        ("top", "from below", 300, 0),
        ("bottom", "from below", 100, 0),
        ("left", "from above", 120, -100),
        ("right", "from below", 120, -100),
    ],
)
def test_front_and_side_decide_where_a_hole_lands(
    front: str, seen: str, u: float, v: float
) -> None:
    got = read_dxf(dxf(rectangle), Placing(front=front, seen=seen))  # type: ignore[arg-type]
    assert (got.holes[0].u_mm, got.holes[0].v_mm) == pytest.approx((u, v), abs=0.01)


def test_blocks_arcs_and_splines_are_taken_apart_and_flattened() -> None:
    document = new("R2010")
    document.header["$INSUNITS"] = 4
    block = document.blocks.new("PLATE")
    block.add_line((0, 0), (200, 0))
    block.add_arc((200, 100), 100, -90, 90)
    block.add_spline([(200, 200), (150, 210), (100, 205), (50, 212), (0, 200)])
    block.add_line((0, 200), (0, 0))
    block.add_text("front")
    document.modelspace().add_blockref("PLATE", (10, 20), dxfattribs={"rotation": 30})
    out = io.StringIO()
    document.write(out)
    got = read_dxf(out.getvalue())
    area = Polygon(got.outline_mm).area
    assert area == pytest.approx(200 * 200 + math.pi * 5000 + 1600, rel=0.02)
    assert any("1 TEXT" in note for note in got.notes)
    assert any("0.05 mm" in note for note in got.notes)


def test_flattening_keeps_its_named_tolerance() -> None:
    got = read_dxf(dxf(lambda s: s.add_circle((0, 0), 150)))
    for u, v in got.outline_mm:
        assert math.hypot(u - 150, v) == pytest.approx(150, abs=0.06)


def test_ends_nearer_than_a_tenth_are_joined() -> None:
    def gappy(space: Modelspace) -> None:
        space.add_line((0, 0), (240, 0.03))
        space.add_line((240.04, 0), (240, 400))
        space.add_line((240, 399.95), (0, 400))
        space.add_line((0.02, 400), (0, 0.05))

    assert read_dxf(dxf(gappy)).length_mm == pytest.approx(400, abs=0.1)


def open_loop(space: Modelspace) -> None:
    space.add_line((0, 0), (240, 0))
    space.add_line((240, 0), (240, 400))
    space.add_line((240, 400), (0, 400))


def bow(space: Modelspace) -> None:
    space.add_lwpolyline([(0, 0), (240, 400), (240, 0), (0, 400)], close=True)


def crossing(space: Modelspace) -> None:
    rectangle(space)
    space.add_circle((240, 200), 30)


@pytest.mark.parametrize(
    ("draw", "words"),
    [
        (open_loop, "ends in the open"),
        (bow, "crosses itself"),
        (crossing, "cross each other"),
        (lambda s: s.add_text("nothing"), "no closed loop"),
    ],
)
def test_bad_outlines_are_refused_with_the_place(
    draw: Callable[[Modelspace], object], words: str
) -> None:
    with pytest.raises(InputError, match=words) as caught:
        read_dxf(dxf(draw))
    if draw is open_loop:
        assert "x 0.0" in caught.value.value


def test_what_is_no_dxf_or_too_large_is_refused() -> None:
    for text in ("PK\x03\x04zip", "not a drawing", "", "0\nSECTION\n2\nENTITIES\n0\nLINE\n"):
        with pytest.raises(InputError, match=r"file|outline"):
            read_dxf(text, Placing("mm"))
    many = "0\nSECTION\n2\nENTITIES\n" + "0\nLINE\n10\n0\n20\n0\n11\n1\n21\n1\n" * 100_000
    with pytest.raises(InputError, match="too many entities"):
        read_dxf(many[:3_900_000])
    with pytest.raises(InputError, match="file"):
        read_dxf(many + many)


SVG = (
    '<svg xmlns="http://www.w3.org/2000/svg" width="240mm" height="400mm" viewBox="0 0 480 800">'
    "{}</svg>"
)
BODY = (
    '<g transform="scale(2)"><rect width="240" height="400"/><circle cx="120" cy="100" r="30"/></g>'
)


def test_svg_shapes_transforms_and_units() -> None:
    got = read_svg(SVG.format(BODY))
    assert (got.length_mm, got.width_mm) == pytest.approx((400, 240))
    assert got.holes[0].shape == "round"
    assert (got.holes[0].u_mm, got.holes[0].v_mm) == pytest.approx((100, 0), abs=0.01)
    moved = BODY.replace("scale(2)", "translate(30 10) rotate(90) scale(2,2)")
    turned = read_svg(SVG.format(moved))
    assert (turned.length_mm, turned.width_mm) == pytest.approx((240, 400))


def test_svg_curves_are_flattened() -> None:
    arc = '<path d="M0 400 A240 240 0 0 1 480 400 L480 700 C480 800 0 800 0 700 Z"/>'
    got = read_svg(SVG.format(arc))
    expected = math.pi * 120**2 / 2 + 240 * 150 + 240 * 50 * 0.6
    assert Polygon(got.outline_mm).area == pytest.approx(expected, rel=2e-3)


def test_svg_without_a_unit_is_asked_about() -> None:
    bare = SVG.replace('width="240mm" height="400mm" ', "").format(BODY)
    with pytest.raises(InputError) as caught:
        read_svg(bare)
    assert caught.value.field == "unit"
    assert read_svg(bare, Placing("mm")).length_mm == pytest.approx(800)


@pytest.mark.parametrize(
    "bad",
    [
        SVG.format("<script>alert(1)</script>" + BODY),
        SVG.format(BODY.replace("<rect", '<rect onclick="x()"')),
        SVG.format('<image href="http://example.invalid/x.png"/>' + BODY),
        SVG.format('<a href="file:///etc/passwd">' + BODY + "</a>"),
        SVG.format("<style>@import url(x)</style>" + BODY),
        '<!DOCTYPE svg [<!ENTITY a "b">]>' + SVG.format(BODY),
        '<!DOCTYPE svg SYSTEM "http://example.invalid/x.dtd">' + SVG.format(BODY),
        SVG.format(BODY)[:-20],
        "<html></html>",
        "PK\x03\x04",
        SVG.format('<path d="M0 0 L"/>'),
        SVG.format('<g transform="matrix(1)">' + BODY + "</g>"),
        SVG.format("<g>" * 70 + BODY + "</g>" * 70),
    ],
)
def test_dangerous_or_broken_svg_is_refused(bad: str) -> None:
    with pytest.raises(InputError) as caught:
        read_svg(bad)
    assert caught.value.field in ("file", "outline")
    assert caught.value.allowed


FOLDED = replace(
    PLATE,
    apron=Apron(180, 50, 170),
    wing_left=Wing(40, 250, 90, 60),
    cutouts=(),
)


def test_the_flat_pattern_goes_out_in_true_millimetres() -> None:
    """Written as DXF and read by an independent reader: extents, layers, fold length."""
    pattern = flat_pattern(FOLDED)
    doc, audit = recover.read(io.BytesIO(flat_dxf(pattern).encode()))
    assert not audit.has_errors
    assert doc.units == 4
    cut = doc.modelspace().query('LWPOLYLINE[layer=="CUT"]')
    folds = doc.modelspace().query('LINE[layer=="FOLD"]')
    assert len(cut) == 1, "one edge around the whole sheet: a fold is not cut"
    edge = Polygon([(x, y) for x, y, *_ in cut[0].get_points()])
    assert edge.area == pytest.approx(sum(Polygon(p.outline_mm).area for p in pattern.panels))
    lengths = sorted((line.dxf.end - line.dxf.start).magnitude for line in folds)
    assert lengths == pytest.approx([240, 250])


def test_a_flat_plate_written_as_dxf_or_svg_comes_back_as_it_was() -> None:
    got = read_dxf(dxf(rectangle))
    plate = panel_of(got)
    pattern = flat_pattern(plate)
    for again in (
        read_dxf(flat_dxf(pattern), Placing(front="left", seen="from above")),
        read_svg(flat_svg(pattern, "a <plate> & more"), Placing(front="left", seen="from above")),
    ):
        assert fold(panel_of(again)).area_mm2 == pytest.approx(fold(plate).area_mm2, rel=1e-4)
        assert (again.holes[0].u_mm, again.holes[0].v_mm) == pytest.approx((300, 0), abs=0.05)


@pytest.mark.parametrize("reader", ["dxf", "svg"])
def test_fold_lines_are_no_cuts(reader: str) -> None:
    """A folded plate's flat pattern comes back as one outline of the same area."""
    folded = replace(PLATE, form="pressed", apron=Apron(120.0, 45.0, 200.0))
    pattern = flat_pattern(folded)
    got = (
        read_dxf(flat_dxf(pattern))
        if reader == "dxf"
        else read_svg(flat_svg(pattern, "pan"), Placing(front="left"))
    )
    area = sum(Polygon(p.outline_mm).area for p in pattern.panels)
    assert Polygon(got.outline_mm).area == pytest.approx(area, rel=1e-3)
    assert any("fold" in note for note in got.notes)
