"""Weigh-up: candidates beside stock, each with its verdict; one of them is picked."""

from __future__ import annotations

from dataclasses import replace

from flask import Blueprint

from rugged_shield.core.assess import Candidate, Change, Job, Weighed, hang, weigh
from rugged_shield.core.errors import InputError
from rugged_shield.core.survey import creeper_view
from rugged_shield.core.tables.materials import SHEET_MATERIALS
from rugged_shield.web.api import route
from rugged_shield.web.fields import field_view
from rugged_shield.web.jobs import row_of, write
from rugged_shield.web.views import (
    FieldView,
    PickWrite,
    PlateColumn,
    QuantityRow,
    SavedView,
    WeighupView,
)

blueprint = Blueprint("weigh_up", __name__, url_prefix="/api/jobs/<job_id>/weigh-up")

_ROWS = (
    ("Weight and stiffness", ("mass", "claimed_mass", "thickness_ratio", "stiffness_ratio")),
    ("Room under the bike", ("clearance", "clearance_lost", "breakover", "standoff")),
    ("Effort and money", ("oil_screws", "money")),
)


def _column(job: Job, candidate: Candidate, weighed: Weighed) -> PlateColumn:
    plate = candidate.plate
    at = "stock" if plate.role == "stock" else f"candidates.{candidate.key}"
    prefix = f"{at}.plate"
    fields: tuple[FieldView, ...] = (
        field_view(plate, "thickness_mm", prefix),
        field_view(plate, "material", prefix, choices=tuple(SHEET_MATERIALS)),
        field_view(plate, "claimed_mass_kg", prefix),
        field_view(plate, "price", prefix),
    )
    return PlateColumn(
        candidate.key, plate.name, plate.role, plate.material, plate.form, plate.mounting,
        weighed.verdict, weighed.reason, weighed.findings, job.picked == candidate.key,
        job.in_hand.key == candidate.key, fields,
    )  # fmt: skip


def _rows(weighed: list[Weighed]) -> tuple[QuantityRow, ...]:
    rows = []
    first = weighed[0].figures
    for group, keys in _ROWS:
        for key in keys:
            rows.append(
                QuantityRow(key, group, first[key].label, tuple(w.figures[key] for w in weighed))
            )
    for key in first:
        if key.startswith("coverage:"):
            direction = key.removeprefix("coverage:")
            group = f"Shielded {direction}"
            cells = tuple(w.figures[key] for w in weighed)
            rows.append(QuantityRow(key, group, "all vitals, by consequence", cells))
            for vital in first:
                if vital.startswith(f"cover:{direction}:"):
                    label, own = first[vital].label, tuple(w.figures[vital] for w in weighed)
                    rows.append(QuantityRow(vital, group, label, own))
    return tuple(rows)


@route(blueprint, "GET", "", WeighupView)
def weigh_up(job_id: str) -> WeighupView:
    """Plates in columns, stock first; quantities in rows; verdict and reason for each."""
    job = row_of(job_id).job
    plates = (job.stock, *job.candidates)
    weighed = [weigh(job, c.key) for c in plates]
    hung = hang(job.bike, job.in_hand)
    mine = weigh(job, job.in_hand.key)
    stock = hang(job.bike, job.stock).folded
    return WeighupView(
        tuple(_column(job, c, w) for c, w in zip(plates, weighed, strict=True)),
        _rows(weighed),
        creeper_view(job.bike, stock, hung.folded, mine.bare),
        tuple(f.text for f in mine.findings if f.code == "bare vital"),
        field_view(job, "pick_reason", "", label="Why this one"),
    )


def _pick(job: Job, body: PickWrite) -> Change:
    if not body.plate:
        return Change(replace(job, picked="", pick_reason=""), "pick taken back")
    candidate = job.candidate(body.plate)
    picked = replace(job, picked=body.plate, weighing=body.plate, pick_reason=body.reason)
    return Change(picked, f"picked: {candidate.plate.name}")


@route(blueprint, "POST", "/pick", SavedView, PickWrite)
def pick(job_id: str, body: PickWrite) -> SavedView:
    """Make a plate the job's plate, or take the pick back."""
    return write(job_id, body, lambda job: _pick(job, body))


@route(blueprint, "POST", "/look", SavedView, PickWrite)
def look(job_id: str, body: PickWrite) -> SavedView:
    """Put a plate in the ledger without picking it."""

    def change(job: Job) -> Change:
        candidate = job.candidate(body.plate)
        if job.picked:
            raise InputError(
                "plate", body.plate, job.picked, "a plate is picked, and the ledger shows it",
                "Take the pick back to weigh others in the ledger.",
            )  # fmt: skip
        words = f"ledger shows {candidate.plate.name}"
        return Change(replace(job, weighing=body.plate), words)

    return write(job_id, body, change)
