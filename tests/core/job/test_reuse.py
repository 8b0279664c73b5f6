"""A side guard of the stock plate on another plate: it stands, weighs and is open as it was."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from rugged_shield.core.errors import InputError
from rugged_shield.core.job.edits.reuse import reusable, reuse_from_stock
from rugged_shield.core.job.model import Job
from rugged_shield.core.survey.geometry import fold
from rugged_shield.core.survey.mass import PlateMassInput, plate_mass
from rugged_shield.core.survey.plate import Cutout, Trim, Wing
from rugged_shield.core.tables.materials import SHEET_MATERIALS


def guarded(job: Job, front: float = 220.0, rear: float = 220.0) -> Job:
    """The stock plate with a side guard of three screws on either side, one hole in each."""
    plate = job.stock.plate
    belly = replace(
        plate.belly, front_width_mm=front, rear_width_mm=rear, z_rear_mm=plate.belly.z_front_mm + 14
    )
    wing = Wing(20.0, 140.0, 60.0, 50.0, own_screws=3)
    holes = tuple(
        Cutout(
            key=f"hole-{side}", panel=f"wing {side}", shape="round", purpose="vent",
            u_mm=40.0, v_mm=15.0, width_mm=12.0, height_mm=12.0,
        )
        for side in ("left", "right")
    )  # fmt: skip
    stock = replace(
        plate, belly=belly, apron=None, tail=None, wing_left=wing, wing_right=wing, cutouts=holes
    )
    cut = tuple(
        Trim(
            key=f"cut-{side}",
            panel=f"wing {side}",
            points_mm=((110, 40), (160, 40), (160, 80), (110, 80)),
        )
        for side in ("left", "right")
    )
    return replace(job, stock=replace(job.stock, plate=replace(stock, trims=cut)))


@pytest.mark.parametrize("side", ["left", "right"])
def test_a_side_guard_stands_where_it_stood(choosing: Job, side: str) -> None:
    job = guarded(choosing)
    key = job.candidates[0].key
    there = reuse_from_stock(job, key, f"wing {side}").job
    [was] = [p for p in fold(job.stock.plate).panels if p.name == f"wing {side}"]
    [now] = [p for p in fold(there.as_entered(key).plate).panels if p.piece]
    corners = [np.array(sorted(p.corners())) for p in (was, now)]
    assert corners[0] == pytest.approx(corners[1], abs=1e-6)
    assert now.material == job.stock.plate.material
    assert now.thickness_mm == job.stock.plate.thickness_mm
    middles = []
    for panel in (was, now):
        [(_, hole)] = panel.openings
        middles.append(panel.to_bike((hole.centroid.x, hole.centroid.y)))
    assert middles[0] == pytest.approx(middles[1], abs=1e-6)
    piece = there.as_entered(key).plate.pieces[0]
    assert piece.own_screws == 3
    density = SHEET_MATERIALS[now.material].density_kg_m3 * 1e-9
    more = fold(there.as_entered(key).plate).sheet_mass_kg
    more -= fold(job.as_entered(key).plate).sheet_mass_kg
    assert more == pytest.approx(density * now.thickness_mm * now.net().area)


def test_a_piece_of_the_stock_plate_goes_over_with_its_openings(choosing: Job) -> None:
    job = guarded(choosing)
    key = job.candidates[0].key
    first = reuse_from_stock(job, key, "wing left").job
    own = replace(first.as_entered(key).plate, key=first.stock.plate.key, role="stock")
    stocked = replace(first, stock=replace(first.stock, plate=own))
    other = job.candidates[1].key
    twice = reuse_from_stock(stocked, other, "stock-wing-left").job
    twice = reuse_from_stock(twice, other, "stock-wing-left").job
    pieces = twice.as_entered(other).plate.pieces
    assert len({p.key for p in pieces}) == 2
    assert [p.order for p in pieces] == sorted({p.order for p in pieces})
    panels = [c.panel for c in twice.as_entered(other).plate.cutouts]
    assert all(panels.count(p.key) == 1 for p in pieces)


def test_what_cannot_go_over_is_not_offered(choosing: Job) -> None:
    """A wing of the same sheet stays; one on a belly that tapers stands askew to the bike."""
    assert set(reusable(guarded(choosing))) == {"wing left", "wing right"}
    assert reusable(guarded(choosing, front=240.0)) == {}
    with pytest.raises(InputError, match="stock plate"):
        reuse_from_stock(guarded(choosing, front=240.0), choosing.candidates[0].key, "wing left")


@pytest.mark.parametrize("known", ["claimed_mass_kg", "weighed_mass_kg"])
def test_what_scale_or_sheet_said_was_of_the_plate_without_it(choosing: Job, known: str) -> None:
    """The guard adds its own mass, by as much as the plate is off what is computed for it."""
    job = guarded(choosing)
    own = job.candidates[0]
    plate = replace(own.plate, claimed_mass_kg=None, weighed_mass_kg=None)
    computed = plate_mass(PlateMassInput(plate=plate)).result.mass_kg
    plate = replace(plate, **{known: 1.1 * computed})  # type: ignore[arg-type]
    job = job.with_candidate(replace(own, plate=plate))
    made = reuse_from_stock(job, own.key, "wing left")
    now = made.job.as_entered(own.key).plate
    more = fold(now).sheet_mass_kg - fold(plate).sheet_mass_kg
    held = plate_mass(PlateMassInput(plate=now)).result.held_mass_kg
    assert held == pytest.approx(1.1 * (computed + more))
    assert "computed from here" in made.words
