"""Survey: the bike drawn from its numbers, what its underside does, what to measure next."""

from __future__ import annotations

from flask import Blueprint

from rugged_shield.calc.beside import beside
from rugged_shield.core.assess.fitup.pose import PlatePose, fitted_joints, plate_pose
from rugged_shield.core.assess.gate.ready import Missing, Ready, ready_of, to_settle
from rugged_shield.core.assess.survey.measure_next import measure_next
from rugged_shield.core.assess.weighup.mass_budget import sunk_points
from rugged_shield.core.assess.weighup.scorecard import budget_of, weigh
from rugged_shield.core.errors import InputError
from rugged_shield.core.figures import figure
from rugged_shield.core.job.edits.lists import add_fault_at, add_item, remove_item
from rugged_shield.core.job.edits.path import number_words, set_text
from rugged_shield.core.job.model import Job, mounted
from rugged_shield.core.judgement.known import ENTERED, overall
from rugged_shield.core.mechanics.drawing import Drawing
from rugged_shield.core.mechanics.frames import side_words
from rugged_shield.core.result import Figure, Source
from rugged_shield.core.survey.bike import Mount, Part
from rugged_shield.core.survey.clearance import CLEARANCE_SOURCE, LowPoint
from rugged_shield.core.survey.drawings import (
    part_letters,
    profile_drawing,
    underside_drawing,
    with_faults,
)
from rugged_shield.core.survey.plate_drawings import plate_drawing
from rugged_shield.core.survey.sketches import tape_sketch
from rugged_shield.core.survey.underside import underside
from rugged_shield.core.tables.thread_materials import THREAD_MATERIALS
from rugged_shield.core.tables.threads import THREADS
from rugged_shield.web.api import route
from rugged_shield.web.fields import field_view, field_views
from rugged_shield.web.jobs import now_iso, row_of, write
from rugged_shield.web.runs import worker
from rugged_shield.web.stations.survey.items import items_of, plate_heads
from rugged_shield.web.stations.survey.views import (
    AddWrite,
    BudgetView,
    FaultWrite,
    HeldFinding,
    HeldNumber,
    MeasureNextView,
    PartView,
    SketchView,
    SurveyView,
    TouchRow,
    UndersideView,
    WhatIf,
)
from rugged_shield.web.views import SavedView, Write

blueprint = Blueprint("survey", __name__, url_prefix="/api/jobs/<job_id>/survey")

_PART_FIELDS = (
    "name",
    "kind",
    "shape",
    "x_min_mm",
    "x_max_mm",
    "y_min_mm",
    "y_max_mm",
    "z_min_mm",
    "z_max_mm",
    "required_gap_mm",
    "consequence",
    "surface_c",
    "serviced",
    "comes_out",
    "known",
)
_MOUNT_ASKED = ("name", "kind", "x_mm", "y_mm", "z_mm")
_MOUNT_SAID = {"z_mm": "the face that the plate meets, above ground, z"}
_MOUNT_FIELDS = (
    "female_kind",
    "thread_start_mm",
    "thread_end_mm",
    "overall_height_mm",
    "free_space_mm",
    "manual_torque_nm",
    "spring_n_per_mm",
    "spring_across_n_per_mm",
    "stock_bolt",
    "number",
    "known",
)
_BIKE_FIELDS = ("wheelbase_mm", "front_wheel_radius_mm", "rear_wheel_radius_mm")
_MORE_FIELDS = (
    "name",
    "year",
    "model",
    "variant",
    "market",
    "front_tyre",
    "rear_tyre",
    "front_travel_mm",
    "rake_deg",
    "front_mudguard_mm",
    "steering_lock_deg",
    "engine_is_frame",
    "has_bars",
    "has_upper_bars",
    "has_centre_stand",
    "has_side_stand",
)


def _known(thing: Part | Mount) -> str:
    """How a part is known on the whole: all, some or none of its numbers measured."""
    better, of = overall(thing)
    if better == 0:
        return "assumed"
    if better < of:
        return f"{of - better} of {of} assumed"
    return "known"


def _part(part: Part, letter: str) -> PartView:
    prefix = f"bike.parts.{part.key}"
    return PartView(
        key=part.key,
        mark=letter,
        name=part.name,
        kind=part.kind,
        side=side_words(part.centre_mm[1]),
        known=_known(part),
        fields=field_views(part, _PART_FIELDS, prefix),
    )


