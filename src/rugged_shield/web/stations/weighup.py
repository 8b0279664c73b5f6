"""Weigh-up: candidates beside stock, each with its verdict; one of them is picked."""

from __future__ import annotations

from dataclasses import fields, replace

from flask import Blueprint

from rugged_shield.core.assess.fitup import hang
from rugged_shield.core.assess.weighup import Weighed, weigh
from rugged_shield.core.errors import InputError
from rugged_shield.core.job import Candidate, Job, Use
from rugged_shield.core.job.edits import Change, with_need, without_need
from rugged_shield.core.result import Figure
from rugged_shield.core.survey import creeper_view
from rugged_shield.core.tables.materials import SHEET_MATERIALS
from rugged_shield.core.weighup import DIRECTIONS
from rugged_shield.web.api import route
from rugged_shield.web.fields import field_view, field_views
from rugged_shield.web.jobs import row_of, write
from rugged_shield.web.views import (
    BundleWrite,
    FieldView,
    PickWrite,
    PlateColumn,
    QuantityRow,
    SavedView,
    WeighupView,
)

blueprint = Blueprint("weigh_up", __name__, url_prefix="/api/jobs/<job_id>/weigh-up")

_ROWS = (
    (
        "Weight and stiffness",
        (
            "mass",
            "bundle_mass",
            "added",
            "claimed_mass",
            "weighed_mass",
            "thickness",
            "thickness_ratio",
            "stiffness_ratio",
        ),
    ),
    ("Shielding", ("coverage", *(f"coverage:{d}" for d in DIRECTIONS))),
    ("Room under the bike", ("clearance", "clearance_lost", "breakover", "sag", "standoff")),
    ("Heat and air", ("heat_idling", "heat_moving", "heat_gap", "air")),
    ("Effort", ("oil_screws", "service", "effort")),
    ("Money", ("money", "money_a_year")),
    ("Nature", ("ring", "slide", "corrosion", "school")),
)
_LESS_IS_BETTER = frozenset(
    (
        "mass",
        "bundle_mass",
        "added",
        "clearance_lost",
        "sag",
        "heat_idling",
        "heat_moving",
        "air",
        "oil_screws",
        "service",
        "effort",
        "money",
        "money_a_year",
        "ring",
        "slide",
        "corrosion",
    )
)
_MORE_IS_BETTER = frozenset(("stiffness_ratio", "clearance", "breakover", "standoff", "coverage"))


def _column(job: Job, candidate: Candidate, weighed: Weighed) -> PlateColumn:
    plate = candidate.plate
    at = "stock" if plate.role == "stock" else f"candidates.{candidate.key}"
    prefix = f"{at}.plate"
    fields: tuple[FieldView, ...] = (
        field_view(plate, "thickness_mm", prefix),
        field_view(plate, "material", prefix, choices=tuple(SHEET_MATERIALS)),
        field_view(plate, "claimed_mass_kg", prefix),
        field_view(plate, "price", prefix),
        field_view(plate, "weighed_mass_kg", prefix),
        field_view(plate, "heat_foil", prefix),
        *(
            field_view(extra, name, f"{at}.extras.{extra.key}", label=f"{extra.name}: {words}")
            for extra in candidate.extras
            for name, words in (("price", "price"), ("mass_kg", "mass"), ("fit_minutes", "minutes"))
        ),
    )
    return PlateColumn(
        key=candidate.key,
        name=plate.name,
        role=plate.role,
        material=plate.material,
        form=plate.form,
        mounting=plate.mounting,
        verdict=weighed.verdict,
        reason=weighed.reason,
        findings=weighed.findings,
        picked=job.picked == candidate.key,
        in_hand=job.in_hand.key == candidate.key,
        fields=fields,
        gates=weighed.gates,
        bought=tuple(e.gives or e.name for e in candidate.extras),
    )


def better_of(key: str) -> int:
    """+1 where more is better, −1 where less is, 0 where neither."""
    if key in _LESS_IS_BETTER:
        return -1
    if key.startswith("strike:"):
        return 1 if key in ("strike:touch", "strike:scars") else -1
    return int(key in _MORE_IS_BETTER or key.startswith(("coverage:", "cover:")))


def row_of_cells(
    key: str, group: str, cells: tuple[Figure, ...], plates: tuple[str, ...], better: int
) -> QuantityRow:
    """A row with its best and worst plates, stock (the first) apart and only where they differ."""
    known = [
        (better * c.value, c.metric, plate)
        for c, plate in zip(cells[1:], plates[1:], strict=True)
        if c.value is not None
    ]
    texts = {text for _, text, _ in known}
    if not better or len(texts) < 2:
        return QuantityRow(key, group, cells[0].label, cells)
    top, low = max(known), min(known)
    return QuantityRow(
        key,
        group,
        cells[0].label,
        cells,
        tuple(p for _, text, p in known if text == top[1]),
        tuple(p for _, text, p in known if text == low[1]),
    )


def _rows(weighed: list[Weighed]) -> tuple[QuantityRow, ...]:
    plates = tuple(w.key for w in weighed)

    def made(key: str, group: str) -> QuantityRow:
        cells = tuple(w.figures[key] for w in weighed)
        return row_of_cells(key, group, cells, plates, better_of(key))

    rows = [made(key, group) for group, keys in _ROWS for key in keys]
    for direction in DIRECTIONS:
        prefix = f"cover:{direction}:"
        group = f"Each vital, {direction}"
        rows += [made(key, group) for key in weighed[0].figures if key.startswith(prefix)]
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
        field_views(job.use, tuple(f.name for f in fields(Use)), "use"),
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
                "plate",
                body.plate,
                job.picked,
                "a plate is picked, and the ledger shows it",
                "Take the pick back to weigh others in the ledger.",
            )
        words = f"ledger shows {candidate.plate.name}"
        return Change(replace(job, weighing=body.plate), words)

    return write(job_id, body, change)


@route(blueprint, "POST", "/bundle", SavedView, BundleWrite)
def bundle(job_id: str, body: BundleWrite) -> SavedView:
    """Weigh a plate together with bars or isolators that it needs, or without them again."""
    make = without_need if body.drop else with_need
    return write(job_id, body, lambda job: make(job, body.plate, body.needs))
