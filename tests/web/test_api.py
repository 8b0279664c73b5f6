"""The API: every station answers, writes move what depends on them, errors have one shape."""

from __future__ import annotations

import io
import json
from typing import Any

import pytest
from openapi_spec_validator import validate

from rugged_shield.calc.registry import example, names
from rugged_shield.web.api import ROUTES, openapi
from tests.conftest import Client

STATIONS = ("survey", "weigh-up", "kit", "fit-up", "tighten", "keep")
SPACER = "candidates.alu5.joints.a3.layers.spacer.thickness_mm"


def test_the_document_is_valid_openapi() -> None:
    document = openapi()
    validate(document)
    assert document["openapi"].startswith("3.1")
    assert len(ROUTES) > 20
    for known in ROUTES.values():
        assert known.summary, f"{known.path} has no words"


def test_the_document_is_served_and_complete(client: Client) -> None:
    served = client.flask.get("/api/openapi.json").get_json()
    assert served == json.loads(json.dumps(openapi()))
    rules = {
        str(rule).replace("<", "{").replace(">", "}")
        for rule in client.flask.application.url_map.iter_rules()
        if str(rule).startswith("/api/")
    }
    undocumented = rules - set(served["paths"])
    assert undocumented == {"/api/openapi.json"}
    pdf = served["paths"]["/api/jobs/{job_id}/tighten/steps.pdf"]["get"]["responses"]["200"]
    assert list(pdf["content"]) == ["application/pdf"]


@pytest.mark.parametrize("job", ["choosing", "half-fitted"])
@pytest.mark.parametrize("station", STATIONS)
def test_every_station_answers(client: Client, job: str, station: str) -> None:
    view = client.get(f"/{job}/{station}")
    assert view
    frame = client.get(f"/{job}")
    assert [s["key"] for s in frame["stations"]] == list(STATIONS)
    assert len(frame["ledger"]) == 10


def test_the_work_list_says_where_each_job_stands(client: Client) -> None:
    jobs = client.jobs()
    assert jobs["choosing"]["stands"] == "choosing a plate"
    assert jobs["choosing"]["due"] == "weigh 8 plates and pick one"
    assert jobs["half-fitted"]["stands"].startswith("half fitted: 2 of 6 torqued")
    assert jobs["half-fitted"]["due"].startswith("step 15")


def test_a_spacer_moves_window_verdict_and_ledger_at_once(client: Client) -> None:
    before = client.get("/choosing/fit-up/joints/a3")
    saved = client.post(
        "/choosing/fit-up/joints/a3/layers",
        kind="spacer",
        material="steel",
        thickness="3",
        after="",
        system="metric",
    )
    after = client.get("/choosing/fit-up/joints/a3")
    assert saved["words"] == "spacer of 3 mm added at joint 3"
    assert after["needed_mm"] == pytest.approx(before["needed_mm"] + 3 + 0.1)
    assert before["chosen_mm"] == 35
    assert after["chosen_mm"] == 40
    assert after["verdict"] == "blocked"
    assert "too short" in {f["code"] for f in after["findings"]}
    moved = {line["key"] for line in saved["frame"]["ledger"] if line["moved_metric"]}
    assert "clearance" in moved
    again = client.get("/choosing")
    assert {line["key"] for line in again["ledger"] if line["moved_metric"]} == moved


def test_leaving_out_a_washer_and_taking_the_asked_screw(client: Client) -> None:
    path = "candidates.alu5.joints.a3.layers.washer.left_out"
    client.field("choosing", path, "true")
    joint = client.get("/choosing/fit-up/joints/a3")
    assert next(k for k in joint["layers"] if k["key"] == "washer")["left_out"] is True
    assert joint["figures"][0]["value"] == pytest.approx(17.0)
    client.field("choosing", "candidates.alu5.joints.a3.length_mm", str(joint["chosen_mm"]))
    assert client.get("/choosing/fit-up/joints/a3")["verdict"] == "sound"


def test_why_shows_the_inputs_that_were_used(client: Client) -> None:
    client.field("choosing", "candidates.alu5.plate.thickness_mm", "6,5")
    frame = client.get("/choosing")
    mass = next(line for line in frame["ledger"] if line["key"] == "mass")
    inputs = {i["label"]: i["value"] for i in mass["delta"]["inputs"]}
    assert inputs["Thickness"] == 6.5


def test_picking_makes_it_the_jobs_plate(client: Client) -> None:
    saved = client.post("/choosing/weigh-up/pick", plate="hdpe10", reason="")
    assert saved["frame"]["plate"] == "Moulded HDPE slider"
    assert saved["frame"]["picked"] is True
    client.field("choosing", "pick_reason", "it slides")
    assert client.get("/choosing/weigh-up")["pick_reason"]["metric"] == "it slides"
    refused = client.post("/choosing/weigh-up/look", status=422, plate="alu5", reason="")
    assert "Take the pick back" in refused["error"]["remedy"]
    back = client.post("/choosing/weigh-up/pick", plate="", reason="")
    assert back["frame"]["picked"] is False
    client.post("/choosing/weigh-up/pick", status=422, plate="nope", reason="")


