"""How much of a screw's preload is left when its joint has settled: embedding, coating, creep."""

from __future__ import annotations

import math
from dataclasses import dataclass
from itertools import pairwise
from typing import Annotated, Literal

from rugged_shield.core.amounts import amount, entered
from rugged_shield.core.computation import computation
from rugged_shield.core.errors import InputError, choose
from rugged_shield.core.mechanics import threads
from rugged_shield.core.quantity import Range, Ranged, check_order
from rugged_shield.core.result import Input, Outcome, Source
from rugged_shield.core.tables.heads import HEADS

LOSS_SOURCE = Source("VDI 2230-1:2015, 5.1.1, 5.1.2 and 5.4.2 with table 5", "high")
CREEP_SOURCE = Source(
    "creep modulus after a thousand hours over the short one: HDPE 0.35, UHMW 0.25", "low"
)
EMBEDDING_UM: dict[tuple[str, str], tuple[float, float, float]] = {
    ("axial", "fine"): (3.0, 2.5, 1.5),
    ("axial", "medium"): (3.0, 3.0, 2.0),
    ("axial", "coarse"): (3.0, 4.0, 3.0),
    ("shear", "fine"): (3.0, 3.0, 2.0),
    ("shear", "medium"): (3.0, 4.5, 2.5),
    ("shear", "coarse"): (3.0, 6.5, 3.5),
}
"""µm in the thread, under each bearing face, in each inner interface (VDI 2230-1, table 5)."""
MAX_LAYERS = 30
HEAD_FORMS = ("socket", "other", *dict.fromkeys(family.form for family in HEADS.values()))
"""Words for a head: a hexagon is stiffer by its height, the others count alike."""
_HEXAGON_D, _OTHER_HEAD_D = 0.5, 0.4
_ENGAGED_D, _NUT_D, _TAPPED_D = 0.5, 0.4, 0.33

Modulus = Annotated[float, Range(1.0, 400_000.0, "MPa")]


@dataclass(frozen=True, kw_only=True)
class PressedLayer(Ranged):
    """A clamped layer: sizes mm, modulus MPa; ``creep_factor`` 1 where it does not creep."""

    thickness_mm: Annotated[float, Range(0.05, 200.0, "mm")]
    outer_mm: Annotated[float, Range(3.0, 500.0, "mm")]
    hole_mm: Annotated[float, Range(2.0, 100.0, "mm")]
    e_mpa: Modulus
    creep_factor: Annotated[float, Range(0.02, 1.0)] = 1.0

    def __post_init__(self) -> None:
        super().__post_init__()
        ring = ("hole_mm", self.hole_mm), ("outer_mm", self.outer_mm)
        check_order(*ring, "mm", "the hole would be as wide as the layer")


@dataclass(frozen=True, kw_only=True)
class PreloadLossInput(Ranged):
    """A screw, its layers from the head on, what it threads into, how rough the faces are.

    ``shank_mm`` is the part of the grip without thread; ``extra_loss_um`` what a coating gives.
    """

    thread: str
    layers: tuple[PressedLayer, ...]
    female: Literal["tapped", "nut"]
    bearing_diameter_mm: Annotated[float, Range(2.0, 100.0, "mm")]
    preload_n: Annotated[float, Range(1.0, 300_000.0, "N")]
    head: str = "socket"
    female_e_mpa: Modulus = 205_000.0
    bolt_e_mpa: Modulus = 205_000.0
    shank_mm: Annotated[float, Range(0.0, 500.0, "mm")] = 0.0
    loading: Literal["axial", "shear"] = "axial"
    roughness: Literal["fine", "medium", "coarse"] = "medium"
    extra_loss_um: Annotated[float, Range(0.0, 500.0)] = 0.0

    def __post_init__(self) -> None:
        super().__post_init__()
        threads.row_of(self.thread)
        choose("head", self.head, HEAD_FORMS, "form of a head")
        if not 1 <= len(self.layers) <= MAX_LAYERS:
            raise InputError("layers", len(self.layers), f"1 to {MAX_LAYERS} layers")
        grip = sum(layer.thickness_mm for layer in self.layers)
        if self.shank_mm > grip:
            raise InputError(
                "shank_mm", entered(self.shank_mm, "mm"), f"at most the grip of {grip:g} mm"
            )
        if self.layers[0].hole_mm >= self.bearing_diameter_mm:
            raise InputError(
                "layers.0.hole_mm",
                entered(self.layers[0].hole_mm, "mm"),
                f"less than the bearing face of {entered(self.bearing_diameter_mm, 'mm')}",
                "the head falls through this hole",
            )


@dataclass(frozen=True, kw_only=True)
class PreloadLossResult:
    """Compliances mm/N, embedding µm, what it costs N, what is left after it and after creep."""

    delta_s_mm_per_n: float
    delta_p_mm_per_n: float
    f_z_um: float
    embed_loss_n: float
    left_after_embedding_n: float
    left_after_creep_n: float
    share_left: float


def _screw_compliance(given: PreloadLossInput) -> float:
    """δ_S, mm/N: head, shank, free thread, engaged thread, and what it threads into."""
    d = threads.row_of(given.thread).d_mm
    core = math.pi / 4 * threads.geometry_of(given.thread).d3_mm ** 2
    nominal = math.pi / 4 * d**2
    grip = sum(layer.thickness_mm for layer in given.layers)
    e = given.bolt_e_mpa
    parts = [
        (_HEXAGON_D if given.head == "hexagon" else _OTHER_HEAD_D) * d / (e * nominal),
        given.shank_mm / (e * nominal),
        (grip - given.shank_mm) / (e * core),
        _ENGAGED_D * d / (e * core),
    ]
    if given.female == "nut":
        parts.append(_NUT_D * d / (e * nominal))
    else:
        parts.append(_TAPPED_D * d / (given.female_e_mpa * nominal))
    return sum(parts)


