"""A rider's own bike and plates, from nothing to weighed, and all of it undone and redone."""

from __future__ import annotations

import json
import time
import urllib.request
from collections.abc import Callable
from pathlib import Path

import ezdxf
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.ui.conftest import Page

SHEET_LIST = (
    "Item;Size;Length;Head;Class;Qty;Only if\n"
    "front bolt;M8;30;button flange;10.9;2;\n"
    "washer;M8;1,6;;;4;\n"
    "bar clamp bolt;M8;45;hex;8.8;2;bars\n"
    "tail bolt;M8;;hex;8.8;2;\n"
    "odd bolt;M7;30;hex;8.8;2;\n"
)


def job_of(page: Page) -> str:
    return page.driver.current_url.split("/jobs/")[1].split("/")[0]


def exported(page: Page) -> dict[str, object]:
    url = f"{page.server.base}/api/jobs/{job_of(page)}/file"
    with urllib.request.urlopen(url, timeout=120) as answer:
        job: dict[str, object] = json.load(answer)["job"]
    return job


def sheet(page: Page, words: str) -> None:
    page.click(page.by_words("nav[@aria-label='Sheets of the survey']//a", words))


def new_bike(page: Page) -> None:
    page.open("/")
    page.follow("Start with a bike")
    page.see("First the bike")
    page.follow("The full form")
    page.see("A layout fills in what is typical")
    page.axe(inks="no")
    page.press("Build this bike")
    page.see("Wheelbase was not entered")
    page.click(page.by_words("*[@role='radio']", "Parallel twin"))
    page.entry("what you call the bike", "Own twin")
    page.entry("wheelbase", "1530")
    page.entry("ground clearance", "9.25 in")
    page.entry("rear tyre", "150/70 R17 x")
    page.press("Build this bike")
    page.see("What is under this bike")
    page.see("assumed")
    page.axe()


def corrections(page: Page) -> None:
    outline = "document.querySelectorAll('svg.drawing')[0].querySelector('[data-ref=sump]')"
    page.click("svg [data-mark='sump']")
    before = page.driver.execute_script(f"return {outline}.getAttribute('d')")
    field = page.css("input[data-path='bike.parts.sump.x_max_mm']")
    page.click(field)
    page.see("to the rear edge of the sump")
    field.send_keys(Keys.CONTROL, "a")
    field.send_keys("870")
    page.until(
        "the drawing follows",
        lambda: page.driver.execute_script(f"return {outline}.getAttribute('d')") != before,
    )
    page.saved("bike.parts.sump.x_max_mm")
    page.see("measured ± 1 mm")
    page.press("Back to the list")
    page.click("[data-part='filter']")
    page.type_in("bike.parts.filter.z_min_mm", "302 mm")
    page.saved("bike.parts.filter.z_min_mm")
    page.press("Mirror left/right")
    page.until("the mirror image", lambda: "part=part" in page.driver.current_url)
    page.press("Take out")
    page.see("Parts and mounts")


def calliper(page: Page) -> None:
    page.click("[data-part='m1']")
    page.press("Lay out the instruments")
    page.press("Thread, depths, torque, stiffness")
    page.click("input[data-path='bike.mounts.m1.thread_end_mm']")
    put(page, "calliper", "9.62")
    take(page, "calliper", lambda: "measured, calliper, simulated ± 0.2 mm" in page.text())
    page.click("input[data-path='bike.mounts.m1.thread_end_mm']")
    take(page, "scale", lambda: "reads in kg, this field is in mm" in page.text())


def take(page: Page, instrument: str, there: Callable[[], bool]) -> None:
    """Takes a reading as a person does: once more when it was refused as still moving."""
    button = f"[data-instrument='{instrument}'] button[aria-label^='Take reading']"

    def tried() -> bool:
        page.click(page.css(button))
        end = time.monotonic() + 3
        while time.monotonic() < end:
            if there():
                return True
            time.sleep(0.05)
        return False

    page.until(f"a reading of the {instrument}", tried)


def put(page: Page, instrument: str, value: str) -> None:
    """Puts a load on a simulated instrument and waits until it stands still."""
    box = f"[data-instrument='{instrument}']"
    page.until("the instrument answers", lambda: "absent" not in page.css(box).text)
    field = page.css(f"{box} input")
    field.send_keys(Keys.CONTROL, "a")
    field.send_keys(value)
    field.send_keys(Keys.ENTER)
    want = float(value)
    page.until(
        f"{instrument} stable at {value}",
        lambda: (
            "stable" in page.css(box).text
            and abs(float(page.css(f"{box} output").text.split()[0]) - want) < 0.21
        ),
    )


