"""A plate of several pieces: in which order they hang, what they share, which holes are used."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from flask import Blueprint
from pydantic import Field

from rugged_shield.core.amounts import System
from rugged_shield.core.assess.fitup.pieces import (
    HoleSet,
    PiecesJudged,
    SharedScrew,
    every_set,
    pieces_drawing,
    pieces_judged,
)
from rugged_shield.core.job.edits.parts import PARTS, SIDES, NewPart, add_part
from rugged_shield.core.job.edits.path import read_field
from rugged_shield.core.job.edits.plates import plate_path
from rugged_shield.core.job.edits.sheets import choose_hole_set, stack_piece
from rugged_shield.core.job.model import Job, mounted
from rugged_shield.core.mechanics.drawing import Drawing
from rugged_shield.core.result import Figure, Finding, FindingCode, Verdict, verdict_of, worst
from rugged_shield.core.survey.plate import Piece
from rugged_shield.core.tables.materials import SHEET_MATERIALS
from rugged_shield.core.tables.threads import THREADS
from rugged_shield.core.tighten.tools import reaches
from rugged_shield.web.api import route
from rugged_shield.web.fields import field_view, field_views
from rugged_shield.web.jobs import row_of, spent, write
from rugged_shield.web.views import FieldView, Key, SavedView, Text, Write

blueprint = Blueprint("pieces", __name__, url_prefix="/api/jobs/<job_id>/fit-up/pieces")


@dataclass(frozen=True, kw_only=True)
class PieceOrderView:
    """A piece at its turn: what is entered of it."""

    key: str
    name: str
    fields: tuple[FieldView, ...]


@dataclass(frozen=True)
class LackingView:
    """A piece that a screw goes through and its stack does not know."""

    piece: str
    name: str


@dataclass(frozen=True, kw_only=True)
class SharedView:
    """A screw through several sheets, lowest first."""

    key: str
    number: int
    name: str
    sheets: tuple[str, ...]
    lacking: tuple[LackingView, ...]


@dataclass(frozen=True, kw_only=True)
class HoleSetView:
    """A set of holes to choose from: its screws, how it holds, whether a tool gets in."""

    name: str
    joints: str
    is_used: bool
    is_best: bool
    spread: Figure
    worst: Figure
    reach: str
    reaches: Verdict


@dataclass(frozen=True, kw_only=True)
class PartChoices:
    """What can be put on with all its joints: parts and what they hold, mounts, sheets, threads."""

    parts: dict[str, str]
    mounts: dict[str, str]
    sides: tuple[str, ...]
    materials: tuple[str, ...]
    threads: tuple[str, ...]


@dataclass(frozen=True, kw_only=True)
class PiecesView:
    """Pieces in the order in which they hang, what they share, sets of holes."""

    plate: str
    drawing: Drawing
    pieces: tuple[PieceOrderView, ...]
    shared: tuple[SharedView, ...]
    sets: tuple[HoleSetView, ...]
    why: str
    chosen: str
    findings: tuple[Finding, ...]
    verdict: Verdict
    new: PartChoices


@dataclass(frozen=True, kw_only=True)
class PutOnWrite(Write):
    """A part to put on with its joints; what is left empty is not known and assumed."""

    part: Text = ""
    mounts: Annotated[tuple[Key, ...], Field(max_length=60)] = ()
    side: Text = "both"
    material: Text = ""
    thickness: Text = ""
    thread: Text = "M8"
    system: System = "metric"


@dataclass(frozen=True, kw_only=True)
class StackWrite(Write):
    """A piece that becomes a layer of a joint."""

    joint: Key
    piece: Key


@dataclass(frozen=True, kw_only=True)
class HoleSetWrite(Write):
    """The set of holes to use; empty: none is chosen."""

    name: Text = ""


_TURN = "turn; below zero: before the main piece"


def _judged(job: Job) -> PiecesJudged:
    return pieces_judged(job, job.in_hand.key, reaches)


def _pieces(job: Job) -> tuple[PieceOrderView, ...]:
    """The main piece and the further ones, in the order in which they hang."""
    plate, at = job.in_hand.plate, f"{plate_path(job, job.in_hand.key)}.plate"
    main = PieceOrderView(
        key="", name=plate.name, fields=field_views(plate, ("orientation", "through_first"), at)
    )
    rows = [
        (
            p.order,
            PieceOrderView(
                key=p.key,
                name=p.name,
                fields=(
                    field_view(p, "order", f"{at}.pieces.{p.key}", _TURN),
                    *field_views(p, ("orientation", "through_first"), f"{at}.pieces.{p.key}"),
                ),
            ),
        )
        for p in sorted(plate.pieces, key=lambda p: p.order)
    ]
    before = [view for order, view in rows if order < 0]
    return (*before, main, *(view for order, view in rows if order >= 0))


def _shared(screw: SharedScrew, names: dict[str, str]) -> SharedView:
    return SharedView(
        key=screw.key,
        number=screw.number,
        name=screw.name,
        sheets=tuple(names.get(s, s) for s in screw.sheets),
        lacking=tuple(LackingView(piece=s, name=names.get(s, s)) for s in screw.lacking),
    )


def _reaches(one: HoleSet) -> FindingCode | None:
    """What a set's screws say of the tool that has to reach them."""
    if one.out_of_reach:
        return "out of a tool's reach"
    return "no value" if one.reach_not_known else None


