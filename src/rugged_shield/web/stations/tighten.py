"""Tighten: order, torque cards, the loose gate, and the record of readings."""

from __future__ import annotations

from flask import Blueprint, Response

from rugged_shield.core.assess.fitup import assess_joints, hang
from rugged_shield.core.assess.tighten import card_of, done_steps, plan_of
from rugged_shield.core.errors import InputError
from rugged_shield.core.figures import figure
from rugged_shield.core.fitup import Joint
from rugged_shield.core.job import Job, place_of
from rugged_shield.core.job.edits import read_field
from rugged_shield.core.quantity import show
from rugged_shield.core.result import Figure, Outcome, finding
from rugged_shield.core.survey import OrderMark, creeper_view
from rugged_shield.core.tables.friction import CONDITIONS
from rugged_shield.core.tighten import (
    STAGE_LABELS,
    STAGE_ORDER,
    JointState,
    Plan,
    Record,
    Step,
    TorqueCard,
    gate_of,
    gate_refusal,
    joint_states,
)
from rugged_shield.formats.stepsheet import SheetHead, step_sheet
from rugged_shield.store import JobRow
from rugged_shield.web.api import route
from rugged_shield.web.fields import field_view, field_views
from rugged_shield.web.jobs import new_record, record, row_of
from rugged_shield.web.stations.fitup import plate_path
from rugged_shield.web.views import (
    CardView,
    ReadingWrite,
    SavedView,
    StepView,
    StepWrite,
    TakeBackWrite,
    TightenView,
)

blueprint = Blueprint("tighten", __name__, url_prefix="/api/jobs/<job_id>/tighten")


def _torque(key: str, label: str, value: float, why: Outcome[TorqueCard]) -> Figure:
    return figure(
        key,
        label,
        value,
        "N·m",
        inputs=why.inputs,
        reasons=why.reasons,
        assumptions=why.assumptions,
        warnings=why.warnings,
        sources=why.sources,
    )


def _reading(state: JointState, card: TorqueCard) -> Figure | None:
    if state.reading is None or state.reading.torque_nm is None:
        return None
    value, found = state.reading.torque_nm, []
    if not card.low_nm <= value <= card.high_nm:
        found.append(finding("outside band", f"Outside {card.low_nm:.1f}–{card.high_nm:.1f} N·m."))
    if state.reading.overridden:
        found.append(finding("loose gate overridden", state.reading.reason))
    return figure("reading", "Reading", value, "N·m", findings=tuple(found))


def _card(job: Job, state: JointState, why: Outcome[TorqueCard], stage: str) -> CardView:
    card = why.result
    joint_at = f"{plate_path(job)}.joints.{card.joint}"
    joint = next(j for j in job.in_hand.joints if j.key == card.joint)
    preload = tuple(
        figure(
            key,
            label,
            value,
            unit,
            inputs=why.inputs,
            reasons=why.reasons,
            assumptions=why.assumptions,
            sources=why.sources,
        )
        for key, label, value, unit in (
            ("preload_min", "Preload, least", card.preload_min_n, "N"),
            ("preload_max", "Preload, most", card.preload_max_n, "N"),
            ("yield_share", "Share of yield, most", card.yield_share_max * 100, "%"),
        )
    )
    return CardView(
        card=card,
        verdict=why.verdict,
        findings=why.findings,
        stage=stage,
        stage_label=STAGE_LABELS[stage],
        target=_torque("target", "Target", card.target_nm, why),
        low=_torque("low", "Low", card.low_nm, why),
        high=_torque("high", "High", card.high_nm, why),
        setting=_torque("setting", "Wrench setting", card.setting_nm, why),
        limits=tuple(_torque(f"limit:{k.name}", k.name, k.torque_nm, why) for k in card.limits),
        sources=tuple(
            _torque(f"source:{s.key}", s.label, s.torque_nm, why)
            if s.torque_nm is not None
            else figure(f"source:{s.key}", s.label, None, "N·m", text="no figure")
            for s in card.sources
        ),
        preload=preload,
        started=state.started,
        reading=_reading(state, card),
        history=state.history,
        fields=(
            field_view(joint, "treatment", joint_at, choices=tuple(CONDITIONS)),
            field_view(joint, "sheet_torque_nm", joint_at, label="torque on the sheet"),
            field_view(joint, "chosen_torque_nm", joint_at, label="your own torque"),
            field_view(joint, "chosen_reason", joint_at, label="your reason"),
        ),
    )


