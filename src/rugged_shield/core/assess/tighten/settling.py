"""What is left of a joint's preload when it has settled: the torque card's least, less the loss."""

from __future__ import annotations

from functools import lru_cache

from rugged_shield.core.errors import InputError
from rugged_shield.core.figures import figure, figure_of
from rugged_shield.core.fitup import Joint, Layer, clamped, female_of
from rugged_shield.core.mechanics import threads
from rugged_shield.core.result import Figure
from rugged_shield.core.survey import Mount
from rugged_shield.core.tables.heads import HEADS
from rugged_shield.core.tables.materials import SHEET_MATERIALS
from rugged_shield.core.tables.thread_materials import THREAD_MATERIALS
from rugged_shield.core.tighten import PreloadLossInput, PressedLayer, preload_loss

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


@lru_cache(maxsize=2048)
def settled_figure(joint: Joint, mount: Mount | None, preload_n: float) -> Figure:
    """Preload left after embedding and creep, N, from the least that the target torque gives."""
    layers = [(layer, _pressed(layer)) for layer in clamped(joint)]
    unknown = [layer.name for layer, pressed in layers if pressed is None]
    if unknown:
        return _not_known(f"how {', '.join(unknown)} gives")
    _, material = female_of(joint, mount)
    metal = THREAD_MATERIALS[material].metal
    if metal not in E_OF_METAL_MPA and not joint.nut:
        return _not_known(f"how {material} gives")
    head = threads.head_of(joint.head, joint.thread)
    try:
        given = PreloadLossInput(
            thread=joint.thread,
            layers=tuple(pressed for _, pressed in layers if pressed is not None),
            female="nut" if joint.nut else "tapped",
            female_e_mpa=E_OF_METAL_MPA.get(metal, E_OF_METAL_MPA["steel"]),
            bearing_diameter_mm=head.bearing_diameter_mm,
            preload_n=preload_n,
            head=HEADS[joint.head].form,
        )
        found = preload_loss(given)
    except InputError as error:
        return _not_known(error.message)
    share = round(100.0 * found.result.share_left)
    return figure_of(
        found,
        "settled",
        _LABEL,
        found.result.left_after_creep_n,
        "N",
        reasons=(f"{share} % of the least preload: the first re-check is due for the rest.",),
    )
