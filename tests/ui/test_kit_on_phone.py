"""A kit on the floor, on the phone: from nothing to what is short and which screw goes where."""

from __future__ import annotations

import json
import time
import urllib.request
from typing import Any

from selenium.webdriver.common.by import By

from tests.ui.conftest import Page
from tests.ui.test_legible import over
from tests.ui.test_survey import put, take

MOST_ENTRIES = 12
MOST_S = 300.0
LIST = """name;size;length;head;class;count;bag
belly screw;M8;20;socket cap;8.8;4;A
belly screw, long;M8;25;socket cap;8.8;2;B
washer;M8;;;;4;A
drain key;;;;;1;B
"""


def exported(page: Page, job: str) -> Any:
    url = f"{page.server.base}/api/jobs/{job}/file"
    with urllib.request.urlopen(url, timeout=120) as answer:
        return json.load(answer)["job"]


def fits_the_phone(page: Page) -> None:
    """No sideways scroll, and whatever is tapped is as large as a finger."""
    assert over(page) <= 0, page.driver.current_url
    small = page.driver.execute_script(
        """return [...document.querySelectorAll('main button, main a, main input')]
          .filter((e) => e.offsetParent && e.type !== 'file' && !e.closest('.sr-only'))
          .filter((e) => !e.matches('.why') && e.getBoundingClientRect().height < 43.5)
          .map((e) => (e.textContent || e.ariaLabel || e.outerHTML).slice(0, 60))"""
    )
    assert small == [], small


def begin(page: Page) -> tuple[str, int]:
    """From the front page to the first useful answer; the job, and how many entries it took."""
    page.open("/")
    page.follow("I have a plate to fit")
    page.entry("what you call the bike", "Green single")
    page.click(page.by_words("*[@role='radio']", "Single in a cradle frame"))
    page.driver.find_element(By.TAG_NAME, "textarea").send_keys(LIST)
    page.see("4 understood")
    fits_the_phone(page)
    page.press("Lay the kit out")
    page.see("4 joints proposed from the list")
    return page.driver.current_url.split("/jobs/")[1].split("/")[0], 3


def count_to(page: Page, line: str, pieces: int) -> None:
    """“One more of these”, as many as were found."""
    row = f"[data-line='{line}']"
    for _ in range(pieces):
        page.click(f"{row} button[aria-label^='One more']")
    page.until(f"{pieces} counted", lambda: page.css(f"{row} output").text == str(pieces))


def identified(page: Page) -> None:
    """Two look-alikes: the thread tells nothing, the length by the calliper does."""
    page.press("Identify a screw")
    page.see("Read what you can")
    field = page.entry("diameter of the thread", "7.86")
    page.see("It may be 2 lines. Read the length")
    field = page.entry("length", "")
    field.click()
    put(page, "calliper", "24.9")
    take(page, "calliper", lambda: "It is belly screw, long" in page.text())
    page.press("Done")


def substituted(page: Page, job: str) -> None:
    """An inch washer and a stock screw stand in, each judged by its joint's own stack."""
    page.open(f"/jobs/{job}/kit/joints")
    page.press("Use another washer in joint 1")
    page.entry("what is used", "inch washer")
    page.entry("outer size", "17.5")
    page.entry("hole", "8.7")
    page.press("Use it")
    page.see("Stands in until its own part is there")
    page.press("Use another screw in joint 2")
    page.entry("what is used", "stock screw")
    page.entry("length", "10")
    page.press("Use it")
    debts = "section[aria-label='Substitutes']"
    page.until("two debts", lambda: page.css(debts).text.count("Its own part is in") == 2)
    assert "blocked" in page.css(f"{debts} [data-debt='debt-2']").text
    fits_the_phone(page)
    kit = exported(page, job)["candidates"][0]
    assert [s["name"] for s in kit["substitutes"]] == ["inch washer", "stock screw"]
    page.open("/")
    page.see("2 owed")
    page.open(f"/jobs/{job}/kit/joints")
    page.press("Its own part is in")
    page.until("one paid", lambda: page.css(debts).text.count("Its own part is in") == 1)


def bought_and_tooled(page: Page, job: str) -> None:
    page.open(f"/jobs/{job}/kit/buy")
    page.see("to pay a debt")
    page.see("short in the kit")
    fits_the_phone(page)
    page.open(f"/jobs/{job}/kit/tools")
    page.see("6 mm hex key")
    page.press("Into the roll")
    page.see("The roll takes this plate off.")
    fits_the_phone(page)


def test_from_a_kit_on_the_floor_to_what_is_lacking(page: Page) -> None:
    page.size(390, 844)
    began = time.monotonic()
    job, entries = begin(page)
    page.see("M8 × 20")
    page.press("All 4 proposed ones are right")
    entries += 1
    page.until(
        "joints confirmed",
        lambda: not any(j["proposed"] for j in exported(page, job)["candidates"][0]["joints"]),
    )
    page.open(f"/jobs/{job}/kit")
    page.see("Not the same as")
    count_to(page, "list-4", 3)
    entries += 3
    page.see("short: 1 lacking")
    assert entries <= MOST_ENTRIES
    assert time.monotonic() - began < MOST_S
    print(f"{entries} entries, {time.monotonic() - began:.0f} s of a driven run")
    fits_the_phone(page)
    identified(page)
    substituted(page, job)
    bought_and_tooled(page, job)


def test_a_screw_is_put_to_a_joint_and_a_spare_part_too(page: Page) -> None:
    page.size(390, 844)
    job, _ = begin(page)
    page.click("button[aria-label*='line for screw of joint 3'], [data-joint] button.input")
    page.click(page.by_words("*[@role='option']", "belly screw, long"))
    page.until(
        "the long screw in a joint",
        lambda: 25.0 in [j["length_mm"] for j in exported(page, job)["candidates"][0]["joints"]],
    )


def test_a_revised_sheet_is_taken_line_by_line(page: Page) -> None:
    job, _ = begin(page)
    page.open(f"/jobs/{job}/kit/sheet")
    page.press("The sheet was revised")
    area = page.driver.find_element(By.TAG_NAME, "textarea")
    area.send_keys(LIST.replace("M8;25", "M8;30").replace("washer;M8;;;;4", "washer;M8;;;;6"))
    page.press("What does it alter?")
    page.see("2 changes, 2 lines as they were")
    page.see("length from 25 mm to 30 mm")
    page.click(page.by_words("label", "belly screw, long"))
    page.press("Take 1 of 2")
    page.until(
        "the revision",
        lambda: (
            {
                k["name"]: (k["length_mm"], k["count"])
                for k in exported(page, job)["candidates"][0]["kit"]
            }.items()
            >= {"belly screw, long": (30.0, 2), "washer": (None, 4)}.items()
        ),
    )
