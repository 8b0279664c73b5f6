"""Fit-up: every joint's section to scale, its window of lengths and its layers."""

from __future__ import annotations

from typing import get_args

from flask import Blueprint

from rugged_shield.core.assess.fitup.joints import JointAssessment, section_of
from rugged_shield.core.assess.fitup.pairs import Pair, pair_of
from rugged_shield.core.assess.fitup.pose import fitted_joints
from rugged_shield.core.assess.kit.debts import debts_of
from rugged_shield.core.errors import InputError
from rugged_shield.core.figures import figure
from rugged_shield.core.fitup.joint import BENCH, Joint, Stage, place_above_plate
from rugged_shield.core.fitup.layer import Layer, LayerKind
from rugged_shield.core.fitup.presets import FIRST_LAYER, PRESETS
from rugged_shield.core.job.edits.at_once import all_at_once
from rugged_shield.core.job.edits.joints import (
    UNDER_HEAD,
    NewJoint,
    NewLayer,
    add_joint,
    add_layer,
    remove_joint,
    remove_layer,
)
from rugged_shield.core.job.edits.path import Change, read_field
from rugged_shield.core.job.edits.plates import plate_path
from rugged_shield.core.job.model import Job, mounted, place_of
from rugged_shield.core.mechanics.frames import side_words
from rugged_shield.core.mechanics.threads import screw_size
from rugged_shield.core.result import Figure
from rugged_shield.core.tables.friction import CONDITIONS
from rugged_shield.core.tables.grades import GRADES
from rugged_shield.core.tables.heads import SCREW_HEADS
from rugged_shield.core.tables.materials import LAYER_MATERIALS
from rugged_shield.core.tables.ratings import NutClass
from rugged_shield.core.tables.thread_materials import THREAD_MATERIALS
from rugged_shield.core.tables.threads import THREADS
from rugged_shield.core.tighten.order import STAGE_LABELS
from rugged_shield.web.api import route
from rugged_shield.web.fields import field_view
from rugged_shield.web.jobs import row_of, spent, write
from rugged_shield.web.stations.fitup.far import far_views
from rugged_shield.web.stations.fitup.sink import sink_fields
from rugged_shield.web.stations.fitup.views import (
    AllJointsWrite,
    FitupView,
    JointDetail,
    JointNotHere,
    JointSummary,
    JointWrite,
    LayerView,
    LayerWrite,
)
from rugged_shield.web.views import FieldView, SavedView, Write

blueprint = Blueprint("fit_up", __name__, url_prefix="/api/jobs/<job_id>/fit-up")


def _at(job: Job) -> str:
    """Where the plate in hand stands in the job."""
    return plate_path(job, job.in_hand.key)


def _assessed(job: Job, key: str) -> JointAssessment:
    for assessed in fitted_joints(job.in_hand.plate, mounted(job.bike, job.in_hand)):
        if assessed.joint.key == key:
            return assessed
    raise InputError("joint", key, "a joint of this plate", f"there is no joint “{key}”")


def _pair(job: Job, key: str) -> Pair | None:
    """The joint on the other side of the bike, with what differs."""
    joints = mounted(job.bike, job.in_hand)
    return pair_of(key, fitted_joints(job.in_hand.plate, joints), joints)


def _layer(job: Job, joint: Joint, layer: Layer) -> LayerView:
    prefix = f"{_at(job)}.joints.{joint.key}.layers.{layer.key}"
    strap = ("span_mm", "runs_deg") if layer.kind in ("bracket", "strip") else ()
    names = ("thickness_mm", "tol_mm", "outer_mm", "hole_mm", *strap)
    fields: tuple[FieldView, ...] = tuple(field_view(layer, n, prefix) for n in names)
    if layer.kind == "plate":
        plate = job.in_hand.plate
        fields = (field_view(plate, "thickness_mm", f"{_at(job)}.plate"), *fields[1:])
    thickness = figure("thickness", layer.name, layer.thickness_mm, "mm")
    switch = field_view(layer, "left_out", prefix)
    fields = (*fields, field_view(layer, "when", prefix, label="only if"), switch)
    return LayerView(
        key=layer.key,
        kind=layer.kind,
        name=layer.name,
        material=layer.material,
        thickness=thickness,
        left_out=layer.left_out,
        fixed=layer.kind == "plate",
        removable=layer.kind != "plate",
        fields=fields,
    )


