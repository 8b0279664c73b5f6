"""Plates of a job: entered from a sheet and a tape, or traced; drawn, measured, compared."""

from __future__ import annotations

from typing import Literal

from flask import Blueprint, Response

from rugged_shield.core.amounts import amount
from rugged_shield.core.assess.fitup.pose import plate_pose
from rugged_shield.core.assess.weighup.scorecard import weigh
from rugged_shield.core.figures import figure
from rugged_shield.core.job.edits.path import set_text
from rugged_shield.core.job.edits.plates import (
    OPTIONAL,
    add_cutout,
    add_piece,
    copy_plate,
    new_cutout,
    new_piece,
    new_plate,
    plate_path,
    remove_from_plate,
    remove_plate,
    set_panel,
    traced_belly,
    traced_piece,
)
from rugged_shield.core.job.edits.reuse import reusable, reuse_from_stock
from rugged_shield.core.job.model import Job
from rugged_shield.core.result import worst
from rugged_shield.core.survey.flat import flat_drawing, flat_pattern
from rugged_shield.core.survey.geometry import fold
from rugged_shield.core.survey.mass import ThicknessInput, thickness_compare
from rugged_shield.core.survey.measures import PlateGeometryInput, plate_geometry
from rugged_shield.core.survey.plate import EDGES, PIECE_MATERIALS, Cutout, Piece, Plate
from rugged_shield.core.survey.plate_drawings import plate_drawing
from rugged_shield.core.survey.weighings import weighing_result
from rugged_shield.core.tables.materials import SHEET_MATERIALS
from rugged_shield.web.api import file_route, route
from rugged_shield.web.downloads import download
from rugged_shield.web.fields import field_view, field_views
from rugged_shield.web.jobs import row_of, spent, write
from rugged_shield.web.stations.survey.measures import plate_measures
from rugged_shield.web.stations.survey.views import (
    CompareView,
    FieldGroup,
    NameWrite,
    OutlineWrite,
    PanelWrite,
    PlateView,
    ReuseWrite,
    WhatIf,
)
from rugged_shield.web.views import FieldView, ItemView, SavedView, Write

blueprint = Blueprint("plates", __name__, url_prefix="/api/jobs/<job_id>/plates")

_SHEET = (
    "name",
    "material",
    "thickness_mm",
    "form",
    "mounting",
    "over_stock",
    "claimed_mass_kg",
    "weighed_mass_kg",
    "brackets_mass_kg",
    "wear_piece_kg",
    "price",
    "sheet_date",
    "orientation",
    "known",
)
_PANELS = {
    "belly": (
        "belly",
        ("start_x_mm", "length_mm", "front_width_mm", "rear_width_mm", "z_front_mm", "z_rear_mm"),
    ),
    "apron": ("apron", ("slope_height_mm", "rise_deg", "top_width_mm")),
    "tail": ("tail", ("length_mm", "width_mm", "rise_mm")),
    "wing left": (
        "wing_left",
        ("start_mm", "length_mm", "slant_height_mm", "dihedral_deg", "own_screws"),
    ),
    "wing right": (
        "wing_right",
        ("start_mm", "length_mm", "slant_height_mm", "dihedral_deg", "own_screws"),
    ),
}
_NEEDS = (
    "bars",
    "upper_bars",
    "isolators",
    "exhaust_off",
    "no_centre_stand",
    "year_from",
    "year_to",
    "model",
    "variant",
    "market",
    "with_change",
)
_CUTOUT = (
    "shape",
    "purpose",
    "u_mm",
    "v_mm",
    "width_mm",
    "height_mm",
    "closed_door",
    "door_screws",
)
_PIECE = (
    "name",
    "order",
    "x_mm",
    "y_mm",
    "z_mm",
    "length_mm",
    "front_width_mm",
    "rear_width_mm",
    "pitch_deg",
    "roll_deg",
    "material",
    "thickness_mm",
    "own_screws",
    "orientation",
)


def _sheet_fields(plate: Plate, prefix: str) -> tuple[FieldView, ...]:
    materials = tuple(SHEET_MATERIALS)
    return tuple(
        field_view(plate, name, prefix, choices=materials if name == "material" else ())
        for name in _SHEET
    )


