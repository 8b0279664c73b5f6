"""A real browser on a demo server of its own, for pictures and figures of the screen."""

from __future__ import annotations

import sys
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from selenium import webdriver
from selenium.webdriver.chrome.service import Service

sys.path.insert(0, str(Path(__file__).parents[1]))

from tests.ui.conftest import FLAGS, Page, Server


@contextmanager
def driven_page() -> Iterator[Page]:
    """A page on fresh demo data; browser and server end with it."""
    options = webdriver.ChromeOptions()
    options.binary_location = "/usr/bin/chromium"
    with tempfile.TemporaryDirectory() as profile, tempfile.TemporaryDirectory() as data:
        for flag in (*FLAGS, f"--user-data-dir={profile}"):
            options.add_argument(flag)
        driver = webdriver.Chrome(options=options, service=Service("/usr/bin/chromedriver"))
        driver.set_script_timeout(30)
        server = Server(Path(data))
        server.start()
        try:
            yield Page(driver, server)
        finally:
            driver.quit()
            server.stop()
