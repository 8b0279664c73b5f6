"""Which metals touch in a joint."""

from __future__ import annotations

import itertools

from rugged_shield.core.fitup.joint import Joint
from rugged_shield.core.fitup.layer import LOOSE_KINDS, Layer
from rugged_shield.core.survey.bike import Mount
from rugged_shield.core.tables.friction import CONDITIONS
from rugged_shield.core.tables.grades import GRADES
from rugged_shield.core.tables.materials import LAYER_MATERIALS
from rugged_shield.core.tables.nature import Metal
from rugged_shield.core.tables.thread_materials import THREAD_MATERIALS
from rugged_shield.core.weighup.corrosion import MetalPair


def _surface_of(layer: Layer) -> Metal:
    """The metal at a layer's surface: washers, spacers and sleeves of steel come zinc-coated."""
    metal = LAYER_MATERIALS[layer.material].metal
    loose = layer.kind in LOOSE_KINDS
    return "zinc" if loose and metal == "steel" else metal


def metal_pairs(joint: Joint, mount: Mount | None) -> list[MetalPair]:
    """Screw to thread, screw to sheet, and the layers as they lie on each other."""
    screw = "stainless" if GRADES[joint.grade].stainless else "zinc"
    own = joint.stud.treatment if joint.is_stud else joint.treatment
    greased = own if CONDITIONS[own].is_lubricant else ""
    material = "" if joint.is_stud else joint.female_material
    material = material or (mount.material if mount else "")
    thread = THREAD_MATERIALS[material].metal if material else ""
    where = f"joint {joint.number}"
    found = []
    if thread and (joint.is_stud or not joint.nut):
        found.append(MetalPair(f"{where}, thread", screw, thread, screw, greased))
    # from what turns on: the head, or the nut of a stud
    stack = joint.from_below() if joint.is_stud else joint.present()
    layers = [(layer.kind, _surface_of(layer)) for layer in stack]
    if layers and layers[0][1]:
        under = "under the nut" if joint.is_stud else "under the head"
        found.append(MetalPair(f"{where}, {under}", screw, layers[0][1], screw))
    for (_, above), (_, below) in itertools.pairwise(layers):
        if above and below:
            found.append(MetalPair(f"{where}, layers", above, below))
    return found
