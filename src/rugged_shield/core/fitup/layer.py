"""A clamped layer of a joint: washer, plate, piece, bracket, sleeve, with its sizes and nature."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Annotated, Literal

from rugged_shield.core.errors import choose
from rugged_shield.core.hashing import remember_hash
from rugged_shield.core.judgement.known import Known
from rugged_shield.core.quantity import Range, Ranged, check_order
from rugged_shield.core.survey.conditions import check_condition
from rugged_shield.core.tables.materials import LAYER_MATERIALS

LayerKind = Literal[
    "washer",
    "cup washer",
    "plate",
    "sleeve",
    "spacer",
    "bracket",
    "isolator",
    "shim",
    "pad",
    "clip leaf",
    "panel",
    "peg",
    "strip",
]

LOOSE_KINDS: tuple[LayerKind, ...] = ("washer", "cup washer", "spacer", "sleeve", "shim")
"""What lies loose between sheet and bike, and comes in a bag."""


@remember_hash
@dataclass(frozen=True, kw_only=True)
class Layer(Ranged):
    """One clamped layer, from the head on; sizes mm. ``plate`` layers follow the plate.

    ``span_mm`` is the free length of a bracket or sacrificial strip that can bend under a
    strike, ``outer_mm`` its width; None: it does not bend. ``runs_deg``: which way it runs from
    the screw, from straight ahead over the rider's right; None: not said.
    ``when`` is the condition it is there under; empty: always. ``piece``: key of the further piece
    of the plate that this layer is, whose thickness and material it follows. ``known``: how its
    thickness is known; what the program puts there is assumed.
    """

    key: str
    kind: LayerKind
    name: str
    material: str
    thickness_mm: Annotated[float, Range(0.1, 120.0, "mm")]
    tol_mm: Annotated[float, Range(0.0, 5.0, "mm")] = 0.1
    outer_mm: Annotated[float, Range(4.0, 120.0, "mm")] = 20.0
    hole_mm: Annotated[float, Range(3.0, 60.0, "mm")] = 9.0
    left_out: bool = False
    when: str = ""
    span_mm: Annotated[float | None, Range(10.0, 300.0, "mm")] = None
    runs_deg: Annotated[float | None, Range(-180.0, 180.0, "°")] = None
    piece: str = ""
    known: Known = "printed"

    def __post_init__(self) -> None:
        super().__post_init__()
        check_condition(self.when)
        choose("material", self.material, LAYER_MATERIALS, "layer material")
        ring = ("hole_mm", self.hole_mm), ("outer_mm", self.outer_mm)
        check_order(*ring, "mm", f"the hole in {self.name} would be as wide as it is")

    @property
    def clamps_plate(self) -> bool:
        """Whether the plate's own sheet is held by this layer: it, or the sleeve through it."""
        return self.kind in ("plate", "sleeve") and not self.piece

    @property
    def is_soft(self) -> bool:
        """Whether it gives under the clamp: an isolator, or anything of rubber."""
        return self.kind == "isolator" or LAYER_MATERIALS[self.material].rubber

    @property
    def is_plastic(self) -> bool:
        """Whether it creeps under the clamp."""
        return LAYER_MATERIALS[self.material].plastic

    @property
    def can_bend(self) -> bool:
        """Whether it is a strip or bracket with a free length that bends under a strike."""
        return self.span_mm is not None and self.kind in ("strip", "bracket")

    @property
    def mass_kg(self) -> float:
        """Mass of the ring; sheet and bike parts are weighed elsewhere."""
        if self.kind in ("plate", "panel", "peg", "clip leaf") or self.left_out:
            return 0.0
        density = LAYER_MATERIALS[self.material].density_kg_m3
        if self.span_mm is not None:
            return self.outer_mm * self.span_mm * self.thickness_mm * density * 1e-9
        ring = math.pi / 4 * (self.outer_mm**2 - self.hole_mm**2) * self.thickness_mm
        return ring * density * 1e-9