def _mount(mount: Mount, decides: str) -> PartView:
    prefix = f"bike.mounts.{mount.key}"
    blind = not mount.female().is_through
    labels = {"overall_height_mm": "depth of the drilled hole"} if blind else {}
    names = (n for n in _MOUNT_FIELDS if not (blind and n == "free_space_mm"))
    fields = (
        *(field_view(mount, name, prefix, _MOUNT_SAID.get(name, "")) for name in _MOUNT_ASKED),
        field_view(mount, "thread", prefix, choices=tuple(THREADS)),
    )
    rest = (
        field_view(mount, "material", prefix, choices=tuple(THREAD_MATERIALS)),
        *(field_view(mount, name, prefix, labels.get(name, "")) for name in names),
    )
    return PartView(
        key=mount.key,
        mark=str(mount.number),
        name=mount.name,
        kind=mount.kind,
        side=side_words(mount.y_mm),
        known=_known(mount),
        fields=fields,
        rest=rest,
        decides=decides,
    )


def _decided_by_mounts(job: Job) -> dict[str, str]:
    """By mount: what hangs on its thread and is not sound, in words."""
    found: dict[str, list[str]] = {}
    for candidate in (job.stock, *job.candidates):
        for assessed in fitted_joints(candidate.plate, mounted(job.bike, candidate)):
            joint = assessed.joint
            if joint.female is None and joint.mount and assessed.verdict != "sound":
                words = f"joint {joint.number} of the {candidate.plate.name}"
                found.setdefault(joint.mount, []).append(words)
    return {mount: ", ".join(words) for mount, words in found.items()}


def _view(job: Job) -> SurveyView:
    bike = job.bike
    stock, plate = plate_pose(bike, job.stock), plate_pose(bike, job.in_hand)
    letters = part_letters(bike)
    figures = weigh(job, job.in_hand.key).figures
    own = None if job.in_hand.key == job.stock.key else plate.folded
    decided = _decided_by_mounts(job)
    baseline = tuple(
        field_view(bike.baseline, name, "bike.baseline")
        for name in (
            "coolant_idling_c",
            "coolant_moving_c",
            "ambient_c",
            "fan_times_per_hour",
            "note",
        )
    )
    return SurveyView(
        underside=underside_drawing(bike, stock.folded, None),
        profile=profile_drawing(bike, stock.folded, own, plate.low),
        parts=tuple(_part(p, letters[p.key]) for p in bike.parts),
        mounts=tuple(_mount(m, decided.get(m.key, "")) for m in bike.mounts),
        bike=field_views(bike, _BIKE_FIELDS, "bike"),
        more=field_views(bike, _MORE_FIELDS, "bike"),
        baseline=baseline,
        joints=items_of(job, "bike.joints", bike.joints),
        low=figures["clearance"],
        breakover=figures["breakover"],
        plates=plate_heads(job),
        stock_key=job.stock.key,
    )


@route(blueprint, "GET", "", SurveyView)
def survey(job_id: str) -> SurveyView:
    """The bike from below and from the side, with every number behind the drawing."""
    return _view(row_of(job_id).job)


@route(blueprint, "POST", "/what-if", SurveyView, WhatIf)
def survey_what_if(job_id: str, body: WhatIf) -> SurveyView:
    """The same with one field as it is being typed; nothing is saved."""
    return _view(set_text(row_of(job_id).job, body.path, body.text, body.system).job)


def _low_points(job: Job, posed: PlatePose) -> tuple[LowPoint, ...]:
    """All that is low on the bike, with what its springs give under the added mass."""
    budget = budget_of(job.bike, job.candidate(job.stock.key), job.in_hand)
    return sunk_points(job.bike, posed.points, budget)


def _touch_rows(job: Job) -> tuple[TouchRow, ...]:
    posed = plate_pose(job.bike, job.in_hand)
    seen = underside(job.bike, job.in_hand.plate, posed.pose, list(_low_points(job, posed)))
    rows = []
    for i, touch in enumerate(seen.touches):
        place, height, angle = (
            figure(
                f"touch:{i}:{key}",
                label,
                value,
                unit,
                sources=(CLEARANCE_SOURCE,),
                reasons=("On the lower hull of all that hangs between the wheels.",),
            )
            for key, label, value, unit in (
                ("x", "Behind the front axle", touch.x_mm, "mm"),
                ("z", "Above the ground", touch.z_mm, "mm"),
                ("breakover", "Touches at a crest of", touch.breakover_deg, "°"),
            )
        )
        rows.append(TouchRow(touch.name, place, height, angle))
    return tuple(rows)


def _budget(job: Job) -> BudgetView:
    budget = budget_of(job.bike, job.candidate(job.stock.key), job.in_hand)

    def said(key: str, label: str, value: float | None, unit: str) -> Figure:
        return figure(
            f"budget:{key}",
            label,
            value,
            unit,
            findings=budget.findings if value is None else (),
            reasons=(
                "Plate for the stock one, and all else that was added; lever law, wheel "
                "rates from the sag readings.",
            ),
            sources=(Source("statics of two wheels", "high"),),
        )

    return BudgetView(
        budget.lines,
        tuple(said(str(i), b.name, b.mass_kg, "kg") for i, b in enumerate(budget.lines)),
        said("total", "Added in all", budget.total_kg, "kg"),
        said("front", "Front sinks", budget.front_sag_mm, "mm"),
        said("rear", "Rear sinks", budget.rear_sag_mm, "mm"),
    )


