"""Commands: a side guard or a piece of the stock plate goes on with another plate."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import TypeVar

from rugged_shield.core.errors import choose
from rugged_shield.core.job.edits.keys import free_key
from rugged_shield.core.job.edits.path import Change
from rugged_shield.core.job.edits.plates import unweighed, with_plate_of
from rugged_shield.core.job.model import Job
from rugged_shield.core.survey.geometry import fold
from rugged_shield.core.survey.plate import Cutout, Piece, Plate, Trim, Wing

_OnPanel = TypeVar("_OnPanel", Cutout, Trim)
_WINGS = ("wing left", "wing right")


def _wing(stock: Plate, name: str) -> Wing | None:
    """A side guard that can come off: with screws of its own, on a belly as wide all along.

    A piece stands along the bike: what is screwed to a belly that tapers stands askew to it.
    """
    wing = stock.wing_left if name == "wing left" else stock.wing_right
    belly = stock.belly
    is_straight = math.isclose(belly.front_width_mm, belly.rear_width_mm)
    return wing if wing is not None and wing.own_screws and is_straight else None


def reusable(job: Job) -> dict[str, str]:
    """What of the stock plate can go on with another one, by key with its name."""
    stock = job.stock.plate
    wings = {name: f"{name} of the stock plate" for name in _WINGS if _wing(stock, name)}
    return wings | {p.key: f"{p.name} of the stock plate" for p in stock.pieces}


def _as_piece(stock: Plate, name: str, wing: Wing) -> Piece:
    """A side guard as a piece where it stands: along its edge, turned by its dihedral."""
    panel = next(p for p in fold(stock).panels if p.name == name)
    x, y, z = panel.to_bike((0.0, wing.slant_height_mm / 2))
    way = 1.0 if name == "wing right" else -1.0
    return Piece(
        key=name.replace(" ", "-"),
        name=f"side guard {name.split()[1]}",
        order=1,
        x_mm=x,
        y_mm=y,
        z_mm=z,
        length_mm=wing.length_mm,
        front_width_mm=wing.slant_height_mm,
        rear_width_mm=wing.slant_height_mm,
        pitch_deg=math.degrees(math.asin(panel.u[2])),
        roll_deg=way * wing.dihedral_deg,
        own_screws=wing.own_screws,
    )


def _moved(item: _OnPanel, wing: Wing | None, way: float) -> _OnPanel:
    """An opening or a cut of a side guard in its piece's u, v: v to the right, from its middle."""
    if wing is None:
        return item
    half = wing.slant_height_mm / 2
    if isinstance(item, Trim):
        return replace(item, points_mm=tuple((u, way * (v - half)) for u, v in item.points_mm))
    return replace(
        item,
        v_mm=way * (item.v_mm - half),
        points_mm=tuple((a, way * b) for a, b in item.points_mm),
    )


def reuse_from_stock(job: Job, key: str, item: str) -> Change:
    """A piece or a screwed-on side guard of the stock plate becomes a piece of this one.

    It brings its material, thickness, screws, openings and what was cut off it. Raises InputError
    for anything else.
    """
    choose("item", item, reusable(job), "piece or screwed-on side guard of the stock plate")
    stock, plate = job.stock.plate, job.as_entered(key).plate
    wing = _wing(stock, item) if item in _WINGS else None
    way = -1.0 if item == "wing left" else 1.0
    own = next((p for p in stock.pieces if p.key == item), None)
    piece = own if own is not None else _as_piece(stock, item, wing) if wing else None
    assert piece is not None
    panel = next(p for p in fold(stock).panels if p.name == item)
    taken = {c.key for c in plate.cutouts} | {p.key for p in plate.pieces}
    taken |= {t.key for t in plate.trims}
    new = free_key(f"stock-{piece.key}"[:50], taken)
    piece = replace(
        piece,
        key=new,
        order=plate.next_turn,
        material=panel.material,
        thickness_mm=panel.thickness_mm,
    )
    panels = dict(zip(own.panel_names if own else (item,), piece.panel_names, strict=True))

    def brought(items: tuple[_OnPanel, ...]) -> tuple[_OnPanel, ...]:
        """What of the stock plate's openings or cuts lies on it, under keys of this plate."""
        out = []
        for one in items:
            if one.panel in panels:
                name = free_key(f"{new}-{one.key}"[:58], taken)
                taken.add(name)
                out.append(replace(_moved(one, wing, way), key=name, panel=panels[one.panel]))
        return tuple(out)

    changed = replace(
        plate,
        pieces=(*plate.pieces, piece),
        cutouts=(*plate.cutouts, *brought(stock.cutouts)),
        trims=(*plate.trims, *brought(stock.trims)),
    )
    words = f"{plate.name}: {piece.name} of the stock plate"
    if plate.claimed_mass_kg is not None or plate.weighed_mass_kg is not None:
        changed = unweighed(changed, plate)
        words += "; its mass is computed from here on, for neither claim nor scale had that with it"
    return Change(with_plate_of(job, key, changed), words)
