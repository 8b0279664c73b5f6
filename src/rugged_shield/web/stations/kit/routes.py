"""Kit: the sheet's lines against the bench, and the list out as CSV."""

from __future__ import annotations

from dataclasses import dataclass
from typing import get_args

from flask import Blueprint, Response

from rugged_shield.core.assess.fitup.pose import fitted_joints
from rugged_shield.core.assess.kit.buying import to_buy
from rugged_shield.core.assess.kit.debts import Debt, debts_of
from rugged_shield.core.assess.kit.lines import KitCheck, kit_check, need_words
from rugged_shield.core.errors import InputError
from rugged_shield.core.job.edits.kit import (
    add_line,
    add_lines,
    count_all,
    remove_count,
    remove_line,
    set_count,
)
from rugged_shield.core.job.edits.path import read_field
from rugged_shield.core.job.edits.plates import plate_path
from rugged_shield.core.job.model import Job, KitCount, mounted
from rugged_shield.core.kit.hardware import KitLine, check_line
from rugged_shield.core.kit.identify import FORMS
from rugged_shield.core.kit.line_drawing import line_drawing, need_drawing
from rugged_shield.core.kit.needs import LineKind, Need
from rugged_shield.core.mechanics.frames import side_words
from rugged_shield.core.mechanics.threads import nominal_size
from rugged_shield.core.survey.conditions import applies
from rugged_shield.core.tables.cautions import CAUTIONS
from rugged_shield.core.tables.friction import CONDITIONS
from rugged_shield.core.tables.grades import GRADES
from rugged_shield.core.tables.hardware import NUTS
from rugged_shield.core.tables.heads import SCREW_HEADS
from rugged_shield.core.tables.materials import LAYER_MATERIALS
from rugged_shield.core.tables.threads import THREADS
from rugged_shield.formats.guarded import read_guarded
from rugged_shield.formats.hardwarecsv import read_hardware
from rugged_shield.formats.kitlist import buy_csv, kit_csv
from rugged_shield.web.api import file_route, route
from rugged_shield.web.downloads import download
from rugged_shield.web.fields import field_view, field_views
from rugged_shield.web.jobs import row_of, write
from rugged_shield.web.lists import list_preview
from rugged_shield.web.stations.kit.views import (
    Alike,
    CountAllWrite,
    CountWrite,
    CsvWrite,
    KitJointView,
    KitLineView,
    KitView,
    LineWrite,
    PlaceView,
    SheetView,
)
from rugged_shield.web.views import CsvPreview, CsvText, SavedView, Write

blueprint = Blueprint("kit", __name__, url_prefix="/api/jobs/<job_id>/kit")


def _at(job: Job) -> str:
    return plate_path(job, job.in_hand.key)


@dataclass(frozen=True)
class _Seen:
    """What every line and joint of one view needs to know."""

    job: Job
    check: KitCheck
    debts: tuple[Debt, ...]
    alike: dict[str, tuple[Alike, ...]]


def _seen(job_id: str) -> _Seen:
    job = row_of(job_id).job
    check = kit_check(job)
    return _Seen(job, check, debts_of(job), _alikes(job, check))


def _alikes(job: Job, check: KitCheck) -> dict[str, tuple[Alike, ...]]:
    """For each line the others that it must not be swapped with."""
    names = {line.key: f"{line.name} {line.size}".strip() for line in job.in_hand.kit}
    found: dict[str, list[Alike]] = {}
    for pair in check.alike:
        for own, other in ((pair.one, pair.other), (pair.other, pair.one)):
            found.setdefault(own, []).append(Alike(other, names[other], pair.words))
    return {key: tuple(others) for key, others in found.items()}


