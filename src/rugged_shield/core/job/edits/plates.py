"""Plates of a job: new ones from a sheet, panels on and off, a traced outline taken in."""

from __future__ import annotations

from dataclasses import replace

from rugged_shield.core.errors import InputError, choose
from rugged_shield.core.job.edits.keys import Spent, free_key
from rugged_shield.core.job.edits.path import Change
from rugged_shield.core.job.model import MAX_PLATES, Candidate, Job
from rugged_shield.core.survey.mass import PlateMassInput, plate_mass
from rugged_shield.core.survey.plate import Apron, Belly, Cutout, Piece, Plate, Tail, Wing
from rugged_shield.core.survey.plate_shapes import belly_over

OPTIONAL: dict[str, str] = {
    "apron": "an apron",
    "tail": "a tail",
    "wing left": "a wing left",
    "wing right": "a wing right",
    "slider": "a slider",
}
"""Panels that a plate can be given or taken, in words."""


def plate_path(job: Job, key: str) -> str:
    """Where a candidate stands in the job."""
    return "stock" if key == job.stock.key else f"candidates.{job.as_entered(key).key}"


def with_plate_of(job: Job, key: str, plate: Plate) -> Job:
    """The job with one plate exchanged, its joints and hardware as they were."""
    return job.with_candidate(replace(job.as_entered(key), plate=plate))


def new_plate(job: Job, name: str, spent: Spent) -> Change:
    """A flat aluminium plate as large as the stock one, all of it still to be entered."""
    if not name.strip():
        raise InputError("name", name, "a name", "the plate needs a name")
    if len(job.candidates) >= MAX_PLATES:
        raise InputError("candidates", len(job.candidates), f"at most {MAX_PLATES} plates")
    base = job.stock.plate.belly
    belly = replace(base, points_mm=())
    key = free_key("own", {*spent, job.stock.key, *(c.key for c in job.candidates)})
    plate = Plate(
        key=key,
        name=" ".join(name.split())[:120],
        role="candidate",
        material="aluminium 5052-H32",
        thickness_mm=4.0,
        form="pressed",
        mounting="frame",
        belly=belly,
        known="assumed",
    )
    candidates = (*job.candidates, Candidate(plate=plate, joints=()))
    return Change(replace(job, candidates=candidates, weighing=key), f"plate “{plate.name}” added")


def plate_to_fit(job: Job, name: str, spent: Spent) -> Change:
    """A plate that is there already, of which nothing was measured: it reaches over all mounts."""
    change = new_plate(job, name, spent)
    plate = change.job.in_hand.plate
    reaching = replace(plate, belly=belly_over(job.bike, job.stock.plate))
    return Change(with_plate_of(change.job, plate.key, reaching), change.words)


def copy_plate(job: Job, key: str, spent: Spent) -> Change:
    """A copy of a plate with its joints and hardware, to try something on."""
    original = job.as_entered(key)
    own = free_key(f"{key}-copy", {*spent, job.stock.key, *(c.key for c in job.candidates)})
    plate = replace(original.plate, key=own, name=f"{original.plate.name}, copy", role="candidate")
    candidates = (*job.candidates, replace(original, plate=plate))
    return Change(replace(job, candidates=candidates, weighing=own), f"{plate.name} made")


def add_shelved_plate(job: Job, shelved: Candidate, spent: Spent) -> Change:
    """A plate from the shelf; joints on mounts that this bike does not have stay behind."""
    own = free_key(shelved.key, {*spent, job.stock.key, *(c.key for c in job.candidates)})
    kept = []
    for joint in shelved.joints:
        mount = job.bike.mount(joint.mount)
        if joint.female is not None or (mount is not None and mount.thread == joint.thread):
            kept.append(joint)
    plate = replace(shelved.plate, key=own, role="candidate")
    left = len(shelved.joints) - len(kept)
    keys = {joint.key for joint in kept}
    candidate = replace(
        shelved,
        plate=plate,
        joints=tuple(kept),
        substitutes=tuple(s for s in shelved.substitutes if s.joint in keys),
        order=tuple(k for k in shelved.order if k in keys),
        starts=tuple(k for k in shelved.starts if k in keys),
        gaps=(),
    )
    words = f"{plate.name} taken from the shelf"
    if left:
        words += f"; {left} joints left out, their mounts are not on this bike"
    return Change(replace(job, candidates=(*job.candidates, candidate), weighing=own), words)


