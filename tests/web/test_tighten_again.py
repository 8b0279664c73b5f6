"""Tighten: a stage opened again, the stack at the joint, minutes, who told it, the check sheet."""

from __future__ import annotations

import io
from datetime import datetime
from urllib.parse import quote

import pytest
from icalendar import Calendar
from pypdfium2 import PdfDocument

from rugged_shield.core.survey.photo_scale import SHEETS_MM
from tests.conftest import Client, stands, words_of_pdf

JOB = "half-fitted"
MM = 72 / 25.4


def test_a_stage_opened_again_starts_anew(client: Client) -> None:
    before = client.get(f"/{JOB}/tighten")
    torqued = {c["card"]["joint"]: c for c in before["cards"] if c["state"] == "torqued"}
    assert torqued
    stage = next(iter(torqued.values()))["stage"]
    client.post(f"/{JOB}/tighten/stage", 422, stage=stage, reason="x")
    client.post(f"/{JOB}/tighten/stage", 422, stage="nowhere", reason="it blocked the front")
    client.post(f"/{JOB}/tighten/stage", stage=stage, reason="it blocked the front")
    after = client.get(f"/{JOB}/tighten")
    for card in after["cards"]:
        if card["stage"] == stage:
            assert card["reading"] is None
            assert not card["started"]
            assert card["history"] == next(
                c["history"] for c in before["cards"] if c["card"]["joint"] == card["card"]["joint"]
            )
    assert after["at"] < before["at"]
    refused = client.post(f"/{JOB}/tighten/stage", 422, stage=stage, reason="once more")
    assert "nothing of it is started" in refused["error"]["message"]


def test_a_card_shows_its_stack_in_order(client: Client) -> None:
    cards = client.get(f"/{JOB}/tighten")["cards"]
    for card in cards:
        assert card["layers"][0].startswith("head")
        assert card["layers"][-1] in ("nut", "thread in the bike")
        assert card["section"]["paths"]
    spacers = [words for card in cards for words in card["layers"] if "spacer" in words]
    assert spacers
    assert all("mm" in words for words in spacers)


def test_who_told_it_stands_beside_it(client: Client) -> None:
    headers = {"Device": quote("Bänk am Tor")}
    version = client.version(JOB)
    body = {"version": version, "key": "told-by-1", "joint": "a3", "text": "18", "system": "metric"}
    at = f"/api/jobs/{JOB}/tighten/reading"
    assert client.flask.post(at, json=body, headers=headers).status_code == 200
    card = next(c for c in client.get(f"/{JOB}/tighten")["cards"] if c["card"]["joint"] == "a3")
    assert card["history"][-1]["by"] == "Bänk am Tor"
    long = {"Device": "x" * 41}
    body = {**body, "version": version + 1, "key": "told-by-2"}
    assert client.flask.post(at, json=body, headers=long).status_code == 422
    odd = {"Device": quote("a\u202eb")}
    assert client.flask.post(at, json=body, headers=odd).status_code == 422


@pytest.mark.parametrize("paper", ["a4", "letter"])
def test_the_check_sheet_is_as_large_as_the_list_says(client: Client, paper: str) -> None:
    """The outer edge of its frame, rendered at ten pixels a mm, against the list of sheets."""
    answer = client.flask.get(f"/api/jobs/{JOB}/fit-up/holes/check-sheet-{paper}.pdf")
    assert answer.mimetype == "application/pdf"
    with PdfDocument(io.BytesIO(answer.data)) as pdf:
        picture = pdf[0].render(scale=10 / MM, grayscale=True).to_numpy().squeeze()
    dark = picture < 128
    rows, columns = dark.any(axis=1).nonzero()[0], dark.any(axis=0).nonzero()[0]
    wide, high = SHEETS_MM["check sheet"]
    assert (columns[-1] - columns[0] + 1) / 10 == pytest.approx(wide, abs=0.15)
    assert (rows[-1] - rows[0] + 1) / 10 == pytest.approx(high, abs=0.15)


def test_a_ride_all_the_same_is_printed(client: Client) -> None:
    client.post(f"/{JOB}/tighten/ride-anyway", reason="only down to the shed")
    answer = client.flask.get(f"/api/jobs/{JOB}/tighten/steps.pdf")
    words = words_of_pdf(answer.data)
    assert "Ridden all the same" in words
    assert "only down to the shed" in words
    assert "missing" in words


def test_a_locker_that_cures_shows_on_the_list_and_in_the_calendar(client: Client) -> None:
    """At its minute, not at its day; over when it is over."""
    view = client.get("/half-fitted/tighten")
    lockered = {c["joint"]: c["until"] for c in view["clocks"] if c["kind"] == "cure"}
    assert client.jobs()["half-fitted"]["cures_until"] == "", "the demo's were torqued long ago"
    joint = next(c["card"]["joint"] for c in view["cards"] if c["card"]["joint"] in lockered)
    seq = next(c for c in view["cards"] if c["card"]["joint"] == joint)["history"][-1]["seq"]
    client.post("/half-fitted/tighten/take-back", seq=seq, reason="once more")
    client.post("/half-fitted/tighten/reading", joint=joint, text="", clicked=True)
    clocks = client.get("/half-fitted/tighten")["clocks"]
    until = next(c["until"] for c in clocks if c["joint"] == joint and c["kind"] == "cure")
    assert client.jobs()["half-fitted"]["cures_until"] == until
    ics = client.flask.get("/api/jobs/half-fitted/keep/due.ics").get_data(as_text=True)
    made = Calendar.from_ical(ics)
    (cure,) = [e for e in made.walk("VEVENT") if "holds" in str(e["summary"])]
    assert cure.decoded("dtstart") == datetime.fromisoformat(until)


def test_a_linked_wrenchs_reading_goes_to_the_joint_that_is_next(bench: Client) -> None:
    """Once: the same pull is not the next joint's; and to another joint where it is named."""

    def pull(torque: str) -> None:
        bench.flask.post("/api/instruments/wrench/put", json={"text": "0"})
        stands(bench, "wrench", 0.0)
        bench.flask.post("/api/instruments/wrench/put", json={"text": torque})
        stands(bench, "wrench", float(torque))

    before = bench.get(f"/{JOB}/tighten")
    joint = before["next_joint"]
    assert joint
    pull("17")
    said = bench.post(f"/{JOB}/tighten/wrench", override="they are all started")
    assert "torqued to" in said["words"]
    after = bench.get(f"/{JOB}/tighten")
    card = next(c for c in after["cards"] if c["card"]["joint"] == joint)
    assert card["history"][-1]["torque"]["value"] == pytest.approx(17.0, abs=0.3)
    twice = bench.post(f"/{JOB}/tighten/wrench", 422, override="they are all started")
    assert "recorded already" in twice["error"]["message"]
    other = next(c["card"]["joint"] for c in after["cards"] if c["card"]["joint"] != joint)
    pull("15")
    bench.post(f"/{JOB}/tighten/wrench", joint=other, override="they are all started")
    found = next(c for c in bench.get(f"/{JOB}/tighten")["cards"] if c["card"]["joint"] == other)
    assert found["history"][-1]["torque"]["value"] == pytest.approx(15.0, abs=0.3)