def _cone_tangent(given: PreloadLossInput, grip: float) -> float:
    """tan φ of the pressure cone (VDI 2230-1, equations 45 and 46)."""
    bearing = given.bearing_diameter_mm
    beta = grip / bearing
    y = max(1.0, max(layer.outer_mm for layer in given.layers) / bearing)
    if given.female == "nut":
        tangent = 0.362 + 0.032 * math.log(beta / 2) + 0.153 * math.log(y)
    else:
        tangent = 0.348 + 0.013 * math.log(beta) + 0.193 * math.log(y)
    return max(tangent, 0.0)


def _ring_integral(start: float, end: float, slope: float, hole: float, length: float) -> float:
    """∫ dx / (D² − h²) while D grows from ``start`` to ``end`` over ``length``, 1/mm."""
    if abs(end - start) < 1e-12 or slope == 0.0:
        return length / (start**2 - hole**2)

    def root(d: float) -> float:
        return math.log((d - hole) / (d + hole)) / (2 * hole)

    return abs(root(end) - root(start)) / slope


def _stretches(given: PreloadLossInput, low: float, high: float, grip: float) -> list[float]:
    """A layer's ends and the middle of the grip, where the cone of a nut turns."""
    middle = grip / 2
    return [low, middle, high] if given.female == "nut" and low < middle < high else [low, high]


def _layer_compliances(given: PreloadLossInput) -> tuple[float, ...]:
    """δ of each layer, mm/N: the cone from the bearing face, never wider than the layer."""
    grip = sum(layer.thickness_mm for layer in given.layers)
    slope = 2 * _cone_tangent(given, grip)
    out, at = [], 0.0
    for layer in given.layers:
        total = 0.0
        for a, b in pairwise(_stretches(given, at, at + layer.thickness_mm, grip)):
            depths = (a, b)
            if given.female == "nut" and (a + b) / 2 > grip / 2:
                depths = (grip - b, grip - a)
            total += _cone_part(given, layer, depths, slope)
        out.append(4 * total / (math.pi * layer.e_mpa))
        at += layer.thickness_mm
    return tuple(out)


def _cone_part(
    given: PreloadLossInput, layer: PressedLayer, depths: tuple[float, float], slope: float
) -> float:
    near, far = depths
    start, end = (given.bearing_diameter_mm + slope * depth for depth in depths)
    if start <= layer.hole_mm:
        raise InputError(
            "layers.hole_mm",
            entered(layer.hole_mm, "mm"),
            f"less than the {entered(start, 'mm')} over which the head presses there",
            "the pressure cone ends in this hole",
        )
    if start >= layer.outer_mm or slope == 0.0:
        width = min(start, layer.outer_mm)
        return (far - near) / (width**2 - layer.hole_mm**2)
    if end <= layer.outer_mm:
        return _ring_integral(start, end, slope, layer.hole_mm, far - near)
    meets = near + (layer.outer_mm - start) / slope
    cone = _ring_integral(start, layer.outer_mm, slope, layer.hole_mm, meets - near)
    return cone + (far - meets) / (layer.outer_mm**2 - layer.hole_mm**2)


def _embedding_um(given: PreloadLossInput) -> float:
    thread, bearing, inner = EMBEDDING_UM[given.loading, given.roughness]
    n = len(given.layers)
    if given.female == "nut":
        return thread + 2 * bearing + (n - 1) * inner + given.extra_loss_um
    return thread + bearing + n * inner + given.extra_loss_um


@computation("preload-loss", page="preload-loss", check="preload-loss-01")
def preload_loss(given: PreloadLossInput) -> Outcome[PreloadLossResult]:
    """Preload left after faces have embedded, and after plastic has crept at held deformation.

    Raises InputError where the bearing face does not cover a layer's hole. Nothing below zero is
    left: a joint that loses all of it is loose, and says so.
    """
    screw = _screw_compliance(given)
    layers = _layer_compliances(given)
    pressed = sum(layers)
    settled = _embedding_um(given)
    loss = settled * 1e-3 / (screw + pressed)
    embedded = max(0.0, given.preload_n - loss)
    crept = sum(part / layer.creep_factor for part, layer in zip(layers, given.layers, strict=True))
    left = embedded * (screw + pressed) / (screw + crept)
    creeps = any(layer.creep_factor < 1.0 for layer in given.layers)
    warnings = ("All of the preload is lost: the joint is loose.",) if embedded <= 0.0 else ()
    return Outcome(
        result=PreloadLossResult(
            delta_s_mm_per_n=screw,
            delta_p_mm_per_n=pressed,
            f_z_um=settled,
            embed_loss_n=loss,
            left_after_embedding_n=embedded,
            left_after_creep_n=left,
            share_left=left / given.preload_n,
        ),
        inputs=(
            Input("Preload", given.preload_n, "N"),
            Input("Bearing face", given.bearing_diameter_mm, "mm"),
            Input("Layers", len(given.layers)),
        ),
        reasons=(
            f"Faces embed by {settled:g} µm, which costs {amount(loss, 'N')}.",
            "A short stiff screw loses more of its preload to the same embedding.",
        ),
        assumptions=("Plastic gives as after a thousand hours, its deformation held.",)
        if creeps
        else (),
        warnings=warnings,
        sources=(LOSS_SOURCE, CREEP_SOURCE) if creeps else (LOSS_SOURCE,),
    )