def _step(
    step: Step, done: frozenset[str], refusal: str | None, why: Outcome[TorqueCard] | None
) -> StepView:
    torque = setting = None
    if why is not None and step.torque_nm is not None and step.setting_nm is not None:
        torque = _torque("torque", "Torque at the screw", step.torque_nm, why)
        setting = _torque("setting", "Set the wrench to", step.setting_nm, why)
    blocked = refusal if step.kind in ("half", "full", "verify") and refusal else ""
    return StepView(step, torque, setting, step.key in done, blocked)


def _marks(job: Job, plan: Plan) -> tuple[OrderMark, ...]:
    joints = {j.key: j for j in job.in_hand.joints}
    marks = []
    for place, key in enumerate(plan.joint_order, 1):
        x, y = place_of(job.bike, joints[key])
        marks.append(OrderMark(x, y, str(place), key, str(joints[key].number)))
    return tuple(marks)


@route(blueprint, "GET", "", TightenView)
def tighten(job_id: str) -> TightenView:
    """The order of work, every torque card, the gates and the steps."""
    row = row_of(job_id)
    job = row.job
    plan = plan_of(job, job.in_hand.key)
    states = joint_states(row.records, plan.joint_order)
    stages = {j.key: j.stage for j in job.in_hand.joints}
    numbers = {j.key: j.number for j in job.in_hand.joints}
    done = done_steps(plan, row.records)
    order = {key: i for i, key in enumerate(plan.joint_order)}
    whys = {
        a.joint.key: card_of(a.joint, job.mount_of(a.joint), job.wrench)
        for a in assess_joints(job.bike, job.in_hand)
    }
    cards = sorted(
        (_card(job, states[key], why, stages[key]) for key, why in whys.items()),
        key=lambda c: order[c.card.joint],
    )
    steps = tuple(
        _step(
            s,
            done,
            gate_refusal(s.joint, stages, states, numbers) if s.joint else None,
            whys.get(s.joint),
        )
        for s in plan.steps
    )
    hung = hang(job.bike, job.in_hand)
    return TightenView(
        plate=job.in_hand.plate.name,
        picked=bool(job.picked),
        creeper=creeper_view(job.bike, None, hung.folded, order=_marks(job, plan)),
        cards=tuple(cards),
        gates=tuple(gate_of(s, stages, states) for s in STAGE_ORDER if s in stages.values()),
        steps=steps,
        at=next((i for i, s in enumerate(steps) if not s.done), len(steps)),
        minutes=plan.minutes,
        wrench=field_views(
            job.wrench, ("name", "scale_max_nm", "length_mm", "extension_mm", "angle_deg"), "wrench"
        ),
    )


@blueprint.get("/steps.pdf")
def steps_on_paper(job_id: str) -> Response:
    """The plan as a sheet to print."""
    row = row_of(job_id)
    job = row.job
    plan = plan_of(job, job.in_hand.key)
    head = SheetHead(job.title, job.bike.name, job.in_hand.plate.name)
    answer = Response(
        step_sheet(head, plan, done_steps(plan, row.records)), mimetype="application/pdf"
    )
    answer.headers["Content-Disposition"] = 'inline; filename="steps.pdf"'
    return answer


def _joint_number(job: Job, key: str) -> int:
    for joint in job.in_hand.joints:
        if joint.key == key:
            return joint.number
    raise InputError("joint", key, "a joint of this plate", f"there is no joint “{key}”")


