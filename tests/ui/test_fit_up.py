"""Fit-up driven on desk and phone: holes by number and photograph, order, neighbours, a change."""

from __future__ import annotations

import math
from pathlib import Path

import numpy as np
import pytest
from PIL import Image, ImageDraw
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.ui.conftest import Page
from tests.ui.test_kit_on_phone import fits_the_phone

JOB = "/jobs/choosing/fit-up"
CAMERA = np.array([[2.4, 0.25, 420], [-0.15, 2.3, 360], [0.00018, 0.00012, 1.0]])
HOLE, THREAD = (240.0, 40.0), (243.0, 38.0)


def pixel(x: float, y: float) -> tuple[float, float]:
    u, v, w = CAMERA @ (x, y, 1.0)
    return float(u / w), float(v / w)


def disc(at: tuple[float, float], r: float) -> list[tuple[float, float]]:
    turn = [2 * math.pi * i / 40 for i in range(40)]
    return [pixel(at[0] + r * math.cos(a), at[1] + r * math.sin(a)) for a in turn]


def photograph(path: Path) -> list[tuple[float, float]]:
    """An A4 sheet and a hole with its thread behind it, drawn as a camera sees them; the taps."""
    picture = Image.new("RGB", (1600, 1200), (90, 95, 100))
    draw = ImageDraw.Draw(picture)
    corners = [pixel(*c) for c in ((0, 0), (210, 0), (210, 297), (0, 297))]
    draw.polygon(corners, fill=(245, 245, 240))
    draw.polygon(disc(HOLE, 8.0), fill=(20, 20, 20))
    draw.polygon(disc(THREAD, 2.0), fill=(200, 180, 80))
    picture.save(path)
    edges = [pixel(*c) for c in ((105, 0), (210, 148), (105, 297), (0, 148))]
    return [*corners, *edges, pixel(*HOLE), pixel(*THREAD)]


def tap(page: Page, css: str, x: float, y: float) -> None:
    """A tap at a share of something's width and height."""
    thing = page.css(css)
    page.driver.execute_script("arguments[0].scrollIntoView({block: 'center'})", thing)
    w, h = thing.size["width"], thing.size["height"]
    ActionChains(page.driver).move_to_element_with_offset(
        thing, round((x - 0.5) * w), round((y - 0.5) * h)
    ).click().perform()


def type_into(page: Page, css: str, text: str) -> None:
    field = page.css(css)
    field.send_keys(Keys.CONTROL, "a")
    field.send_keys(text, Keys.TAB)


@pytest.mark.parametrize("size", [(1280, 800), (390, 844)])
def test_a_photograph_is_tapped_and_taken(
    page: Page, tmp_path: Path, size: tuple[int, int]
) -> None:
    page.size(*size)
    page.open(f"{JOB}/holes")
    page.see("not looked at yet")
    page.press("Read from a photograph")
    page.see("Print the check sheet")
    if size[0] < 500:
        fits_the_phone(page)
    taps = photograph(tmp_path / "holes.png")
    page.css("[data-testid='hole-photo']").send_keys(str(tmp_path / "holes.png"))
    page.see("Tap the sheet's top left corner")
    for i, (x, y) in enumerate(taps):
        tap(page, "canvas", x / 1600, y / 1200)
        page.until(
            "the next tap",
            lambda i=i: f"{i + 1} of" in page.css("canvas").get_attribute("aria-label"),
        )  # type: ignore[misc]
    page.css("canvas").send_keys(Keys.ARROW_RIGHT, Keys.ARROW_LEFT)
    page.press("Read millimetres")
    page.see("Take these as seen")
    page.press("Take these as seen")
    page.see("Least margin")
    right = float(page.css("[data-hole='a1'] input").get_attribute("value"))
    # A tap is as good as a pixel of the screen: two of the picture's on the desk, four on a phone.
    assert right == pytest.approx(-3.0, abs=3.5)
    if size[0] < 500:
        fits_the_phone(page)


def test_a_hole_typed_says_what_to_open(page: Page) -> None:
    page.size(1280, 800)
    page.open(f"{JOB}/holes")
    page.see("not looked at yet")
    for key in ("a1", "a2", "a3", "a4", "a5", "a6"):
        for i, text in enumerate(("2.4" if key == "a6" else "0", "0", "0.05")):
            fields = page.driver.find_elements(By.CSS_SELECTOR, f"[data-hole='{key}'] input")
            fields[i].send_keys(Keys.CONTROL, "a")
            fields[i].send_keys(text, Keys.TAB)
    page.see("Open hole 6 to")
    page.see("holes: blocked")


def test_gaps_give_an_order_to_the_plan(page: Page) -> None:
    page.size(1280, 800)
    page.open(f"{JOB}/order")
    page.see("Which order draws it home")
    type_into(page, "[data-gap='a1'] input", "4")
    page.see("of its preload on pulling the plate")
    page.click("[data-school='rear'] button:not(.why)")
    page.see("Let the plan work it out again")
    page.size(390, 844)
    fits_the_phone(page)


def test_neighbours_are_looked_at_with_one_tap(page: Page) -> None:
    page.size(390, 844)
    page.open(f"{JOB}/neighbours")
    page.press("List what is always looked at")
    page.see("brake pedal")
    row = page.css("[data-neighbour='brake-pedal']")
    page.driver.execute_script("arguments[0].scrollIntoView({block: 'center'})", row)
    row.find_element(By.XPATH, ".//button[.='A pencil passes']").click()
    page.until("sound", lambda: "sound" in page.css("[data-neighbour='brake-pedal']").text)
    fits_the_phone(page)


def test_a_corner_is_tapped_off_its_price_seen_and_made(page: Page) -> None:
    page.size(1280, 800)
    page.open(f"{JOB}/changes")
    page.see("laid flat")
    tap(page, "[data-testid='flat'] svg", 0.315, 0.46)
    page.until(
        "one place", lambda: len(page.driver.find_elements(By.XPATH, "//button[.='Out']")) == 1
    )
    tap(page, "[data-testid='flat'] svg", 0.37, 0.38)
    page.see("trim the wing right")
    page.see("Mass with hardware")
    page.press("Make this change")
    page.until("made", lambda: page.css("[data-change]").text.startswith("trim the wing right"))
    page.size(390, 844)
    fits_the_phone(page)