def test_counting_the_kit(client: Client) -> None:
    for text, state in (("1", "short"), ("2", "matches"), ("3", "extra"), ("0", "missing")):
        client.post("/choosing/kit/count", line="k1", text=text)
        line = client.get("/choosing/kit")["lines"][0]
        assert line["state"]["state"] == state
    client.post("/choosing/kit/count", line="k1", text="")
    assert client.get("/choosing/kit")["lines"][0]["state"]["state"] == "not counted"
    for bad in ("-1", "two", "1.5", "999"):
        refused = client.post("/choosing/kit/count", status=422, line="k1", text=bad)
        assert refused["error"]["allowed"]


def test_counts_belong_to_their_plate(client: Client) -> None:
    """Every kit has a first line: what was counted of one is not counted of another."""
    client.post("/choosing/kit/count", line="k1", text="2")
    client.post("/choosing/weigh-up/look", plate="hdpe10", reason="")
    assert client.get("/choosing/kit")["lines"][0]["state"]["counted"] is None
    client.post("/choosing/weigh-up/pick", plate="alu5", reason="")
    assert client.get("/choosing/kit")["lines"][0]["state"]["counted"] == 2


def test_inputs_of_a_reason_are_in_both_systems(client: Client) -> None:
    mass = client.get("/choosing/weigh-up")["rows"][0]["cells"][1]
    thickness = next(i for i in mass["inputs"] if i["label"] == "Thickness")
    assert (thickness["metric"], thickness["us"]) == ("5 mm", "0.19685 in")
    steps = client.get("/half-fitted/tighten")["steps"]
    step = next(s for s in steps if s["setting"] is not None)
    assert step["setting"]["reasons"], "the large number in the garage has its reason too"


def test_kit_lines_come_change_and_go(client: Client) -> None:
    line = {
        "kind": "screw",
        "name": "spare",
        "thread": "M8",
        "length": "1 1/4 in",
        "head": "ISO 4762",
        "grade": "8.8",
        "count": "2",
        "system": "metric",
    }
    client.post("/choosing/kit/lines", **line)
    added = client.get("/choosing/kit")["lines"][-1]
    assert added["size"] == "M8 × 31.75"
    client.field("choosing", f"candidates.alu5.kit.{added['key']}.count", "5")
    assert client.get("/choosing/kit")["lines"][-1]["count"] == 5
    client.post(f"/choosing/kit/lines/{added['key']}/remove")
    assert len(client.get("/choosing/kit")["lines"]) == 8
    for change in ({"thread": "M7"}, {"thread": ""}, {"name": " "}, {"count": "x"}):
        client.post("/choosing/kit/lines", status=422, **{**line, **change})


def test_the_csv_downloads(client: Client) -> None:
    answer = client.flask.get("/api/jobs/choosing/kit/list.csv")
    assert answer.mimetype == "text/csv"
    assert "attachment" in answer.headers["Content-Disposition"]
    assert answer.get_data(as_text=True).startswith("kind,name,thread")


def test_a_joint_of_ones_own_appears_everywhere(client: Client) -> None:
    client.post(
        "/choosing/fit-up/joints",
        preset="through nut",
        thread="M8",
        stage="front",
        x="520",
        y="-40",
        system="metric",
    )
    own = next(j for j in client.get("/choosing/fit-up")["joints"] if j["key"].startswith("own"))
    detail = client.get(f"/choosing/fit-up/joints/{own['key']}")
    assert detail["section"]["paths"]
    tighten = client.get("/choosing/tighten")
    keys = [c["card"]["joint"] for c in tighten["cards"]]
    assert keys[-1] == own["key"], "the front edge comes last"
    marks = [m["ref"] for m in tighten["underside"]["marks"] if m["kind"] == "order"]
    assert own["key"] in marks
    client.post(f"/choosing/fit-up/joints/{own['key']}/remove")
    assert len(client.get("/choosing/fit-up")["joints"]) == 6
    bad = {"preset": "through nut", "thread": "M8", "stage": "front", "x": "", "y": "0"}
    assert client.post("/choosing/fit-up/joints", 422, **bad, system="metric")["error"]["field"]