def _figures(assessed: JointAssessment) -> tuple[Figure, ...]:
    """The stack's numbers, each with the stack's own reasons."""
    stack, e = assessed.stack, assessed.evaluation
    rows = (
        ("grip", "Grip", stack.result.grip_nominal_mm),
        ("engagement", "Thread held, worst case", e.engagement_effective_worst_mm),
        ("bottom", "Left before it bottoms, worst case", e.bottom_margin_worst_mm),
        ("protrusion", "Stands out, least", e.protrusion_worst_min_mm),
        ("gap", "Free beyond its end, worst case", e.neighbour_gap_worst_mm),
        ("land", "Land under the countersink, worst", e.countersink_land_worst_mm),
        ("needed", "Least true length", stack.result.length_needed_min_mm),
        ("allowed", "Most true length", stack.result.length_allowed_max_mm),
        ("sleeve", "Sleeve longer than its plate, least", stack.result.sleeve_float_worst_min_mm),
    )
    return tuple(
        figure(
            key,
            label,
            value,
            "mm",
            inputs=stack.inputs,
            reasons=stack.reasons,
            assumptions=stack.assumptions,
            sources=stack.sources,
        )
        for key, label, value in rows
        if value is not None
    )


def _side_of(job: Job, joint: Joint) -> str:
    """On which side of the bike a joint is; nothing of one that is put together beforehand."""
    place = place_of(job.bike, joint)
    return side_words(place[1]) if place is not None else ""


@route(blueprint, "GET", "", FitupView)
def fit_up(job_id: str) -> FitupView:
    """All joints of the plate in hand with their verdicts."""
    job = row_of(job_id).job
    joints = []
    for a in fitted_joints(job.in_hand.plate, mounted(job.bike, job.in_hand)):
        reason = a.findings[0].text if a.findings else "Length, thread and room are right."
        joint = a.joint
        joints.append(
            JointSummary(
                key=joint.key,
                number=joint.number,
                name=joint.name,
                side=_side_of(job, joint),
                screw=f"{screw_size(joint.thread, a.length_mm)} {joint.head}",
                verdict=a.verdict,
                reason=reason,
            )
        )
    here = {a.key for a in job.in_hand.joints}
    path = f"{_at(job)}.joints"
    not_here = tuple(
        JointNotHere(j.key, j.number, j.name, field_view(j, "when", f"{path}.{j.key}"))
        for j in job.as_entered(job.in_hand.key).joints
        if j.key not in here
    )
    mounts = {m.key: f"{m.number} {m.name}, {m.thread}" for m in job.bike.mounts}
    return FitupView(
        plate=job.in_hand.plate.name,
        joints=tuple(joints),
        not_here=not_here,
        mounts=mounts,
        presets=PRESETS,
        threads=tuple(THREADS),
        stages=STAGE_LABELS,
        treatments={key: c.label for key, c in CONDITIONS.items()},
        pieces={p.key: p.name for p in job.in_hand.plate.pieces},
        layer_kinds=get_args(LayerKind),
        layer_materials=tuple(LAYER_MATERIALS),
        first_layer=field_view(FIRST_LAYER, "thickness_mm", ""),
    )


