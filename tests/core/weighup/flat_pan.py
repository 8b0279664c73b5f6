"""A flat pan on four stiff mounts, as the strike tests take it."""

from __future__ import annotations

from rugged_shield.core.shell import ShellMount
from rugged_shield.core.survey import Belly, Plate

PLATE = Plate(
    "pan", "flat pan", "candidate", "aluminium 5052-H32", 4.0, "flat", "frame",
    Belly(500, 320, 240, 240, 280, 280),
)  # fmt: skip
CORNERS = ((520, -100), (520, 100), (800, -100), (800, 100))
MOUNTS = tuple(
    ShellMount(f"m{i}", (x, y, 280.0), (9000.0, 9000.0, 20_000.0), 1e6)
    for i, (x, y) in enumerate(CORNERS)
)
