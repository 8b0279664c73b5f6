"""Remakes docs/screenshots from the demo data: one picture per main view."""

from __future__ import annotations

import time
from pathlib import Path

from driven import Page, driven_page
from selenium.webdriver import ActionChains

OUT = Path(__file__).parents[1] / "docs/screenshots"
WIDE, PHONE = (1280, 800), (390, 844)

VIEWS: tuple[tuple[str, str, tuple[int, int]], ...] = (
    ("work-list", "/", WIDE),
    ("survey", "/jobs/choosing/survey?part=sump", WIDE),
    ("which-plate", "/jobs/choosing/first", WIDE),
    ("plates", "/jobs/choosing/survey/plates/alu5", WIDE),
    ("answer", "/jobs/choosing/weigh-up", WIDE),
    ("weigh-up", "/jobs/choosing/weigh-up/compare", WIDE),
    ("strike-map", "/jobs/choosing/weigh-up/strike", WIDE),
    ("bare-parts", "/jobs/choosing/weigh-up/coverage", WIDE),
    ("what-if", "/jobs/choosing/weigh-up/what-if", WIDE),
    ("priorities", "/jobs/choosing/weigh-up/priorities", WIDE),
    ("kit", "/jobs/half-fitted/kit", WIDE),
    ("kit-joints-phone", "/jobs/half-fitted/kit/joints", PHONE),
    ("fit-up", "/jobs/choosing/fit-up/a3", WIDE),
    ("neighbours", "/jobs/wing-in-the-way/fit-up/neighbours", WIDE),
    ("changes", "/jobs/wing-in-the-way/fit-up/changes", WIDE),
    ("tighten", "/jobs/half-fitted/tighten/a3", WIDE),
    ("garage-phone", "/jobs/half-fitted/garage", PHONE),
    ("keep", "/jobs/in-service/keep", WIDE),
    ("keep-phone", "/jobs/in-service/garage/keep/plate", PHONE),
)


def tap_flat(page: Page, x_mm: float, y_mm: float) -> None:
    """A tap on the flat plate at a place of its drawing."""
    svg = page.css("[data-testid='flat'] svg")
    at = page.driver.execute_script(
        "const [svg, x, y] = arguments; const p = new DOMPoint(x, y)"
        ".matrixTransform(svg.getScreenCTM()); const b = svg.getBoundingClientRect();"
        "return [p.x - b.x - b.width / 2, p.y - b.y - b.height / 2]",
        svg,
        x_mm,
        y_mm,
    )
    offset = [round(v) for v in at]
    ActionChains(page.driver).move_to_element_with_offset(svg, *offset).click().perform()
    time.sleep(0.6)


def prepare(name: str, page: Page) -> None:
    """What is done on a view before its picture is taken."""
    if name == "survey":
        page.click("input[data-path='bike.parts.sump.z_min_mm']")
        page.see("to the underside of the sump")
    if name == "strike-map":
        page.see("Reached at")
        svg = page.css("[data-testid='strike-map'] svg")
        ActionChains(page.driver).move_to_element_with_offset(svg, 0, 40).click().perform()
        page.see("A blow on the")
    if name == "changes":
        page.see("laid flat")
        for x, y in ((-255, 185), (-150, 82)):
            tap_flat(page, x, y)
        page.see("trim the wing right")
        page.see("Mass with hardware")
    if name == "which-plate":
        page.click(page.by_words("span", "Shell: apron and wings in one"))
        page.entry("thickness", "8")
    if name == "bare-parts":
        page.see("Shielded, barest first")
    if name == "what-if":
        page.see("Keep as a candidate")
        page.entry("thickness", "6")
        page.see("Pressed aluminium pan: 6 mm")
        page.css("section[aria-label='Before and after'] + aside svg")
        time.sleep(3.0)
    if name == "answer":
        page.see("How sure")
        page.without("Trying every number")
    if name == "priorities":
        page.see("The ranking that follows")


def main() -> None:
    """Take every picture on a server of its own."""
    OUT.mkdir(parents=True, exist_ok=True)
    with driven_page() as page:
        for name, path, (width, height) in VIEWS:
            page.size(width, height)
            page.open("/parts")
            page.driver.execute_script(
                "localStorage.removeItem('shield-tray');localStorage.setItem('shield-theme', 'day')"
            )
            page.open(path)
            page.until(
                "fetched",
                lambda n=name: n == "parts" or ("Fetching" not in page.text() and page.text()),
            )
            prepare(name, page)
            page.driver.execute_script(
                "document.querySelectorAll('*').forEach(e => { e.scrollTop = 0; })"
            )
            time.sleep(0.9)  # let the slip and the marks come to rest
            page.driver.save_screenshot(str(OUT / f"{name}.png"))
            print(name)


if __name__ == "__main__":
    main()
