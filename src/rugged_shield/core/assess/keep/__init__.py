"""Keep applied to a job: what is due, what was found, what a blow did, what wears."""

from rugged_shield.core.assess.keep.blows import (
    BlowDetail,
    StruckPlace,
    blow_detail,
    blows_of,
    struck_place,
)
from rugged_shield.core.assess.keep.due import Kept, Recheck, due_of, joints_found, kept, rechecks
from rugged_shield.core.assess.keep.history import Moment, moments, torque_history
from rugged_shield.core.assess.keep.log import (
    note_counter,
    note_found,
    note_held,
    note_look,
    note_oil,
    note_part,
    note_ride,
    note_strike,
    note_warmth,
    note_wear,
    note_words,
    oil_joints,
    snooze,
    void,
)
from rugged_shield.core.assess.keep.mass_years import UNDATED, MassMoment, mass_years
from rugged_shield.core.assess.keep.pick import Became, back_to_stock, pick_became
from rugged_shield.core.assess.keep.story import story
from rugged_shield.core.assess.keep.wear import WornPlace, wear_places, worn_places

__all__ = [
    "UNDATED",
    "Became",
    "BlowDetail",
    "Kept",
    "MassMoment",
    "Moment",
    "Recheck",
    "StruckPlace",
    "WornPlace",
    "back_to_stock",
    "blow_detail",
    "blows_of",
    "due_of",
    "joints_found",
    "kept",
    "mass_years",
    "moments",
    "note_counter",
    "note_found",
    "note_held",
    "note_look",
    "note_oil",
    "note_part",
    "note_ride",
    "note_strike",
    "note_warmth",
    "note_wear",
    "note_words",
    "oil_joints",
    "pick_became",
    "rechecks",
    "snooze",
    "story",
    "struck_place",
    "torque_history",
    "void",
    "wear_places",
    "worn_places",
]
