"""The decision on paper in every state of a job, and its table with the same numbers."""

from __future__ import annotations

import csv
import io
from dataclasses import fields, replace

import pypdf
import pytest

from rugged_shield.core.amounts import in_system
from rugged_shield.core.assess.weighup.protection import protection
from rugged_shield.core.assess.weighup.ranking import order_of
from rugged_shield.core.assess.weighup.schools import schools_of
from rugged_shield.core.assess.weighup.scorecard import weigh
from rugged_shield.core.assess.weighup.strike import strike_found
from rugged_shield.core.job.model import Job, Priorities
from rugged_shield.formats.decision import decision_csv, decision_pdf

NOTHING = Priorities(**{f.name: 0.0 for f in fields(Priorities)})


def state_of(job: Job, name: str) -> Job:
    one = replace(job.candidates[0], joints=())
    long = replace(one.plate, name="Very long name of a plate " * 4)
    return {
        "picked": replace(job, picked="steel25", weighing="steel25", pick_reason="it <holds>"),
        "ranked": job,
        "nothing matters": replace(job, priorities=NOTHING),
        "one plate": replace(job, candidates=job.candidates[:1]),
        "no plate": replace(job, candidates=(), weighing="stock", weighings=()),
        "no mounts": replace(job, candidates=(replace(one, plate=long), *job.candidates[1:])),
    }[name]


SAID = {
    "picked": "Picked: Welded steel tray",
    "ranked": "Ranks first, not picked yet: ",
    "nothing matters": "In the ledger, not picked yet: Pressed aluminium pan",
    "one plate": "No other plate is entered.",
    "no plate": "Stock splash guard",
    "no mounts": "Very long name of a plate",
}


@pytest.mark.parametrize("name", list(SAID))
def test_one_page_says_the_state_the_numbers_and_the_cautions(choosing: Job, name: str) -> None:
    job = state_of(choosing, name)
    pages = pypdf.PdfReader(io.BytesIO(decision_pdf(job))).pages
    text = " ".join(pages[0].extract_text().split())
    assert SAID[name] in text
    assert "not a promise of what holds" in text
    assert "licensed workshop" in text
    # No plate that was weighed is missing: those without room follow behind.
    assert len(pages) == 1 + max(0, -(-(len(job.candidates) - 1) // 4) - 1)
    everything = " ".join(" ".join(page.extract_text().split()) for page in pages)
    for candidate in job.candidates:
        assert " ".join(candidate.plate.name.split()) in everything
    for key in ("bundle_mass", "coverage", "standoff"):
        assert weigh(job, job.in_hand.key).figures[key].metric in text
    shielded = protection(job, weigh(job, "stock")).metric
    assert shielded in text
    if name == "picked":
        assert "why: it <holds>" in text


@pytest.mark.parametrize("name", list(SAID))
def test_the_table_holds_every_plate_and_quantity(choosing: Job, name: str) -> None:
    job = state_of(choosing, name)
    rows = list(csv.reader(io.StringIO(decision_csv(job))))
    plates = (job.stock, *job.candidates)
    assert [len(row) for row in rows] == [2 + len(plates)] * len(rows)
    table = {row[0]: row[2:] for row in rows}
    for i, plate in enumerate(plates):
        mass = weigh(job, plate.key).figures["mass"].value
        assert float(table["Mass with hardware"][i]) == pytest.approx(mass, rel=1e-5)
        held = protection(job, weigh(job, plate.key)).value
        cell = table["Shielded and held"][i]
        assert cell == "not known" if held is None else float(cell) == pytest.approx(held, rel=1e-5)


def test_the_order_is_that_of_entry_when_nothing_matters(choosing: Job) -> None:
    job = state_of(choosing, "nothing matters")
    through = [c.key for c in job.candidates if c.key not in ("bars4", "steel25")]
    assert list(order_of(job)) == through, "what is blocked is kept out"
    assert set(order_of(choosing)) == set(through)
    assert order_of(state_of(choosing, "no plate")) == (), "stock is no candidate"
    schools = {s.key: s for s in schools_of(job)}
    assert schools["material"].options[0].plate == "alu5", "the first aluminium one"


def test_what_the_strikes_found_stands_in_sheet_and_table(choosing: Job) -> None:
    job = replace(choosing, candidates=choosing.candidates[:1], weighing="")
    rows = list(csv.reader(io.StringIO(decision_csv(job))))
    struck = {row[0]: row for row in rows if row[0].startswith("strike: ")}
    found = strike_found(job, "alu5", "from below").findings
    assert found
    for said in found:
        assert in_system(said.text) in struck[f"strike: {said.code}"]
    text = " ".join(pypdf.PdfReader(io.BytesIO(decision_pdf(job))).pages[0].extract_text().split())
    assert "may punch through" in text or "reaches the" in text
