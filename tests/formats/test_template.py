"""The 1:1 template measured from its own content streams."""

from __future__ import annotations

import io
import itertools
import math
import re
import zlib
from base64 import a85decode

import ezdxf
import pytest

from rugged_shield.core.assess.fitup.template import template_of
from rugged_shield.core.errors import InputError
from rugged_shield.core.job.model import Job
from rugged_shield.formats.dxf import flat_dxf
from rugged_shield.formats.svg import flat_svg
from rugged_shield.formats.template import BAR_MM, template_pdf

POINT_MM = 25.4 / 72


def pages(data: bytes) -> list[str]:
    """Content streams of a PDF as it was written: base 85, deflated; the faces' own left out."""
    streams = re.findall(rb"stream\r?\n(.*?)endstream", data, re.DOTALL)
    written = [s.strip() for s in streams if s.strip().endswith(b"~>")]
    texts = [zlib.decompress(a85decode(b"<~" + s, adobe=True)) for s in written]
    return [text.decode() for text in texts if b" re" in text or b" l" in text]


def lines_mm(page: str) -> list[float]:
    """Lengths of straight strokes before the tile's own transform, mm."""
    head = page.split("cm", 1)[0] if " cm" not in page else page
    strokes = re.findall(r"([-\d.]+) ([-\d.]+) m ([-\d.]+) ([-\d.]+) l", head.replace("\n", " "))
    return [
        math.dist((float(a), float(b)), (float(c), float(d))) * POINT_MM for a, b, c, d in strokes
    ]


@pytest.mark.parametrize("paper", ["a4", "letter"])
def test_the_bar_and_the_folds_are_true_to_a_tenth(choosing: Job, paper: str) -> None:
    template = template_of(choosing, choosing.in_hand.key)
    tiles = pages(template_pdf(template, paper))
    assert len(tiles) >= 4
    folds = [f.length_mm for f in template.pattern.folds]
    for page in tiles:
        found = lines_mm(page)
        assert min(abs(length - BAR_MM) for length in found) < 0.1
        for fold in folds:
            assert min(abs(length - fold) for length in found) < 0.1


def test_tiles_overlap_and_cover_the_whole_pattern(choosing: Job) -> None:
    template = template_of(choosing, choosing.in_hand.key)
    seen = set()
    for page in pages(template_pdf(template, "a4")):
        x, y = (
            float(v) * POINT_MM for v in re.findall(r"1 0 0 -1 ([-\d.]+) ([-\d.]+) cm", page)[0]
        )
        seen.add((round(-x, 1), round(y, 1)))
    lefts = sorted({x for x, _ in seen})
    assert all(0 < b - a <= 210 - 24 - 10 + 0.2 for a, b in itertools.pairwise(lefts))


def test_every_screw_has_its_hole_and_centre_in_dxf_and_svg(choosing: Job) -> None:
    template = template_of(choosing, choosing.in_hand.key)
    text = flat_dxf(template.pattern, template.screws)
    drawn = ezdxf.read(io.StringIO(text))
    circles = [e for e in drawn.modelspace() if e.dxftype() == "CIRCLE"]
    assert len(circles) == len(template.screws) == 6
    for circle, screw in zip(circles, template.screws, strict=True):
        assert circle.dxf.radius == pytest.approx(screw.hole_mm / 2)
        assert circle.dxf.center.x == pytest.approx(screw.at_mm[0])
        assert circle.dxf.center.y == pytest.approx(-screw.at_mm[1])
    assert flat_svg(template.pattern, template.title, template.screws).count("<circle") == 6


def test_another_paper_is_refused(choosing: Job) -> None:
    with pytest.raises(InputError, match="paper"):
        template_pdf(template_of(choosing, choosing.in_hand.key), "a0")
