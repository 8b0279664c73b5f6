"""A real browser on a demo server of its own, for pictures and figures of the screen."""

from __future__ import annotations

import sys
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parents[1]))

from tests.ui.conftest import Page, Server, driven


@contextmanager
def driven_page() -> Iterator[Page]:
    """A page on fresh demo data; browser and server end with it."""
    with tempfile.TemporaryDirectory() as data, driven() as driver:
        server = Server(Path(data))
        server.start()
        try:
            yield Page(driver, server)
        finally:
            server.stop()
