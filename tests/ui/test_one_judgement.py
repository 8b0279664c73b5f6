"""A doubt on the screens: over-torque under the bike, and a layout's guess that is never green."""

from __future__ import annotations

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.ui.conftest import Page

GARAGE = "/jobs/half-fitted/garage"


def to_step(page: Page, title: str) -> None:
    """By the arrow keys to the step of that title."""
    for _ in range(40):
        if page.read("h1") == title:
            return
        before = page.read("h1")
        page.keys(Keys.ARROW_RIGHT)
        page.until("the next step", lambda before=before: page.read("h1") != before)
    raise AssertionError(f"there is no step {title}")


def test_over_torque_on_the_phone(page: Page) -> None:
    page.size(390, 844)
    page.open(GARAGE)
    to_step(page, "Torque joint 5")
    page.entry("reading, band", "40")
    page.press("Record reading")
    page.see("Stop: do not go on with this joint as it is.")
    page.press("It clicked")
    page.see("was read before, and is")
    page.see("Stop: do not go on with this joint as it is.")
    assert page.read("h1") == "Torque joint 5", "a later click does not clear it"
    page.press("A new screw is in: torque it anew")
    page.without("Stop: do not go on with this joint as it is.")
    page.step("It clicked")
    page.until("the step is left", lambda: page.read("h1") != "Torque joint 5")
    page.axe()


def test_a_damaged_thread_and_the_gate_at_the_last_step(page: Page) -> None:
    page.size(390, 844)
    page.open(GARAGE)
    to_step(page, "Torque joint 6")
    page.press("its thread is damaged")
    page.see("Nothing is torqued on a damaged thread")
    page.press("It is damaged: the joint stays open")
    page.see("Its thread is damaged: nothing is torqued on it.")
    to_step(page, "Bag the stock parts")
    page.see("Not ready to ride")
    first = page.css("[aria-label='What is missing'] li")
    assert first.get_attribute("data-finding") == "thread damaged", "the gravest first"
    assert not page.driver.find_elements(By.CSS_SELECTOR, "[data-finding='thread damaged'] button")


def test_a_guess_is_marked_and_a_tap_says_how_it_is_known(page: Page) -> None:
    page.size(1280, 800)
    page.open("/jobs/choosing/fit-up/a1")
    page.see("Length, thread and room are right.")
    page.choose("[aria-label^='How thickness of spacer']", "assumed")
    page.see("sound, on assumed numbers")
    page.see("It stands on numbers that nobody entered (1)")
    page.axe()
    page.press("Undo")
    page.see("Length, thread and room are right.")
