"""A real browser on a real server with fresh demo data."""

from __future__ import annotations

import os
import re
import signal
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable, Iterable, Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any, Literal

import pytest
from selenium import webdriver
from selenium.common.exceptions import (
    NoSuchElementException,
    StaleElementReferenceException,
    WebDriverException,
)
from selenium.webdriver.chrome.service import Service
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement

from tests.ui.in_page import CHANGED, FIRST_SHOWN, PATIENCE_MS, SAYS, TABS_AHEAD, UNCHANGED_MS
from tests.ui.warm import LOG, begin, forked

ROOT = Path(__file__).parents[2]
AXE = ROOT / "frontend/node_modules/axe-core/axe.min.js"
FLAGS = (
    "--headless",
    "--no-sandbox",
    "--disable-gpu",
    "--no-first-run",
    "--disable-sync",
    "--disable-background-networking",
    "--disable-component-update",
)
WAIT_S = 240.0
MOST_TABS = 250


class Server:
    """The demo server as a process of its own, on a data folder that outlives it."""

    def __init__(self, folder: Path, lan: str = "") -> None:
        self.folder = folder
        self.lan = lan
        self.process: subprocess.Popen[str] | None = None
        self.base = self.phones = ""
        self.port = "0"

    def arguments(self) -> list[str]:
        """What ``shield`` is called with."""
        lan = ["--lan", self.lan] if self.lan else []
        return ["demo", "--data", str(self.folder), "--port", self.port, *lan]

    def heard(self, lines: Iterable[str]) -> bool:
        """Reads what the server says of itself until it says that it listens."""
        listens = False
        for line in lines:
            found = re.search(r"http://127\.0\.0\.1:(\d+)/.*\n", line)
            if found:
                self.base, self.port, listens = f"http://127.0.0.1:{found[1]}", found[1], True
            phones = re.search(r"^Phones: (http\S+)/pair", line)
            self.phones = phones[1] if phones else ""
            if listens and bool(self.lan) == bool(self.phones):
                return True
        return False

    def start(self) -> None:
        command = [sys.executable, "-m", "rugged_shield.cli", *self.arguments()]
        self.process = subprocess.Popen(command, stdout=subprocess.PIPE, text=True)
        assert self.process.stdout is not None
        assert self.heard(self.process.stdout), "the server did not start"

    def stop(self) -> None:
        if self.process is not None:
            self.process.send_signal(signal.SIGINT)
            self.process.communicate(timeout=WAIT_S)
            self.process = None


class WarmServer(Server):
    """The same, forked from the run's warm process."""

    def __init__(self, folder: Path, lan: str = "") -> None:
        super().__init__(folder, lan)
        self.number = 0

    def start(self) -> None:
        out = self.folder.with_name(f"{self.folder.name}.out")
        out.unlink(missing_ok=True)
        self.number = forked(self.arguments(), self.folder, out)
        end = time.monotonic() + WAIT_S
        while not (out.exists() and self.heard(out.read_text().splitlines(keepends=True))):
            assert Path(f"/proc/{self.number}").exists(), f"the server ended, see {LOG}"
            assert time.monotonic() < end, "the server did not start"
            time.sleep(0.01)

    def stop(self) -> None:
        if self.number:
            os.kill(self.number, signal.SIGINT)
            end = time.monotonic() + WAIT_S
            while Path(f"/proc/{self.number}").exists():
                assert time.monotonic() < end, "the server did not end"
                time.sleep(0.01)
            self.number = 0

    def kill(self) -> None:
        """Ends it at once: what it stored is there (``test_care``), and nobody asks for it."""
        if self.number:
            os.kill(self.number, signal.SIGKILL)
            self.number = 0


def _path(tag: str, words: str) -> str:
    return f"//{tag}[contains(normalize-space(.), {words!r}) or contains(@aria-label, {words!r})]"


