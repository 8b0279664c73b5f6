"""Every view and sheet can be read: by day on a phone, by night on a wide screen, enlarged.

Nothing is changed here, so all of it is looked at on one server that is warm after the first.
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import Literal

import pytest
from selenium import webdriver

from tests.ui.conftest import Page, Server, WarmServer, shown
from tests.ui.in_page import JUMPED

STATIONS = ("survey", "weigh-up", "kit", "fit-up", "tighten", "keep", "garage")
PAGES = (
    "/",
    "/new",
    "/new/which",
    "/new/fit",
    "/jobs/choosing/first",
    *(f"/jobs/half-fitted/{view}" for view in STATIONS),
    *(f"/jobs/choosing/survey/{s}" for s in ("underside", "next", "plates/alu5", "strip")),
    "/jobs/choosing/survey/weighing",
    *(f"/jobs/half-fitted/kit/{s}" for s in ("joints", "buy", "tools", "sheet")),
    *(
        f"/jobs/choosing/weigh-up{s}"
        for s in ("", "/compare", "/coverage", "/strike", "/what-if", "/priorities", "/schools")
    ),
)
NIGHT = (
    "/",
    *(f"/jobs/half-fitted/{view}" for view in STATIONS),
    *(f"/jobs/choosing/{sheet}" for sheet in ("survey/underside", "weigh-up/strike")),
)
"""By night the same inks change on every page: one of each kind of page shows whether they carry.
By day and wide the walks look at every page on their way, but for the inks of those above.
"""
PHONE, WIDE = (390, 844), (1280, 800)


@pytest.fixture(scope="module")
def server(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Server]:
    started = WarmServer(tmp_path_factory.mktemp("legible") / "data")
    started.start()
    yield started
    started.kill()


@pytest.fixture
def page(browser: webdriver.Chrome, server: Server) -> Iterator[Page]:
    with shown(browser, server) as page:
        yield page


def over(page: Page) -> int:
    """By how much the page, or what scrolls in it by itself, is wider than its place, px."""
    wide: int = page.driver.execute_script(
        "return Math.max(...[document.documentElement, ...document.querySelectorAll('main')]"
        ".map((e) => e.scrollWidth - e.clientWidth))"
    )
    return wide


def jumped(page: Page) -> float:
    """How far what came in late has pushed the page about: 0.1 and less is said to be good."""
    return float(page.driver.execute_script(JUMPED))


def unfold(page: Page) -> None:
    """Opens everything on the page that folds; what opens a list of choices stays shut."""
    page.driver.execute_script(
        "document.querySelectorAll('button[aria-expanded=false]:not([aria-haspopup])')"
        ".forEach((button) => button.click())"
    )


def looked_at(page: Page, size: tuple[int, int], light: str, inks: Literal["too", "only"]) -> None:
    """What is open, all of it, in this light and on a screen of this size."""
    page.size(*size)
    page.driver.execute_script(f"document.documentElement.dataset.theme = '{light}'")
    unfold(page)
    page.axe(inks=inks)
    assert over(page) <= 0, f"{page.driver.current_url}: {over(page)} px too wide"


def test_every_page_in_both_lights_and_widths(page: Page) -> None:
    page.open("/parts")
    page.driver.execute_script(
        "localStorage.setItem('shield-theme', 'day');localStorage.setItem('shield-tray', 'open')"
    )
    page.size(*PHONE)
    for path in PAGES:
        page.open(path)
        page.without("Fetching")
        assert jumped(page) <= 0.1, path
        assert page.driver.execute_script("return document.documentElement.dataset.theme") == "day"
        looked_at(page, PHONE, "day", inks="too")
        if path in NIGHT:
            looked_at(page, WIDE, "night", inks="only")
            page.size(*PHONE)
    assert set(NIGHT) <= set(PAGES)
    page.quiet_console()


def test_what_is_pushed_about_is_noticed(page: Page) -> None:
    page.open("/parts")
    page.see("Hatches")
    assert jumped(page) <= 0.1
    page.driver.execute_script("document.body.style.paddingTop = '300px'")
    page.until("the push is told", lambda: jumped(page) > 0.1)


def test_every_part_in_both_lights(page: Page) -> None:
    page.open("/parts")
    page.see("Hatches")
    page.axe(fetched=False)
    page.press("day")
    page.axe(fetched=False)
    assert page.driver.execute_script("return document.documentElement.dataset.theme") == "night"


def test_text_at_double_size(page: Page) -> None:
    for view in STATIONS:
        page.open(f"/jobs/choosing/{view}")
        page.without("Fetching")
        page.driver.execute_script("document.documentElement.style.fontSize = '200%'")
        assert over(page) <= 0, f"{view} at double size is wider than the screen by {over(page)}"


@pytest.mark.parametrize(
    ("view", "words"), [("survey", "sump"), ("fit-up/a3", "thread held"), ("tighten/a3", "bolt")]
)
def test_a_table_says_what_a_drawing_shows(page: Page, view: str, words: str) -> None:
    page.open(f"/jobs/choosing/{view}")
    page.press("The same in a table")
    page.until("the table", lambda: words in page.css("table").text)
    page.axe()
