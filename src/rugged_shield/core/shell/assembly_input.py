"""A bash plate as an assembly: sheets, brackets, what joins them, what holds them, what pushes."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Annotated

from shapely import Polygon

from rugged_shield.core.errors import InputError
from rugged_shield.core.mechanics.frames import Vec2, Vec3
from rugged_shield.core.quantity import Range, Ranged
from rugged_shield.core.shell.beams import BeamPart
from rugged_shield.core.shell.mesh import ShellPanel

PLATE = "plate"
MAX_BODIES = 40
MAX_JOINTS = 120
MAX_NODES = 20_000


@dataclass(frozen=True, kw_only=True)
class AssemblySheet(Ranged):
    """A further sheet: a sub-plate, a side guard, a skid."""

    name: str
    panels: tuple[ShellPanel, ...]
    thickness_mm: Annotated[float, Range(0.5, 25.0, "mm")]
    youngs_modulus_mpa: Annotated[float, Range(100.0, 300_000.0, "MPa")]
    poisson: Annotated[float, Range(0.0, 0.49)]


@dataclass(frozen=True)
class AssemblyJoint:
    """A joint, rigid in six freedoms between two bodies: ``plate``, ``sheet:NAME`` or a part."""

    name: str
    a: str
    b: str
    at_mm: Vec3


@dataclass(frozen=True)
class AssemblyMount:
    """What holds a body on the bike: springs along x, y, z and, unless None, about them."""

    name: str
    on: str
    at_mm: Vec3
    stiffness_n_per_mm: Vec3
    turning_n_mm_per_rad: Vec3 | None = None

    def __post_init__(self) -> None:
        springs = [("stiffness_n_per_mm", 1e8, self.stiffness_n_per_mm)]
        if self.turning_n_mm_per_rad is not None:
            springs.append(("turning_n_mm_per_rad", 1e10, self.turning_n_mm_per_rad))
        for name, most, values in springs:
            for i, k in enumerate(values):
                if not 0 <= k <= most:
                    raise InputError(f"mounts.{self.name}.{name}.{i}", k, f"from 0 to {most:g}")


@dataclass(frozen=True)
class AssemblyLoad:
    """A force at one place of a panel along its outward normal, away from the ground."""

    panel: str
    at_mm: Vec2
    force_n: float

    def __post_init__(self) -> None:
        if not (math.isfinite(self.force_n) and abs(self.force_n) <= 1e6):
            raise InputError("loads.force_n", self.force_n, "from -1e6 to 1e6 N")


@dataclass(frozen=True, kw_only=True)
class AssemblyInput(Ranged):
    """The plate's panels and sheet, further sheets, parts, joints, mounts, loads one by one."""

    panels: tuple[ShellPanel, ...]
    thickness_mm: Annotated[float, Range(0.5, 25.0, "mm")]
    youngs_modulus_mpa: Annotated[float, Range(100.0, 300_000.0, "MPa")]
    poisson: Annotated[float, Range(0.0, 0.49)]
    mounts: tuple[AssemblyMount, ...]
    loads: tuple[AssemblyLoad, ...]
    sheets: tuple[AssemblySheet, ...] = ()
    parts: tuple[BeamPart, ...] = ()
    joints: tuple[AssemblyJoint, ...] = ()
    mesh_mm: Annotated[float, Range(4.0, 60.0, "mm")] = 12.0

    def __post_init__(self) -> None:
        super().__post_init__()
        bodies = self.bodies()
        _once("panels", [p.name for s in self.all_sheets() for p in s.panels])
        _once("parts", list(bodies))
        for name, many, most in (
            ("parts", len(bodies), MAX_BODIES),
            ("joints", len(self.joints), MAX_JOINTS),
            ("mounts", len(self.mounts), MAX_JOINTS),
            ("loads", len(self.loads), MAX_JOINTS),
        ):
            if many > most:
                raise InputError(name, many, f"at most {most}")
        _once("joints", [j.name for j in self.joints])
        _once("mounts", [m.name for m in self.mounts])
        for joint in self.joints:
            for end, body in (("a", joint.a), ("b", joint.b)):
                if body not in bodies:
                    raise InputError(f"joints.{joint.name}.{end}", body, _one_of(bodies))
            if joint.a == joint.b:
                raise InputError(f"joints.{joint.name}.b", joint.b, "another body than a")
        for mount in self.mounts:
            if mount.on not in bodies:
                raise InputError(f"mounts.{mount.name}.on", mount.on, _one_of(bodies))
        sheets = self.all_sheets()
        area = sum(abs(Polygon(p.outline_mm).area) for s in sheets for p in s.panels)
        if area / self.mesh_mm**2 > MAX_NODES:
            raise InputError("mesh_mm", self.mesh_mm, f"a mesh of at most {MAX_NODES} nodes")

    def all_sheets(self) -> tuple[AssemblySheet, ...]:
        """The plate as a sheet beside the further ones; its name is that of its body."""
        plate = AssemblySheet(
            name=PLATE,
            panels=self.panels,
            thickness_mm=self.thickness_mm,
            youngs_modulus_mpa=self.youngs_modulus_mpa,
            poisson=self.poisson,
        )
        return (plate, *self.sheets)

    def bodies(self) -> tuple[str, ...]:
        """Names by which joints and mounts call what they hold."""
        further = (f"sheet:{s.name}" for s in self.sheets)
        return (PLATE, *further, *(p.name for p in self.parts))


def _once(name: str, found: list[str]) -> None:
    for one in found:
        if not one or found.count(one) > 1:
            raise InputError(name, one, "every name once")


def _one_of(bodies: tuple[str, ...]) -> str:
    return "one of " + ", ".join(bodies)
