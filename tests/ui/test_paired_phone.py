"""A laptop on the bench and a phone under the bike, on one job at the same time."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import pytest
from selenium import webdriver
from selenium.webdriver.common.by import By

from tests.ui.conftest import Page, WarmServer, shown

STEPS = "/jobs/half-fitted/tighten"


class Bench:
    """Two windows of one browser: the laptop at the loopback, the phone at the network's address.

    Names differ, so each has its own cookies and its own storage.
    """

    def __init__(self, page: Page) -> None:
        self.page = page
        self.windows = {"laptop": page.driver.current_window_handle}

    def at(self, which: str) -> Page:
        driver = self.page.driver
        if which not in self.windows:
            driver.switch_to.new_window("tab")
            self.windows[which] = driver.current_window_handle
        else:
            driver.switch_to.window(self.windows[which])
        self.page.size(*((390, 844) if which == "phone" else (1280, 800)))
        return self.page

    def link(self, on: bool) -> None:
        """The network of the window that is in front, there or gone."""
        speed = -1 if on else 0
        driver = self.page.driver
        driver.execute_cdp_cmd("Network.enable", {})
        conditions = {"latency": 0, "downloadThroughput": speed, "uploadThroughput": speed}
        driver.execute_cdp_cmd(
            "Network.emulateNetworkConditions", {"offline": not on, **conditions}
        )


@pytest.fixture
def bench(browser: webdriver.Chrome, tmp_path: Path) -> Iterator[Bench]:
    server = WarmServer(tmp_path / "data", lan="127.0.0.2")
    server.start()
    with shown(browser, server) as page:
        bench = Bench(page)
        yield bench
        phone = bench.at("phone")
        phone.driver.execute_script("localStorage.clear()")
        phone.driver.close()
        bench.at("laptop")
    server.kill()


def a_code(bench: Bench) -> str:
    """The figures that the laptop shows."""
    laptop = bench.at("laptop")
    laptop.open(STEPS)
    laptop.press("Let a phone in")
    return laptop.css("[data-testid=pair-code]").text


def pair(bench: Bench) -> None:
    """Lets the phone in by the code that the laptop shows."""
    code = a_code(bench)
    phone = bench.at("phone")
    phone.driver.get(phone.server.phones)
    phone.entry("six figures", code)
    phone.entry("whose phone", "bench phone")
    phone.press("Let in")
    phone.see("Draw joint 5 to half")


def shut_out_and_back(bench: Bench) -> None:
    """A new code is typed on the page that the phone was led to: nothing is loaded anew."""
    phone = bench.at("phone")
    phone.see("Let this phone in")
    phone.driver.execute_script("window.since = 'before'")
    phone.see("1 entry waits on this phone")
    code = a_code(bench)
    phone = bench.at("phone")
    phone.entry("six figures", code)
    phone.press("Let in")
    phone.until("it arrived", lambda: "Step" in phone.text() and not waits(phone))
    assert phone.driver.execute_script("return window.since") == "before"


def waits(page: Page) -> bool:
    return bool(page.driver.find_elements(By.CSS_SELECTOR, "[aria-label^='Waiting on']"))


def test_entries_wait_without_a_link_and_arrive_once(bench: Bench) -> None:
    pair(bench)
    phone = bench.page
    phone.axe()
    bench.link(on=False)
    phone.step("Done")
    phone.step("Done")
    phone.press("2 entries wait")
    phone.see("Draw joint 6 to half")
    phone.see("Torque joint 5")
    # The page is closed and opened again: what waited is still there, and arrives.
    bench.link(on=True)
    phone.driver.get(phone.server.phones)
    phone.until("all has arrived", lambda: "Step" in phone.text() and not waits(phone))
    phone.see("Torque joint 5")
    laptop = bench.at("laptop")
    laptop.see("step 17 of 31")
    laptop.see("bench phone")


def test_two_devices_see_each_other_and_ask_before_they_write_over(bench: Bench) -> None:
    pair(bench)
    phone = bench.page
    phone.step("Done")
    laptop = bench.at("laptop")
    laptop.see("step 16 of 31")  # by itself; how soon is in the bench
    phone = bench.at("phone")
    bench.link(on=False)
    phone.step("Done")
    laptop = bench.at("laptop")
    laptop.open("/jobs/half-fitted/garage")
    laptop.see("Draw joint 6 to half")
    laptop.press("I loosened something else")
    laptop.press("exhaust clamp")
    laptop.see("Open on the bike: 1")
    phone = bench.at("phone")
    bench.link(on=True)
    phone.see("Meanwhile on another device")
    phone.see("exhaust clamp is open")
    phone.see("Yours: Draw joint 6 to half")
    phone.press("Record mine too")
    phone.until("it arrived", lambda: not waits(phone))
    laptop = bench.at("laptop")
    laptop.see("16 done")


def test_a_phone_that_is_ended_is_shut_out(bench: Bench) -> None:
    pair(bench)
    laptop = bench.at("laptop")
    laptop.press("End")
    laptop.see("No phone is let in")
    phone = bench.at("phone")
    phone.see("Let this phone in")
    phone.driver.get(phone.server.phones + "/jobs/half-fitted/survey")
    phone.see("Let this phone in")


def test_a_page_opens_without_a_server_and_its_entries_come_home(bench: Bench) -> None:
    pair(bench)
    phone, server = bench.page, bench.page.server
    kept = "return !!navigator.serviceWorker.controller && localStorage.getItem('last seen')"
    phone.until("what opens without a link is kept", lambda: phone.driver.execute_script(kept))
    assert isinstance(server, WarmServer)
    server.kill()
    phone.step("Done")
    phone.see("1 entry waits")
    phone.driver.refresh()
    phone.press("1 entry waits")
    phone.see("Draw joint 5 to half")
    phone.see("Draw joint 6 to half")
    phone.see("No link")
    server.start()
    shut_out_and_back(bench)
    laptop = bench.at("laptop")
    laptop.see("step 16 of 31")


MOST_TAPS = 20


def test_six_screws_take_under_twenty_taps(page: Page) -> None:
    """From the first thread to the round done, with a wrench that clicks: every tap counted."""
    page.size(390, 844)
    page.open("/jobs/holes-off/garage")
    for _ in range(5):
        page.step("Done")
    page.see("Start joint 1 by hand")
    taps = 0
    while "Close the foot peg bracket" not in page.css("h1").text:
        title = page.css("h1").text
        words = "It clicked" if title.startswith("Torque") else "All"
        page.step(words)
        taps += 1
        assert taps <= MOST_TAPS, title
    assert taps == 1 + 3 + 6 + 1, "started, three stages drawn, six clicks, once round"
