"""The answer over HTTP: in both systems, of the job as it is, with what would change it."""

from __future__ import annotations

from typing import Any

from tests.conftest import Client

JOB = "/kit-open/weigh-up"


def test_the_answer_is_in_the_readers_units(client: Client) -> None:
    metric = client.get(f"{JOB}/answer")
    us = client.get(f"{JOB}/answer?units=us")
    assert metric["answer"]["key"] == us["answer"]["key"] == "alu5"
    assert metric["made_of"].startswith("aluminium 5083-H111, 5 mm")
    assert us["made_of"].startswith("aluminium 5083-H111, 0.197 in")
    assert "kg" in metric["answer"]["gives_away"]["words"]
    assert "lb" in us["answer"]["gives_away"]["words"]
    assert metric["picture"]["paths"]


def test_the_plate_that_was_taken_stands_beside_it(client: Client) -> None:
    before = client.get(f"{JOB}/answer")
    assert before["taken"] != before["answer"]["key"]
    assert before["taken_name"] == "Bar-hung aluminium plate"
    client.post(f"{JOB}/pick", plate=before["answer"]["key"])
    after = client.get(f"{JOB}/answer")
    assert after["taken"] == after["answer"]["key"]
    client.post(f"{JOB}/pick", plate="")
    assert client.get(f"{JOB}/answer")["taken"] == ""


def test_it_agrees_with_the_ranking_and_the_table(client: Client) -> None:
    found: dict[str, Any] = client.get(f"{JOB}/answer")["answer"]
    view = client.get(f"{JOB}/priorities")
    assert view["ranking"][0]["key"] == found["key"]
    assert view["ranking"][0]["first"]["metric"] == found["sure"]["metric"]
    assert view["shut_out"] == found["blocked"]
    table = client.get(JOB)
    at = next(i for i, c in enumerate(table["columns"]) if c["key"] == found["key"])
    rows = {row["key"]: row["cells"][at] for row in table["rows"] if len(row["cells"]) > at}
    for cost in found["costs"]:
        assert rows[cost["key"]]["metric"] == cost["metric"]


def test_one_measurement_is_named_with_its_place(client: Client) -> None:
    found = client.get(f"{JOB}/answer/measure")
    numbers = client.get("/kit-open/survey/measure-next")["numbers"]
    assert found["path"] in {n["path"] for n in numbers}
    turning = [n for n in numbers if any(f["what"] == "the best plate" for f in n["flips"])]
    if turning:
        assert found["path"] == turning[0]["path"]
        assert "would be first" in found["words"]
    else:
        assert found["words"].startswith("None changes which is first")