def _with_faults(job: Job) -> Drawing:
    """The bike from below with every fault that has a place, numbered as in the list."""
    places = tuple(
        (f.key, f.x_mm, f.y_mm, str(i))
        for i, f in enumerate(job.faults, 1)
        if f.x_mm is not None and f.y_mm is not None
    )
    return with_faults(underside_drawing(job.bike, None, None), places)


@route(blueprint, "POST", "/faults/at", SavedView, FaultWrite)
def fault_at(job_id: str, body: FaultWrite) -> SavedView:
    """A fault where the underside was tapped, on the part that lies there."""
    return write(job_id, body, lambda job: add_fault_at(job, body.y_drawn, -body.x_drawn))


@route(blueprint, "GET", "/underside", UndersideView)
def underside_of(job_id: str) -> UndersideView:
    """What touches first, hooks, holds water, catches oil; scars; sag and added mass."""
    job = row_of(job_id).job
    bike = job.bike
    posed = plate_pose(bike, job.in_hand)
    seen = underside(bike, job.in_hand.plate, posed.pose, list(_low_points(job, posed)))
    sag = (
        "rider_mass_kg",
        "rider_front_share",
        "front_without_rider_mm",
        "front_with_rider_mm",
        "rear_without_rider_mm",
        "rear_with_rider_mm",
        "front_wheel_rate_n_per_mm",
        "rear_wheel_rate_n_per_mm",
    )
    return UndersideView(
        plate=job.in_hand.plate.name,
        touches=_touch_rows(job),
        underside=seen,
        oil=weigh(job, job.in_hand.key).figures["oil_screws"],
        names={p.key: p.name for p in bike.parts},
        findings=seen.findings,
        below=_with_faults(job),
        stock_below=plate_drawing(plate_pose(bike, job.stock).folded, "from below", job.scars),
        scars=items_of(job, "scars", job.scars),
        faults=items_of(job, "faults", job.faults),
        photo_of={f.key: f.photo for f in job.faults if f.photo},
        sag=field_views(bike.sag, sag, "bike.sag"),
        added=items_of(job, "bike.added", bike.added),
        budget=_budget(job),
    )


@route(blueprint, "GET", "/measure-next", MeasureNextView)
def measure_next_of(job_id: str) -> MeasureNextView:
    """What to measure next: every number that could overturn a verdict, gravest first."""
    row = row_of(job_id)
    return worker().call(_measure_next_view, (row.job, ready_of(row.job, row.records, now_iso())))


def _measure_next_view(asked: tuple[Job, Ready]) -> MeasureNextView:
    job, ready = asked
    found = measure_next(job, beside)
    holds = tuple(_held(job, m) for m in to_settle(ready))
    said = {h.words for h in holds}
    plates = job.candidates or (job.stock,)
    unknown = [
        f
        for c in plates
        for f in weigh(job, c.key).findings
        if f.verdict == "not known" and f.text not in said
    ]
    return MeasureNextView(holds, found.numbers, found.uncertain, tuple(dict.fromkeys(unknown)))


def _held(job: Job, missing: Missing) -> HeldFinding:
    numbers = tuple(
        HeldNumber(d.path, number_words(job, d.path), d.known)
        for d in missing.decided_by
        if d.known not in ENTERED
    )
    return HeldFinding(missing.code, missing.about, missing.words, missing.remedy, numbers)


@route(blueprint, "GET", "/sketch/<key>/<name>", SketchView)
def sketch(job_id: str, key: str, name: str) -> SketchView:
    """Where to hold the tape for one number of a part or mount."""
    bike = row_of(job_id).job.bike
    things: tuple[Part | Mount, ...] = (*bike.parts, *bike.mounts)
    thing = next((t for t in things if t.key == key), None)
    if thing is None:
        raise InputError("key", key, "a part or mount of this bike")
    made = tape_sketch(bike, thing, name)
    return SketchView(made.drawing, made.words)


@route(blueprint, "POST", "/items", SavedView, AddWrite)
def add(job_id: str, body: AddWrite) -> SavedView:
    """Add a part, mount, bike joint, added mass, scar, strip item or weighing."""
    return write(job_id, body, lambda job: add_item(job, body.where, body.like, body.mirror))


@route(blueprint, "POST", "/items/<where>/<key>/remove", SavedView, Write)
def remove(job_id: str, where: str, key: str, body: Write) -> SavedView:
    """Take one of those out."""

    return write(job_id, body, lambda job: remove_item(job, where, key))