@route(blueprint, "GET", "/joints/<key>", JointDetail)
def joint_detail(job_id: str, key: str) -> JointDetail:
    """One joint: section, window of lengths, layers, figures."""
    job = row_of(job_id).job
    a = _assessed(job, key)
    joint, result = a.joint, a.stack.result
    prefix = f"{_at(job)}.joints.{joint.key}"
    entered = next(j for j in job.as_entered(job.in_hand.key).joints if j.key == key)
    fields = _screw_fields(entered, joint, prefix)
    first, next_to = ("on the bike's face", "under") if joint.is_stud else (UNDER_HEAD, "behind")
    places = {UNDER_HEAD: first} | {x.key: f"{next_to} the {x.name}" for x in joint.layers}
    usual = place_above_plate(joint)
    return JointDetail(
        key=joint.key,
        number=joint.number,
        name=joint.name,
        verdict=a.verdict,
        findings=a.findings,
        section=section_of(a, job.mount_of(joint)),
        length_mm=a.length_mm,
        length_is=a.length_is,
        is_stud=joint.is_stud,
        chosen_mm=result.chosen_length_mm,
        needed_mm=result.length_needed_min_mm,
        allowed_mm=result.length_allowed_max_mm,
        shaded_mm=a.shaded_mm,
        lengths=a.lengths,
        figures=_figures(a),
        layers=tuple(_layer(job, joint, layer) for layer in joint.layers),
        placing=_placing(joint, prefix),
        fields=fields,
        stands_in=tuple(
            f"{d.used}, instead of {d.instead_of}"
            for d in debts_of(job)
            if d.joint_key == key and not d.paid
        ),
        layer_places=places,
        layer_place=joint.layers[usual - 1].key if usual else UNDER_HEAD,
        threads_into=_threads_into(job, joint),
        female=_female_fields(joint, prefix),
        far=far_views(job, joint, prefix),
        wants_sink=joint.is_countersunk and joint.countersink is None,
        sink=sink_fields(joint, prefix),
        pair=_pair(job, key),
    )


def _screw_fields(entered: Joint, joint: Joint, prefix: str) -> tuple[FieldView, ...]:
    """What is known of a joint's screw and nut, and how it is tightened."""
    length = "stands out of the bike" if joint.is_stud else "screw in hand, length"
    nut = (field_view(joint, "nut_class", prefix, choices=get_args(NutClass)),) if joint.nut else ()
    return (
        field_view(entered, "length_mm", prefix, label=length),
        *_head_fields(entered, prefix),
        field_view(entered, "grade", prefix, choices=tuple(GRADES)),
        *nut,
        field_view(entered, "known", prefix, label="how this screw is known"),
        field_view(joint, "treatment", prefix, choices=tuple(CONDITIONS)),
        field_view(joint, "stage", prefix, choices=get_args(Stage)),
        field_view(joint, "sheet_torque_nm", prefix, label="torque on the plate's sheet"),
        *_stud_fields(joint, prefix),
    )


_FEMALE_FIELDS = ("kind", "thread_start_mm", "thread_end_mm", "overall_height_mm", "free_space_mm")


def _head_fields(joint: Joint, prefix: str) -> tuple[FieldView, ...]:
    """Head and drives of a screw; a stud has none."""
    if joint.is_stud:
        return ()
    head = field_view(joint, "head", prefix, choices=SCREW_HEADS)
    return head, field_view(joint, "second_drive", prefix)


def _stud_fields(joint: Joint, prefix: str) -> tuple[FieldView, ...]:
    """How a stud is held in the bike, and the thread of its free end."""
    if not joint.is_stud:
        return ()
    at, stud = f"{prefix}.stud", joint.stud
    return (
        field_view(stud, "seat", at, label="the stud is"),
        field_view(stud, "seated_mm", at, label="sits in the bike"),
        field_view(stud, "treatment", at, label="treatment of its seat", choices=tuple(CONDITIONS)),
        field_view(stud, "thread_mm", at, label="thread from its end on; empty: all of it"),
    )


def _threads_into(job: Job, joint: Joint) -> str:
    """Whose thread the screw meets, in words."""
    mount = job.mount_of(joint)
    if joint.is_stud:
        return "the nut; the stud stands in " + (
            f"mount {mount.number}, {mount.name}" if mount is not None else "no mount: choose one"
        )
    if joint.female is None and mount is not None:
        return f"the thread of mount {mount.number}, {mount.name}: its sizes are in Survey"
    return "a part of its own"


