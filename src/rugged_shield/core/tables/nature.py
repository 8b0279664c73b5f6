"""What a material is, as columns of every table of materials: no name is ever searched for it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

Metal = Literal["", "aluminium", "steel", "stainless", "magnesium", "zinc"]


@dataclass(frozen=True, kw_only=True)
class Nature:
    """The metal at the surface (none for plastic and rubber), and whether it is cast, and so on."""

    metal: Metal = ""
    cast: bool = False
    rubber: bool = False
    plastic: bool = False
