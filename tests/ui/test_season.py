"""A season told by taps, the way back to stock, and a workshop with three bikes on its list."""

from __future__ import annotations

import pytest
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.ui.conftest import Page
from tests.ui.test_keep_on_phone import AT, dues
from tests.ui.test_legible import over


@pytest.fixture
def phone(page: Page) -> Page:
    page.size(390, 844)
    return page


def keep(page: Page, kind: str, entries: dict[str, str], said: str) -> None:
    """Tells one thing on the log: its button, its figures, one tap to keep it."""
    page.press(kind)
    for label, text in entries.items():
        page.entry(label, text)
    page.press("Keep it")
    page.see(f"Kept: {said}")


def test_a_season_on_the_phone(phone: Page) -> None:
    """Rides, an oil change with what was found, wear, a part, warmth; the blow comes in between."""
    phone.open(f"{AT}/log")
    phone.see("What happened?")
    keep(phone, "Ride", {"how far": "420", "in the saddle": "11"}, "ridden 420")
    phone.press("Oil change")
    phone.click(phone.by_words("label", "stones"))
    keep(
        phone,
        "Oil change",
        {"how long it took": "25", "what came off": "two screws, the plate hung from two"},
        "oil changed",
    )
    keep(phone, "Wear", {"thickness at its thinnest": "5.1"}, "")
    keep(phone, "Part", {"which part": "isolator, rear left", "what it cost": "12"}, "isolator")
    warm = {"which ride": "the quarry track", "the air": "21", "it ran at": "98", "fan ran": "6"}
    keep(phone, "Warmth", warm, "")
    keep(phone, "Note", {"in words": "the left wing rattles at idle"}, "note: the left wing")
    assert over(phone) <= 0
    phone.follow("A blow")
    phone.click(phone.css("[aria-label='Where it was struck'] svg"))
    phone.press("log")
    phone.entry("dent, measured", "4")
    phone.press("Keep this blow")
    phone.css("[data-blow='3']")
    phone.follow("Due")
    phone.until("the blow is due first", lambda: [*dues(phone), ""][0].startswith("blow:"))
    told = " ".join(e.text for e in phone.driver.find_elements(By.CSS_SELECTOR, "[data-told]"))
    for words in ("isolator, rear left replaced", "rattles at idle", "runs at 98", "5.1 mm"):
        assert words in told, words
    phone.quiet_console()


def test_back_to_stock(page: Page) -> None:
    """What it gives back and the way there, the last screw's caution with it."""
    page.open("/jobs/in-service/keep/back")
    page.see("Was the")
    page.see("It gives back")
    page.press("Show the way back")
    steps = [
        e.text
        for e in page.driver.find_elements(By.CSS_SELECTOR, "[aria-label='Back to stock'] li")
    ]
    assert len(steps) >= 5
    assert "Support the bike" in steps[0]
    off = next(i for i, words in enumerate(steps) if "drops the plate" in words)
    on = next(i for i, words in enumerate(steps) if "stock" in words.lower() and i > off)
    assert off < on, "the plate comes off before the stock one goes on"
    page.axe()


def test_a_workshop_of_three_bikes(page: Page) -> None:
    """Whose bike, what is due first, who did it: typed once, found on the list."""
    page.open("/jobs/in-service/keep/back")
    page.type_in("customer", "Arvo of the quarry")
    page.saved("customer")
    page.open("/jobs/half-fitted/keep/back")
    page.type_in("customer", "Mirel")
    page.saved("customer")
    page.open("/")
    page.without("Working out")
    page.listed("Order", "what is due first")

    def marks() -> list[str]:
        return [e.text for e in page.driver.find_elements(By.CSS_SELECTOR, "[data-job]")]

    page.until("all say what is next", lambda: sum("Next:" in words for words in marks()) == 6)
    assert len({words.splitlines()[2] for words in marks()}) >= 3, "three bikes or more"
    page.entry("Search", "quarry")
    page.until(
        "one left",
        lambda: len(page.driver.find_elements(By.CSS_SELECTOR, "[data-job]")) == 1,
    )
    page.see("of Arvo of the quarry")
    search = page.entry("Search", "mirel")
    page.see("of Mirel")
    search.send_keys(Keys.CONTROL, "a", Keys.BACKSPACE)
    page.follow("Next:")
    page.until("it is opened", lambda: "/jobs/" in page.driver.current_url)


def test_long_names_wrap_and_escape_puts_back(page: Page) -> None:
    """A name of 80 letters without a space breaks no page; Enter keeps the place, Esc the old."""
    long = "Überlangername" * 5
    path = "candidates.alu5.plate.name"
    page.open("/jobs/choosing/survey/plates/alu5")
    field = page.type_in(path, long)
    page.saved(path)
    assert page.driver.switch_to.active_element == field, "Enter leaves the place where it is"
    field.send_keys(Keys.CONTROL, "a")
    field.send_keys("nothing", Keys.ESCAPE)
    page.until("put back", lambda: field.get_attribute("value") == long)
    for width, height in ((1280, 800), (390, 844)):
        page.size(width, height)
        for view in (
            "survey/plates/alu5",
            "weigh-up",
            "weigh-up/compare",
            "kit",
            "fit-up",
            "tighten",
            "keep",
        ):
            page.open(f"/jobs/choosing/{view}")
            page.without("Fetching")
            assert over(page) <= 0, (view, width, over(page))
        page.open("/")
        page.without("Working out")
        assert over(page) <= 0, ("the list", width)