class Page:
    """What a person does: look, click, type, press keys; with patience."""

    def __init__(self, driver: webdriver.Chrome, server: Server) -> None:
        self.driver = driver
        self.server = server

    def size(self, width: int, height: int) -> None:
        self.driver.execute_cdp_cmd(
            "Emulation.setDeviceMetricsOverride",
            {"width": width, "height": height, "deviceScaleFactor": 1, "mobile": False},
        )

    def open(self, path: str) -> None:
        self.driver.get(self.server.base + path)

    def until(self, what: str, check: Callable[[], Any]) -> Any:
        end = time.monotonic() + WAIT_S
        while True:
            try:
                value = check()
                if value:
                    return value
            except (NoSuchElementException, StaleElementReferenceException):
                pass
            if time.monotonic() > end:
                raise AssertionError(f"never saw: {what}\n{self.text()[:1500]}")
            self.driver.execute_script(CHANGED, UNCHANGED_MS)

    def _shown(self, how: str, what: str, then: str = "") -> Any:
        """The first element that is shown; “centre” brings it to the middle, “read” gives its text.

        Of words, whether they are shown or not. None where there is none after a while.
        """
        return self.driver.execute_script(FIRST_SHOWN, how, what, then, PATIENCE_MS)

    def css(self, selector: str) -> WebElement:
        found: WebElement = self.until(selector, lambda: self._shown("css", selector))
        return found

    def read(self, selector: str) -> str:
        """What is written in it, in one question: a page may render anew between two."""
        words: str = self.until(
            selector,
            lambda: self._shown("css", selector, "read"),
        )
        return words

    def gone(self, selector: str) -> None:
        self.until(
            f"{selector} gone",
            lambda: not self.driver.find_elements(By.CSS_SELECTOR, selector),
        )

    def by_words(self, tag: str, words: str) -> WebElement:
        path = _path(tag, words)
        found: WebElement = self.until(f"{tag} “{words}”", lambda: self._shown("xpath", path))
        return found

    def click(self, what: WebElement | str) -> None:
        """Clicks an element, or what a selector finds: anew for each try, for pages that change."""
        if isinstance(what, str):
            self._click_shown("css", what)
        else:
            self.until("a click that lands", lambda: self._click_now(what))

    def follow(self, words: str) -> None:
        """Clicks the link with these words, found anew for each try."""
        self._click_shown("xpath", _path("a", words))

    def _try_click(self, element: WebElement) -> bool:
        try:
            element.click()
        except WebDriverException as error:
            if "intercepted" in str(error) or "not interactable" in str(error):
                return False
            raise
        return True

    def press(self, words: str) -> None:
        """Clicks the button with these words, found anew for each try."""
        self._click_shown("xpath", _path("button", words))

    def _click_shown(self, how: str, what: str) -> None:
        """Found anew for each try, brought to the middle and clicked."""

        def click() -> bool:
            found = self._shown(how, what, "centre")
            return found is not None and self._try_click(found)

        self.until(f"a click on {what}", click)

    def _click_now(self, element: WebElement) -> bool:
        self.driver.execute_script("arguments[0].scrollIntoView({block: 'center'})", element)
        return self._try_click(element)

    def step(self, words: str) -> None:
        """Presses a step's button and waits for the next step."""
        title = self.read("h1")
        self.press(words)
        self.until("the next step", lambda: self.read("h1") != title)

    def see(self, words: str) -> None:
        self.until(f"“{words}”", lambda: self._shown("words", words))

    def without(self, words: str) -> None:
        """Waits until these words are not, or no longer, on the page."""
        self.until(f"no “{words}”", lambda: self._shown("no words", words))

    def text(self) -> str:
        """What is shown. Asked of the page itself: the driver's own way looks at every element."""
        shown: str = self.driver.execute_script("return document.body.innerText")
        return shown

    def type_in(self, path: str, text: str) -> WebElement:
        field = self.css(f"input[data-path='{path}']")
        self.driver.execute_script("arguments[0].scrollIntoView({block: 'center'})", field)
        field.send_keys(Keys.CONTROL, "a", Keys.NULL, text, Keys.ENTER)
        return field

    def saved(self, path: str) -> None:
        self.until(
            f"{path} saved",
            lambda: (
                "saved"
                in self.driver.execute_script(
                    "return document.querySelector(arguments[0]).closest('div').parentElement"
                    ".textContent",
                    f"input[data-path='{path}']",
                )
            ),
        )

    def entry(self, label: str, text: str) -> WebElement:
        """Types into the entry with this label in front of it."""
        path = f"//label[contains(normalize-space(.), {label!r})]"
        found = self.until(label, lambda: self.driver.find_element(By.XPATH, path))
        field = self.driver.find_element(By.ID, found.get_attribute("for"))
        field.send_keys(Keys.CONTROL, "a")
        field.send_keys(text)
        return field

    def choose(self, path: str, words: str) -> None:
        """Picks from the list that the element of this selector opens."""
        self.click(self.css(path))
        self.click(self.by_words("*[@role='option']", words))

    def listed(self, label: str, words: str) -> None:
        """Picks from the list under a label."""
        under = f"//label[normalize-space(.)={label!r}]/following-sibling::*[1]"
        self.click(self.until(label, lambda: self.driver.find_element(By.XPATH, under)))
        self.click(self.by_words("*[@role='option']", words))

    def switch(self, label: str) -> WebElement:
        """The switch with this label."""
        found: WebElement = self.until(
            label,
            lambda: next(
                (
                    e
                    for e in self.driver.find_elements(By.CSS_SELECTOR, "[role=switch]")
                    if label in (e.accessible_name or "")
                ),
                None,
            ),
        )
        return found

    def ledger(self, key: str) -> str:
        return self.read(f"[data-ledger='{key}']")

    def moved(self, key: str) -> bool:
        return self.css(f"[data-ledger='{key}']").get_attribute("data-moved") is not None

    def keys(self, *keys: str) -> None:
        for key in keys:
            self.driver.switch_to.active_element.send_keys(key)

    def focused(self) -> str:
        words: str = self.driver.execute_script(f"{SAYS} return says(document.activeElement)")
        return words

    def tab_to(self, words: str, backwards: bool = False) -> None:
        """Presses Tab until the focused element says these words."""
        self._tab("words", words, backwards)

    def tab_to_field(self, path: str) -> None:
        """Presses Tab until the field of this path has the focus."""
        self._tab("path", path)

    def _tab(self, how: str, what: str, backwards: bool = False) -> None:
        pressed = 0
        while ahead := self.driver.execute_script(TABS_AHEAD, how, what, backwards):
            assert pressed < MOST_TABS, f"Tab never reached “{what}”; at “{self.focused()}”"
            presses = webdriver.ActionChains(self.driver)
            if backwards:
                presses.key_down(Keys.SHIFT)
            presses.send_keys(*[Keys.TAB] * ahead)
            if backwards:
                presses.key_up(Keys.SHIFT)
            presses.perform()
            pressed += ahead

    def axe(self, fetched: bool = True, inks: Literal["no", "too", "only"] = "too") -> None:
        """No accessibility violation on what is shown (WCAG 2.2 AA and best practice).

        Inks take most of the time: they may be left out where ``test_legible`` looks at them.
        """
        if fetched:
            self.without("Fetching")
        if not self.driver.execute_script("return !!window.axe"):
            self.driver.execute_script(AXE.read_text())
        report = self.driver.execute_async_script(
            "const [inks, done] = arguments;"
            "const only = inks === 'only' ? {runOnly: ['color-contrast']} : {};"
            "const rules = {'color-contrast': {enabled: inks !== 'no'}};"
            "axe.run(document, {resultTypes: ['violations'], rules, ...only})"
            ".then(r => done(r.violations.map(v => v.id + ': ' + v.nodes.slice(0, 3)"
            ".map(n => n.html.slice(0, 160)).join(' | '))))",
            inks,
        )
        assert report == []

    def quiet_console(self) -> None:
        """Nothing went wrong in the page; refusals of bad input are answers, not faults.

        A server that a test stopped is missed by the stream of changes, which the browser logs.
        """
        expected = ("status of 422", "/live - Failed to load resource: net::ERR_")
        severe = [
            entry
            for entry in self.driver.get_log("browser")
            if entry["level"] == "SEVERE" and not any(e in entry["message"] for e in expected)
        ]
        assert severe == []


