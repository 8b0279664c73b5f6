"""The step card and the torque card: a page each, every sign printed, every step with its box."""

from __future__ import annotations

import io
from typing import Any

import pytest
from pypdfium2 import PdfDocument

from rugged_shield.formats.paper import plain_text
from tests.conftest import Client


def cards(client: Client, job: str) -> tuple[str, str]:
    """The text of both pages."""
    answer = client.flask.get(f"/api/jobs/{job}/tighten/cards.pdf")
    assert answer.mimetype == "application/pdf"
    with PdfDocument(io.BytesIO(answer.data)) as document:
        assert len(document) == 2, "a page each"
        pages = [page.get_textpage().get_text_range() for page in document]
    return " ".join(pages[0].split()), " ".join(pages[1].split())


def plan(client: Client, job: str) -> dict[str, Any]:
    found: dict[str, Any] = client.get(f"/{job}/tighten")
    return found


@pytest.mark.parametrize("job", ["choosing", "kit-open", "half-fitted", "in-service"])
def test_every_step_and_torque_is_on_its_card(client: Client, job: str) -> None:
    steps, torques = cards(client, job)
    view = plan(client, job)
    for step in view["steps"]:
        assert step["step"]["title"] in steps
        if step["setting"]:
            assert step["setting"]["metric"] in steps
    at = [torques.index(c["card"]["name"]) for c in view["cards"]]
    assert at == sorted(at), "in the order of the final torques"
    for card in view["cards"]:
        assert card["target"]["metric"] in torques
        assert card["low"]["metric"] in torques
    assert "×" in torques


def test_what_was_read_stands_on_the_card(client: Client) -> None:
    view = plan(client, "half-fitted")
    read = [c["reading"]["metric"] for c in view["cards"] if c["reading"]]
    assert read
    torques = cards(client, "half-fitted")[1]
    assert all(words in torques for words in read)


def test_signs_and_names_are_printed_as_they_are() -> None:
    assert plain_text("M8 × 30 − 2 ≤ 3 “Łukasz Žák”") == "M8 × 30 − 2 ≤ 3 “Łukasz Žák”"
    assert plain_text("a → b") == "a to b"
    assert plain_text("漢") == "?"
