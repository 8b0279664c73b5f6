"""Identify over HTTP: typed readings in, lines of the kit in hand out."""

from __future__ import annotations

from typing import Any

from tests.conftest import Client


def ask(client: Client, status: int = 200, **read: Any) -> Any:
    answer = client.flask.post("/api/jobs/choosing/kit/identify", json=read)
    assert answer.status_code == status, answer.get_data(as_text=True)[:300]
    return answer.get_json()


def test_readings_lead_to_one_line(client: Client) -> None:
    kit = [k for k in client.get("/choosing/kit")["lines"] if k["kind"] == "screw"]
    wide = ask(client, diameter="7.86")
    assert 1 < len(wide["agree"]) < len(kit)
    assert wide["measure_next"] == "length_mm"
    assert "the length, from under the head" in wide["words"]
    assert all(line["difference"] for line in wide["agree"][1:])
    first = wide["agree"][0]
    length = next(k for k in kit if k["key"] == first["key"])["size"].split(" × ")[1]
    narrow = ask(client, diameter="7.86", length=length)
    assert first["key"] in {line["key"] for line in narrow["agree"]}
    assert len(narrow["agree"]) < len(wide["agree"])


def test_inches_and_foreign_threads(client: Client) -> None:
    assert (
        ask(client, diameter="0.3094", system="us")["agree"]
        == ask(client, diameter="7.86")["agree"]
    )
    foreign = ask(client, diameter="7.85", pitch="1.41")
    assert foreign["agree"] == []
    assert foreign["foreign"] == ["5/16-18 UNC"]
    assert "5/16-18 UNC" in foreign["words"]


def test_what_cannot_be_read_is_refused_by_name(client: Client) -> None:
    assert ask(client, 422)["error"]["field"] == "measured"
    assert ask(client, 422, diameter="thick")["error"]["field"] == "diameter"
    assert ask(client, 422, diameter="400")["error"]["field"] == "diameter"
    assert ask(client, 422, diameter="8", head_form="square")["error"]["field"] == "head_form"
