"""A whole job file judged: on the command line, over HTTP, and as the screens say it."""

from __future__ import annotations

import importlib
import json
import subprocess
from dataclasses import replace
from importlib.resources import files
from pathlib import Path
from typing import Any

import pytest

from rugged_shield.calc.whole import assess
from rugged_shield.core.assess.weighup.scorecard import weigh
from rugged_shield.core.job.model import Job
from rugged_shield.formats.jobfile import read_job_file, write_job_file
from tests.conftest import Client
from tests.shielded import SHIELD, shield

judging = importlib.import_module("rugged_shield.core.assess.frame.assessment")
DEMO = files("rugged_shield.demo")
VERSION_1 = Path(__file__).parent / "data/stored/version_1.json"


def demo(name: str) -> bytes:
    return DEMO.joinpath(f"{name}.json").read_bytes()


@pytest.fixture(scope="module")
def quick() -> dict[str, Any]:
    return assess(demo("half_fitted"), quick=True)


def test_it_says_everything_of_a_job(quick: dict[str, Any]) -> None:
    assert list(quick) == [
        "verdict",
        "plate",
        "findings",
        "plates",
        "joints",
        "ledger",
        "plan",
        "ready",
    ]
    assert quick["plate"] == "alu5"
    assert set(quick["plates"]) == {"stock", "alu5", "steel25", "hdpe10"}
    joint = quick["joints"]["a1"]
    assert set(joint["torque"]) == {
        "target_nm",
        "low_nm",
        "high_nm",
        "limit_nm",
        "governs",
        "reading_nm",
    }
    assert joint["state"] == "torqued"
    assert joint["torque"]["reading_nm"] == 20.9
    assert quick["joints"]["a5"]["state"] == "started"
    assert quick["joints"]["a5"]["torque"]["reading_nm"] is None
    assert quick["ready"]["verdict"] == "not known"
    steps = {step["key"] for step in quick["plan"]}
    assert all(set(step["after"]) <= steps for step in quick["plan"])
    for said in quick["findings"]:
        assert set(said) == {
            "code",
            "verdict",
            "about",
            "words",
            "gates",
            "bites",
            "decided_by",
            "remedy",
        }
        assert said["remedy"]
        assert said["bites"][0]["station"]
        for decider in said["decided_by"]:
            assert set(decider) == {"path", "known", "value", "band"}


def test_it_says_what_the_screens_say(client: Client, quick: dict[str, Any]) -> None:
    tighten = client.get("/half-fitted/tighten")
    for card in tighten["cards"]:
        joint = quick["joints"][card["card"]["joint"]]
        assert joint["torque"]["target_nm"] == card["card"]["target_nm"]
        assert joint["torque"]["limit_nm"] == card["card"]["limit_nm"]
        assert joint["torque"]["governs"] == card["card"]["governing"]
    lines = {line["key"]: line["now"]["value"] for line in client.get("/half-fitted")["ledger"]}
    assert {line["key"]: line["now"]["value"] for line in quick["ledger"]} == lines
    assert [s["step"]["key"] for s in tighten["steps"]] == [s["key"] for s in quick["plan"]]


def test_a_file_of_an_older_version_says_the_same() -> None:
    """As it was kept, and as it is written today: one judgement."""
    old = json.dumps(json.loads(VERSION_1.read_text())["exports"]["half-fitted"]).encode()
    back = read_job_file(old)
    said = assess(old, quick=True)
    assert said["plates"]
    assert said == assess(write_job_file(back.job, back.records), quick=True)


def test_what_was_not_struck_is_not_green(choosing: Job, monkeypatch: pytest.MonkeyPatch) -> None:
    """A plate that nothing else is found of: sound only once its strike is known."""
    clean = replace(weigh(choosing, "alu5"), findings=())
    monkeypatch.setattr(judging, "weigh", lambda job, key: clean)
    assert judging.plate_said(choosing, "alu5", strikes=False).verdict == "not known"
    for verdict, said in (("sound", "sound"), ("not known", "not known")):
        struck = replace(clean.figures["mass"], key="strike:touch", verdict=verdict)
        found = judging.StruckPlate("alu5", (struck,), ())
        monkeypatch.setattr(judging, "struck_all_round", lambda job, key, way, f=found: f)
        assert judging.plate_said(choosing, "alu5", strikes=True).verdict == said


