"""Many things at once from a typed or pasted table: a row each, read as its fields are."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from typing import Any, TypeVar, get_args

from rugged_shield.core.amounts import System, entered, place_words
from rugged_shield.core.errors import InputError, choose
from rugged_shield.core.fitup.layer import Layer, LayerKind
from rugged_shield.core.job.edits.joints import UNDER_HEAD, NewLayer, add_layer
from rugged_shield.core.job.edits.lists import add_item
from rugged_shield.core.job.edits.path import Change, read_field, set_item
from rugged_shield.core.job.edits.plates import add_cutout, new_cutout, plate_path
from rugged_shield.core.job.model import Job
from rugged_shield.core.judgement.known import BANDS, Fact, with_fact
from rugged_shield.core.survey.bike import Mount, MountKind, Part, PartKind, PartShape
from rugged_shield.core.survey.mount_kinds import with_kind
from rugged_shield.core.survey.plate import Cutout, Plate, Purpose
from rugged_shield.core.tables.materials import LAYER_MATERIALS
from rugged_shield.core.tables.thread_materials import THREAD_MATERIALS
from rugged_shield.core.tables.threads import THREADS

Row = Mapping[str, str]
_Word = TypeVar("_Word", bound=str)
MAX_ROWS = 60


@dataclass(frozen=True)
class RowTable:
    """A table that can be typed: its columns in order, those that must be filled.

    A mount whose number the bike has is corrected; all others are new.
    """

    noun: str
    columns: tuple[str, ...]
    needed: tuple[str, ...]
    also: Mapping[str, tuple[str, ...]]
    """Other words for a column, as a heading may have them."""


_XYZ = {
    "x_mm": ("x", "behind the front axle", "rearward"),
    "y_mm": ("y", "to the right", "right"),
    "z_mm": ("z", "above ground", "height"),
}
TABLES: dict[str, RowTable] = {
    "mounts": RowTable(
        "mount",
        (
            "name",
            "x_mm",
            "y_mm",
            "z_mm",
            "thread",
            "kind",
            "material",
            "manual_torque_nm",
            "number",
        ),
        ("x_mm", "y_mm", "z_mm"),
        {
            **_XYZ,
            "name": ("mount", "where"),
            "number": ("no", "nr"),
            "thread": ("screw", "size"),
            "material": ("thread in",),
            "manual_torque_nm": ("torque", "manual torque"),
        },
    ),
    "parts": RowTable(
        "part",
        (
            "name",
            "shape",
            "x_min_mm",
            "x_max_mm",
            "y_min_mm",
            "y_max_mm",
            "z_min_mm",
            "z_max_mm",
            "kind",
        ),
        ("name", "x_min_mm", "x_max_mm", "y_min_mm", "y_max_mm", "z_min_mm", "z_max_mm"),
        {
            **{f"{a}_min_mm": (f"{a} from", f"{a} min", f"{a}1") for a in "xyz"},
            **{f"{a}_max_mm": (f"{a} to", f"{a} max", f"{a}2") for a in "xyz"},
            "name": ("part",),
        },
    ),
    "openings": RowTable(
        "opening",
        ("purpose", "u_mm", "v_mm", "width_mm", "height_mm", "shape", "panel", "door_screws"),
        ("u_mm", "v_mm", "width_mm"),
        {
            "purpose": ("for", "opening"),
            "u_mm": ("u", "from the front edge", "along"),
            "v_mm": ("v", "to the right", "across"),
            "width_mm": ("width", "diameter", "size", "length"),
            "height_mm": ("height",),
            "door_screws": ("screws",),
        },
    ),
    "layers": RowTable(
        "layer",
        ("joint", "kind", "thickness_mm", "material", "outer_mm", "hole_mm", "tol_mm", "after"),
        ("joint", "kind", "thickness_mm"),
        {
            "joint": ("number", "at joint"),
            "kind": ("layer",),
            "thickness_mm": ("thickness", "thick"),
            "outer_mm": ("outer", "outside", "od"),
            "hole_mm": ("hole", "inside", "id"),
            "tol_mm": ("tolerance", "plus or minus"),
            "after": ("behind",),
        },
    ),
}


def _one_of(text: str, known: tuple[_Word, ...], field: str) -> _Word:
    """The known word that is meant: as it is, or by its letters alone, or as their beginning."""

    def flat(word: str) -> str:
        return "".join(c for c in word.casefold() if c.isalnum())

    meant = flat(text)
    same = [k for k in known if flat(k) == meant]
    begins = [k for k in known if meant and flat(k).startswith(meant)]
    found = same or (begins if len(begins) == 1 else [])
    if not found:
        raise InputError(field, text, "one of " + ", ".join(k for k in known if k))
    return found[0]


def _read(owner: Any, row: Row, names: tuple[str, ...], system: System) -> dict[str, Any]:
    """The typed fields of a row as values; an empty cell leaves what was."""
    return {
        name: read_field(owner, name, row[name], name, system)
        for name in names
        if row.get(name, "").strip()
    }


def _measured(item: Any, values: dict[str, Any]) -> Any:
    """What was typed counts as measured, as it does in a field of its own."""
    item = replace(item, **values)
    for name in values:
        if name in BANDS:
            item = with_fact(item, Fact(name, "measured"))
    return item


def _add_mount(job: Job, _plate: str, row: Row, system: System) -> tuple[Job, str]:
    number = row.get("number", "").strip()
    fresh = next((m for m in job.bike.mounts if number and str(m.number) == number), None)
    if fresh is None:
        job = add_item(job, "bike.mounts").job
        fresh = job.bike.mounts[-1]
        if number:
            fresh = replace(fresh, number=read_field(Mount, "number", number, "number", system))
    kind = fresh.kind
    if row.get("kind", "").strip():
        kind = _one_of(row["kind"], get_args(MountKind), "kind")
    thread = _one_of(row.get("thread", "").strip() or fresh.thread, tuple(THREADS), "thread")
    mount = with_kind(fresh, kind, thread)
    if row.get("material", "").strip():
        mount = replace(
            mount, material=_one_of(row["material"], tuple(THREAD_MATERIALS), "material")
        )
    typed = ("name", "x_mm", "y_mm", "z_mm", "manual_torque_nm")
    mount = _measured(mount, _read(Mount, row, typed, system))
    place = f"{place_words(mount.x_mm, mount.y_mm)}, z {entered(mount.z_mm, 'mm')}"
    words = f"{mount.number} · {mount.name} · {place} · {mount.thread} in {mount.material}"
    return set_item(job, "bike.mounts", mount, words).job, words


def _add_part(job: Job, _plate: str, row: Row, system: System) -> tuple[Job, str]:
    job = add_item(job, "bike.parts").job
    part = job.bike.parts[-1]
    worded: dict[str, Any] = {}
    for field, hint in (("kind", PartKind), ("shape", PartShape)):
        if row.get(field, "").strip():
            worded[field] = _one_of(row[field], get_args(hint), field)
    typed = ("name", *(f"{axis}_{end}_mm" for axis in "xyz" for end in ("min", "max")))
    part = _measured(replace(part, **worded), _read(Part, row, typed, system))
    words = f"{part.name} · {part.kind} · {part.shape}"
    return set_item(job, "bike.parts", part, words).job, words


def _add_opening(job: Job, plate: str, row: Row, system: System) -> tuple[Job, str]:
    sheet = job.as_entered(plate).plate
    fresh = new_cutout(sheet, row.get("panel", "").strip() and _panel(sheet, row["panel"]))
    worded: dict[str, Any] = {}
    if row.get("purpose", "").strip():
        worded["purpose"] = _one_of(row["purpose"], get_args(Purpose), "purpose")
    typed = _read(Cutout, row, ("u_mm", "v_mm", "width_mm", "height_mm", "door_screws"), system)
    high = typed.get("height_mm", typed.get("width_mm", fresh.width_mm))
    typed["height_mm"] = high
    shapes = ("round", "slot", "rectangle")
    if row.get("shape", "").strip():
        worded["shape"] = _one_of(row["shape"], shapes, "shape")
    else:
        worded["shape"] = "round" if high == typed.get("width_mm", high) else "rectangle"
    cutout = replace(fresh, **worded, **typed)
    if cutout.door_screws:
        cutout = replace(cutout, closed_door=True)
    size = entered(cutout.width_mm, "mm")
    if cutout.shape != "round":
        size += f" × {entered(cutout.height_mm, 'mm')}"
    at = f"{entered(cutout.u_mm, 'mm')}, {entered(cutout.v_mm, 'mm')}"
    words = f"{cutout.purpose} · {cutout.shape} {size} on the {cutout.panel} at {at}"
    return add_cutout(job, plate, cutout).job, words


def _panel(sheet: Plate, text: str) -> str:
    known: list[str] = ["belly"]
    known += [
        name
        for name, there in (
            ("apron", sheet.apron),
            ("wing left", sheet.wing_left),
            ("wing right", sheet.wing_right),
            ("tail", sheet.tail),
        )
        if there is not None
    ]
    return _one_of(text, (*known, *(name for p in sheet.pieces for name in p.panel_names)), "panel")


def _add_layer(job: Job, plate: str, row: Row, system: System) -> tuple[Job, str]:
    joints = job.as_entered(plate).joints
    number = row.get("joint", "").strip()
    joint = next((j for j in joints if str(j.number) == number), None)
    if joint is None:
        raise InputError("joint", number, "one of " + ", ".join(str(j.number) for j in joints))
    kind = _one_of(row.get("kind", ""), get_args(LayerKind), "kind")
    material = _one_of(
        row.get("material", "").strip() or "steel", tuple(LAYER_MATERIALS), "material"
    )
    typed = _read(Layer, row, ("thickness_mm", "outer_mm", "hole_mm", "tol_mm"), system)
    after = ""
    if row.get("after", "").strip():
        names = {layer.name: layer.key for layer in joint.layers} | {UNDER_HEAD: UNDER_HEAD}
        after = names[_one_of(row["after"], tuple(names), "after")]
    asked = NewLayer(kind, material, typed.pop("thickness_mm"), after)
    job = add_layer(job, plate, joint.key, asked).job
    path = f"{plate_path(job, plate)}.joints.{joint.key}.layers"
    before = {layer.key for layer in joint.layers}
    now = next(j for j in job.as_entered(plate).joints if j.key == joint.key)
    layer = replace(next(x for x in now.layers if x.key not in before), **typed)
    words = f"joint {joint.number} · {layer.kind} {entered(layer.thickness_mm, 'mm')} · {material}"
    return set_item(job, path, layer, words).job, words


_ADD: dict[str, Callable[[Job, str, Row, System], tuple[Job, str]]] = {
    "mounts": _add_mount,
    "parts": _add_part,
    "openings": _add_opening,
    "layers": _add_layer,
}


@dataclass(frozen=True)
class RowSaid:
    """What a row became, in words, or why it did not."""

    words: str
    trouble: str = ""


def read_rows(
    job: Job, where: str, plate: str, rows: tuple[Row, ...], system: System = "metric"
) -> tuple[Job, tuple[RowSaid, ...]]:
    """The job with every row that is understood, and what became of each.

    Raises InputError for a table that is not known or has too many rows.
    """
    choose("where", where, TABLES, "table")
    if len(rows) > MAX_ROWS:
        raise InputError("rows", len(rows), f"at most {MAX_ROWS} rows")
    table, said = TABLES[where], []
    for row in rows:
        try:
            for name in table.needed:
                if not row.get(name, "").strip():
                    raise InputError(name, "", "a value", "nothing was entered")
            job, words = _ADD[where](job, plate, row, system)
            said.append(RowSaid(words))
        except InputError as error:
            field = error.field.removesuffix("_mm").replace("_", " ")
            said.append(RowSaid("", f"{field}: {error.message}. Allowed: {error.allowed}"))
    return job, tuple(said)


def add_rows(
    job: Job, where: str, plate: str, rows: tuple[Row, ...], system: System = "metric"
) -> Change:
    """Every row of a table that is understood, as one change. Raises InputError for none."""
    changed, said = read_rows(job, where, plate, rows, system)
    good = sum(1 for row in said if not row.trouble)
    if not good:
        raise InputError("rows", "", "at least one row that is understood", "no row was read")
    noun = TABLES[where].noun
    return Change(changed, f"{good} {noun}{'s' if good > 1 else ''} added")
