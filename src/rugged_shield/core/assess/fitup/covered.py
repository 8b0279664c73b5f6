"""What a sheet hung later covers: joints that must be tight before, out of reach after."""

from __future__ import annotations

import math
from functools import lru_cache

from rugged_shield.core.fitup.joint import BENCH, Joint
from rugged_shield.core.job.model import MountedJoint
from rugged_shield.core.survey.geometry import fold, sheets_over
from rugged_shield.core.survey.plate import Plate


def put_on(plate: Plate, joints: tuple[Joint, ...]) -> frozenset[str]:
    """Pieces that are screwed to another part on the bench, by key: they hang with it."""
    own = {p.key for p in plate.pieces}
    bench = (j for j in joints if j.stage == BENCH)
    return frozenset(key for j in bench for key in (j.joins, *j.sheets) if key in own)


def _face_mm(at: MountedJoint) -> float:
    """How high a joint is that goes through no sheet where it stands, mm; above all: not known."""
    return math.inf if at.mount is None else at.mount.z_mm


@lru_cache(maxsize=256)
def covered_by(plate: Plate, joints: tuple[MountedJoint, ...]) -> dict[str, tuple[str, ...]]:
    """Joints by key with the sheets under them that hang later than all that they go through.

    What is made on the bench is covered by nothing: it hangs with what it holds.
    """
    along = put_on(plate, tuple(at.joint for at in joints))
    turns = {"": 0, **{p.key: p.order for p in plate.pieces if p.key not in along}}
    folded, found = fold(plate), {}
    for at in joints:
        joint = at.joint
        if joint.stage == BENCH or not at.is_placed:
            continue
        last = max((turns.get(s, 0) for s in joint.sheets), default=-math.inf)
        over = sheets_over(folded, at.x_mm, at.y_mm)
        height = min((over[s] for s in joint.sheets if s in over), default=_face_mm(at))
        under = tuple(
            s
            for s, z in over.items()
            if s not in joint.sheets and turns.get(s, 0) > last and z < height
        )
        if under:
            found[joint.key] = under
    return found
