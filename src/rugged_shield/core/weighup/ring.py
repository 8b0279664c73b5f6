"""Noise: how long a sheet rings after a stone has hit it. An index for comparing plates."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

from rugged_shield.core.computation import computation
from rugged_shield.core.errors import InputError, choose
from rugged_shield.core.quantity import Range, Ranged
from rugged_shield.core.result import Input, Outcome, Source
from rugged_shield.core.tables.materials import SHEET_MATERIALS

RING_SOURCE = Source(
    "T60 = 2.2/(f·η), Cremer & Heckl 1988; free damping layer, Oberst 1952; joints 0.005 and "
    "rubber mounts 0.03, typical",
    "low",
)
RING_HZ = 500.0
BOLTED_LOSS = 0.005
RUBBER_LOSS = 0.03
RINGS_ON_S, DULL_S = 0.5, 0.1
Sounds = Literal["dull", "short", "rings on"]
CLASS_S: dict[Sounds, float] = {"dull": 0.05, "short": 0.25, "rings on": 0.8}
"""What each class stands for where plates are ranked, s."""
Thickness = Annotated[float, Range(0.5, 25.0, "mm")]


@dataclass(frozen=True)
class RingInput(Ranged):
    """A sheet, the plastic layer on it if any (bonded or screwed), and whether rubber holds it."""

    material: str
    thickness_mm: Thickness
    slider_material: str = ""
    slider_thickness_mm: Annotated[float | None, Range(1.0, 25.0, "mm")] = None
    slider_bonded: bool = False
    on_rubber: bool = False

    def __post_init__(self) -> None:
        super().__post_init__()
        choose("material", self.material, SHEET_MATERIALS, "sheet material")
        if self.slider_material:
            choose("slider_material", self.slider_material, SHEET_MATERIALS, "sheet material")
            if self.slider_thickness_mm is None:
                raise InputError("slider_thickness_mm", None, "a thickness from 1 to 25 mm")


@dataclass(frozen=True)
class RingResult:
    """Loss factor of the sheet as it hangs, and the time its ring takes to fall by 60 dB, s.

    ``sounds``: the class that an ear tells apart; seconds within one are not a difference.
    """

    loss_factor: float
    ring_s: float
    sounds: Sounds


def sounds_of(ring_s: float) -> Sounds:
    """The class of a ring time, s."""
    if ring_s >= RINGS_ON_S:
        return "rings on"
    return "short" if ring_s >= DULL_S else "dull"


def layer_loss(given: RingInput) -> float:
    """Loss factor that a free plastic layer adds to the sheet (Oberst 1952).

    η = η₂·e·h(3 + 6h + 4h²) / (1 + e·h(5 + 6h + 4h²)), e = E₂/E₁, h = t₂/t₁. A layer that
    is only screwed on follows the bending at its screws: half of it counts.
    """
    if not given.slider_material or given.slider_thickness_mm is None:
        return 0.0
    sheet, layer = SHEET_MATERIALS[given.material], SHEET_MATERIALS[given.slider_material]
    e = layer.youngs_modulus_gpa / sheet.youngs_modulus_gpa
    h = given.slider_thickness_mm / given.thickness_mm
    whole = (
        layer.loss_factor * e * h * (3 + 6 * h + 4 * h * h) / (1 + e * h * (5 + 6 * h + 4 * h * h))
    )
    return whole if given.slider_bonded else whole / 2


@computation(
    "ring",
    page="ownership",
    check="test_a_bonded_layer_damps_as_a_complex_strip_does",
)
def ring(given: RingInput) -> Outcome[RingResult]:
    """Ring time of a struck sheet at 500 Hz, s."""
    sheet = SHEET_MATERIALS[given.material]
    layer = layer_loss(given)
    loss = sheet.loss_factor + BOLTED_LOSS + layer + (RUBBER_LOSS if given.on_rubber else 0.0)
    ring_s = 2.2 / (RING_HZ * loss)
    return Outcome(
        result=RingResult(loss, ring_s, sounds_of(ring_s)),
        inputs=(
            Input("Material", given.material),
            Input("Its loss factor", sheet.loss_factor),
            Input("From its screws", BOLTED_LOSS),
            Input("From the plastic layer", round(layer, 4)),
            Input("From rubber mounts", RUBBER_LOSS if given.on_rubber else 0.0),
            Input("Pitch it is taken at", RING_HZ, "Hz"),
        ),
        reasons=("Time for the ring to fall by 60 dB: 2.2 over pitch times loss factor.",),
        assumptions=(
            "How long it rings, not how loud a stone is.",
            f"A class: from {RINGS_ON_S:g} s it rings on, under {DULL_S:g} s it is dull. The "
            "screws damp a bare metal sheet more than the metal does, so that bare sheets hardly "
            "differ.",
        ),
        sources=(RING_SOURCE, sheet.source),
    )