def test_the_gate_over_http(client: Client) -> None:
    reading = {"joint": "a1", "text": "20", "system": "metric", "override": ""}
    assert "picked" in client.post("/choosing/tighten/reading", 422, **reading)["error"]["message"]
    client.post("/choosing/weigh-up/pick", plate="alu5", reason="")
    refused = client.post("/choosing/tighten/reading", 422, **reading)
    assert "1, 2" in refused["error"]["message"]
    for joint in ("a1", "a2"):
        client.post("/choosing/tighten/started", joint=joint, text="", system="metric", override="")
    client.post("/choosing/tighten/reading", **reading)
    override = {**reading, "joint": "a3", "override": "only two screws came"}
    client.post("/choosing/tighten/reading", **override)
    cards = {c["card"]["joint"]: c for c in client.get("/choosing/tighten")["cards"]}
    assert cards["a1"]["reading"]["value"] == 20
    codes = {f["code"] for f in cards["a3"]["reading"]["findings"]}
    assert "not all were started" in codes
    assert cards["a3"]["history"][0]["reason"] == "only two screws came"


def test_taking_a_reading_back_keeps_both(client: Client) -> None:
    card = client.get("/half-fitted/tighten")["cards"][0]
    seq = card["history"][0]["seq"]
    client.post("/half-fitted/tighten/take-back", seq=seq, reason="wrench slipped")
    client.post("/half-fitted/tighten/take-back", status=422, seq=seq, reason="again")
    card = client.get("/half-fitted/tighten")["cards"][0]
    assert card["reading"] is None
    assert [r["kind"] for r in card["history"]] == ["reading", "taken back"]
    client.post(
        "/half-fitted/tighten/reading", joint="a1", text="14.8 ft·lb", system="metric", override=""
    )
    card = client.get("/half-fitted/tighten")["cards"][0]
    assert len(card["history"]) == 3
    assert card["reading"]["value"] == pytest.approx(20.07, abs=0.01)


def test_steps_tick_and_open_again(client: Client) -> None:
    def at() -> int:
        return int(client.get("/half-fitted/tighten")["at"])

    assert at() == 14
    client.post("/half-fitted/tighten/step", step="half:a5", done=True)
    assert at() == 15
    client.post("/half-fitted/tighten/step", step="half:a5", done=False)
    assert at() == 14
    for step in ("full:a5", "start:a1", "nope"):
        client.post("/half-fitted/tighten/step", status=422, step=step, done=True)


def finish(client: Client) -> None:
    for joint, torque in (("a5", "6.8"), ("a6", "6.8"), ("a3", "18"), ("a4", "18")):
        client.post(
            "/half-fitted/tighten/reading", joint=joint, text=torque, system="metric", override=""
        )


def close_plan(client: Client) -> None:
    """Ticks every step of the plan that is only ticked."""
    for step in client.get("/half-fitted/tighten")["steps"]:
        if not step["done"] and step["step"]["kind"] not in ("start", "full"):
            client.post("/half-fitted/tighten/step", step=step["step"]["key"], done=True)


def test_keep_from_fitted_to_checked(client: Client) -> None:
    found = {"joint": "a1", "text": "12", "system": "metric"}
    client.post("/half-fitted/keep/found", status=422, **found)
    finish(client)
    keep = client.get("/half-fitted/keep")
    assert keep["due"]["state"] == "not fitted"
    assert "steps of the plan are open" in keep["due"]["words"]
    close_plan(client)
    keep = client.get("/half-fitted/keep")
    assert keep["due"]["words"].startswith("Locker: the locker of joint")
    first = next(d for d in keep["dues"] if d["key"] == "first re-check")
    assert first["state"] == "later"
    client.post("/half-fitted/keep/km", status=422, text="10", system="metric")
    client.post("/half-fitted/keep/km", text="18460", system="metric")
    assert client.get("/half-fitted/keep")["due"]["state"] == "due"
    client.post("/half-fitted/keep/found", **found)
    joints = client.get("/half-fitted/keep")["joints"]
    assert joints[0]["recheck"]["verdict"] == "mind"
    assert "less than 80 %" in joints[0]["recheck"]["words"]
    for joint in ("a2", "a3", "a4", "a5", "a6"):
        client.post("/half-fitted/keep/found", **{**found, "joint": joint, "held": True})
    due = next(d for d in client.get("/half-fitted/keep")["dues"] if d["key"] == "re-check")
    assert "found loose and not tightened" in due["reasons"][0]
    client.post("/half-fitted/keep/found", **found, tightened="21")
    by_key = {d["key"]: d for d in client.get("/half-fitted/keep")["dues"]}
    assert by_key["re-check"]["state"] == "later"
    assert all(d["key"].startswith("locker") for d in by_key.values() if d["state"] == "now")
    assert client.jobs()["half-fitted"]["stands"] == "fitted"


