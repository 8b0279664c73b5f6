"""An honest comparison from nothing, with keys only: how many entries it takes."""

from __future__ import annotations

import json
import urllib.request
from typing import Any

from selenium.webdriver.common.keys import Keys

from tests.ui.conftest import Page

MOST = 45
"""Entries for a bike with its sump, the stock plate, four mounts and two plates with all theirs."""

MOUNTS = """number; x; y; z; thread; kind
1; 505; -92; 312; M8; frame tab
2; 505; 92; 312; M8; frame tab
3; 845; -68; 301; M8; engine boss
4; 845; 68; 301; M8; engine boss"""
OPENINGS = """for; from the front edge; to the right; width; height
drain; 210; 0; 40
filter; 150; 60; 90; 60"""
HARDWARE = """kind; size; length; head; class; count
screw; M8; 30; socket; 8.8; 4
washer; M8; 1.6; ; ; 8
nut; M8; ; ; ; 4"""


class Typist:
    """Counts what is typed or chosen; acts (a button, a link) are none."""

    def __init__(self, page: Page) -> None:
        self.page = page
        self.entries: list[str] = []

    def act(self, words: str, backwards: bool = False) -> None:
        self.page.tab_to(words, backwards)
        self.page.keys(Keys.ENTER)

    def type(self, label: str, text: str) -> None:
        self.page.tab_to(label)
        self.page.driver.switch_to.active_element.send_keys(Keys.CONTROL, "a")
        self.page.keys(text, Keys.ENTER)
        self.entries.append(f"{label}: {text}")

    def field(self, path: str, text: str) -> None:
        """A field of the job, reached by Tab, saved by Enter; the focus stays in it."""
        self.page.tab_to_field(path)
        self.page.driver.switch_to.active_element.send_keys(Keys.CONTROL, "a")
        self.page.keys(text, Keys.ENTER)
        self.page.saved(path)
        assert self.at() == path
        self.entries.append(f"{path}: {text}")

    def at(self) -> str:
        where: str = self.page.driver.execute_script(
            "return document.activeElement.dataset.path ?? ''"
        )
        return where

    def choose(self, label: str, word: str) -> None:
        self.page.tab_to(label)
        self.page.keys(Keys.SPACE)
        self.page.css("[role=listbox]")
        self.page.keys(word)
        self.page.until(word, lambda: word in self.page.css("[role=option][data-focus]").text)
        self.page.keys(Keys.ENTER)
        self.entries.append(f"{label}: {word}")

    def table(self, text: str, take: str) -> None:
        """Every row is an entry; the headings count as one."""
        self.page.driver.switch_to.active_element.send_keys(text)
        self.entries += text.splitlines()
        self.page.see("understood")
        self.act(take)


def exported(page: Page, job: str) -> Any:
    url = f"{page.server.base}/api/jobs/{job}/file"
    with urllib.request.urlopen(url, timeout=120) as answer:
        return json.load(answer)["job"]


def bike(page: Page, typist: Typist) -> None:
    page.open("/")
    page.see("Start with a bike")
    typist.act("Start with a bike")
    page.see("First the bike")
    typist.act("The full form")
    page.see("A layout fills in what is typical")
    for label, text in (
        ("what you call the bike", "Own single"),
        ("wheelbase", "1480"),
        ("ground clearance", "285"),
        ("rear tyre", "330 mm"),
    ):
        page.tab_to(label)
        page.driver.switch_to.active_element.send_keys(Keys.CONTROL, "a")
        page.keys(text)
        typist.entries.append(f"{label}: {text}")
    typist.act("Build this bike")
    page.see("What is under this bike")
    typist.act("Type many mounts")
    page.tab_to("a line for each mount")
    typist.table(MOUNTS, "Take in 4 mounts")
    page.see("4 mounts added")
    page.gone("section[aria-label='Type many mounts']")
    typist.act("sumpvital")
    typist.field("bike.parts.sump.z_min_mm", "318")


def plate(page: Page, typist: Typist, key: str, fields: dict[str, str]) -> None:
    for name, text in fields.items():
        typist.field(f"{key}.plate.{name}", text)


def test_a_comparison_takes_few_entries(page: Page) -> None:
    typist = Typist(page)
    bike(page, typist)
    job = page.driver.current_url.split("/jobs/")[1].split("/")[0]
    page.open(f"/jobs/{job}/survey/plates")
    page.see("a new plate, by its name")
    sizes = {
        "thickness_mm": "2.5",
        "belly.length_mm": "380",
        "belly.front_width_mm": "240",
        "belly.rear_width_mm": "230",
    }
    plate(page, typist, "stock", sizes)
    typist.type("a new plate, by its name", "Sheet of 5")
    page.see("Further pieces")
    own = {
        "thickness_mm": "5",
        "belly.start_x_mm": "480",
        "belly.length_mm": "420",
        "belly.front_width_mm": "260",
        "belly.rear_width_mm": "250",
        "claimed_mass_kg": "2.9",
        "price": "180",
    }
    plate(page, typist, "candidates.own", own)
    typist.act("Type many")
    page.tab_to("a line for each opening")
    typist.table(OPENINGS, "Take in 2 openings")
    page.see("2 openings added")
    page.open(f"/jobs/{job}/kit")
    page.see("Paste a list")
    typist.act("Paste a list")
    page.tab_to("a line for each part")
    typist.table(HARDWARE, "Take in 3 lines")
    page.see("3 lines added")
    page.open(f"/jobs/{job}/fit-up")
    page.see("Build a joint of your own")
    typist.act("Build a joint of your own")
    typist.choose("starting point", "tapped")
    typist.act("All ")
    typist.act("Build ")
    page.until("joints", lambda: len(exported(page, job)["candidates"][0]["joints"]) >= 4)
    page.open(f"/jobs/{job}/survey/plates/own")
    page.see("Further pieces")
    typist.act("Copy")
    page.until("the copy", lambda: "own-copy" in page.driver.current_url)
    plate(page, typist, "candidates.own-copy", {"name": "Sheet of 8", "thickness_mm": "8"})
    made = exported(page, job)
    first, second = made["candidates"]
    assert len(first["plate"]["cutouts"]) == len(second["plate"]["cutouts"]) == 2
    assert len(first["kit"]) == len(second["kit"]) == 3
    assert len(first["joints"]) == len(second["joints"]) >= 4
    assert {joint["female"]["kind"] for joint in first["joints"] if joint["female"]} <= {
        "blind_tapped"
    }
    assert made["stock"]["plate"]["belly"]["length_mm"] == 380.0
    assert made["bike"]["rear_wheel_radius_mm"] == 330.0
    assert [m["x_mm"] for m in made["bike"]["mounts"][:4]] == [505.0, 505.0, 845.0, 845.0]
    assert len(typist.entries) <= MOST, "\n".join(typist.entries)
    print(f"{len(typist.entries)} entries")
