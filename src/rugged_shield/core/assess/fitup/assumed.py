"""Joints that a plate which is only being compared is taken to hang on, before anybody enters any.

Where the stock plate hangs, with its stack; without one, on the bike's mounts with what closes.
Everything about them is assumed, and said to be.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from functools import lru_cache

from rugged_shield.core.fitup.joint import Joint
from rugged_shield.core.fitup.layer import Layer
from rugged_shield.core.fitup.presets import PresetRequest, joint_from_preset
from rugged_shield.core.job.model import Candidate, Job, place_of
from rugged_shield.core.survey.bike import Bike
from rugged_shield.core.survey.geometry import fold, sheet_normal_point
from rugged_shield.core.survey.plate import Plate

LEAST_SPACER_MM = 0.5
"""Less than this closes by itself."""


def _assumed(layer: Layer) -> Layer:
    return layer if layer.clamps_plate else replace(layer, known="assumed")


def _as_stock(bike: Bike, stock: Candidate, plate: Plate) -> Iterator[Joint]:
    """The stock plate's joints that reach this one's sheet, with their stacks."""
    drawn = fold(plate)
    for joint in stock.joints:
        if not joint.hangs_plate or joint.mount == "":
            continue
        place = place_of(bike, joint)
        if place is not None and sheet_normal_point(drawn, *place) is not None:
            yield replace(
                joint,
                layers=tuple(_assumed(layer) for layer in joint.layers),
                length_mm=None,
                drawn_stack_mm=None,
                sheet_torque_nm=None,
                known="assumed",
            )


def _on_mounts(bike: Bike, plate: Plate) -> Iterator[Joint]:
    """A screw on every mount that the sheet reaches, with a spacer where there is air."""
    drawn = fold(plate)
    for mount in bike.mounts:
        place = sheet_normal_point(drawn, mount.x_mm, mount.y_mm)
        if place is None:
            continue
        start = joint_from_preset(
            PresetRequest(
                preset="tapped boss",
                key=f"assumed-{mount.key}",
                number=mount.number,
                thread=mount.thread,
                plate_thickness_mm=plate.thickness_mm,
                plate_material=plate.material,
                x_mm=mount.x_mm,
                y_mm=mount.y_mm,
                stage="front",
            )
        )
        air = mount.z_mm - place[0][2] - plate.thickness_mm
        layers = start.layers
        if air > LEAST_SPACER_MM:
            base = layers[0]
            spacer = replace(
                base, key="spacer", kind="spacer", name="spacer", thickness_mm=min(air, 120.0)
            )
            layers = (*layers, spacer)
        yield replace(
            start,
            name=mount.name,
            mount=mount.key,
            layers=layers,
            female=None,
            female_material="",
            female_known="printed",
            x_mm=None,
            y_mm=None,
        )


@lru_cache(maxsize=256)
def _with_assumed(bike: Bike, stock: Candidate, candidate: Candidate) -> Candidate:
    joints = tuple(_as_stock(bike, stock, candidate.plate))
    joints = joints or tuple(_on_mounts(bike, candidate.plate))
    return replace(candidate, joints=joints)


def compared(job: Job, key: str) -> Candidate:
    """A plate as it is compared: with its own joints, else with those that it is taken to have.

    The plate that is picked, and stock, are judged by what was entered of them.
    """
    own = job.candidate(key)
    if own.joints or key in (job.picked, job.stock.key):
        return own
    return _with_assumed(job.bike, job.candidate(job.stock.key), own)


def has_assumed_joints(job: Job, key: str) -> bool:
    """Whether a plate is compared on joints that nobody entered."""
    return not job.candidate(key).joints and bool(compared(job, key).joints)
