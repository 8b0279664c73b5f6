"""From the front page to an answer for two plates by what anybody can say of them, counted."""

from __future__ import annotations

import pytest
from selenium.webdriver.common.keys import Keys

from tests.ui.conftest import Page
from tests.ui.test_kit_on_phone import over

MOST = 15
"""Entries for a bike and two plates, each typed or picked; what is left empty is none."""
PLATES = (
    ("Pan with an apron that rises in front", "Aluminium", "5", "3.1", "219"),
    ("Flat pan under the engine", "Steel", "3", "4.2", "99"),
)


class Teller:
    """Picks and types, one question after another, and counts both."""

    def __init__(self, page: Page, wide: bool) -> None:
        self.page = page
        self.wide = wide
        self.entries = 0

    def pick(self, words: str) -> None:
        self.page.click(self.page.by_words("span", words))
        self.entries += 1

    def type(self, label: str, text: str) -> None:
        self.page.entry(label, text)
        self.entries += 1

    def on(self, title: str) -> None:
        """Goes on to a question, where it is not there beside the others."""
        if not self.wide:
            self.page.press("Next")
            self.page.until(title, lambda: self.page.focused().startswith(title))
        self.page.see(title)
        assert over(self.page) <= 0, "no sideways scroll"


@pytest.mark.parametrize("size", [(1280, 800), (390, 844)])
def test_fifteen_entries_lead_to_an_answer(page: Page, size: tuple[int, int]) -> None:
    page.size(*size)
    tell = Teller(page, size[0] > 1000)
    page.open("/")
    page.follow("Which plate?")
    page.see("What is under it?")
    tell.pick("Single in a cradle frame")
    tell.on("How is it ridden?")
    tell.pick("rock and ledges")
    tell.on("How long is it?")
    tell.type("wheelbase, axle to axle", "1475")
    tell.on("How high is it off the ground?")
    page.see("280 mm is taken, as usual")
    tell.on("What do you call it?")
    page.axe(inks="no")
    page.press("On to the plates")
    page.see("The first plate for my bike")
    for shape, sheet, thickness, mass, price in PLATES:
        tell.pick(shape)
        tell.on("What is it of?")
        tell.pick(sheet)
        tell.type("thickness", thickness)
        tell.on("How large is it?")
        page.see("mm is taken, as usual")
        tell.on("What does its maker say?")
        tell.type("mass (may stay empty)", mass)
        tell.type("price (may stay empty)", price)
        page.press("Enter this plate")
        page.see(f"{sheet} {thickness} mm, {'pan' if sheet == 'Aluminium' else 'flat'}")
    page.axe(inks="no")
    page.follow("See the answer")
    page.see("How sure")
    assert "mm, " in page.read("section[aria-label='Which plate'] .num")
    assert page.driver.find_elements("css selector", "[aria-label='Why this one'] li")
    assert tell.entries <= MOST
    page.quiet_console()


def test_what_was_typed_is_there_after_a_reload_and_a_refusal_names_its_number(page: Page) -> None:
    page.size(1280, 800)
    page.open("/new/which")
    page.entry("wheelbase, axle to axle", "12")
    page.driver.refresh()
    page.see("What is under it?")
    field = page.driver.execute_script(
        "return [...document.querySelectorAll('input')].map((e) => e.value)"
    )
    assert "12" in field
    page.press("On to the plates")
    page.see("from 1000.0 mm to 1900.0 mm")
    page.press("I do not know")
    page.see("1480 mm is taken, as usual")
    page.press("On to the plates")
    page.see("The first plate for my bike")


def test_with_keys_alone_a_plate_is_told(page: Page) -> None:
    page.size(1280, 800)
    page.open("/jobs/choosing/first")
    page.see("What shape is it?")
    page.tab_to("Flat pan under the engine")
    page.keys(Keys.ARROW_RIGHT)
    page.tab_to("thickness")
    page.keys("6", Keys.ENTER)
    page.see("Unknown sheet, pan with apron")