def _female_fields(joint: Joint, prefix: str) -> tuple[FieldView, ...]:
    """The nut and the turned side; the part with the thread, where the joint brings its own."""
    own = [field_view(joint, "nut", prefix)]
    if not joint.is_stud:
        own.append(field_view(joint, "turned", prefix))
    if joint.female is not None:
        blind = not joint.female.is_through
        labels = {"overall_height_mm": "depth of the drilled hole"} if blind else {}
        own += [
            field_view(joint.female, name, f"{prefix}.female", labels.get(name, ""))
            for name in _FEMALE_FIELDS
            if not (blind and name == "free_space_mm")
        ]
        own.append(field_view(joint, "female_material", prefix, choices=tuple(THREAD_MATERIALS)))
    return tuple(own)


def _placing(joint: Joint, prefix: str) -> tuple[FieldView, ...]:
    """Where a joint stands, which hand its bracket has, when it is torqued and applies."""
    names = (
        "name",
        *(() if joint.mount else ("stage",)),
        "side",
        "orientation",
        "end_below",
        "drops_for_oil",
        "held_loose",
        "floats",
        "passes",
        "passes_gap_mm",
        "spring_n_per_mm",
        "hole_set",
        "when",
    )
    labels = {"hole_set": "set of holes; empty: always used"}
    return tuple(field_view(joint, name, prefix, labels.get(name, "")) for name in names)


def _typed_joint(body: JointWrite) -> NewJoint:
    x = y = None
    loose = body.joins or body.stage == BENCH
    if not body.mount and not (loose and not (body.x or body.y)):
        x = read_field(Joint, "x_mm", body.x, "x_mm", body.system)
        y = read_field(Joint, "y_mm", body.y, "y_mm", body.system)
    stage = read_field(Joint, "stage", body.stage, "stage", "metric")
    return NewJoint(
        preset=body.preset,
        stage=stage,
        mount=body.mount,
        thread=body.thread,
        x_mm=x,
        y_mm=y,
        joins=body.joins,
    )


@route(blueprint, "POST", "/joints", SavedView, JointWrite)
def add_a_joint(job_id: str, body: JointWrite) -> SavedView:
    """Build a joint of one's own from a starting point."""
    asked = _typed_joint(body)
    names = spent(job_id)
    return write(job_id, body, lambda job: add_joint(job, job.in_hand.key, asked, names))


@route(blueprint, "POST", "/joints/all", SavedView, AllJointsWrite)
def say_for_all(job_id: str, body: AllJointsWrite) -> SavedView:
    """One treatment on every thread, and the sheet's torque at every screw of a size."""

    def change(job: Job) -> Change:
        return all_at_once(
            job,
            job.in_hand.key,
            treatment=body.treatment,
            torques=body.torques,
            system=body.system,
        )

    return write(job_id, body, change)


@route(blueprint, "POST", "/joints/<key>/remove", SavedView, Write)
def remove_a_joint(job_id: str, key: str, body: Write) -> SavedView:
    """Take a joint out of the job."""
    return write(job_id, body, lambda job: remove_joint(job, job.in_hand.key, key))


def _typed_layer(body: LayerWrite) -> NewLayer:
    kind = read_field(Layer, "kind", body.kind, "kind", "metric")
    thickness = read_field(Layer, "thickness_mm", body.thickness, "thickness_mm", body.system)
    return NewLayer(kind, body.material, thickness, body.after)


@route(blueprint, "POST", "/joints/<key>/layers", SavedView, LayerWrite)
def add_a_layer(job_id: str, key: str, body: LayerWrite) -> SavedView:
    """Add a washer, spacer, shim or other layer to a joint."""
    asked = _typed_layer(body)
    return write(job_id, body, lambda job: add_layer(job, job.in_hand.key, key, asked))


@route(blueprint, "POST", "/joints/<key>/layers/<layer>/remove", SavedView, Write)
def remove_a_layer(job_id: str, key: str, layer: str, body: Write) -> SavedView:
    """Take a layer out of a joint for good."""
    return write(job_id, body, lambda job: remove_layer(job, job.in_hand.key, key, layer))
