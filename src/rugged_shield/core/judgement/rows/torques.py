"""Findings about the torque of a joint, and what its record says."""

from __future__ import annotations

from rugged_shield.core.judgement.codes import FindingCode
from rugged_shield.core.judgement.kinds import FindingKind

_TORQUE = ("joint.sheet_torque_nm", "joint.manual_torque_nm", "mount.manual_torque_nm")

TORQUE: dict[FindingCode, FindingKind] = {
    "held at the limit": FindingKind(
        verdict="mind",
        gates=True,
        station="tighten",
        steps=("torque",),
        remedy="the limit stands; look whether the printed figure is for this screw",
        decides=_TORQUE,
    ),
    "limit reached by scatter": FindingKind(
        verdict="mind",
        gates=True,
        station="tighten",
        steps=("torque",),
        remedy="less torque, or a stronger class",
        decides=_TORQUE,
    ),
    "sources conflict": FindingKind(
        verdict="mind",
        gates=True,
        station="tighten",
        steps=("torque",),
        remedy="ask which of the two is for this screw",
        decides=_TORQUE,
    ),
    "outside wrench range": FindingKind(
        verdict="mind",
        gates=False,
        station="tighten",
        steps=("torque",),
        remedy="take a wrench whose scale reaches from 20 to 100 % around it",
    ),
    "no torque source": FindingKind(
        verdict="not known",
        gates=True,
        station="tighten",
        steps=("torque",),
        remedy="enter the figure of the sheet or the manual, or decide one with a reason",
        decides=_TORQUE,
    ),
    "manual above our limit": FindingKind(
        verdict="mind",
        gates=True,
        station="tighten",
        steps=("torque",),
        remedy="check figure, class and treatment",
        decides=_TORQUE,
    ),
    "screw's class not read": FindingKind(
        verdict="not known",
        gates=True,
        station="fit-up",
        steps=("torque",),
        remedy="read the screw's head: 8.8, 10.9, A2-70 …",
        decides=("joint.grade",),
    ),
    "isolator by feel": FindingKind(
        verdict="not known",
        gates=False,
        station="tighten",
        steps=("torque",),
        remedy="stop when the washer seats",
    ),
    "torqued above its limit": FindingKind(
        verdict="blocked",
        gates=True,
        station="tighten",
        steps=("torque", "last"),
        remedy="fit a new screw and say so, or say why it stands, or that it was mistyped",
    ),
    "torqued above its limit, accepted": FindingKind(
        verdict="mind",
        gates=True,
        station="tighten",
        steps=("last",),
        remedy="look at this joint first at every re-check",
    ),
    "changed since it was torqued": FindingKind(
        verdict="blocked",
        gates=True,
        station="tighten",
        steps=("torque", "last"),
        remedy="torque it again",
    ),
    "outside band": FindingKind(
        verdict="mind",
        gates=True,
        station="tighten",
        steps=("torque", "last"),
        remedy="torque it again",
    ),
    "not all were started": FindingKind(
        verdict="mind",
        gates=True,
        station="tighten",
        steps=("last",),
        remedy="loosen it and start all by hand first",
    ),
    "not torqued": FindingKind(
        verdict="not known",
        gates=True,
        station="tighten",
        steps=("last",),
        sentence="Joint {number} is not torqued.",
        remedy="torque it",
    ),
    "thread damaged": FindingKind(
        verdict="blocked",
        gates=True,
        station="tighten",
        steps=("torque", "last"),
        sentence="Joint {number}: its thread is damaged ({what}).",
        remedy="a new screw or nut, an insert, or a licensed workshop; then say what was done",
        caution="Nothing is torqued on a damaged thread, and nothing ridden on it.",
    ),
    "loose since the oil change": FindingKind(
        verdict="not known",
        gates=True,
        station="tighten",
        steps=("torque", "last"),
        sentence="Joint {number} came off for the oil change of {day} and is not torqued since.",
        remedy="torque it again",
    ),
    "lock nut not known": FindingKind(
        verdict="not known",
        gates=True,
        station="tighten",
        steps=("start", "last"),
        sentence="Joint {number}: its lock nut came off for the oil change; whether a new one went "
        "on was not said.",
        remedy="say whether the nut is new, or still runs hard by hand",
    ),
    "lock nut used again": FindingKind(
        verdict="mind",
        gates=True,
        station="tighten",
        steps=("last",),
        sentence="Joint {number}: a used lock nut went back on.",
        remedy="a new nut at the next oil change; sooner where it turns by hand",
    ),
}
