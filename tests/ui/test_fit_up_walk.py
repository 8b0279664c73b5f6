"""All of Fit-up in one go on one plate: joints, holes, gaps, neighbours, a change, templates,
pieces and which way they go; the order of work then knows of all of it."""

from __future__ import annotations

import pytest
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.ui.conftest import Page
from tests.ui.test_drawn_text import OVERLAPS
from tests.ui.test_fit_up import type_into
from tests.ui.test_kit_on_phone import fits_the_phone

AT = "/jobs/choosing/fit-up"
PLATE = "candidates.alu5"
WORK = ("Spacer of 2.0 mm at joint 1", "Look which way each piece goes")
TEMPLATE = """
const done = arguments[0];
const link = document.querySelector("a[href*='template-']");
fetch(link.href).then((r) => r.text()).then((t) => done(t.slice(0, 5)));
"""


def sheet(page: Page, name: str) -> None:
    """To another sheet of the station by its link."""

    def followed() -> bool:
        link = page.css("nav[aria-label='Sheets of fit-up']").find_element(By.LINK_TEXT, name)
        page.driver.execute_script("arguments[0].click()", link)
        return link.get_attribute("aria-current") == "page"

    page.until(f"the sheet {name}", followed)


def a_stud_is_built(page: Page) -> None:
    page.open(AT)
    page.press("Build a joint of your own")
    page.listed("starting point", "stud in the bike")
    page.click("[data-mount='m9']")
    page.press("Build this joint")
    page.follow("stud in the bike")
    page.see("How far the stud stands out of the bike is not entered")
    page.type_in(f"{PLATE}.joints.own.length_mm", "45")
    page.saved(f"{PLATE}.joints.own.length_mm")
    page.type_in(f"{PLATE}.joints.own.stud.seated_mm", "16")
    page.until("the seat drawn", lambda: "seated 16.0 mm" in page.driver.page_source)
    assert page.driver.execute_script(OVERLAPS)[1] == []


def what_the_light_shows_is_entered(page: Page) -> None:
    """Holes, gaps and neighbours, as they are with the plate held up."""
    sheet(page, "Holes")
    page.see("not looked at yet")
    for i, text in enumerate(("0.2", "0.1", "0.05")):
        field = page.driver.find_elements(By.CSS_SELECTOR, "[data-hole='a1'] input")[i]
        field.send_keys(Keys.CONTROL, "a")
        field.send_keys(text, Keys.TAB)
    page.see("Least margin")
    sheet(page, "Drawing home")
    page.see("Which order draws it home")
    type_into(page, "[data-gap='a1'] input", "2")
    page.see("of its preload on pulling the plate")
    sheet(page, "Neighbours")
    page.press("List what is always looked at")
    page.see("gear lever")
    row = page.css("[data-neighbour='gear-lever']")
    page.click(row.find_element(By.XPATH, ".//button[.='A pencil passes']"))
    page.until("sound", lambda: "sound" in page.read("[data-neighbour='gear-lever']"))


def a_change_is_priced_and_made(page: Page) -> None:
    sheet(page, "Changes and templates")
    page.listed("what", "spacers at mounts")
    page.entry("thick", "2")
    page.click(page.css("section[aria-label='A change to try'] button[role='switch']"))
    page.see("Mass with hardware")
    page.press("Make this change")
    page.until("made", lambda: page.read("[data-change]").startswith("spacer"))
    assert page.driver.execute_async_script(TEMPLATE) == "%PDF-"


def the_way_of_the_plate_is_said(page: Page) -> None:
    sheet(page, "Pieces")
    page.see("This plate is one sheet")
    page.axe()
    assert page.driver.execute_script(OVERLAPS)[1] == []
    page.type_in(f"{PLATE}.plate.orientation", "slanted edge to the rear")
    page.saved(f"{PLATE}.plate.orientation")
    page.type_in(f"{PLATE}.plate.through_first", "the vent hose")
    page.saved(f"{PLATE}.plate.through_first")


@pytest.mark.parametrize("size", [(1280, 800), (390, 844)], ids=["bench", "phone"])
def test_fit_up_from_the_first_joint_to_the_order_of_work(
    page: Page, size: tuple[int, int]
) -> None:
    page.size(*size)
    for part in (
        a_stud_is_built,
        what_the_light_shows_is_entered,
        a_change_is_priced_and_made,
        the_way_of_the_plate_is_said,
    ):
        part(page)
        if size[0] < 500:
            fits_the_phone(page)
    the_work_knows_of_it(page)


def the_work_knows_of_it(page: Page) -> None:
    """In the garage: the spacer, the look which way, then the plate over its stud."""
    page.open("/jobs/choosing/garage")
    titles = [page.read("h1")]
    while titles[-1] != "Hang the plate" and len(titles) < 12:
        page.step("Next")
        titles.append(page.read("h1"))
        if titles[-1].startswith("Look"):
            page.see("slanted edge to the rear")
    spacer, way = (next(i for i, t in enumerate(titles) if t.startswith(w)) for w in WORK)
    assert spacer < way < len(titles) - 1
    page.see("Over the stud of joint 7 first")
    page.see("Through its openings first: the vent hose.")