def _groups(plate: Plate, at: str) -> tuple[FieldGroup, ...]:
    prefix = f"{at}.plate"
    groups = [FieldGroup("sheet", "From the sheet", _sheet_fields(plate, prefix), False)]
    for title, (name, fields) in _PANELS.items():
        panel = getattr(plate, name)
        if panel is not None:
            own = field_views(panel, fields, f"{prefix}.{name}")
            groups.append(FieldGroup(title, title.capitalize(), own, title != "belly"))
    if plate.slider_material:
        slider = (
            field_view(plate, "slider_material", prefix, "material", tuple(SHEET_MATERIALS)),
            field_view(plate, "slider_thickness_mm", prefix, "thickness"),
            field_view(plate, "slider_bonded", prefix, "bonded on"),
        )
        groups.append(FieldGroup("slider", "Slider under the belly", slider, True))
    needs = field_views(plate.needs, _NEEDS, f"{prefix}.needs")
    groups.append(FieldGroup("needs", "What it requires", needs, False))
    return tuple(groups)


_ALONG = {
    "belly": ("behind the front edge", "right of the middle"),
    "tail": ("behind its front edge", "right of the middle"),
    "apron": ("up the slope from the fold", "right of the middle"),
    "wing left": ("rearward along the fold", "up from the fold"),
    "wing right": ("rearward along the fold", "up from the fold"),
}
"""What u and v are called on each panel."""


def _cutout_fields(cutout: Cutout) -> list[tuple[str, str]]:
    """Fields of an opening and what they are called: a round one has one diameter."""
    along, across = _ALONG.get(cutout.panel, ("rearward from its front edge", "to the right"))
    words = {"u_mm": along, "v_mm": across}
    names = [*_CUTOUT]
    if cutout.shape == "round":
        words["width_mm"] = "diameter"
        names.remove("height_mm")
    return [(name, words.get(name, "")) for name in names]


def _cutout(plate: Plate, cutout: Cutout, at: str) -> ItemView:
    prefix = f"{at}.plate.cutouts.{cutout.key}"
    panels = tuple(p.name for p in fold(plate).panels)
    fields = (
        field_view(cutout, "panel", prefix, choices=panels),
        *(field_view(cutout, name, prefix, words) for name, words in _cutout_fields(cutout)),
    )
    return ItemView(cutout.key, "cutouts", cutout.purpose, cutout.panel, fields)


def _piece(piece: Piece, at: str) -> ItemView:
    prefix = f"{at}.plate.pieces.{piece.key}"
    turn = "first" if piece.order <= 1 else f"as number {piece.order}"
    note = "fitted before the main one" if piece.order < 0 else f"fitted {turn} after the main one"
    fields = [
        field_view(piece, name, prefix, choices=PIECE_MATERIALS if name == "material" else ())
        for name in _PIECE
    ]
    for edge in EDGES if not piece.points_mm else ():
        fields.append(field_view(piece, f"{edge}_bend_mm", prefix))
        if piece.bend(edge) is not None:
            fields.append(field_view(piece, f"{edge}_bend_angle_deg", prefix))
    return ItemView(piece.key, "pieces", piece.name, note, tuple(fields))


def _notes(job: Job, key: str) -> tuple[str, ...]:
    """What the job's own weighings say of this plate alone."""
    notes = []
    for weighing in job.weighings:
        outcome = weighing_result(weighing)
        if weighing.plate == key and not weighing.against and outcome is not None:
            r = outcome.result
            with_words = "with its hardware" if weighing.hardware_with else "without hardware"
            notes.append(
                f"Weighed {amount(r.mean_difference, 'kg')} ± {amount(r.u95, 'kg', 2)}, "
                f"{with_words}."
            )
    return tuple(notes)


