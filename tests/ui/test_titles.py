"""Every page says in its title which one it is: among ten tabs the right one is found."""

from __future__ import annotations

from tests.ui.conftest import Page

SHEETS = {
    "survey": ("", "underside", "space", "next", "plates", "weighing", "strip"),
    "weigh-up": ("", "compare", "coverage", "strike", "what-if", "schools", "priorities"),
    "kit": ("", "joints", "buy", "tools", "sheet"),
    "fit-up": ("", "holes", "order", "pieces", "neighbours", "changes"),
    "tighten": ("",),
    "keep": ("", "log", "plate", "joints", "back"),
}
JOB = "Autumn forest rally: which plate?"


def titled(page: Page, path: str) -> str:
    """The title once the page has one of its own: it comes with the job."""
    page.open(path)
    words: str = page.until(
        f"a title of {path}",
        lambda: (
            page.driver.title
            if page.driver.title not in ("", "Rugged Shield")
            and (JOB in page.driver.title or not path.startswith("/jobs"))
            else ""
        ),
    )
    return words


def test_no_two_pages_have_one_title_and_each_begins_with_its_own_name(page: Page) -> None:
    paths = ["/", "/new", "/new/which", "/new/fit", "/jobs/choosing/first"]
    for station, sheets in SHEETS.items():
        paths += [f"/jobs/choosing/{station}{f'/{s}' if s else ''}" for s in sheets]
    titles = {path: titled(page, path) for path in paths}
    assert len(set(titles.values())) == len(paths)
    assert all(t.endswith(" · Rugged Shield") for t in titles.values())
    assert titles["/"].startswith("Work list")
    assert titles["/jobs/choosing/fit-up/pieces"] == f"Pieces · Fit-up · {JOB} · Rugged Shield"
    assert titles["/jobs/choosing/tighten"] == f"Tighten · {JOB} · Rugged Shield"


def test_in_the_garage_the_step_is_the_title(page: Page) -> None:
    page.size(390, 844)
    page.open("/jobs/half-fitted/garage")
    step = page.read("h1")
    page.until("its title", lambda: page.driver.title.startswith(step))
