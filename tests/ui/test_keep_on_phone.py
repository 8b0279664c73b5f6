"""Keep under the thumb: what happened is told by taps, and what is due follows."""

from __future__ import annotations

import pytest
from selenium.webdriver.common.by import By

from tests.ui.conftest import Page

AT = "/jobs/in-service/garage/keep"
SHEETS = ("", "/log", "/plate", "/joints", "/back")


@pytest.fixture
def phone(page: Page) -> Page:
    page.size(390, 844)
    return page


def dues(page: Page) -> dict[str, str]:
    return {
        e.get_attribute("data-due") or "": e.get_attribute("data-state") or ""
        for e in page.driver.find_elements(By.CSS_SELECTOR, "[data-due]")
    }


def told(page: Page) -> int:
    return len(page.driver.find_elements(By.CSS_SELECTOR, "[data-told]"))


def test_every_sheet_is_legible_at_both_sizes(page: Page) -> None:
    laptop = "/jobs/in-service/keep"
    for width, height, base, sheets in (
        (390, 844, AT, SHEETS),
        (1280, 800, laptop, ("", "/plate")),
    ):
        page.size(width, height)
        for sheet in sheets:
            page.open(base + sheet)
            page.css("main h2")
            page.axe()
            wide = page.driver.execute_script("return document.documentElement.scrollWidth")
            assert wide <= width, (sheet, wide)
    page.quiet_console()


def test_a_blow_is_looked_after_and_a_ride_counts(phone: Page) -> None:
    phone.open(AT)
    phone.see("Look after a blow")
    assert next(iter(dues(phone))).startswith("blow:"), "the blow comes first"
    phone.press("All well:")
    phone.until("looked after", lambda: not next(iter(dues(phone))).startswith("blow:"))
    phone.follow("Log")
    phone.press("Look over")
    phone.click(phone.by_words("label", "oil on the plate"))
    phone.entry("what was found", "a seep at the filter")
    phone.press("Keep it")
    phone.see("Kept: looked over")
    phone.press("Ride")
    phone.entry("how far", "85")
    phone.entry("in the saddle", "3")
    phone.press("Keep it")
    phone.see("Kept: ridden")
    phone.follow("Due")
    phone.see("53685 km")
    assert not any(key.startswith("blow:") for key in dues(phone))
    assert dues(phone)["wash and look"] != "now"


def test_a_blow_where_the_drawing_is_tapped(phone: Page) -> None:
    phone.open(AT + "/plate")
    drawing = phone.css("[aria-label='Where it was struck'] svg")
    phone.click(drawing)
    phone.see("How did it feel?")
    phone.press("thrown stone")
    phone.entry("dent, measured", "1")
    phone.press("Keep this blow")
    phone.css("[data-blow='3']")
    phone.see("a drop onto a log or ledge")
    phone.press("What its mounts took")
    phone.css("[aria-label='Mounts, most loaded first'] li")


def test_a_joint_that_did_not_move_takes_one_tap(phone: Page) -> None:
    phone.open(AT + "/joints")
    phone.press("Did not move at")
    row = "[data-recheck='e1']"
    phone.until("held", lambda: "did not move" in phone.css(row).text)


def test_a_wrong_line_is_voided_and_stays(phone: Page) -> None:
    phone.open(AT)
    phone.css("[data-told]")
    before = told(phone)
    phone.press("Void")
    phone.entry("why it does not count", "it was the other bike")
    phone.press("It does not count")
    phone.see("voided: it was the other bike")
    assert told(phone) == before


def test_what_is_due_is_put_off_with_a_reason(phone: Page) -> None:
    phone.open(AT)
    phone.click("[data-due='re-check'] button")
    phone.entry("put off until, counter", "54000")
    phone.entry("because", "no wrench until the weekend")
    phone.press("Put off")
    phone.until("put off", lambda: dues(phone)["re-check"] == "put off")
    phone.see("no wrench until the weekend")
