"""Findings that say no more than that nothing is known, or how something turned out."""

from __future__ import annotations

from rugged_shield.core.judgement.codes import FindingCode
from rugged_shield.core.judgement.kinds import FindingKind, Station


def _not_known(station: Station, sentence: str, remedy: str) -> FindingKind:
    return FindingKind(
        verdict="not known", gates=False, station=station, sentence=sentence, remedy=remedy
    )


def _mind(station: Station, sentence: str, remedy: str) -> FindingKind:
    return FindingKind(
        verdict="mind", gates=False, station=station, sentence=sentence, remedy=remedy
    )


PLAIN: dict[FindingCode, FindingKind] = {
    "no value": _not_known("survey", "Not known.", "enter what it is worked out from"),
    "survey not whole": _not_known(
        "survey", "Some of the bike is only assumed.", "measure what Measure next names"
    ),
    "no list": _not_known("kit", "No list is entered.", "paste or type the plate's list"),
    "not re-checked": _not_known("keep", "Not re-checked yet.", "look at it with the wrench"),
    "nothing told": _not_known("keep", "Nothing was told yet.", "tell it in Keep"),
    "became dearer": _mind("keep", "It cost more since.", "it stands in the money"),
    "put off": _mind("keep", "Put off by hand.", "do it"),
    "runs hotter": _mind("keep", "It runs hotter than before.", "watch it in slow, hot riding"),
    "look at it after a blow": _mind("keep", "It took over half of its limit.", "look at it"),
    "out of a tool's reach": FindingKind(
        verdict="blocked",
        gates=False,
        station="fit-up",
        sentence="No tool reaches a screw of it.",
        remedy="another set of holes",
    ),
}
