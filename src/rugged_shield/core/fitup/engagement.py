"""A further thread on the same screw: a nut beyond the part that the screw is threaded through."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

from rugged_shield.core.amounts import entered
from rugged_shield.core.errors import InputError, choose
from rugged_shield.core.hashing import remember_hash
from rugged_shield.core.mechanics import threads
from rugged_shield.core.quantity import Range, Ranged
from rugged_shield.core.tables.friction import CONDITIONS
from rugged_shield.core.tables.hardware import NUTS, WASHERS
from rugged_shield.core.tables.materials import LAYER_MATERIALS

Nut = Literal["", "ISO 4032", "ISO 7040", "ISO 7042", "ASME B18.2.2"]
MAX_BEYOND = 3
LEAST_LAYER_MM = 0.1


@remember_hash
@dataclass(frozen=True, kw_only=True)
class Engagement(Ranged):
    """A nut on the screw's end, beyond the thread before it; lengths mm, torque N·m.

    Between the two lie a washer (``washer``) and whatever ``between`` names, such as a second
    plate. ``treatment`` is its own: locker in the frame and anti-seize here go together.
    ``free_space_mm`` is measured beyond the nut; None: what the mount leaves.
    """

    key: str
    name: str = "far nut"
    nut: Nut = "ISO 4032"
    treatment: str = "dry zinc"
    washer: bool = True
    between: str = ""
    between_mm: Annotated[float, Range(0.0, 60.0, "mm")] = 0.0
    between_tol_mm: Annotated[float, Range(0.0, 5.0, "mm")] = 0.1
    between_material: str = "steel"
    torque_nm: Annotated[float | None, Range(0.5, 300.0, "N·m")] = None
    free_space_mm: Annotated[float | None, Range(0.0, 500.0, "mm")] = None

    def __post_init__(self) -> None:
        super().__post_init__()
        choose("treatment", self.treatment, CONDITIONS, "treatment")
        choose("between_material", self.between_material, LAYER_MATERIALS, "layer material")
        if not self.nut:
            raise InputError("nut", "none", "a nut of a standard", "a far nut is a nut")
        if 0.0 < self.between_mm < LEAST_LAYER_MM:
            raise InputError(
                "between_mm",
                entered(self.between_mm, "mm"),
                f"nothing, or at least {entered(LEAST_LAYER_MM, 'mm')}",
            )

    def check_size(self, thread: str) -> None:
        """Raise InputError where the nut's or the washer's standard has none for a thread."""
        size = threads.nominal_size(thread)
        if size not in NUTS[self.nut]:
            sizes = ", ".join(NUTS[self.nut])
            raise InputError(
                f"beyond.{self.key}.nut", f"{self.nut}, {thread}", f"for {self.nut}: {sizes}"
            )
        standard = threads.washer_standard(thread)
        if self.washer and size not in WASHERS[standard]:
            raise InputError(
                f"beyond.{self.key}.washer",
                thread,
                f"no washer, or one of {standard}: {', '.join(WASHERS[standard])}",
            )
