"""Nuts beyond the first thread as joints of their own, so that the same rules judge them."""

from __future__ import annotations

from dataclasses import replace

from rugged_shield.core.fitup.engagement import Engagement
from rugged_shield.core.fitup.joint import Joint, female_of
from rugged_shield.core.fitup.layer import Layer
from rugged_shield.core.fitup.presets import nut_female, standard_washer
from rugged_shield.core.mechanics import threads
from rugged_shield.core.mechanics.female import Female
from rugged_shield.core.survey.bike import Mount
from rugged_shield.core.tables.thread_materials import THREAD_MATERIALS

THICKEST_MM = 120.0
"""A threaded part that is thicker leaves no screw of any standard an end."""
UNSUREST_MM = 5.0
"""A part whose height is known no better leaves no window of lengths."""
_SHARE_OUTER = 2.2
"""Outer size of a threaded part over its thread: wide enough for the face of any nut."""


def _height_mm(female: Female) -> float:
    return female.overall_height_mm or female.thread_end_mm


def _can_be_layer(female: Female) -> bool:
    return _height_mm(female) <= THICKEST_MM and female.overall_height_tol_mm <= UNSUREST_MM


def _wall(key: str, name: str, female: Female, metal: str, d_mm: float) -> Layer:
    """A part that the screw is threaded through, as a layer for what comes behind it."""
    return Layer(
        key=key,
        kind="bracket",
        name=name,
        material="steel" if metal == "steel" else "cast aluminium",
        thickness_mm=_height_mm(female),
        tol_mm=female.overall_height_tol_mm,
        outer_mm=_SHARE_OUTER * d_mm,
        hole_mm=d_mm,
    )


def _between(joint: Joint, far: Engagement) -> tuple[Layer, ...]:
    """What lies between the thread before and a far nut."""
    d_mm = threads.row_of(joint.thread).d_mm
    layers = []
    if far.between_mm > 0:
        layers.append(
            Layer(
                key=f"{far.key}-between",
                kind="panel",
                name=far.between or "what lies between",
                material=far.between_material,
                thickness_mm=far.between_mm,
                tol_mm=far.between_tol_mm,
                outer_mm=3.0 * d_mm,
                hole_mm=d_mm + 1.0,
            )
        )
    if far.washer:
        layers.append(standard_washer(joint.thread, key=f"{far.key}-washer"))
    return tuple(layers)


def _free_mm(
    female: Female, between: tuple[Layer, ...], far: Engagement, nut: Female
) -> float | None:
    """Space beyond a far nut: as measured, else what the part before leaves; None: no bound."""
    if far.free_space_mm is not None or female.free_space_mm is None:
        return far.free_space_mm
    taken = sum(layer.thickness_mm for layer in between) + (nut.overall_height_mm or 0.0)
    return max(0.0, female.free_space_mm - taken)


def far_joints(joint: Joint, mount: Mount | None) -> tuple[tuple[Engagement, Joint, Joint], ...]:
    """Each far nut with two joints: the whole screw down to it, and what it clamps by itself.

    The whole decides lengths; what it clamps decides its torque. Nothing lies beyond a blind
    thread, nor beyond a part too thick or too unsure to be a layer: there are none then.
    """
    female, material = female_of(joint, mount)
    if not joint.beyond or not female.is_through or not _can_be_layer(female):
        return ()
    d_mm = threads.row_of(joint.thread).d_mm
    name = "nut" if joint.nut else "threaded part"
    wall = _wall("first-thread", name, female, THREAD_MATERIALS[material].metal, d_mm)
    layers, found = joint.layers, []
    for far in joint.beyond:
        between = _between(joint, far)
        nut = nut_female(far.nut, joint.thread, None)
        free = _free_mm(female, between, far, nut)
        nut = replace(nut, free_space_mm=free)
        bare = replace(
            joint,
            name=far.name,
            mount="",
            nut=far.nut,
            turned="nut",
            female=nut,
            female_material="S235 steel",
            thread_owner="kit",
            treatment=far.treatment,
            sheet_torque_nm=far.torque_nm,
            chosen_torque_nm=None,
            manual_torque_nm=None,
            countersink=None,
            proposed=False,
            beyond=(),
        )
        whole = replace(bare, layers=(*layers, wall, *between), countersink=joint.countersink)
        own = replace(bare, layers=(wall, *between))
        if joint.is_stud:  # between two nuts the first is the head
            own = replace(own, head=threads.hexagon_of(joint.thread))
        found.append((far, whole, own))
        layers, female = whole.layers, nut
        wall = _wall(f"{far.key}-nut", far.name, nut, "steel", d_mm)
    return tuple(found)