def typed_plate(page: Page) -> None:
    sheet(page, "Plates")
    page.entry("a new plate, by its name", "Shop pan").send_keys(Keys.ENTER)
    page.until("its editor", lambda: page.driver.current_url.endswith("/plates/own"))
    page.see("From the sheet")
    at = "candidates.own.plate"
    page.choose("[data-group='sheet'] button[aria-haspopup='listbox']", "aluminium 6061")
    flat = "[data-testid='plate-drawings'] svg [data-dimension='along'] text"
    before = page.css(flat).text
    for field, text in (
        ("claimed_mass_kg", "3.4"),
        ("sheet_date", "2026-05"),
        ("price", "210"),
        ("belly.length_mm", "430"),
        ("belly.front_width_mm", "290"),
    ):
        page.type_in(f"{at}.{field}", text)
        page.saved(f"{at}.{field}")
    for panel in ("an apron", "a wing left", "a wing right", "a slider"):
        page.press(panel)
        page.see(f"Take the {panel.split(' ', 1)[1]} off")
    page.until("the pattern grew", lambda: page.css(flat).text != before)
    page.press("Add an opening")
    page.click("[data-item='hole'] button")
    page.type_in(f"{at}.cutouts.hole.width_mm", "46")
    page.saved(f"{at}.cutouts.hole.width_mm")
    page.type_in(f"{at}.cutouts.hole.u_mm", "2000")
    page.see("Kept:")
    page.press("put it back")
    page.press("Add a piece")
    page.see("piece 1")
    page.choose("section[aria-label='Compared with another plate'] button", "stock guard")
    page.see("times")
    page.axe()


def hardware(page: Page) -> None:
    page.follow("Kit")
    page.see("Shop pan: its hardware")
    page.press("Paste a list")
    page.css("textarea").send_keys(SHEET_LIST)
    page.see("4 understood, 1 not: left out")
    page.axe()
    page.press("Take in 4 lines")
    page.see("not on this bike")
    page.see("Length of tail bolt not on the sheet")
    page.click(page.by_words("nav[@aria-label='Stations']//a", "Fit-up"))
    page.see("A joint of your own")
    for mount in ("m1", "m2"):
        page.click(page.css(f"input[data-mount='{mount}']"))
    page.press("Build 2 joints")
    page.see("front tab, left")
    page.see("front tab, right")


def traced_plate(page: Page, folder: Path) -> None:
    drawing = ezdxf.new()
    space = drawing.modelspace()
    space.add_lwpolyline([(0, 0), (260, 0), (230, 400), (30, 400)], close=True)
    space.add_circle((130, 200), 20)
    file = folder / "traced.dxf"
    drawing.header["$INSUNITS"] = 0
    drawing.saveas(file)
    page.click(page.by_words("nav[@aria-label='Stations']//a", "Survey"))
    sheet(page, "Plates")
    page.entry("a new plate, by its name", "Traced sheet").send_keys(Keys.ENTER)
    page.until("its editor", lambda: page.driver.current_url.endswith("/plates/own-2"))
    page.press("Take the outline from a traced")
    page.driver.find_element(By.CSS_SELECTOR, "[data-testid='outline-file']").send_keys(str(file))
    page.press("Take the outline in")
    page.see("unit")
    box = "//label[normalize-space(.)='unit']/following-sibling::button"
    page.click(page.driver.find_element(By.XPATH, box))
    page.click(page.driver.find_element(By.XPATH, "//*[@role='option'][normalize-space(.)='mm']"))
    page.press("Take the outline in")
    flat = "[data-testid='plate-drawings'] svg [data-dimension='along'] text"
    page.until("the traced outline", lambda: "400.0 mm" in page.css(flat).text)
    page.see("traced outline with 1 holes")


def weighing(page: Page) -> None:
    sheet(page, "Weighing")
    page.press("Start a weighing")
    page.see("No pair yet")
    for with_kg, without_kg in (("83.4", "80.2"), ("83.5", "80.3")):
        for side, load in (("with", with_kg), ("without", without_kg)):
            page.click(page.css(f"input[data-reading='{side}']"))
            put(page, "scale", load)
            field = f"input[data-reading='{side}']"
            take(
                page,
                "scale",
                lambda f=field: "kg" in (page.css(f).get_attribute("value") or ""),
            )
        page.press("Add this pair")
        page.until(
            "an empty pair",
            lambda: page.css("input[data-reading='with']").get_attribute("value") == "",
        )
    page.until("the mean", lambda: "weighs 3." in page.css("[data-testid='weighing-words']").text)
    page.see("bathroom scale, simulated")
    page.press("Put the instruments away")
    page.axe()


def version(page: Page) -> int:
    url = f"{page.server.base}/api/jobs/{job_of(page)}"
    with urllib.request.urlopen(url, timeout=120) as answer:
        return int(json.load(answer)["version"])


def turn(page: Page, way: str) -> None:
    """Presses Undo or Redo and waits until it is done."""
    before = version(page)
    page.click(f"[data-turn='{way}']")
    page.until(f"{way} done", lambda: version(page) != before)


def undo_all(page: Page, start: dict[str, object]) -> None:
    """Back to the start by Undo; a few steps forward again by Redo (all: ``test_undo``)."""
    stood = [exported(page)]
    while page.css("[data-turn='undo']").get_attribute("title"):
        turn(page, "undo")
        stood.append(exported(page))
        assert len(stood) < 200
    assert stood[-1] == start
    assert len(stood) > 20
    for before in (stood[-2], stood[-3], stood[-4]):
        turn(page, "redo")
        assert exported(page) == before


def test_own_bike_own_plates(page: Page, tmp_path: Path) -> None:
    began = time.monotonic()
    new_bike(page)
    start = exported(page)
    corrections(page)
    calliper(page)
    typed_plate(page)
    hardware(page)
    traced_plate(page, tmp_path)
    weighing(page)
    print(f"entered in {time.monotonic() - began:.0f} s")
    undo_all(page, start)
    page.quiet_console()
