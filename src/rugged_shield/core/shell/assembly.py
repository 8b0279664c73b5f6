"""What a bash plate that hangs on brackets, sub-plates and further sheets does to a force.

Sheets condensed to discs and points, brackets as beams, joints rigid between them, mounts as
springs: linear, small deflection.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from rugged_shield.core.computation import computation
from rugged_shield.core.mechanics.frames import Vec3
from rugged_shield.core.result import Input, Outcome, Source
from rugged_shield.core.shell.assembly_input import AssemblyInput, AssemblyMount
from rugged_shield.core.shell.assembly_model import AssemblyModel, springs_of
from rugged_shield.core.shell.elements import Array
from rugged_shield.core.shell.superelement import DISC_RADIUS_MM

ASSEMBLY_SOURCE = Source(
    "sheets as in shell-response, condensed (Guyan 1965); beams of Timoshenko (Przemieniecki "
    "1968); held against five assemblies of an independent finite element model",
    "high",
)


@dataclass(frozen=True)
class Acting:
    """A force N and a moment N·mm about the place of the joint or mount."""

    force_n: Vec3
    moment_n_mm: Vec3


@dataclass(frozen=True, kw_only=True)
class AssemblyResponse:
    """One load's answer: deflection along it, what is put on each mount, from a on b in each
    joint, and the greatest normal stress in each part."""

    deflection_mm: float
    mounts: dict[str, Acting]
    joints: dict[str, Acting]
    part_stress_mpa: dict[str, float]


@dataclass(frozen=True)
class AssemblyResult:
    """Every load's answer in their order, and the size of the model."""

    loads: tuple[AssemblyResponse, ...]
    nodes: int
    triangles: int


@computation("assembly-response", page="assembly", check="sub_plate_four_bosses")
def assembly_response(given: AssemblyInput) -> Outcome[AssemblyResult]:
    """Deflection under each load, and the force and moment on every mount and in every joint."""
    model = AssemblyModel(given)
    shifts, carried = model.solve()
    loads = tuple(_response(model, i, shifts[:, i], carried[:, i]) for i in range(len(given.loads)))
    return Outcome(
        result=AssemblyResult(
            loads,
            sum(s.nodes for s in model.sheets),
            sum(s.triangles for s in model.sheets),
        ),
        inputs=(
            Input("Sheets", len(model.sheets)),
            Input("Parts", len(given.parts)),
            Input("Joints", len(given.joints)),
            Input("Mounts", len(given.mounts)),
            Input("Thickness", given.thickness_mm, "mm"),
        ),
        reasons=(
            "Every joint ties two bodies in six freedoms; what it carries is what it takes to do "
            "so. A mount takes its springs times its shift.",
        ),
        assumptions=(
            "Small deflection, elastic; bodies touch one another only in their joints.",
            f"A joint holds its sheet over a disc of {DISC_RADIUS_MM:g} mm radius; bends of a "
            "part are rigid.",
        ),
        sources=(ASSEMBLY_SOURCE,),
    )


def _response(model: AssemblyModel, i: int, shifts: Array, carried: Array) -> AssemblyResponse:
    """One load's answer out of the shifts of all freedoms and what the joints carry."""
    given = model.given
    return AssemblyResponse(
        deflection_mm=float(model.pushed[i] @ shifts),
        mounts={
            m.name: _on_mount(m, move @ shifts)
            for m, move in zip(given.mounts, model.held, strict=True)
        },
        joints={
            j.name: _acting(part)
            for j, part in zip(given.joints, carried.reshape(-1, 6), strict=True)
        },
        part_stress_mpa={
            part.name: model.stress_mpa(k, shifts) for k, part in enumerate(given.parts)
        },
    )


def _on_mount(mount: AssemblyMount, moved: Array) -> Acting:
    springs = springs_of(mount)
    acting = np.zeros(6)
    acting[: len(springs)] = springs * moved[: len(springs)]
    return _acting(acting)


def _acting(six: Array) -> Acting:
    x, y, z, about_x, about_y, about_z = (float(v) for v in six)
    return Acting((x, y, z), (about_x, about_y, about_z))
