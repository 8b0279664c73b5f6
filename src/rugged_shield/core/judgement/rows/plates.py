"""Findings about a plate on a bike: whether it fits, what it touches, how it bears."""

from __future__ import annotations

from rugged_shield.core.judgement.codes import FindingCode
from rugged_shield.core.judgement.kinds import FindingKind

_BOX = tuple(f"part.{axis}_{end}_mm" for axis in "xyz" for end in ("min", "max"))
_WHEEL = ("bike.front_travel_mm", "bike.rake_deg", "bike.front_wheel_radius_mm")
_HEAT = ("part.surface_c", *_BOX)

FITS: dict[FindingCode, FindingKind] = {
    "does not fit": FindingKind(
        verdict="blocked",
        gates=True,
        station="weigh-up",
        steps=("hang", "last"),
        remedy="what the gate names, or another plate",
        decides=_WHEEL,
    ),
    "fits with a change": FindingKind(
        verdict="mind",
        gates=True,
        station="weigh-up",
        steps=("hang",),
        remedy="make the change that is named",
        decides=_WHEEL,
    ),
    "fit not known": FindingKind(
        verdict="not known",
        gates=True,
        station="weigh-up",
        steps=("hang", "last"),
        remedy="enter what the gate asks for",
        decides=_WHEEL,
    ),
    "touches vital": FindingKind(
        verdict="blocked",
        gates=True,
        station="weigh-up",
        steps=("hang", "last"),
        remedy="more room: spacers, or another plate; or measure the part's place",
        decides=_BOX,
    ),
    "standoff small": FindingKind(
        verdict="mind",
        gates=True,
        station="weigh-up",
        steps=("sweep",),
        remedy="more room at that part",
        decides=_BOX,
    ),
    "pieces cross": FindingKind(
        verdict="blocked",
        gates=True,
        station="fit-up",
        steps=("hang",),
        remedy="another order of the pieces, or another place",
    ),
    "gap too small": FindingKind(
        verdict="blocked",
        gates=True,
        station="fit-up",
        steps=("sweep", "last"),
        remedy="trim, bend, space, or measure again",
        caution="A pedal or wheel that meets the plate cannot be ridden with.",
    ),
    "gap small in the worst case": FindingKind(
        verdict="mind",
        gates=True,
        station="fit-up",
        steps=("sweep",),
        remedy="measure closer, or make room",
    ),
    "nothing near it looked at": FindingKind(
        verdict="not known",
        gates=True,
        station="fit-up",
        steps=("sweep", "last"),
        sentence="Not looked at yet: {names}.",
        remedy="enter each under What comes too close, and look with your own boot on",
        caution="Brake pedal, gear lever and stand through their whole travel before riding.",
    ),
    "too hot": FindingKind(
        verdict="blocked",
        gates=True,
        station="weigh-up",
        steps=("hang", "last"),
        remedy="more gap, a reflective sheet, metal; or a measured temperature",
        decides=_HEAT,
    ),
    "heat near its limit": FindingKind(
        verdict="mind",
        gates=True,
        station="weigh-up",
        steps=("last",),
        remedy="measure the sheet's temperature after a slow climb",
        decides=_HEAT,
    ),
    "heat not known": FindingKind(
        verdict="not known",
        gates=True,
        station="weigh-up",
        steps=("hang", "last"),
        sentence="{gap} from plastic to the {part}, whose temperature is not entered.",
        remedy="enter how hot the {part} gets, or measure it after a slow climb",
        decides=_HEAT,
    ),
    "screws small for the strike": FindingKind(
        verdict="mind",
        gates=True,
        station="fit-up",
        steps=("start",),
        sentence="{thread} holds the plate against a strike of {energy}: it bends or shears.",
        remedy="M6 or larger where the mount allows, or ride as one who knows it",
        decides=("joint.thread",),
    ),
    "ages in the heat": FindingKind(
        verdict="mind",
        gates=False,
        station="weigh-up",
        remedy="look at it at every oil change",
        decides=_HEAT,
    ),
    "larger than a bike": FindingKind(
        verdict="mind",
        gates=False,
        station="survey",
        remedy="check the sizes that were typed",
    ),
    "parts overlap": FindingKind(
        verdict="mind",
        gates=False,
        station="survey",
        remedy="measure one of the two again",
        decides=_BOX,
    ),
    "joints not known": FindingKind(
        verdict="not known",
        gates=False,
        station="fit-up",
        steps=("hang", "last"),
        remedy="enter what the plate hangs on",
    ),
    "no joints entered": FindingKind(
        verdict="not known",
        gates=True,
        station="fit-up",
        steps=("hang", "last"),
        sentence="The plate has no joints.",
        remedy="enter what it hangs on",
    ),
    "on assumed joints": FindingKind(
        verdict="assumed",
        gates=False,
        station="fit-up",
        sentence="Compared on {count} assumed joints ({names}): nobody entered what it hangs on.",
        remedy="enter its joints in Fit-up",
    ),
    "joint blocked": FindingKind(
        verdict="blocked",
        gates=False,
        station="fit-up",
        steps=("start",),
        remedy="clear the joint in Fit-up",
    ),
}

