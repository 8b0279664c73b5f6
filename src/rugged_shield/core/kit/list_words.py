"""Words that people write in lists of parts: kinds, heads, numbers, headings. All lower case."""

from __future__ import annotations

from typing import Literal

from rugged_shield.core.kit.needs import LineKind

HeadForm = Literal[
    "",
    "hexagon",
    "flanged hexagon",
    "cylinder",
    "button",
    "flanged button",
    "countersunk",
]

KINDS: tuple[tuple[str, LineKind], ...] = (
    (r"(?:clip|u|cage|spring)[- ]?nuts?|captive nuts?", "clip nut"),
    (r"rivet ?nuts?|insert nuts?|(?:lock|flange|hex|wing|dome|acorn)?nuts?", "nut"),
    (r"washers?", "washer"),
    (r"(?:capscrews?|setscrews?|screws?|bolts?|studs?)", "screw"),
    (r"spacers?|stand-?offs?|distance (?:pieces?|tubes?)", "spacer"),
    (r"sleeves?|bush(?:es|ings?)?|collars?", "sleeve"),
    (r"brackets?|tabs?|holders?|clamps?", "bracket"),
    (
        r"isolators?|rubber (?:mounts?|blocks?|bushes)|rubbers?|grommets?|bobbins?|dampers?",
        "isolator",
    ),
    (
        r"adhesive(?: \w+)?|tape|glue|stickers?|decals?|locker|grease|paste|instructions?|keys?",
        "other",
    ),
    (r"pads?", "pad"),
)  # fmt: skip
"""What a word makes of a line; of several in one line the last that stands before “for” counts."""

HEADS: tuple[tuple[str, HeadForm], ...] = (
    (r"(?:flanged? button|button[- ]?(?:head )?flanged?)(?: heads?)?", "flanged button"),
    (r"button(?: ?heads?)?|dome(?:d)?(?: ?heads?)?|mushroom heads?", "button"),
    (r"countersunk(?: ?heads?)?|c'?sunk|csk|flat ?heads?", "countersunk"),
    (
        r"flanged? hex(?:agon(?:al)?)?(?: ?heads?)?|hex(?:agon)? flanged?"
        r"|flanged?(?= ?(?:bolt|screw|head))|flanged(?: ?heads?)",
        "flanged hexagon",
    ),
    (
        r"(?:hex(?:agon)? )?socket(?: ?(?:cap|head))*(?: ?heads?)?|cap ?heads?"
        r"|cylinder(?: ?heads?)?|cheese ?heads?|shcs|cap(?= ?screws?)|capscrews?",
        "cylinder",
    ),
    (r"hex(?:agon(?:al)?)?(?: ?heads?)?", "hexagon"),
)  # fmt: skip

NUMBERS = {
    "one": 1, "two": 2, "three": 3, "four": 4, "five": 5, "six": 6, "seven": 7, "eight": 8,
    "nine": 9, "ten": 10, "eleven": 11, "twelve": 12, "dozen": 12, "pair": 2, "single": 1,
}  # fmt: skip

COUNT_HEADINGS = (
    "qty", "quantity", "count", "pcs", "pieces", "pc", "number of", "how many", "off", "amount",
)  # fmt: skip
ROW_HEADINGS = (
    "no", "nr", "pos", "position", "row", "line", "#", "item no", "item", "ref", "key", "letter",
)  # fmt: skip
WORD_HEADINGS = (
    "description", "designation", "name", "part", "what", "article", "item", "size", "thread",
    "kind", "type", "length", "head", "material", "note", "notes", "remark", "bag", "grade",
    "class", "fastener", "hardware", "diameter", "finish", "use",
)  # fmt: skip
"""Headings of a table: of counts, of running numbers that count nothing, and of words."""