def _set(one: HoleSet, best: str) -> HoleSetView:
    return HoleSetView(
        name=one.name,
        joints=", ".join(map(str, one.joints)),
        is_used=one.is_used,
        is_best=one.name == best,
        spread=one.spread,
        worst=one.worst,
        reach=one.reach_words,
        reaches=verdict_of(_reaches(one)),
    )


@route(blueprint, "GET", "", PiecesView)
def pieces(job_id: str) -> PiecesView:
    """Pieces of the plate in hand in their order, screws that they share, sets of holes."""
    job = row_of(job_id).job
    plate, judged = job.in_hand.plate, _judged(job)
    return PiecesView(
        plate=plate.name,
        drawing=pieces_drawing(plate, mounted(job.bike, every_set(job, plate.key))),
        pieces=_pieces(job),
        shared=tuple(_shared(s, plate.sheet_names) for s in judged.shared),
        sets=tuple(_set(s, judged.best) for s in judged.sets),
        why=judged.why,
        chosen=judged.chosen,
        findings=judged.findings,
        verdict=worst(f.verdict for f in judged.findings),
        new=PartChoices(
            parts=PARTS,
            mounts={m.key: f"{m.number} {m.name}, {m.thread}" for m in job.bike.mounts},
            sides=SIDES,
            materials=tuple(SHEET_MATERIALS),
            threads=tuple(THREADS),
        ),
    )


@route(blueprint, "POST", "/parts", SavedView, PutOnWrite)
def put_on(job_id: str, body: PutOnWrite) -> SavedView:
    """A part with all its joints, left and right in one go."""
    thickness = None
    if body.thickness:
        thickness = read_field(Piece, "thickness_mm", body.thickness, "thickness_mm", body.system)
    asked = NewPart(
        preset=body.part,
        mounts=body.mounts,
        side=body.side,
        material=body.material,
        thickness_mm=thickness,
        thread=body.thread,
    )
    names = spent(job_id)
    return write(job_id, body, lambda job: add_part(job, job.in_hand.key, asked, names))


@route(blueprint, "POST", "/stack", SavedView, StackWrite)
def stack(job_id: str, body: StackWrite) -> SavedView:
    """A piece becomes a layer of a joint's stack."""
    return write(
        job_id, body, lambda job: stack_piece(job, job.in_hand.key, body.joint, body.piece)
    )


@route(blueprint, "POST", "/hole-set", SavedView, HoleSetWrite)
def hole_set(job_id: str, body: HoleSetWrite) -> SavedView:
    """Use one of the plate's sets of holes; empty: none is chosen."""
    return write(job_id, body, lambda job: choose_hole_set(job, job.in_hand.key, body.name))