def test_a_stale_write_gets_the_newer_content(client: Client) -> None:
    version = client.version("choosing")
    client.field("choosing", SPACER, "15")
    refused = client.field("choosing", SPACER, "9", 409, version=version)
    assert refused["newer"]["version"] == version + 1
    assert refused["newer"]["value"] == "15.0"
    assert "15 mm" in refused["newer"]["words"]
    assert client.get("/choosing/fit-up/joints/a3")["layers"][2]["thickness"]["value"] == 15


def test_a_repeated_request_is_answered_once(client: Client) -> None:
    version = client.version("choosing")
    for _ in range(2):
        saved = client.field("choosing", SPACER, "14", version=version, key="the-same-key")
        assert saved["version"] == version + 1


@pytest.mark.parametrize("text", ["", "abc", "-3", "0", "5 m", "5 kg", "nan", "1e400"])
def test_bad_numbers_keep_the_old_value(client: Client, text: str) -> None:
    refused = client.field("choosing", SPACER, text, 422)
    assert set(refused["error"]) == {
        "field",
        "value",
        "allowed",
        "message",
        "remedy",
        "reference",
    }
    assert refused["error"]["field"] == SPACER
    assert "120" in refused["error"]["allowed"]
    assert client.version("choosing") == 1


def test_comma_and_inch_are_read(client: Client) -> None:
    client.field("choosing", SPACER, "3,5")
    client.field("choosing", SPACER, "1/2", system="us")
    layer = client.get("/choosing/fit-up/joints/a3")["layers"][2]
    assert layer["thickness"]["value"] == pytest.approx(12.7)
    assert layer["fields"][0]["us"] == "0.5"
    assert layer["fields"][0]["metric"] == "12.7"


@pytest.mark.parametrize(
    ("path", "status"),
    [
        ("/nope", 404),
        ("/nope/survey", 404),
        ("/choosing/nope", 404),
        ("/choosing/fit-up/joints/nope", 422),
    ],
)
def test_unknown_places_have_the_error_shape(client: Client, path: str, status: int) -> None:
    assert client.get(path, status)["error"]["message"]


def test_a_name_that_nothing_takes_is_refused_by_name(client: Client) -> None:
    """A misspelt entry would be lost without a word."""
    before = client.get("/choosing")["version"]
    body = {"version": before, "key": "misspelt-1", "path": "title", "text": "x", "sytem": "us"}
    answer = client.flask.patch("/api/jobs/choosing/field", json=body)
    assert answer.status_code == 422
    assert answer.get_json()["error"]["field"] == "sytem"
    assert "not known here" in answer.get_json()["error"]["message"]
    assert client.get("/choosing")["version"] == before


@pytest.mark.parametrize(
    "body",
    [
        b"",
        b"{",
        b"[]",
        b"null",
        b'{"version":1}',
        b'{"version":"x","key":"k"}',
        b"\xff\xfe",
        b'{"version":1,"key":"abcdefgh","path":1,"text":[]}',
        b'{"version":1,"key":"short","path":"title","text":"x"}',
    ],
)
def test_bodies_that_are_none(client: Client, body: bytes) -> None:
    answer = client.flask.patch(
        "/api/jobs/choosing/field", data=body, content_type="application/json"
    )
    assert answer.status_code == 422
    assert answer.get_json()["error"]["message"]


def test_a_huge_body_is_refused(client: Client) -> None:
    answer = client.flask.patch(
        "/api/jobs/choosing/field",
        data=io.BytesIO(b"x" * 6_000_000),
        content_type="application/json",
    )
    assert answer.status_code == 413
    assert answer.get_json()["error"]["message"]


@pytest.mark.parametrize("name", names())
def test_calc_over_http_is_calc(client: Client, name: str) -> None:
    answer = client.flask.post(f"/api/calc/{name}", json=example(name))
    assert answer.status_code == 200
    body: dict[str, Any] = answer.get_json()
    assert body["result"]
    assert body["sources"]
    assert body["inputs"]
    assert body["reasons"]
    refused = client.flask.post(f"/api/calc/{name}", json={})
    assert refused.status_code == 422


def test_unforeseen_errors_show_only_a_reference(
    client: Client, monkeypatch: pytest.MonkeyPatch, caplog: pytest.LogCaptureFixture
) -> None:
    def fall(*_: object) -> None:
        raise RuntimeError("secret inside")

    monkeypatch.setattr("rugged_shield.web.worklist.job_heads", fall)
    client.flask.application.testing = False
    answer = client.flask.get("/api/jobs")
    assert answer.status_code == 500
    text = answer.get_data(as_text=True)
    assert "secret" not in text
    error = answer.get_json()["error"]
    assert len(error["reference"]) == 8
    assert error["reference"] in error["message"]
    assert error["reference"] in caplog.text, "the log is found by the number on the screen"
    assert "secret" not in caplog.text
    assert "worklist.py" in caplog.text