def remove_plate(job: Job, key: str) -> Change:
    """Take a candidate out with its counts and weighings; never stock or the picked one."""
    candidate = job.as_entered(key)
    if key == job.stock.key:
        raise InputError(
            "plate", key, "a candidate", "the stock plate stays: all is held against it"
        )
    if key == job.picked:
        raise InputError(
            "plate",
            key,
            "a plate that is not picked",
            "this plate is picked",
            "Take the pick back in Weigh-up first.",
        )
    return Change(
        replace(
            job,
            candidates=tuple(c for c in job.candidates if c.key != key),
            weighing="" if job.weighing == key else job.weighing,
            counts=tuple(c for c in job.counts if c.plate != key),
            weighings=tuple(w for w in job.weighings if key not in (w.plate, w.against)),
        ),
        f"{candidate.plate.name} taken out",
    )


def _start(plate: Plate, panel: str) -> dict[str, object]:
    b = plate.belly
    if panel == "apron":
        return {"apron": Apron(150.0, 45.0, max(60.0, b.front_width_mm - 40))}
    if panel == "tail":
        return {"tail": Tail(100.0, max(60.0, b.rear_width_mm / 2), 10.0)}
    if panel == "slider":
        return {"slider_material": "HDPE", "slider_thickness_mm": 6.0}
    wing = Wing(b.length_mm * 0.2, b.length_mm * 0.6, 80.0, 60.0)
    return {panel.replace("wing ", "wing_"): wing}


def set_panel(job: Job, key: str, panel: str, there: bool) -> Change:
    """Give a plate a panel or slider to start from, or take it off with its cutouts."""
    choose("panel", panel, OPTIONAL, "panel to add")
    plate = job.as_entered(key).plate
    if there:
        changed = replace(plate, **_start(plate, panel))  # type: ignore[arg-type]
        return Change(with_plate_of(job, key, changed), f"{plate.name}: {panel} added")
    if panel == "slider":
        changed = replace(plate, slider_material="", slider_thickness_mm=None)
    else:
        left = tuple(c for c in plate.cutouts if c.panel != panel)
        gone: dict[str, object] = {panel.replace(" ", "_"): None}
        changed = replace(plate, cutouts=left, **gone)  # type: ignore[arg-type]
    return Change(with_plate_of(job, key, changed), f"{plate.name}: {panel} taken off")


def unweighed(changed: Plate, was: Plate) -> Plate:
    """A changed plate by its geometry, from where scale and sheet left it.

    They spoke of the plate that was: what it weighs over what is computed for it stays.
    """
    mass = plate_mass(PlateMassInput(plate=was)).result
    return replace(
        changed,
        claimed_mass_kg=None,
        weighed_mass_kg=None,
        mass_ratio=was.mass_ratio * mass.held_mass_kg / mass.mass_kg,
    )


def add_cutout(job: Job, key: str, cutout: Cutout) -> Change:
    """A cutout onto a plate, or in place of the one with its key."""
    plate = job.as_entered(key).plate
    others = tuple(c for c in plate.cutouts if c.key != cutout.key)
    changed = replace(plate, cutouts=(*others, cutout))
    return Change(with_plate_of(job, key, changed), f"{plate.name}: cutout {cutout.key}")


def add_piece(job: Job, key: str, piece: Piece) -> Change:
    """A further piece onto a plate."""
    plate = job.as_entered(key).plate
    others = tuple(p for p in plate.pieces if p.key != piece.key)
    changed = replace(plate, pieces=(*others, piece))
    return Change(with_plate_of(job, key, changed), f"{plate.name}: {piece.name}")


