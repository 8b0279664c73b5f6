"""Remakes docs/screenshots from the demo data: one picture per main view."""

from __future__ import annotations

import sys
import tempfile
import time
from pathlib import Path

from selenium import webdriver
from selenium.webdriver.chrome.service import Service

sys.path.insert(0, str(Path(__file__).parents[1]))

from tests.ui.conftest import FLAGS, Page, Server

OUT = Path(__file__).parents[1] / "docs/screenshots"
WIDE, PHONE = (1280, 800), (390, 844)

VIEWS: tuple[tuple[str, str, tuple[int, int]], ...] = (
    ("work-list", "/", WIDE),
    ("survey", "/jobs/choosing/survey?part=sump", WIDE),
    ("measure-next", "/jobs/choosing/survey/next", WIDE),
    ("plates", "/jobs/choosing/survey/plates/alu5", WIDE),
    ("weighing", "/jobs/choosing/survey/weighing", WIDE),
    ("weigh-up", "/jobs/choosing/weigh-up", WIDE),
    ("strike-map", "/jobs/choosing/weigh-up/strike", WIDE),
    ("why", "/jobs/choosing/weigh-up", WIDE),
    ("kit", "/jobs/half-fitted/kit", WIDE),
    ("fit-up", "/jobs/choosing/fit-up/a3", WIDE),
    ("fit-up-blocked", "/jobs/choosing/fit-up/a3", WIDE),
    ("tighten", "/jobs/half-fitted/tighten/a3", WIDE),
    ("garage", "/jobs/half-fitted/garage", WIDE),
    ("garage-phone", "/jobs/half-fitted/garage", PHONE),
    ("keep", "/jobs/half-fitted/keep", WIDE),
    ("keep-phone", "/jobs/half-fitted/keep", PHONE),
    ("fit-up-night", "/jobs/choosing/fit-up/a3", WIDE),
    ("survey-night", "/jobs/in-service/survey", WIDE),
    ("parts", "/parts", WIDE),
)


def prepare(name: str, page: Page) -> None:
    """What is done on a view before its picture is taken."""
    if name == "why":
        page.click(page.css("[data-row='mass'] td:nth-of-type(2) button"))
        page.see("Why this number")
    if name == "survey":
        page.click(page.css("input[data-path='bike.parts.sump.z_min_mm']"))
        page.see("to the underside of the sump")
    if name == "strike-map":
        page.see("Reached at")
        page.click(page.css("[data-testid='strike-map'] svg"))
        page.see("A blow on the")
    if name == "weighing":
        page.press("Lay out the instruments")
        page.until("an instrument", lambda: "stable" in page.css("[data-instrument]").text)
    if name == "fit-up-blocked":
        page.press("Add this layer")
        page.see("too short:")


def main() -> None:
    """Take every picture on a server of its own."""
    OUT.mkdir(parents=True, exist_ok=True)
    options = webdriver.ChromeOptions()
    options.binary_location = "/usr/bin/chromium"
    with tempfile.TemporaryDirectory() as profile, tempfile.TemporaryDirectory() as data:
        for flag in (*FLAGS, f"--user-data-dir={profile}"):
            options.add_argument(flag)
        driver = webdriver.Chrome(options=options, service=Service("/usr/bin/chromedriver"))
        server = Server(Path(data))
        server.start()
        page = Page(driver, server)
        try:
            for name, path, (width, height) in VIEWS:
                page.size(width, height)
                light = "night" if name.endswith("night") else "day"
                page.open("/parts")
                driver.execute_script(
                    "localStorage.removeItem('shield-tray');"
                    f"localStorage.setItem('shield-theme', '{light}')"
                )
                page.open(path)
                page.until(
                    "fetched",
                    lambda n=name: n == "parts" or ("Fetching" not in page.text() and page.text()),
                )
                prepare(name, page)
                driver.execute_script(
                    "document.querySelectorAll('*').forEach(e => { e.scrollTop = 0; })"
                )
                time.sleep(0.9)  # let the slip and the marks come to rest
                driver.save_screenshot(str(OUT / f"{name}.png"))
                print(name)
        finally:
            driver.quit()
            server.stop()


if __name__ == "__main__":
    main()
