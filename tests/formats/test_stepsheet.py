"""The steps on paper are the steps of the plan."""

from __future__ import annotations

import io

import pypdf

from rugged_shield.core.amounts import show
from rugged_shield.core.assess.tighten.plan import done_steps, plan_of
from rugged_shield.formats.jobfile import JobFile
from rugged_shield.formats.stepsheet import SheetHead, step_sheet
from tests.conftest import Client


def text_of(data: bytes) -> str:
    pages = pypdf.PdfReader(io.BytesIO(data)).pages
    return " ".join(" ".join(page.extract_text() for page in pages).split())


def test_every_step_in_order_with_both_torques(half_fitted: JobFile) -> None:
    plan = plan_of(half_fitted.job, "alu5")
    head = SheetHead("Shed & <bike>", "Brenn 440", "pan")
    data = step_sheet(head, plan, done_steps(plan, half_fitted.records))
    assert data.startswith(b"%PDF")
    text = text_of(data)
    assert "Shed & <bike>" in text
    assert "licensed workshop" in text
    at = 0
    for step in plan.steps:
        at = text.index(step.title, at)
        if step.setting_nm is not None:
            for system in ("metric", "us"):
                assert show(step.setting_nm, "N·m", system) in text[at : at + 300]  # type: ignore[arg-type]
        if step.caution:
            assert step.caution[:12] in text


def test_the_sheet_over_http(client: Client) -> None:
    answer = client.flask.get("/api/jobs/half-fitted/tighten/steps.pdf")
    assert answer.mimetype == "application/pdf"
    assert "Torque joint 5" in text_of(answer.get_data())