def pytest_collection_finish(session: pytest.Session) -> None:
    """The warm process starts as soon as it is known that a server will be asked for."""
    if any("browser" in getattr(item, "fixturenames", ()) for item in session.items):
        begin()


@contextmanager
def driven() -> Iterator[webdriver.Chrome]:
    """A browser with a profile of its own."""
    options = webdriver.ChromeOptions()
    options.binary_location = "/usr/bin/chromium-headless-shell"
    options.set_capability("browserName", "chrome-headless-shell")
    options.set_capability("goog:loggingPrefs", {"browser": "ALL"})
    with tempfile.TemporaryDirectory() as profile:
        for flag in (*FLAGS, f"--user-data-dir={profile}"):
            options.add_argument(flag)
        driver = webdriver.Chrome(options=options, service=Service("/usr/bin/chromedriver"))
        driver.set_script_timeout(WAIT_S)
        yield driver
        driver.quit()


@pytest.fixture(scope="session")
def browser() -> Iterator[webdriver.Chrome]:
    with driven() as driver:
        yield driver


@contextmanager
def shown(browser: webdriver.Chrome, server: Server) -> Iterator[Page]:
    """A page of a server at the size of a laptop; what the browser kept goes afterwards."""
    browser.get_log("browser")
    page = Page(browser, server)
    page.size(1280, 800)
    yield page
    browser.get("about:blank")
    kept = {"origin": server.base, "storageTypes": "local_storage"}
    browser.execute_cdp_cmd("Storage.clearDataForOrigin", kept)


@pytest.fixture
def page(browser: webdriver.Chrome, tmp_path: Path) -> Iterator[Page]:
    server = WarmServer(tmp_path / "data")
    server.start()
    with shown(browser, server) as page:
        yield page
    server.kill()