def test_with_strikes_a_plate_has_the_figures_of_its_map() -> None:
    file = json.loads(demo("in_service"))
    file["job"]["candidates"] = file["job"]["candidates"][:1]
    text = json.dumps(file).encode()
    with_strikes, without = (
        set(assess(text, quick)["plates"]["iso3"]["figures"]) for quick in (False, True)
    )
    assert any(name.startswith("strike") for name in with_strikes - without)


def test_an_empty_plate_is_not_known() -> None:
    file = json.loads(demo("choosing"))
    plate = file["job"]["candidates"][0]
    plate["joints"], plate["kit"] = [], []
    file["job"]["weighing"], file["job"]["counts"] = plate["plate"]["key"], []
    said = assess(json.dumps(file).encode(), quick=True)
    assert said["joints"] == {}
    assert said["verdict"] != "sound"


def posted(client: Client, query: str, file: bytes) -> Any:
    return client.flask.post(f"/api/assess{query}", data=file, content_type="application/json")


def test_command_and_api_give_the_same(client: Client, tmp_path: Path) -> None:
    file = tmp_path / "job.json"
    file.write_bytes(demo("half_fitted"))
    run = shield("assess", str(file), "--quick")
    assert (run.returncode, run.stderr) == (0, "")
    piped = shield("assess", "-", "--quick", text=file.read_text())
    assert piped.stdout == run.stdout
    answer = posted(client, "?quick=1", file.read_bytes())
    assert answer.get_json() == json.loads(run.stdout)


@pytest.mark.parametrize("text", ["", "{", "[]", '{"format": "rugged-shield job", "version": 99}'])
def test_what_is_no_job_file_is_one_error_with_exit_2(text: str, client: Client) -> None:
    run = shield("assess", "-", "--quick", text=text)
    assert run.returncode == 2
    error = json.loads(run.stdout)["error"]
    assert set(error) >= {"field", "value", "allowed", "message", "remedy"}
    answer = posted(client, "", text.encode())
    assert answer.status_code == 422


@pytest.mark.parametrize("command", ["calc --list", "calc joint-stack --schema"])
def test_a_reader_that_has_seen_enough_is_no_error(command: str) -> None:
    line = f"{' '.join(SHIELD)} {command} | head -n 1 >/dev/null; echo ${{PIPESTATUS[0]}}"
    run = subprocess.run(
        ["bash", "-c", line], capture_output=True, text=True, check=True, timeout=240
    )
    assert (run.stdout.strip(), run.stderr) == ("0", "")


def test_a_job_without_vital_parts_is_judged() -> None:
    """Nothing a stone can ruin: what is shielded is not known, and nothing divides by it."""
    file = json.loads(demo("half_fitted"))
    for part in file["job"]["bike"]["parts"]:
        part["kind"] = "low"
    found = assess(json.dumps(file).encode(), quick=True)
    figures = found["plates"]["alu5"]["figures"]
    for key in ("coverage", "standoff", "air"):
        assert figures[key]["value"] is None
        assert figures[key]["verdict"] == "not known"


def test_a_missing_line_says_what_it_is_about_and_what_clears_it(quick: dict[str, Any]) -> None:
    ready = quick["ready"]
    assert ready["missing_words"] == [m["words"] for m in ready["missing"]]
    for missing in ready["missing"]:
        assert {"code", "about", "words", "remedy"} <= set(missing)
        assert missing["remedy"]
    grave = [m["verdict"] for m in ready["missing"]]
    assert grave == sorted(grave), "blocked before not known"
    decided = [f for f in quick["findings"] if f["decided_by"]]
    assert decided
    for said in decided:
        for decider in said["decided_by"]:
            assert decider["path"].split(".")[0] in ("bike", "candidates", "joints", "stock")
