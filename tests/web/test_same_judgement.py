"""Every screen says what the judgement says: after random edits the same findings stand on each."""

from __future__ import annotations

import json
import random
from typing import Any

import pytest

from rugged_shield.calc.whole import assess
from rugged_shield.core.amounts import in_system
from rugged_shield.core.judgement.codes import RANK
from tests.conftest import Client

JOBS = {"half-fitted": "alu5", "in-service": "iso3", "kit-open": "bars4", "wing-in-the-way": "alu5"}
EDITS = 6
DOUBTED = ("missing", "assumed", "guessed")


def edits(job: dict[str, Any], plate: str, random_: random.Random) -> tuple[str, str]:
    """A field of the job and another text for it."""
    own = next(c for c in job["candidates"] if c["plate"]["key"] == plate)
    joint = random_.choice(own["joints"])
    layer = random_.choice(joint["layers"])
    mount = random_.choice(job["bike"]["mounts"])
    part = random_.choice(job["bike"]["parts"])
    at = f"candidates.{plate}.joints.{joint['key']}"
    return random_.choice(
        [
            (f"{at}.layers.{layer['key']}.thickness_mm", str(random_.choice([2, 8, 12.5, 30]))),
            (f"{at}.length_mm", str(random_.choice([20, 30, 45, 70]))),
            (f"{at}.grade", random_.choice(["not read", "8.8", "10.9"])),
            (f"{at}.known", random_.choice(["assumed", "tried", "printed"])),
            (f"bike.mounts.{mount['key']}.known", random_.choice(["assumed", "measured"])),
            (f"bike.mounts.{mount['key']}.thread_end_mm", str(random_.choice([5, 9, 22]))),
            (f"bike.parts.{part['key']}.known", random_.choice(["assumed", "guessed"])),
            (f"candidates.{plate}.plate.thickness_mm", str(random_.choice([2, 4, 10]))),
            ("bike.front_travel_mm", random_.choice(["", "120", "260"])),
        ]
    )


def worst_of(findings: list[dict[str, Any]]) -> str:
    return max((f["verdict"] for f in findings), key=lambda v: RANK[v], default="sound")


def said_of(missing: list[dict[str, Any]]) -> set[str]:
    """The sentences, but for the cure's, which counts the hours as it is asked."""
    return {in_system(m["words"], "metric") for m in missing if m["code"] != "locker cures"}


def compared(client: Client, job: str) -> None:
    tighten, keep = client.get(f"/{job}/tighten"), client.get(f"/{job}/keep")
    assert tighten["ready"] == keep["ready"]
    file = client.get(f"/{job}/file")
    whole = assess(json.dumps(file).encode(), quick=True)
    stands = said_of(whole["ready"]["missing"])
    assert said_of(tighten["ready"]["missing"]) <= stands
    fitup = {j["key"]: j for j in client.get(f"/{job}/fit-up")["joints"]}
    cards = {c["card"]["joint"]: c for c in tighten["cards"]}
    for key, said in whole["joints"].items():
        detail = client.get(f"/{job}/fit-up/joints/{key}")
        assert detail["verdict"] == worst_of(detail["findings"]) == fitup[key]["verdict"]
        codes = {f["code"] for f in said["findings"]}
        assert {f["code"] for f in detail["findings"]} <= codes
        assert {f["code"] for f in detail["findings"]} <= {
            f["code"] for f in cards[key]["findings"]
        }
        assert said["state"] == cards[key]["state"]
    held = {m["code"] for m in (*whole["ready"]["missing"], *whole["ready"]["minds"])}
    gating = {f["code"] for j in whole["joints"].values() for f in j["findings"] if f["gates"]}
    assert gating <= held, "what a joint says, the gate says"


@pytest.mark.parametrize("job", JOBS)
def test_after_any_edit_all_screens_say_the_same(client: Client, job: str) -> None:
    random_ = random.Random(job)
    compared(client, job)
    for _ in range(EDITS):
        facts = client.get(f"/{job}/file")["job"]
        path, text = edits(facts, JOBS[job], random_)
        answer = client.flask.patch(
            f"/api/jobs/{job}/field",
            json={"path": path, "text": text, "version": client.version(job),
                  "key": f"fuzz-{random_.random()}", "system": "metric"},
        )  # fmt: skip
        assert answer.status_code in (200, 422), answer.data[:200]
        compared(client, job)


@pytest.mark.parametrize("job", ["choosing", *JOBS])
def test_measure_next_names_what_the_gate_waits_for(client: Client, job: str) -> None:
    """The same computation: nothing that the gate does not know is left out, nothing is added."""
    waits = {
        (m["code"], m["about"]): {d["path"] for d in m["decided_by"] if d["known"] in DOUBTED}
        for m in client.get(f"/{job}/tighten")["ready"]["missing"]
        if m["verdict"] == "not known"
    }
    waits = {key: paths for key, paths in waits.items() if paths}
    view = client.get(f"/{job}/survey/measure-next")
    assert waits
    holds = {(h["code"], h["about"]): {n["path"] for n in h["numbers"]} for h in view["holds"]}
    assert waits == holds
    assert all(h["remedy"] and all(n["words"] for n in h["numbers"]) for h in view["holds"])
