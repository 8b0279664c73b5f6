"""Job files over HTTP: out, in again as the same job, and refused without a trace."""

from __future__ import annotations

import json

import pytest

from rugged_shield.demo.jobs import DEMO_JOBS
from tests.conftest import Client


def send(client: Client, data: bytes) -> tuple[int, dict[str, object]]:
    answer = client.flask.post("/api/jobs", data=data, content_type="application/json")
    return answer.status_code, answer.get_json()


def test_what_went_out_comes_in_as_the_same_job(client: Client) -> None:
    client.post("/half-fitted/tighten/step", step="half:a5", done=True)
    out = client.flask.get("/api/jobs/half-fitted/file").get_data()
    status, brought = send(client, out)
    assert status == 200
    again = client.flask.get(f"/api/jobs/{brought['id']}/file").get_data()
    assert again == out
    jobs = client.jobs()
    assert jobs[str(brought["id"])]["stands"] == jobs["half-fitted"]["stands"]
    assert client.get(f"/{brought['id']}")["undo"] == ""


@pytest.mark.parametrize(
    ("old", "new", "place"),
    [
        (b'"version": 4', b'"version": 7', "version"),
        (b'"wheelbase_mm": 1480', b'"wheelbase_mm": 148000', "wheelbase_mm"),
        (b'"wheelbase_mm": 1480', b'"wheelbase_mm": NaN', ""),
        (b'"wheelbase_mm": 1480', b'"wheelbase_mm": 1480, "wheelbase_mm": 1481', "wheelbase_mm"),
        (b'"format": "rugged-shield job"', b'"format": "else"', "format"),
        (b'"title"', b'"<script>"', ""),
    ],
)
def test_damage_is_refused_and_changes_nothing(
    client: Client, old: bytes, new: bytes, place: str
) -> None:
    out = client.flask.get("/api/jobs/choosing/file").get_data()
    bad = out.replace(old, new, 1).replace(old + b".0", new, 1)
    assert bad != out
    status, answer = send(client, bad)
    assert status == 422
    error = answer["error"]
    assert isinstance(error, dict)
    assert place in error["field"]
    assert error["message"]
    assert len(client.get("")["jobs"]) == len(DEMO_JOBS)


def test_no_text_of_a_file_becomes_a_name_on_disk(client: Client) -> None:
    data = json.loads(client.flask.get("/api/jobs/choosing/file").get_data())
    data["job"]["title"] = "../../etc/passwd"
    status, brought = send(client, json.dumps(data).encode())
    assert status == 200
    assert str(brought["id"]).startswith("job-")
    headers = client.flask.get(f"/api/jobs/{brought['id']}/file").headers
    assert headers["Content-Disposition"] == 'attachment; filename="job.json"'