def check_picked(job: Job) -> None:
    """Work is recorded on a picked plate only."""
    if not job.picked:
        raise InputError(
            "picked", "", "a picked plate", "no plate is picked yet", "Pick one in Weigh-up first."
        )


def take_reading(row: JobRow, body: ReadingWrite) -> tuple[Record, str]:
    """A reading, unless the loose gate is shut and no reason is given to pass it."""
    job = row.job
    check_picked(job)
    number = _joint_number(job, body.joint)
    torque = _typed_torque(body.text, "torque_nm", body)
    states = joint_states(row.records, tuple(j.key for j in job.in_hand.joints))
    stages = {j.key: j.stage for j in job.in_hand.joints}
    numbers = {j.key: j.number for j in job.in_hand.joints}
    refusal = gate_refusal(body.joint, stages, states, numbers)
    reason = " ".join(body.override.split())
    if refusal and len(reason) < 3:
        raise InputError(
            "override",
            reason,
            "a reason of three letters or more",
            refusal,
            "Start the missing joints, or say why you go on without them.",
        )
    words = f"joint {number} torqued to {show(torque, 'N·m', body.system)}"
    if refusal:
        words += f", gate passed: {reason}"
    return new_record(
        "reading",
        joint=body.joint,
        torque_nm=torque,
        reason=reason if refusal else "",
        overridden=bool(refusal),
    ), words


def _typed_torque(text: str, field: str, body: ReadingWrite) -> float:
    value = read_field(Joint, "chosen_torque_nm", text, field, body.system)
    if value is None:
        raise InputError(field, text, "a torque in N·m or ft·lb", "nothing was entered")
    return float(value)


@route(blueprint, "POST", "/started", SavedView, ReadingWrite)
def started(job_id: str, body: ReadingWrite) -> SavedView:
    """A screw was started by hand."""

    def make(row: JobRow) -> tuple[Record, str]:
        check_picked(row.job)
        number = _joint_number(row.job, body.joint)
        return new_record("started", joint=body.joint), f"joint {number} started by hand"

    return record(job_id, body, make)


@route(blueprint, "POST", "/reading", SavedView, ReadingWrite)
def reading(job_id: str, body: ReadingWrite) -> SavedView:
    """Record a torque reading; the loose gate is checked."""
    return record(job_id, body, lambda row: take_reading(row, body))


@route(blueprint, "POST", "/take-back", SavedView, TakeBackWrite)
def take_back(job_id: str, body: TakeBackWrite) -> SavedView:
    """Take a reading back; both lines stay in the record."""

    def make(row: JobRow) -> tuple[Record, str]:
        target = next((r for r in row.records if r.seq == body.seq and r.kind == "reading"), None)
        if target is None or any(r.kind == "taken back" and r.ref == body.seq for r in row.records):
            raise InputError("seq", body.seq, "a standing reading of this job")
        number = _joint_number(row.job, target.joint)
        words = f"reading of joint {number} taken back"
        return new_record(
            "taken back",
            joint=target.joint,
            ref=target.seq,
            torque_nm=target.torque_nm,
            reason=" ".join(body.reason.split()),
        ), words

    return record(job_id, body, make)


@route(blueprint, "POST", "/step", SavedView, StepWrite)
def step(job_id: str, body: StepWrite) -> SavedView:
    """Tick a step of the work, or open it again."""

    def make(row: JobRow) -> tuple[Record, str]:
        check_picked(row.job)
        plan = plan_of(row.job, row.job.in_hand.key)
        known = next((s for s in plan.steps if s.key == body.step), None)
        if known is None or known.kind in ("start", "full"):
            raise InputError("step", body.step, "a step of this plan that is only ticked")
        kind = "step done" if body.done else "step reopened"
        return new_record(
            kind, step=body.step
        ), f"{known.title}: {'done' if body.done else 'open again'}"

    return record(job_id, body, make)
