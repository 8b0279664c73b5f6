"""The way to an answer over the API: a bike of which little is known, plates by their shape."""

from __future__ import annotations

from typing import Any

import pytest

from tests.conftest import Client

TOLD = {"shape": "pan with apron", "sheet": "aluminium", "thickness": "5", "price": "219"}


def begun(client: Client, **more: Any) -> str:
    body = {"layout": "single", "assume": True, "riding": "rock and ledges", **more}
    answer = client.flask.post("/api/new-job", json=body)
    assert answer.status_code == 200, answer.get_data(as_text=True)[:400]
    made: str = answer.get_json()["id"]
    return made


def facts(client: Client, job: str) -> Any:
    return client.flask.get(f"/api/jobs/{job}/file").get_json()["job"]


def test_a_bike_of_which_nothing_is_known_is_assumed_all_through(client: Client) -> None:
    job = facts(client, begun(client))
    assert job["bike"]["name"] == "my bike"
    assert job["bike"]["known"] == "assumed"
    assert job["bike"]["wheelbase_mm"] == 1480.0
    assert job["use"]["profile"] == "rock and ledges"


def test_a_wheelbase_that_was_said_is_measured_and_no_other_number(client: Client) -> None:
    bike = facts(client, begun(client, wheelbase="58 in"))["bike"]
    assert bike["wheelbase_mm"] == pytest.approx(1473.2)
    assert [(f["key"], f["known"]) for f in bike["facts"]] == [("wheelbase_mm", "measured")]


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"layout": "tricycle"}, "layout"),
        ({"wheelbase": "12"}, "wheelbase_mm"),
        ({"riding": "to church"}, "riding"),
    ],
)
def test_a_bad_answer_names_its_field(client: Client, change: dict[str, str], field: str) -> None:
    answer = client.flask.post("/api/new-job", json={"assume": True, **change})
    assert answer.status_code == 422
    assert answer.get_json()["error"]["field"] == field


def test_shapes_come_with_their_sizes_on_this_bike(client: Client) -> None:
    view = client.flask.get(f"/api/jobs/{begun(client)}/shapes").get_json()
    sizes = {s["key"]: [a["key"] for a in s["sizes"]] for s in view["shapes"]}
    assert sizes["flat pan"] == ["length", "width"]
    assert sizes["moulded shell"] == ["length", "width", "height"]
    assert all(s["picture"]["paths"] for s in view["shapes"])
    assert all(a["usual"]["assumptions"] for s in view["shapes"] for a in s["sizes"])


def test_told_plates_are_weighed_at_once(client: Client) -> None:
    job = begun(client)
    client.post(f"/{job}/shapes", **TOLD)
    client.post(f"/{job}/shapes", shape="flat pan", sheet="steel", length="16 in")
    first, second = facts(client, job)["candidates"]
    assert first["plate"]["price"] == 219.0
    assert second["plate"]["belly"]["length_mm"] == pytest.approx(406.4)
    assert len(first["joints"]) == len(second["joints"]) == 4
    answer = client.flask.get(f"/api/jobs/{job}/weigh-up/answer").get_json()["answer"]
    assert answer["state"] == "ranked"
    assert answer["key"] in (first["plate"]["key"], second["plate"]["key"])


def test_every_frame_names_the_next_thing_and_where_it_is_done(client: Client) -> None:
    job = begun(client)
    seen = [client.get(f"/{job}")["next"]]
    for _ in range(2):
        seen.append(client.post(f"/{job}/shapes", **TOLD)["frame"]["next"])
    assert [n["at"] for n in seen] == ["first", "first", "weigh-up"]
    assert seen[2]["words"] == "weigh 2 plates and pick one"


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"shape": "bucket"}, "shape"),
        ({"thickness": "200"}, "thickness"),
        ({"length": "soon"}, "length"),
        ({"height": "11"}, "height_mm"),
        ({"mass": "-1"}, "mass"),
    ],
)
def test_a_plate_that_cannot_be_names_its_field(
    client: Client, change: dict[str, str], field: str
) -> None:
    job = begun(client)
    answer = client.flask.post(
        f"/api/jobs/{job}/shapes",
        json={**TOLD, **change, "version": 1, "key": "a-key-of-its-own"},
    )
    assert answer.status_code == 422, answer.get_data(as_text=True)[:400]
    assert answer.get_json()["error"]["field"] == field
    assert facts(client, job)["candidates"] == []
