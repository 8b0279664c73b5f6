"""Findings about the work: the kit, the order of hands, what is kept."""

from __future__ import annotations

from rugged_shield.core.judgement.codes import FindingCode
from rugged_shield.core.judgement.kinds import FindingKind

KIT: dict[FindingCode, FindingKind] = {
    "short in kit": FindingKind(
        verdict="blocked",
        gates=False,
        station="kit",
        remedy="find it, buy it, or let another stand in",
    ),
    "extra in kit": FindingKind(
        verdict="mind",
        gates=False,
        station="kit",
        remedy="count again, or keep it as a spare",
    ),
    "not counted": FindingKind(
        verdict="not known",
        gates=False,
        station="kit",
        remedy="count it on the bench",
    ),
    "length not known": FindingKind(
        verdict="not known",
        gates=False,
        station="kit",
        remedy="measure it",
    ),
    "head not known": FindingKind(
        verdict="not known",
        gates=False,
        station="kit",
        remedy="say what head it has",
    ),
    "not in the kit": FindingKind(
        verdict="mind",
        gates=False,
        station="kit",
        remedy="buy it, or let another stand in",
    ),
    "owed": FindingKind(
        verdict="mind",
        gates=True,
        station="kit",
        steps=("last",),
        remedy="fit the right part and pay the debt",
    ),
    "may not stand in": FindingKind(
        verdict="blocked",
        gates=True,
        station="kit",
        steps=("start", "last"),
        sentence="Joint {number}: {used} may not stand in for {instead}.",
        remedy="fit the part that the joint asks for",
    ),
}

WORK: dict[FindingCode, FindingKind] = {
    "no plate picked": FindingKind(
        verdict="not known",
        gates=True,
        station="weigh-up",
        sentence="No plate is picked.",
        remedy="pick one in Weigh-up",
    ),
    "step open": FindingKind(
        verdict="not known",
        gates=True,
        station="tighten",
        steps=("last",),
        sentence="Open: {title}.",
        remedy="do it, or tick it where it was done",
    ),
    "open on the bike": FindingKind(
        verdict="not known",
        gates=True,
        station="tighten",
        steps=("last",),
        sentence="{name} is open on the bike.",
        remedy="close it in the register, with its torque",
        caution="A joint of the bike that was opened is closed before it is ridden.",
    ),
    "locker cures": FindingKind(
        verdict="not known",
        gates=True,
        station="tighten",
        steps=("last",),
        sentence="The locker of joint {number} cures until {until}.",
        remedy="wait until it holds",
    ),
    "cure not known": FindingKind(
        verdict="not known",
        gates=True,
        station="tighten",
        steps=("last",),
        sentence="The locker of joint {number}: too cold to cure, or when is not known.",
        remedy="say how warm it is where the work is done, or leave it a day in the warm",
    ),
    "time lies ahead": FindingKind(
        verdict="not known",
        gates=True,
        station="tighten",
        steps=("last",),
        sentence="The locker of joint {number} was told at {since}, which this computer's clock "
        "has not reached: how far it is is not known.",
        remedy="set the clock and start the computer anew; torque that joint again with a fresh "
        "drop if you cannot tell",
    ),
    "locker had set": FindingKind(
        verdict="blocked",
        gates=True,
        station="tighten",
        steps=("torque", "last"),
        sentence="The locker of joint {number} had set before it was torqued: it was broken.",
        remedy="out with the screw, clean both threads, a new drop, torque it again",
    ),
    "passed for a reason": FindingKind(
        verdict="mind",
        gates=True,
        station="tighten",
        steps=("last",),
        sentence="Passed for a reason ({reason}): {what}",
        remedy="it stands on the sheet that is handed over",
    ),
}

KEPT: dict[FindingCode, FindingKind] = {
    "loss found": FindingKind(
        verdict="mind",
        gates=True,
        station="keep",
        steps=("last",),
        remedy="tighten it, and look again after the next ride",
    ),
    "due now": FindingKind(
        verdict="mind",
        gates=False,
        station="keep",
        remedy="do it",
    ),
    "dent not known": FindingKind(
        verdict="not known",
        gates=False,
        station="keep",
        steps=("last",),
        remedy="measure the dent, or look after the blow",
    ),
    "dented to what lies behind": FindingKind(
        verdict="blocked",
        gates=True,
        station="keep",
        steps=("last",),
        sentence="The dent of the blow of {day} has taken all the room to the {near}: do not ride.",
        remedy="plate off, look at what lies behind, straighten or replace it",
    ),
    "short of room behind a dent": FindingKind(
        verdict="mind",
        gates=True,
        station="keep",
        steps=("last",),
        sentence="The blow of {day} left {left} to the {near}.",
        remedy="straighten it, or turn or replace the plate, before hard riding",
    ),
    "blow not looked at": FindingKind(
        verdict="not known",
        gates=True,
        station="keep",
        steps=("last",),
        sentence="A hard blow of {day}, and nobody looked at brackets, bosses and heads since.",
        remedy="look at them and say so in Keep",
    ),
    "hard blow": FindingKind(
        verdict="mind",
        gates=False,
        station="keep",
        sentence="A hard blow.",
        remedy="look at brackets, bosses and heads before the next ride",
    ),
    "mended, not new": FindingKind(
        verdict="mind",
        gates=False,
        station="keep",
        sentence="The plate was {done} since.",
        remedy="metal that was bent back is weaker: look there first",
    ),
}

DONE: dict[FindingCode, FindingKind] = {**KIT, **WORK, **KEPT}
