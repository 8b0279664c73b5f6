"""What lies on the bench is drawn as large as it is."""

from __future__ import annotations

import pytest

from rugged_shield.core.kit.hardware import KitLine
from rugged_shield.core.kit.line_drawing import line_drawing, with_difference
from rugged_shield.core.mechanics.drawing import Drawing
from rugged_shield.core.tables.heads import HEADS, SCREW_HEADS
from rugged_shield.core.tables.threads import THREADS


def line(kind: str = "screw", **more: object) -> KitLine:
    given = {"key": "k", "kind": kind, "name": kind, "thread": "M8", "length_mm": 30.0}
    return KitLine(**{**given, **more})  # type: ignore[arg-type]


def extent(drawing: Drawing) -> tuple[float, float, float, float]:
    points = [p for path in drawing.paths for p in path.points]
    points += [(c.cx + s * c.r, c.cy + s * c.r) for c in drawing.circles for s in (-1, 1)]
    xs, ys = [p[0] for p in points], [p[1] for p in points]
    return min(xs), max(xs), min(ys), max(ys)


@pytest.mark.parametrize("head", SCREW_HEADS)
@pytest.mark.parametrize("thread", ["M6", "M8", "3/8-16 UNC"])
def test_a_screw_is_as_long_and_its_head_as_wide_as_the_table_says(head: str, thread: str) -> None:
    drawing = line_drawing(line(head=head, thread=thread))
    size = thread.split("-")[0]
    if size not in HEADS[head].rows:
        assert drawing is None
        return
    assert drawing is not None
    row = HEADS[head].rows[size]
    left, right, top, bottom = extent(drawing)
    sunk = HEADS[head].form == "countersunk"
    assert right - left == pytest.approx(30.0 if sunk else 30.0 + row.height_mm)
    assert bottom - top == pytest.approx(max(row.diameter_mm, THREADS[thread].d_mm))
    assert drawing.x < left
    assert drawing.x + drawing.width > right
    assert drawing.y < top
    assert drawing.y + drawing.height > bottom


def test_longer_is_drawn_longer_by_as_much() -> None:
    short, long = (line_drawing(line(head="ISO 4762", length_mm=n)) for n in (30.0, 35.0))
    assert short is not None
    assert long is not None
    assert long.width - short.width == pytest.approx(5.0)


def test_washer_nut_and_spacer_by_the_standard_of_their_thread() -> None:
    washer = line_drawing(line("washer", length_mm=None))
    large = line_drawing(line("washer", name="large washer", length_mm=None))
    nut = line_drawing(line("nut", length_mm=None))
    spacer = line_drawing(line("spacer", length_mm=12.0))
    for drawing in (washer, large, nut, spacer):
        assert drawing is not None
    assert washer is not None
    assert max(c.r for c in washer.circles) == 8.0  # ISO 7089, M8: 16 across
    assert large is not None
    assert max(c.r for c in large.circles) == 12.0  # ISO 7093-1, M8: 24 across
    assert nut is not None
    ys = [y for _, y in nut.paths[0].points]
    assert max(ys) - min(ys) == pytest.approx(13.0)  # ISO 4032, M8: 13 across flats
    assert spacer is not None
    assert extent(spacer)[:2] == (0.0, 12.0)


@pytest.mark.parametrize(
    "silent",
    [
        line(head=""),
        line(head="ISO 4762", length_mm=None),
        line("bracket", thread=""),
        line("other"),
        line("spacer", length_mm=None),
    ],
)
def test_what_the_list_does_not_say_is_not_drawn(silent: KitLine) -> None:
    assert line_drawing(silent) is None


def test_look_alikes_are_dimensioned_where_they_differ() -> None:
    short, long = line(head="ISO 4762", key="a"), line(head="ISO 4762", key="b", length_mm=35.0)
    drawn = with_difference(short, (short, long))
    assert drawn is not None
    assert [d.metric for d in drawn.dimensions] == ["30.0 mm"]
    assert drawn.dimensions[0].x2 - drawn.dimensions[0].x1 == pytest.approx(30.0)
    other = line(head="ISO 4017", key="c")
    assert with_difference(short, (short, other)) == line_drawing(short), "a head is seen"
    assert with_difference(short, (short,)) == line_drawing(short)
    fine = line(head="ISO 4762", key="d", thread="M8x1")
    assert with_difference(short, (short, fine)) == line_drawing(short), "a pitch is not drawn"
    nut = line("nut")
    assert with_difference(nut, (nut,)) == line_drawing(nut)