WEIGHED: dict[FindingCode, FindingKind] = {
    "bare vital": FindingKind(
        verdict="mind",
        gates=False,
        station="weigh-up",
        remedy="wings, a longer apron, or ride as one who knows it is bare",
        decides=_BOX,
    ),
    "low clearance": FindingKind(
        verdict="mind",
        gates=False,
        station="weigh-up",
        remedy="thinner, higher, or less under it",
        decides=("mount.z_mm", "plate.thickness_mm"),
    ),
    "grounds in a lean": FindingKind(
        verdict="mind",
        gates=False,
        station="weigh-up",
        remedy="narrower wings",
    ),
    "mass differs from claim": FindingKind(
        verdict="mind",
        gates=False,
        station="weigh-up",
        remedy="weigh it",
    ),
    "can hook": FindingKind(
        verdict="mind",
        gates=True,
        station="weigh-up",
        steps=("hang",),
        remedy="an apron, turn that edge up, or bevel it",
    ),
    "water stands": FindingKind(
        verdict="mind",
        gates=False,
        station="weigh-up",
        remedy="a drain hole at its lowest place",
    ),
    "oil runs on the plate": FindingKind(
        verdict="mind",
        gates=False,
        station="weigh-up",
        remedy="an opening under the drain, or the plate off",
    ),
    "filter is trapped": FindingKind(
        verdict="mind",
        gates=False,
        station="weigh-up",
        remedy="an opening at the filter, or the plate off",
    ),
    "pick not sure": FindingKind(
        verdict="mind",
        gates=False,
        station="weigh-up",
        remedy="measure what would turn it, or live with either",
    ),
    "missing in the choice": FindingKind(
        verdict="not known",
        gates=False,
        station="weigh-up",
        remedy="enter what is missing",
    ),
    "sag not known": FindingKind(
        verdict="not known",
        gates=False,
        station="survey",
        remedy="measure the sag with and without you",
    ),
    "heavy, sag not known": FindingKind(
        verdict="not known",
        gates=True,
        station="survey",
        steps=("sweep", "last"),
        sentence="{mass} was added and nobody measured how far the springs give: how high the "
        "plate hangs with you on it is not known.",
        remedy="measure the sag with and without you, at both wheels",
    ),
    "vital not covered": FindingKind(
        verdict="mind",
        gates=True,
        station="weigh-up",
        steps=("last",),
        sentence="{part} has no sheet before it {way}, from where {often} of the stones come.",
        remedy="wings, a longer apron, or ride as one who knows it is bare",
        decides=_BOX,
    ),
    "cannot tell apart": FindingKind(
        verdict="not known",
        gates=False,
        station="survey",
        remedy="weigh again, with more rounds or a finer scale",
    ),
}

STRUCK: dict[FindingCode, FindingKind] = {
    "touches under a strike": FindingKind(
        verdict="mind",
        gates=False,
        station="weigh-up",
        remedy="more room there, or a stiffer sheet",
    ),
    "may touch under a strike": FindingKind(
        verdict="mind",
        gates=False,
        station="weigh-up",
        remedy="more room there, or a stiffer sheet",
    ),
    "pushed into": FindingKind(
        verdict="mind",
        gates=False,
        station="weigh-up",
        remedy="more room there, or a stiffer sheet",
    ),
    "may punch through": FindingKind(
        verdict="mind",
        gates=False,
        station="weigh-up",
        remedy="look at that place after a hard blow",
    ),
    "punches through": FindingKind(
        verdict="mind",
        gates=False,
        station="weigh-up",
        remedy="a thicker or tougher sheet",
    ),
    "past its limit": FindingKind(
        verdict="mind",
        gates=False,
        station="weigh-up",
        remedy="more mounts, or softer ones, or look at it after every blow",
    ),
    "beyond the form": FindingKind(
        verdict="mind",
        gates=False,
        station="weigh-up",
        remedy="take the figure as a lower bound only",
    ),
    "bottoms under a strike": FindingKind(
        verdict="mind",
        gates=False,
        station="weigh-up",
        remedy="look at the mount after every blow",
    ),
    "strip yields": FindingKind(
        verdict="mind",
        gates=False,
        station="weigh-up",
        remedy="look at the mount after every blow",
    ),
    "thick for thin-plate theory": FindingKind(
        verdict="mind",
        gates=False,
        station="weigh-up",
        remedy="take the figure as an estimate",
    ),
    "soft in plane": FindingKind(
        verdict="mind",
        gates=False,
        station="weigh-up",
        remedy="take the figure as an estimate",
    ),
    "brittle in the cold": FindingKind(
        verdict="mind",
        gates=False,
        station="weigh-up",
        remedy="another plastic, or metal, where it freezes",
    ),
    "energy of the dent not known": FindingKind(
        verdict="not known",
        gates=False,
        station="keep",
        remedy="say how it felt",
    ),
    "no map of strikes": FindingKind(
        verdict="not known",
        gates=False,
        station="weigh-up",
        sentence="No strike is worked out for it: {why}.",
        remedy="enter what it hangs on",
    ),
}

PLATES: dict[FindingCode, FindingKind] = {**FITS, **WEIGHED, **STRUCK}
