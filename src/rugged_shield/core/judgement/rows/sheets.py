"""Findings about a plate's own sheet: edges, webs, and what holds it."""

from __future__ import annotations

from rugged_shield.core.judgement.codes import FindingCode
from rugged_shield.core.judgement.kinds import FindingKind

SHEETS: dict[FindingCode, FindingKind] = {
    "hole breaks the edge": FindingKind(
        verdict="blocked",
        gates=True,
        station="fit-up",
        steps=("hang", "start"),
        sentence="Joint {number} stands {free} from the edge of the {panel}: its head hangs over.",
        remedy="another place for the hole, or correct its place and the size of the sheet",
        decides=("layer.hole_mm",),
    ),
    "panel cut in two": FindingKind(
        verdict="blocked",
        gates=True,
        station="fit-up",
        steps=("hang",),
        sentence="The openings of the {panel} all but cut it apart: {share} of it hangs on webs "
        "of {web}, where {wanted} is good practice.",
        remedy="a shorter slot, or correct the opening's place and size",
        decides=("belly.length_mm", "belly.front_width_mm", "belly.rear_width_mm"),
    ),
    "panel on thin webs": FindingKind(
        verdict="mind",
        gates=True,
        station="fit-up",
        steps=("hang",),
        sentence="{share} of the {panel} hangs on webs of {web} beside its openings; {wanted} is "
        "good practice.",
        remedy="smaller openings, or look at the webs for cracks after every blow",
        decides=("belly.length_mm", "belly.front_width_mm", "belly.rear_width_mm"),
    ),
    "edge not known": FindingKind(
        verdict="not known",
        gates=True,
        station="survey",
        steps=("hang",),
        sentence="By an outline that nobody measured, {joints} would stand too near to an edge.",
        remedy="measure the sheet's length and widths",
        decides=("belly.length_mm", "belly.front_width_mm", "belly.rear_width_mm"),
    ),
    "hole's place not known": FindingKind(
        verdict="not known",
        gates=True,
        station="survey",
        steps=("hang",),
        sentence="By a mount place that nobody measured, joint {number}'s hole would stand too "
        "near to an edge.",
        remedy="measure where the mount is",
        decides=("mount.x_mm", "mount.y_mm"),
    ),
    "hole near an edge": FindingKind(
        verdict="mind",
        gates=True,
        station="fit-up",
        steps=("hang",),
        sentence="Joint {number}: {free} to {what}, {wanted} wanted: the hole tears out.",
        remedy="look for cracks there after a blow; a larger washer does not help",
        decides=("layer.hole_mm",),
    ),
    "turns about its joints": FindingKind(
        verdict="mind",
        gates=True,
        station="fit-up",
        steps=("hang", "last"),
        sentence="{count} joints hold the plate{side}, {wide} apart across their line: a blow "
        "beside them turns it, and their tabs are bent for it.",
        remedy="a third joint away from their line, or look at the tabs after every blow",
        decides=("mount.x_mm", "mount.y_mm"),
    ),
    "held at too few places": FindingKind(
        verdict="blocked",
        gates=True,
        station="fit-up",
        steps=("hang", "last"),
        sentence="{count} joints hold the plate{side}: its middle hangs {over} outside of them.",
        remedy="enter the joints that are missing, or do not ride on these alone",
        caution="A plate that is held at one end turns into the ground or the wheel.",
    ),
}
