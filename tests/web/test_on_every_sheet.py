"""What one page finds stands in the ranking, the decision and the sheet that is handed over."""

from __future__ import annotations

import io

import pytest
from pypdf import PdfReader

from tests.conftest import Client


def handed_over(client: Client, job: str) -> str:
    sheet = client.flask.get(f"/api/jobs/{job}/keep/sheet.pdf").data
    words = " ".join(page.extract_text() for page in PdfReader(io.BytesIO(sheet)).pages)
    return " ".join(words.split())


def test_a_thin_copy_does_not_lead_and_a_blocked_plate_stands_below(client: Client) -> None:
    """At 60 J a sheet of 1 mm holds next to nothing, however little it weighs."""
    job = "half-fitted"
    client.field(job, "use.strike_energy_j", "60")
    client.post(f"/{job}/plates/alu5/copy")
    key = client.get(f"/{job}/file")["job"]["candidates"][-1]["plate"]["key"]
    client.field(job, f"candidates.{key}.plate.thickness_mm", "1")
    view = client.get(f"/{job}/weigh-up/priorities")
    order = [r["key"] for r in view["ranking"]]
    assert order[0] == "alu5"
    assert order[-1] == key or key in {s["key"] for s in view["shut_out"]}
    assert all(r["verdict"] != "blocked" for r in view["ranking"])
    again = client.get(f"/{job}/weigh-up/priorities")
    assert again["ranking"] == view["ranking"], "nothing entered between, nothing else said"


def test_what_is_alike_for_all_stands_once(client: Client) -> None:
    view = client.get("/half-fitted/weigh-up/priorities")
    alike = {value["key"] for value in view["same"]}
    for plate in view["ranking"]:
        assert not alike & {value["key"] for value in plate["values"]}
        assert not set(view["missing_of_all"]) & set(plate["missing"])
    table = client.get("/half-fitted/weigh-up")
    shared = {(f["code"], f["text"]) for f in table["shared"]}
    for column in table["columns"][1:]:
        assert not shared & {(f["code"], f["text"]) for f in column["findings"]}
    one = client.get("/holes-off/weigh-up")
    assert one["shared"] == [], "of one plate alone nothing is shared"


@pytest.mark.parametrize(
    ("job", "edit", "words"),
    [
        ("half-fitted", ("bike.mounts.m5.known", "assumed"), "nobody looked"),
        ("half-fitted", ("candidates.alu5.joints.a5.grade", "not read"), "class is not entered"),
        ("holes-off", None, "a screw is short by"),
        ("wing-in-the-way", None, "brake pedal"),
    ],
)
def test_the_sheet_handed_over_says_what_is_doubted(
    client: Client, job: str, edit: tuple[str, str] | None, words: str
) -> None:
    if edit is not None:
        assert words not in handed_over(client, job)
        client.field(job, *edit)
    assert words in handed_over(client, job)