def remove_from_plate(job: Job, key: str, item: str) -> Change:
    """Take a cutout, or a piece with its cutouts, off a plate."""
    plate = job.as_entered(key).plate
    known = [c.key for c in plate.cutouts] + [p.key for p in plate.pieces]
    choose("item", item, known, "cutout or piece of this plate")
    gone = {name for p in plate.pieces if p.key == item for name in p.panel_names}
    changed = replace(
        plate,
        cutouts=tuple(c for c in plate.cutouts if c.key != item and c.panel not in gone),
        pieces=tuple(p for p in plate.pieces if p.key != item),
        trims=tuple(t for t in plate.trims if t.panel not in gone),
    )
    return Change(with_plate_of(job, key, changed), f"{plate.name}: {item} taken out")


def traced_belly(
    job: Job, key: str, outline: tuple[tuple[float, float], ...], holes: tuple[Cutout, ...]
) -> Change:
    """A traced outline as the plate's belly: no folds, the holes as its cutouts."""
    plate = job.as_entered(key).plate
    us, vs = [p[0] for p in outline], [p[1] for p in outline]
    length, width = max(us) - min(us), max(vs) - min(vs)
    old = plate.belly
    belly = Belly(
        start_x_mm=old.start_x_mm,
        length_mm=length,
        front_width_mm=width,
        rear_width_mm=width,
        z_front_mm=old.z_front_mm,
        z_rear_mm=old.z_front_mm,
        points_mm=outline,
    )
    changed = replace(
        plate,
        belly=belly,
        apron=None,
        tail=None,
        wing_left=None,
        wing_right=None,
        cutouts=holes,
    )
    words = f"{plate.name}: traced outline with {len(holes)} holes"
    return Change(with_plate_of(job, key, changed), words)


def traced_piece(
    job: Job, key: str, outline: tuple[tuple[float, float], ...], holes: tuple[Cutout, ...]
) -> Change:
    """A traced outline as a further piece; its holes get keys of their own."""
    plate = job.as_entered(key).plate
    taken = {c.key for c in plate.cutouts} | {p.key for p in plate.pieces}
    own = free_key("traced", taken)
    us, vs = [p[0] for p in outline], [p[1] for p in outline]
    length, width = max(us) - min(us), max(vs) - min(vs)
    b = plate.belly
    order = plate.next_turn
    piece = Piece(
        key=own,
        name="traced piece",
        order=order,
        x_mm=b.start_x_mm + b.length_mm,
        y_mm=0.0,
        z_mm=b.z_rear_mm,
        length_mm=length,
        front_width_mm=width,
        rear_width_mm=width,
        points_mm=outline,
    )
    named = tuple(replace(h, key=f"{own}-{h.key}", panel=own) for h in holes)
    changed = replace(plate, pieces=(*plate.pieces, piece), cutouts=(*plate.cutouts, *named))
    words = f"{plate.name}: traced piece with {len(holes)} holes"
    return Change(with_plate_of(job, key, changed), words)


def new_cutout(plate: Plate, panel: str) -> Cutout:
    """A round hole in the middle of a panel to start from."""
    key = free_key("hole", {c.key for c in plate.cutouts} | {p.key for p in plate.pieces})
    u = plate.belly.length_mm / 2 if panel in ("belly", "") else 40.0
    v = 25.0 if panel.startswith("wing") else 0.0
    return Cutout(
        key=key,
        panel=panel or "belly",
        shape="round",
        purpose="drain",
        u_mm=u,
        v_mm=v,
        width_mm=40.0,
        height_mm=40.0,
    )


def new_piece(plate: Plate) -> Piece:
    """A small sheet behind the belly, overlapping it from below, to start from."""
    key = free_key("piece", {c.key for c in plate.cutouts} | {p.key for p in plate.pieces})
    b = plate.belly
    order = plate.next_turn
    return Piece(
        key=key,
        name=f"piece {order}",
        order=order,
        x_mm=b.start_x_mm + b.length_mm - 20,
        y_mm=0.0,
        z_mm=b.z_rear_mm - 2 * plate.thickness_mm,
        length_mm=120.0,
        front_width_mm=min(120.0, b.rear_width_mm),
        rear_width_mm=min(100.0, b.rear_width_mm),
    )