def _view(job: Job, key: str) -> PlateView:
    candidate = job.as_entered(key)
    plate = candidate.plate
    at = plate_path(job, key)
    outcome = plate_geometry(PlateGeometryInput(plate))
    folded = plate_pose(job.bike, job.candidate(key)).folded
    findings = (*outcome.findings, *weigh(job, key).findings)
    have = {p.name for p in folded.panels} | ({"slider"} if plate.slider_material else set())
    traced = bool(plate.belly.points_mm)
    can_add = {
        panel: words
        for panel, words in OPTIONAL.items()
        if panel not in have and not (traced and panel != "slider")
    }
    return PlateView(
        key=key,
        name=plate.name,
        role=plate.role,
        picked=key == job.picked,
        groups=_groups(plate, at),
        cutouts=tuple(_cutout(plate, c, at) for c in plate.cutouts),
        pieces=tuple(_piece(p, at) for p in plate.pieces),
        panels=tuple(p.name for p in folded.panels),
        reusable={} if plate.role == "stock" else reusable(job),
        can_add=can_add,
        flat=flat_drawing(flat_pattern(plate)),
        views=(
            plate_drawing(folded, "from below"),
            plate_drawing(folded, "from the left"),
            plate_drawing(folded, "from ahead"),
        ),
        measures=plate_measures(job, key, outcome.result),
        findings=findings,
        verdict=worst(f.verdict for f in findings),
        notes=_notes(job, key),
        joints=len(candidate.joints),
        lines=len(candidate.kit),
    )


@route(blueprint, "GET", "/<key>", PlateView)
def plate(job_id: str, key: str) -> PlateView:
    """One plate: every field, its drawings and measures."""
    return _view(row_of(job_id).job, key)


@route(blueprint, "POST", "/<key>/what-if", PlateView, WhatIf)
def plate_what_if(job_id: str, key: str, body: WhatIf) -> PlateView:
    """The same with one field as it is being typed; nothing is saved."""
    return _view(set_text(row_of(job_id).job, body.path, body.text, body.system).job, key)


@route(blueprint, "POST", "", SavedView, NameWrite)
def add_plate(job_id: str, body: NameWrite) -> SavedView:
    """A new plate to enter from its maker's sheet."""
    names = spent(job_id)
    return write(job_id, body, lambda job: new_plate(job, body.name, names))


@route(blueprint, "POST", "/<key>/copy", SavedView, Write)
def copy(job_id: str, key: str, body: Write) -> SavedView:
    """A copy of a plate to try something on."""
    names = spent(job_id)
    return write(job_id, body, lambda job: copy_plate(job, key, names))


@route(blueprint, "POST", "/<key>/remove", SavedView, Write)
def remove_a_plate(job_id: str, key: str, body: Write) -> SavedView:
    """Take a candidate out of the job."""
    return write(job_id, body, lambda job: remove_plate(job, key))


@route(blueprint, "POST", "/<key>/panel", SavedView, PanelWrite)
def panel(job_id: str, key: str, body: PanelWrite) -> SavedView:
    """Put a panel or slider on a plate, or take it off."""
    return write(job_id, body, lambda job: set_panel(job, key, body.panel, body.there))


@route(blueprint, "POST", "/<key>/cutouts", SavedView, NameWrite)
def add_a_cutout(job_id: str, key: str, body: NameWrite) -> SavedView:
    """A new opening on the panel named."""
    return write(
        job_id,
        body,
        lambda job: add_cutout(job, key, new_cutout(job.as_entered(key).plate, body.name)),
    )


@route(blueprint, "POST", "/<key>/pieces", SavedView, Write)
def add_a_piece(job_id: str, key: str, body: Write) -> SavedView:
    """A further piece to start from."""
    return write(
        job_id, body, lambda job: add_piece(job, key, new_piece(job.as_entered(key).plate))
    )


@route(blueprint, "POST", "/<key>/items/<item>/remove", SavedView, Write)
def remove_plate_item(job_id: str, key: str, item: str, body: Write) -> SavedView:
    """Take a cutout or a piece off a plate."""
    return write(job_id, body, lambda job: remove_from_plate(job, key, item))


@route(blueprint, "POST", "/<key>/pieces/from-stock", SavedView, ReuseWrite)
def reuse(job_id: str, key: str, body: ReuseWrite) -> SavedView:
    """A piece or side guard of the stock plate goes on with this one."""
    return write(job_id, body, lambda job: reuse_from_stock(job, key, body.item))


