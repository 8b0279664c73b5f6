"""A flat plate on the floor, a sheet of paper beside it: its outline tapped on a phone."""

from __future__ import annotations

import json
import urllib.request
from pathlib import Path
from typing import Any

import pytest
from PIL import Image, ImageDraw

from tests.ui.conftest import Page
from tests.ui.test_fit_up import disc, pixel, tap
from tests.ui.test_legible import over

WIDE, HIGH = 1600, 1400
PLATE = ((240.0, 20.0), (400.0, 20.0), (400.0, 190.0), (320.0, 240.0), (240.0, 190.0))
"""In the sheet's own mm, to its right: 160 across, 220 along, cut to a point at the rear."""
HOLE = ((280.0, 60.0), 6.0)


def photograph(path: Path) -> list[tuple[float, float]]:
    """The sheet, the plate and one hole, drawn as a camera sees them; where to tap."""
    picture = Image.new("RGB", (WIDE, HIGH), (90, 95, 100))
    draw = ImageDraw.Draw(picture)
    corners = [pixel(*c) for c in ((0, 0), (210, 0), (210, 297), (0, 297))]
    draw.polygon(corners, fill=(245, 245, 240))
    draw.polygon([pixel(*c) for c in PLATE], fill=(170, 175, 180))
    draw.polygon(disc(*HOLE), fill=(20, 20, 20))
    picture.save(path)
    (x, y), radius = HOLE
    return [*corners, *(pixel(*c) for c in PLATE), pixel(x, y), pixel(x + radius, y)]


def plate_of(page: Page) -> Any:
    with urllib.request.urlopen(f"{page.server.base}/api/jobs/choosing/file") as answer:
        job = json.load(answer)["job"]
    return next(c for c in job["candidates"] if c["plate"]["key"] == "alu5")["plate"]


def test_an_outline_is_tapped_and_becomes_a_piece(page: Page, tmp_path: Path) -> None:
    page.size(390, 844)
    page.open("/jobs/choosing/survey/plates/alu5")
    page.press("Take the outline from a photograph")
    taps = photograph(tmp_path / "plate.png")
    page.css("[data-testid='outline-photo']").send_keys(str(tmp_path / "plate.png"))
    page.see("Tap the sheet's top left corner")
    for i, (x, y) in enumerate(taps):
        if i == 4:
            page.see("Tap the top edge of the sheet")
            page.press("Go on without the edges")
            page.see("Tap the plate's corners in turn")
        if i == 4 + len(PLATE):
            page.press("The outline is round: now the holes")
            page.see("Tap the middle of hole 1")
        tap(page, "canvas", x / WIDE, y / HIGH)
        page.until(
            "the next tap",
            lambda i=i: (
                f"{i + 1 + (4 if i >= 4 else 0)} of"
                in page.css("canvas").get_attribute("aria-label")
            ),
        )  # type: ignore[misc]
    page.press("Read millimetres")
    page.see("Along the bike")
    page.listed("it becomes", "a further piece")
    assert over(page) <= 0
    page.press("Take this outline")
    page.until("the piece", lambda: plate_of(page)["pieces"])
    plate = plate_of(page)
    [piece] = plate["pieces"]
    # A tap is as good as a pixel of the phone's screen: four of the picture's, nearly 2 mm.
    assert piece["length_mm"] == pytest.approx(220.0, abs=8.0)
    assert piece["front_width_mm"] == pytest.approx(160.0, abs=8.0)
    hole = next(c for c in plate["cutouts"] if c["panel"] == piece["key"])
    assert hole["width_mm"] == pytest.approx(12.0, abs=6.0)
    page.quiet_console()
