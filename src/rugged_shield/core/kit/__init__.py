"""Kit: hardware as listed, as counted, and as the joints need it."""

from rugged_shield.core.kit.hardware import (
    MAX_KIT,
    Came,
    KitLine,
    LineState,
    check_line,
)
from rugged_shield.core.kit.identify import (
    FORMS,
    Attribute,
    IdentifyInput,
    IdentifyResult,
    Listed,
    Measured,
    difference_words,
    expected_mm,
    identify,
)
from rugged_shield.core.kit.line_drawing import line_drawing, need_drawing, with_difference
from rugged_shield.core.kit.matching import LookAlike, Shared, look_alikes, serves, share_out
from rugged_shield.core.kit.needs import LineKind, Need
from rugged_shield.core.kit.revision import LineChange, differences
from rugged_shield.core.kit.sheet import NO_SHEET, Sheet

__all__ = [
    "FORMS",
    "MAX_KIT",
    "NO_SHEET",
    "Attribute",
    "Came",
    "IdentifyInput",
    "IdentifyResult",
    "KitLine",
    "LineChange",
    "LineKind",
    "LineState",
    "Listed",
    "LookAlike",
    "Measured",
    "Need",
    "Shared",
    "Sheet",
    "check_line",
    "difference_words",
    "differences",
    "expected_mm",
    "identify",
    "line_drawing",
    "look_alikes",
    "need_drawing",
    "serves",
    "share_out",
    "with_difference",
]
