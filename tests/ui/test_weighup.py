"""Weigh-up as a rider goes through it: gates, maps, a what-if, priorities, the pick on paper."""

from __future__ import annotations

from typing import Any

from selenium.webdriver import ActionChains
from selenium.webdriver.common.by import By

from tests.ui.conftest import Page

JOB = "/jobs/choosing/weigh-up/compare"


def sheet(page: Page, words: str) -> None:
    page.click(page.by_words("nav[@aria-label='Sheets of the weighing up']//a", words))


def gates(page: Page) -> None:
    """A shut gate says what clears it; the bundle opens it, over budget as it then is."""
    page.open(JOB)
    page.see("Against stock")
    page.press("Crash bars of Bar-hung aluminium plate: blocked")
    page.see("weigh it as a bundle with crash bars")
    page.axe()
    page.press("Weigh it with crash bars")
    page.see("with bars")
    page.until(
        "the budget's gate",
        lambda: "445 crowns against 300" in page.css("aside[aria-label^='Findings']").text,
    )
    page.press("Weigh it without crash bars")
    page.see("weigh it as a bundle with crash bars")
    page.press("Close")


def rows(page: Page) -> None:
    """Best and worst by word; a group folds, a row is pinned, both are remembered."""
    assert "best" in page.css("[data-row='mass']").text
    assert "worst" in page.css("[data-row='mass']").text
    page.press("Money")
    page.gone("[data-row='money_a_year']")
    page.press("Pin “Ring after a stone”")
    page.see("Pinned")
    page.open(JOB)
    page.see("Pinned")
    page.gone("[data-row='money_a_year']")
    page.press("Money")


def struck_rows(page: Page) -> None:
    """Every plate struck in the background: progress, cancel, and again to the end."""
    page.press("Strike every plate")
    page.css("progress")
    page.press("Cancel")
    page.see("Cancelled: what was done is shown")
    page.press("Strike all plates again")
    row = "[data-row='strike:touch']"
    page.until("every plate struck", lambda: "to come" not in page.css(row).text)
    cells = page.css(row).find_elements(By.TAG_NAME, "td")
    assert len(cells) == 9
    assert all(" J" in cell.text for cell in cells)


def schools(page: Page) -> None:
    """What the mounts take stands beside each way of hanging a plate, once all were struck."""
    sheet(page, "Schools")
    table = page.css("section[aria-label^='Frame, engine'] table")
    assert "Worst mount on a casting" in table.text
    rows = table.find_elements(By.CSS_SELECTOR, "tbody tr")
    casting = {r.find_element(By.TAG_NAME, "b").text: r.text.split()[-2] for r in rows}
    assert casting["frame only"] == casting["crash bars"] == "0"
    assert int(casting["engine"]) > 0
    page.axe(inks="no")


def bare_parts(page: Page) -> None:
    sheet(page, "Bare parts")
    page.see("Shielded, barest first")
    whole = page.css("[data-figure$=':all']").text
    page.listed("stones come", "from below")
    page.until("another share", lambda: page.css("[data-figure$=':all']").text != whole)
    page.axe(inks="no")


def maps(page: Page) -> None:
    """One plate, another, their difference, and one place in full."""
    sheet(page, "Strike map")
    page.see("Reached at, wherever it is struck")
    page.axe(inks="no")
    deepest = page.css("[data-figure='strike:deepest']").text
    page.listed("plate", "Light aluminium pan")
    page.until("another map", lambda: page.css("[data-figure='strike:deepest']").text != deepest)
    page.entry("its energy", "250")
    page.see("of 250 J")
    page.listed("held against", "Pressed aluminium pan")
    page.see("Where both have sheet, the Light aluminium pan needs")
    page.listed("held against", "no other plate")
    svg = page.css("[data-testid='strike-map'] svg")
    ActionChains(page.driver).move_to_element_with_offset(svg, 0, 40).click().perform()
    page.see("A blow on the belly")
    page.see("of its limit")
    page.axe()
    page.press("Back to the map")
    page.listed("the stone comes", "from ahead 20° upward")
    front = page.css("[data-testid='strike-map-ahead'] svg")
    page.axe()
    page.click(front)
    page.see("A blow on the apron")
    page.press("Back to the map")


def what_if(page: Page) -> None:
    sheet(page, "What if")
    page.see("Keep as a candidate")
    page.entry("thickness", "7")
    page.see("Pressed aluminium pan: 7 mm")
    page.until("a heavier copy", lambda: "worse" in page.css("[data-row='mass']").text)
    page.axe()
    page.entry("thickness", "70")
    page.until("a refusal", lambda: "0.5" in page.css("[role='alert']").text)
    page.entry("thickness", "6")
    page.see("Pressed aluminium pan: 6 mm")
    page.listed("mounts", "a known stiffness at …")
    page.entry("stiffness along the screw", "800")
    page.click(page.switch("3 engine boss, left"))
    page.see("Pressed aluminium pan: 6 mm, 800 N/mm at 1 joint")
    page.press("Keep as a candidate")
    page.see("6 mm, 800 N/mm at 1 joint kept as a candidate")
    sheet(page, "Side by side")
    page.until(
        "ten plates",
        lambda: len(page.driver.find_elements(By.CSS_SELECTOR, "th[data-plate]")) == 10,
    )


def priorities(page: Page) -> str:
    """Weights are moved until another plate is first."""
    sheet(page, "Priorities")
    page.see("The ranking that follows")
    page.see("Blocked as they are")
    page.axe(inks="no")
    first = page.css("[data-ranked]").get_attribute("data-ranked")
    for _ in range(5):
        page.press("Less: keep it light")
    for _ in range(2):
        page.press("More: protect the engine")
    page.until(
        "another first", lambda: page.css("[data-ranked]").get_attribute("data-ranked") != first
    )
    return str(page.css("[data-ranked] b").text)


def fetched(page: Page, path: str) -> Any:
    """Status, type and first letters of a file that the page links to."""
    return page.driver.execute_async_script(
        "const done = arguments[1]; fetch(arguments[0]).then(async r => done([r.status,"
        "r.headers.get('Content-Type'), (await r.text()).slice(0, 200)]))",
        path,
    )


def decided(page: Page, name: str) -> None:
    sheet(page, "Side by side")
    page.press(f"Pick the {name}")
    page.press("Take pick back")
    page.press(f"Pick the {name}")
    page.click(page.by_words("button", f"findings of {name}"))
    page.type_in("pick_reason", "it shields most")
    page.saved("pick_reason")
    pdf = page.by_words("a", "Decision sheet").get_attribute("href")
    table = page.by_words("a", "Table (CSV)").get_attribute("href")
    assert fetched(page, str(pdf))[:2] == [200, "application/pdf"]
    status, kind, text = fetched(page, str(table))
    assert (status, kind.split(";")[0]) == (200, "text/csv")
    assert text.startswith("quantity,unit,Stock splash guard")


def test_from_gates_to_the_decision_sheet(page: Page) -> None:
    gates(page)
    rows(page)
    struck_rows(page)
    schools(page)
    bare_parts(page)
    maps(page)
    what_if(page)
    decided(page, priorities(page))
    page.quiet_console()
