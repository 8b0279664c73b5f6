"""A flat pan on four stiff mounts, as the strike tests take it."""

from __future__ import annotations

from rugged_shield.core.shell.solve import ShellMount
from rugged_shield.core.survey.plate import Belly, Plate

PLATE = Plate(
    key="pan",
    name="flat pan",
    role="candidate",
    material="aluminium 5052-H32",
    thickness_mm=4.0,
    form="flat",
    mounting="frame",
    belly=Belly(
        start_x_mm=500,
        length_mm=320,
        front_width_mm=240,
        rear_width_mm=240,
        z_front_mm=280,
        z_rear_mm=280,
    ),
)
CORNERS = ((520, -100), (520, 100), (800, -100), (800, 100))
MOUNTS = tuple(
    ShellMount(f"m{i}", (x, y, 280.0), (9000.0, 9000.0, 20_000.0), 1e6)
    for i, (x, y) in enumerate(CORNERS)
)