def _line(seen: _Seen, line: KitLine) -> KitLineView:
    prefix = f"{_at(seen.job)}.kit.{line.key}"
    fields = (
        field_view(line, "name", prefix),
        field_view(line, "thread", prefix, choices=("", *THREADS)),
        field_view(line, "length_mm", prefix),
        field_view(line, "head", prefix, choices=("", *SCREW_HEADS)),
        field_view(line, "grade", prefix, choices=("", *GRADES)),
        field_view(line, "count", prefix),
        field_view(line, "already_fitted", prefix),
    )
    more = (
        field_view(line, "bag", prefix),
        field_view(line, "came", prefix, label="how it came"),
        field_view(line, "outer_mm", prefix),
        field_view(line, "hole_mm", prefix),
        field_view(line, "part_number", prefix),
        field_view(line, "drive", prefix),
        field_view(line, "fitted_to", prefix),
        field_view(line, "treatment", prefix, choices=("", *CONDITIONS)),
        field_view(line, "when", prefix, label="only if"),
    )
    return KitLineView(
        key=line.key,
        kind=line.kind,
        name=line.name,
        size=line.size,
        head=line.head,
        grade=line.grade,
        count=line.count,
        already_fitted=line.already_fitted,
        state=seen.check.lines.get(line.key) or check_line(line, None, ()),
        fields=fields,
        more=more,
        applies=applies(line.when, seen.job.bike),
        when=line.when,
        bag=line.bag,
        came=line.came,
        alike=seen.alike.get(line.key, ()),
        drawing=line_drawing(line),
    )


def _could(seen: _Seen, need: Need) -> tuple[str, ...]:
    """Lines that may be put to a place: of its kind and thread, their size said."""
    return tuple(line.key for line in seen.job.in_hand.kit if _may_go(line, need))


def _may_go(line: KitLine, need: Need) -> bool:
    if line.kind != need.kind or line.kind == "clip nut":
        return False
    if line.kind in ("screw", "nut"):
        sized = line.kind == "nut" or bool(line.length_mm and line.head)
        return line.thread == need.thread and sized
    same = not line.thread or nominal_size(line.thread) == nominal_size(need.thread)
    return same and line.length_mm is not None


def _places(seen: _Seen, joint_key: str) -> tuple[PlaceView, ...]:
    stands_in = {(d.joint_key, d.part): d.key for d in seen.debts if not d.paid}
    return tuple(
        PlaceView(
            part=need.part,
            what=need_words(need),
            kind=need.kind,
            line=seen.check.shared.line_of(joint_key, need.part),
            could=_could(seen, need),
            debt=stands_in.get((joint_key, need.part), ""),
            drawing=need_drawing(need),
        )
        for need in seen.check.needs
        if need.joint_key == joint_key
    )


def _joints(seen: _Seen) -> tuple[KitJointView, ...]:
    joints = mounted(seen.job.bike, seen.job.in_hand)
    return tuple(
        KitJointView(
            key=a.joint.key,
            number=a.joint.number,
            name=a.joint.name,
            side=a.joint.side or side_words(at.y_mm),
            proposed=a.joint.proposed,
            verdict=a.verdict,
            words=tuple(f.text for f in a.findings if f.code != "joint proposed"),
            places=_places(seen, a.joint.key),
        )
        for a, at in zip(fitted_joints(seen.job.in_hand.plate, joints), joints, strict=True)
    )


@route(blueprint, "GET", "", KitView)
def kit(job_id: str) -> KitView:
    """The kit of the plate in hand: listed, counted, needed joint by joint, to buy, owed."""
    seen = _seen(job_id)
    job = seen.job
    entered = job.as_entered(job.in_hand.key)
    prefix = f"{_at(job)}.sheet"
    taken = {j.mount for j in entered.joints}
    return KitView(
        plate=job.in_hand.plate.name,
        cautions=CAUTIONS["kit"],
        lines=tuple(_line(seen, line) for line in entered.kit),
        joints=_joints(seen),
        uncounted=len(job.in_hand.kit) - len(job.counted(job.in_hand)),
        free_mounts=sum(1 for m in job.bike.mounts if m.key not in taken),
        debts=seen.debts,
        buy=to_buy(job, seen.check),
        sheet=SheetView(
            fields=field_views(entered.sheet, ("revision", "date"), prefix),
            pages=entered.sheet.pages,
        ),
        layer_materials=tuple(LAYER_MATERIALS),
        nuts=tuple(NUTS),
        kinds=get_args(LineKind),
        threads=tuple(THREADS),
        heads=SCREW_HEADS,
        grades=tuple(GRADES),
        head_forms=FORMS,
    )


