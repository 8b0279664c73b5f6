"""What is left of a joint's preload when it has settled: the torque card's least, less the loss."""

from __future__ import annotations

from dataclasses import replace
from functools import lru_cache

from rugged_shield.core.amounts import amount, percent
from rugged_shield.core.errors import InputError
from rugged_shield.core.figures import figure, figure_of
from rugged_shield.core.fitup.joint import Joint, clamped, female_of
from rugged_shield.core.fitup.layer import Layer
from rugged_shield.core.fitup.presets import standard_washer
from rugged_shield.core.fitup.seat import seat_of
from rugged_shield.core.mechanics import threads
from rugged_shield.core.result import Figure, Outcome
from rugged_shield.core.survey.bike import Mount
from rugged_shield.core.tables.heads import HEADS
from rugged_shield.core.tables.materials import SHEET_MATERIALS
from rugged_shield.core.tables.thread_materials import THREAD_MATERIALS
from rugged_shield.core.tighten.preload_loss import (
    PreloadLossInput,
    PreloadLossResult,
    PressedLayer,
    preload_loss,
)
from rugged_shield.core.tighten.turn_angle import stretch_deg

E_OF_METAL_MPA = {
    "steel": 205_000.0,
    "stainless": 193_000.0,
    "aluminium": 70_000.0,
    "magnesium": 45_000.0,
}
E_LOOSE_MPA = {"steel": 205_000.0, "cast aluminium": 72_000.0}
CREEP = {"HDPE": 0.35, "UHMW-PE": 0.25}
"""Creep modulus after a thousand hours over the short one; of other plastics it is not known."""
_LABEL = "Left when it has settled"


def _pressed(layer: Layer) -> PressedLayer | None:
    """The layer for the sum; None where its modulus or creep is not known."""
    sheet = SHEET_MATERIALS.get(layer.material)
    e_mpa = sheet.youngs_modulus_gpa * 1000.0 if sheet else E_LOOSE_MPA.get(layer.material)
    creep = CREEP.get(layer.material) if layer.is_plastic else 1.0
    if e_mpa is None or creep is None:
        return None
    return PressedLayer(
        thickness_mm=layer.thickness_mm,
        outer_mm=layer.outer_mm,
        hole_mm=layer.hole_mm,
        e_mpa=e_mpa,
        creep_factor=creep,
    )


def _not_known(words: str) -> Figure:
    return figure("settled", _LABEL, None, "N", text=f"not known: {words}")


def _loss(joint: Joint, mount: Mount | None, preload_n: float) -> Outcome[PreloadLossResult] | str:
    """What is left of a preload, or in words what of the joint is not known."""
    stack = clamped(joint)[::-1] if joint.is_stud else clamped(joint)
    layers = [(layer, _pressed(layer)) for layer in stack]
    unknown = [layer.name for layer, pressed in layers if pressed is None]
    if unknown:
        return f"how {', '.join(unknown)} gives"
    seat = seat_of(joint, mount)
    material = (seat.material or "S235 steel") if seat else female_of(joint, mount)[1]
    metal, tapped = THREAD_MATERIALS[material].metal, seat is not None or not joint.nut
    if metal not in E_OF_METAL_MPA and tapped:
        return f"how {material} gives"
    head = threads.head_of(joint.head, joint.thread)
    try:
        return preload_loss(
            PreloadLossInput(
                thread=joint.thread,
                layers=tuple(pressed for _, pressed in layers if pressed is not None),
                female="tapped" if tapped else "nut",
                female_e_mpa=E_OF_METAL_MPA.get(metal, E_OF_METAL_MPA["steel"]),
                bearing_diameter_mm=head.bearing_diameter_mm,
                preload_n=preload_n,
                head=HEADS[joint.head].form,
            )
        )
    except InputError as error:
        return error.message


@lru_cache(maxsize=2048)
def settled_figure(joint: Joint, mount: Mount | None, preload_n: float) -> Figure:
    """Preload left after embedding and creep, N, from the least that the target torque gives."""
    found = _loss(joint, mount, preload_n)
    if isinstance(found, str):
        return _not_known(found)
    share = round(100.0 * found.result.share_left)
    return figure_of(
        found,
        "settled",
        _LABEL,
        found.result.left_after_creep_n,
        "N",
        reasons=(f"{share} % of the least preload: the first re-check is due for the rest.",),
    )


def turn_from_snug_deg(joint: Joint, mount: Mount | None, preload_n: float) -> float | None:
    """Angle from snug to a preload on this joint, its faces closed; None where it is not known."""
    found = _loss(joint, mount, preload_n)
    if isinstance(found, str):
        return None
    return stretch_deg(joint.thread, preload_n, found.result)


HELPS_SHARE = 0.03
"""A cure is named where it leaves so much more of the preload."""
UNDER_HEAD_MM = 10.0
"""Length of a spacer sleeve that makes a short stiff screw longer and softer, mm."""


def _with_sleeve(joint: Joint) -> Joint:
    """A steel sleeve through each plastic sheet, as long as that is thick."""
    d_mm = threads.row_of(joint.thread).d_mm
    sleeves = tuple(
        replace(
            layer,
            kind="spacer",
            material="steel",
            outer_mm=max(1.75 * d_mm, layer.hole_mm + 3.0),
        )
        if layer.is_plastic
        else layer
        for layer in clamped(joint)
    )
    return replace(joint, layers=sleeves)


def _on_top(joint: Joint, layer: Layer) -> Joint:
    return replace(joint, layers=(layer, *clamped(joint)), countersink=None)


def _cures(joint: Joint) -> list[tuple[str, Joint]]:
    """What could keep more of the preload, in words, with the joint as it then is."""
    found = []
    if any(layer.is_plastic for layer in clamped(joint)):
        found.append(("a steel sleeve through the plastic", _with_sleeve(joint)))
    if joint.is_countersunk or joint.is_stud:
        return found
    first = joint.present()[0]
    if first.kind != "washer":
        large = standard_washer(joint.thread, large=True, key="cure-washer")
        found.append(("a large washer under the head", _on_top(joint, large)))
    if joint.clamps_plate:
        # under a plate a head that stands lower costs clearance and is struck first
        return found
    d_mm = threads.row_of(joint.thread).d_mm
    spacer = Layer(
        key="cure-sleeve",
        kind="spacer",
        name="sleeve",
        material="steel",
        thickness_mm=UNDER_HEAD_MM,
        outer_mm=1.9 * d_mm,
        hole_mm=d_mm + 0.5,
    )
    long = amount(UNDER_HEAD_MM, "mm", 0)
    words = f"a sleeve of {long} under the head and a screw longer by as much"
    return [*found, (words, _on_top(joint, spacer))]


@lru_cache(maxsize=2048)
def settling_cures(joint: Joint, mount: Mount | None, preload_n: float) -> tuple[str, ...]:
    """Sleeves and washers that keep more of the preload, best first, with what they leave.

    Empty where nothing helps by ``HELPS_SHARE``, or where what is left is not known.
    """
    now = _loss(joint, mount, preload_n)
    if isinstance(now, str):
        return ()
    helped = []
    for words, cured in _cures(joint):
        then = _loss(cured, mount, preload_n)
        if isinstance(then, str) or then.result.share_left - now.result.share_left < HELPS_SHARE:
            continue
        helped.append((then.result.share_left, words))
    helped.sort(key=lambda cure: -cure[0])
    before = percent(now.result.share_left)
    return tuple(f"With {words}: {percent(share)} left, {before} now." for share, words in helped)
