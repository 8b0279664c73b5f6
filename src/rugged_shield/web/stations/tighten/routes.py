"""Tighten: order, torque cards, the check that all are started, and the record of readings."""

from __future__ import annotations

from flask import Blueprint

from rugged_shield.core.assess.fitup.joints import JointAssessment, section_of, stack_words
from rugged_shield.core.assess.fitup.pose import fitted_joints, plate_pose
from rugged_shield.core.assess.gate.judged import judged
from rugged_shield.core.assess.gate.ready import TO_DO, gravest_first, ready_of
from rugged_shield.core.assess.gate.steps import at_step
from rugged_shield.core.assess.tighten.cards import (
    card_of,
    far_cards,
    history_lines,
    reading_figure,
    readings_over,
    standing_word,
    state_findings,
)
from rugged_shield.core.assess.tighten.clocks import clocks_of
from rugged_shield.core.assess.tighten.plan import done_steps, next_to_torque, plan_of
from rugged_shield.core.assess.tighten.settling import settled_figure, settling_cures
from rugged_shield.core.event import PlateRecord, of_kind, of_plate
from rugged_shield.core.figures import figure
from rugged_shield.core.job.edits.plates import plate_path
from rugged_shield.core.job.events import Record
from rugged_shield.core.job.model import Job, mounted
from rugged_shield.core.keep.events import Noted, counting
from rugged_shield.core.result import Figure, Finding, Outcome, worst
from rugged_shield.core.survey.drawings import underside_drawing
from rugged_shield.core.tables.cautions import CAUTIONS
from rugged_shield.core.tables.friction import CONDITIONS
from rugged_shield.core.tables.troubles import TROUBLES
from rugged_shield.core.tighten.all_started import (
    JointState,
    joint_states,
    started_check,
    started_refusal,
)
from rugged_shield.core.tighten.events import RiddenAnyway
from rugged_shield.core.tighten.order import STAGE_LABELS, STAGE_ORDER
from rugged_shield.core.tighten.plan import Plan
from rugged_shield.core.tighten.register import KNOWN_LOOSENED, open_on_bike
from rugged_shield.core.tighten.steps import Step
from rugged_shield.core.tighten.taken import minutes_taken
from rugged_shield.core.tighten.torque import TorqueCard
from rugged_shield.store.repository import JobRow
from rugged_shield.web.api import route
from rugged_shield.web.fields import field_view, field_views
from rugged_shield.web.jobs import now_iso, row_of
from rugged_shield.web.stations.tighten.order import order_choice, order_marks
from rugged_shield.web.stations.tighten.views import (
    CardView,
    OpenView,
    OverrideView,
    StepNote,
    StepView,
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


def _preload(why: Outcome[TorqueCard]) -> tuple[Figure, ...]:
    """Least and most preload, and the share of yield at the most."""
    card = why.result
    return tuple(
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


def _card(job: Job, state: JointState, why: Outcome[TorqueCard], at: JointAssessment) -> CardView:
    card, stage = why.result, at.joint.stage
    joint_at = f"{plate_path(job, job.in_hand.key)}.joints.{card.joint}"
    joint = next(j for j in job.in_hand.joints if j.key == card.joint)
    settled = settled_figure(joint, job.mount_of(joint), card.preload_min_n)
    shown = reading_figure(state, card)
    hurt = tuple(f for f in state_findings(state, card) if f.code not in TO_DO)
    said = tuple(dict.fromkeys((*hurt, *why.findings, *at.findings)))
    return CardView(
        card=card,
        verdict=worst(f.verdict for f in said),
        findings=said,
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
        preload=(*_preload(why), settled),
        cures=settling_cures(joint, job.mount_of(joint), card.preload_min_n),
        started=state.started,
        reading=shown,
        state=standing_word(state, shown),
        history=history_lines(state.history),
        section=section_of(at, job.mount_of(joint)),
        layers=stack_words(at),
        over=tuple(r.seq for r in readings_over(state, card)),
        fields=(
            field_view(joint, "treatment", joint_at, choices=tuple(CONDITIONS)),
            field_view(joint, "sheet_torque_nm", joint_at, label="torque on the sheet"),
            field_view(joint, "chosen_torque_nm", joint_at, label="your own torque"),
            field_view(joint, "chosen_reason", joint_at, label="your reason"),
        ),
    )


def _step(
    step: Step,
    done: frozenset[str],
    refusal: str | None,
    why: Outcome[TorqueCard] | None,
    taken_min: float | None,
    doubts: tuple[Finding, ...],
) -> StepView:
    torque = setting = None
    if why is not None and step.torque_nm is not None and step.setting_nm is not None:
        torque = _torque("torque", "Torque at the screw", step.torque_nm, why)
        setting = _torque("setting", "Set the wrench to", step.setting_nm, why)
    blocked = refusal if step.kind in ("half", "full", "verify") and refusal else ""
    return StepView(
        step=step,
        torque=torque,
        setting=setting,
        done=step.key in done,
        allowed=blocked,
        taken_min=taken_min,
        doubts=doubts,
    )


def _cards(
    job: Job,
    states: dict[str, JointState],
    whys: dict[str, Outcome[TorqueCard]],
    assessed: dict[str, JointAssessment],
    order: dict[str, int],
) -> list[CardView]:
    """Every torque card in the order of the final torques."""
    made = (_card(job, states[key], why, assessed[key]) for key, why in whys.items())
    return sorted(made, key=lambda c: order[c.card.joint])


def _far(job: Job, assessed: dict[str, JointAssessment]) -> dict[str, Outcome[TorqueCard]]:
    """Torque cards of the nuts beyond first threads, by the step that tightens them."""
    return {
        f"far:{key}:{nut.engagement.key}": card
        for key, a in assessed.items()
        for nut, card in far_cards(a.joint, job.mount_of(a.joint), job.wrench)
    }


def _steps(
    row: JobRow,
    plan: Plan,
    done: frozenset[str],
    whys: dict[str, Outcome[TorqueCard]],
    refusals: dict[str, str | None],
) -> tuple[StepView, ...]:
    """Every step with its torque, what bites there, and why it may not be done yet.

    ``whys``: torque cards by joint, and of nuts beyond by their step; ``refusals`` by joint.
    """
    job = row.job
    taken = minutes_taken(of_plate(row.records, job.in_hand.key))
    found = judged(job, row.records, now_iso())
    bites = gravest_first(f for f in found if f.code not in TO_DO)
    return tuple(
        _step(
            s,
            done,
            refusals.get(s.joint) if s.joint else None,
            whys.get(s.key) or whys.get(s.joint),
            taken.get(s.key),
            at_step(s, plan, bites),
        )
        for s in plan.steps
    )


@route(blueprint, "GET", "", TightenView)
def tighten(job_id: str) -> TightenView:
    """The order of work, every torque card, the gates and the steps."""
    row = row_of(job_id)
    job = row.job
    plan = plan_of(job, job.in_hand.key)
    lines = of_plate(row.records, job.in_hand.key)
    states = joint_states(lines, plan.built)
    stages = {j.key: j.stage for j in job.in_hand.joints}
    numbers = {j.key: j.number for j in job.in_hand.joints}
    done = done_steps(plan, lines)
    order = {key: i for i, key in enumerate(plan.joint_order)}
    fitted = fitted_joints(job.in_hand.plate, mounted(job.bike, job.in_hand))
    assessed = {a.joint.key: a for a in fitted}
    whys = {key: card_of(a.joint, job.mount_of(a.joint), job.wrench) for key, a in assessed.items()}
    far = _far(job, assessed)
    cards = _cards(job, states, whys, assessed, order)
    gates = {j.key: j.gate for j in job.in_hand.joints}
    refusals = {j: started_refusal(j, gates, states, numbers) for j in gates}
    steps = _steps(row, plan, done, {**far, **whys}, refusals)
    posed = plate_pose(job.bike, job.in_hand)
    return TightenView(
        plate=job.in_hand.plate.name,
        picked=bool(job.picked),
        underside=underside_drawing(job.bike, None, posed.folded, order=order_marks(job, plan)),
        cards=tuple(cards),
        checks=tuple(started_check(s, stages, states) for s in STAGE_ORDER if s in stages.values()),
        steps=steps,
        at=next((i for i, s in enumerate(steps) if not s.done), len(steps)),
        next_joint=next_to_torque(plan, done),
        minutes=plan.minutes,
        taken_min=sum(s.taken_min or 0.0 for s in steps),
        stages={s: STAGE_LABELS[s] for s in STAGE_ORDER if s in stages.values()},
        wrench=field_views(
            job.wrench, ("name", "scale_max_nm", "length_mm", "extension_mm", "angle_deg"), "wrench"
        ),
        order=order_choice(job, plan),
        ready=ready_of(job, row.records, now_iso()),
        open=_open(job, row.records),
        known_loosened={**{j.name: "screw" for j in job.bike.joints}, **KNOWN_LOOSENED},
        clocks=clocks_of(job, lines),
        warmth=field_view(job.use, "garage_c", "use"),
        overrides=_overrides(lines),
        notes=_notes(lines),
        troubles=TROUBLES,
        cautions=CAUTIONS["ride"],
    )


def _open(job: Job, record: Record) -> tuple[OpenView, ...]:
    """What is open on the bike, with the torque that its manual gives."""
    manual = {j.key: j.manual_torque_nm for j in job.bike.joints}
    return tuple(
        OpenView(
            joint=o.joint,
            name=o.name,
            what=o.what,
            since=o.at,
            manual=_manual(manual.get(o.joint)),
        )
        for o in open_on_bike(record)
    )


def _overrides(lines: PlateRecord) -> tuple[OverrideView, ...]:
    """When it was ridden though something was missing, and why."""
    return tuple(
        OverrideView(at=e.at, reason=e.reason, missing=e.missing)
        for e in of_kind(lines, RiddenAnyway)
    )


def _notes(lines: PlateRecord) -> tuple[StepNote, ...]:
    """What was kept at steps and still counts."""
    return tuple(
        StepNote(step=e.step, at=e.at, text=e.text, photo=e.photo, by=e.by)
        for e in of_kind(counting(lines), Noted)
        if e.step
    )


def _manual(torque_nm: float | None) -> Figure | None:
    if torque_nm is None:
        return None
    return figure("manual", "Torque in the bike's manual", torque_nm, "N·m")