@route(blueprint, "POST", "/<key>/outline", SavedView, OutlineWrite)
def outline(job_id: str, key: str, body: OutlineWrite) -> SavedView:
    """A traced outline from a DXF or SVG file becomes the belly or a further piece."""
    from rugged_shield.formats.dxf import read_dxf
    from rugged_shield.formats.guarded import read_guarded
    from rugged_shield.formats.svg import read_svg
    from rugged_shield.formats.traced import Placing

    reader = read_dxf if body.kind == "dxf" else read_svg
    got = read_guarded(reader, body.text, Placing(body.unit, body.front, body.seen))
    take = traced_belly if body.becomes == "belly" else traced_piece
    return write(job_id, body, lambda job: take(job, key, got.outline_mm, got.holes))


def _flat_file(job_id: str, key: str, kind: Literal["dxf", "svg"]) -> Response:
    from rugged_shield.formats.dxf import flat_dxf
    from rugged_shield.formats.svg import flat_svg

    own = row_of(job_id).job.as_entered(key).plate
    pattern = flat_pattern(own)
    if kind == "dxf":
        return download(flat_dxf(pattern), "image/vnd.dxf", "flat-pattern.dxf")
    return download(flat_svg(pattern, own.name), "image/svg+xml", "flat-pattern.svg")


@file_route(blueprint, "/<key>/flat.dxf", "image/vnd.dxf")
def flat_as_dxf(job_id: str, key: str) -> Response:
    """The flat pattern with fold lines as DXF in true mm."""
    return _flat_file(job_id, key, "dxf")


@file_route(blueprint, "/<key>/flat.svg", "image/svg+xml")
def flat_as_svg(job_id: str, key: str) -> Response:
    """The flat pattern with fold lines as SVG in true mm."""
    return _flat_file(job_id, key, "svg")


@route(blueprint, "GET", "/<key>/against/<other>", CompareView)
def compare(job_id: str, key: str, other: str) -> CompareView:
    """Two plates in plain quantities: thickness, stiffness and mass with ratio and base."""
    job = row_of(job_id).job
    first, second = job.as_entered(key).plate, job.as_entered(other).plate
    outcome = thickness_compare(
        ThicknessInput(first.material, first.thickness_mm, second.material, second.thickness_mm)
    )
    r = outcome.result
    mass, base = (weigh(job, k).figures["mass"].value or 0.0 for k in (key, other))
    told = (
        (
            "thickness_ratio",
            "Thickness",
            r.thickness_ratio,
            f"{amount(first.thickness_mm, 'mm')} is {r.thickness_ratio:.2f} times "
            f"{amount(second.thickness_mm, 'mm')}.",
        ),
        (
            "stiffness_ratio",
            "Bending stiffness of the sheet",
            r.stiffness_ratio,
            f"The same width of sheet bends {_inverse(r.stiffness_ratio)} under the same load: "
            "thickness counts by its cube, the material by its modulus.",
        ),
        (
            "area_mass_ratio",
            "Mass of the same area of sheet",
            r.mass_ratio,
            f"A square of the same size weighs {r.mass_ratio:.2f} times as much.",
        ),
        (
            "mass_ratio",
            "Mass of the whole plate with hardware",
            mass / base,
            f"{amount(mass, 'kg')} is {mass / base:.2f} times {amount(base, 'kg')}: "
            f"{amount(abs(mass - base), 'kg')} {'more' if mass >= base else 'less'}.",
        ),
    )
    rows = tuple(
        figure(
            name,
            label,
            value,
            "×",
            inputs=outcome.inputs,
            reasons=(words,),
            assumptions=outcome.assumptions,
            sources=outcome.sources,
        )
        for name, label, value, words in told
    )
    return CompareView(first.name, second.name, rows, tuple(t[3] for t in told))


def _inverse(ratio: float) -> str:
    """How much less or more a sheet of this stiffness ratio bends, in words."""
    if ratio >= 1:
        return f"{1 / ratio:.2f} times as far"
    return f"{1 / ratio:.1f} times as far"