@file_route(blueprint, "/list.csv", "text/csv")
def kit_list(job_id: str) -> Response:
    """The list as a CSV file."""
    job = row_of(job_id).job
    lines = job.as_entered(job.in_hand.key).kit
    states = kit_check(job).lines
    rest = {k.key: check_line(k, None, ()) for k in lines if k.key not in states}
    return download(kit_csv(lines, {**states, **rest}), "text/csv", "kit-list.csv")


@file_route(blueprint, "/to-buy.csv", "text/csv")
def buy_list(job_id: str) -> Response:
    """What is to buy as a CSV file."""
    job = row_of(job_id).job
    return download(buy_csv(to_buy(job, kit_check(job))), "text/csv", "to-buy.csv")


@file_route(blueprint, "/to-buy.pdf", "application/pdf")
def buy_paper(job_id: str) -> Response:
    """What is to buy as a slip for the shop."""
    from rugged_shield.formats.buyslip import buy_slip

    job = row_of(job_id).job
    made = buy_slip(job.in_hand.plate.name, to_buy(job, kit_check(job)))
    return download(made, "application/pdf", "to-buy.pdf", inline=True)


@route(blueprint, "POST", "/count-all", SavedView, CountAllWrite)
def all_there(job_id: str, body: CountAllWrite) -> SavedView:
    """All of these lines are there; without names all that are not counted yet."""
    keys = frozenset(body.lines) or None
    return write(job_id, body, lambda job: count_all(job, job.in_hand.key, keys))


@route(blueprint, "POST", "/count", SavedView, CountWrite)
def count(job_id: str, body: CountWrite) -> SavedView:
    """Note what was counted for a line; empty text takes the count back."""
    if not body.text.strip():
        return write(job_id, body, lambda job: remove_count(job, job.in_hand.key, body.line))
    number = read_field(KitCount, "counted", body.text, f"counts.{body.line}", "metric")
    return write(job_id, body, lambda job: set_count(job, job.in_hand.key, body.line, number))


def _typed_line(body: LineWrite) -> KitLine:
    length = None
    if body.length.strip():
        length = read_field(KitLine, "length_mm", body.length, "length_mm", body.system)
    number = read_field(KitLine, "count", body.count, "count", "metric")
    kind = read_field(KitLine, "kind", body.kind, "kind", "metric")
    return KitLine(
        key="own",
        kind=kind,
        name=body.name.strip(),
        thread=body.thread,
        length_mm=length,
        head=body.head,
        grade=body.grade,
        count=number,
        drive=body.drive.strip(),
        when=body.when.strip(),
    )


@route(blueprint, "POST", "/lines", SavedView, LineWrite)
def add_a_line(job_id: str, body: LineWrite) -> SavedView:
    """Add a line to the kit."""
    line = _typed_line(body)
    return write(job_id, body, lambda job: add_line(job, job.in_hand.key, line))


@route(blueprint, "POST", "/preview", CsvPreview, CsvText)
def preview(job_id: str, body: CsvText) -> CsvPreview:
    """What a pasted list would become; nothing is saved."""
    row_of(job_id)
    return list_preview(body.text, body.system)


@route(blueprint, "POST", "/import", SavedView, CsvWrite)
def take_in(job_id: str, body: CsvWrite) -> SavedView:
    """Add every line that is understood; the others stay out."""
    lines = tuple(
        r.line for r in read_guarded(read_hardware, body.text, body.system).lines if r.line
    )
    if not lines:
        raise InputError("text", "", "at least one line that is understood", "no line was read")
    return write(job_id, body, lambda job: add_lines(job, job.in_hand.key, lines))


@route(blueprint, "POST", "/lines/<key>/remove", SavedView, Write)
def remove_a_line(job_id: str, key: str, body: Write) -> SavedView:
    """Take a line out of the kit."""
    return write(job_id, body, lambda job: remove_line(job, job.in_hand.key, key))
