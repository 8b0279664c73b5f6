"""Kit: hardware as listed, as counted, and as the joints need it."""

from rugged_shield.core.kit.hardware import (
    KitLine,
    LineKind,
    LineState,
    ScrewNeed,
    check_line,
    to_buy,
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
from rugged_shield.core.kit.line_drawing import line_drawing

__all__ = [
    "FORMS",
    "Attribute",
    "IdentifyInput",
    "IdentifyResult",
    "KitLine",
    "LineKind",
    "LineState",
    "Listed",
    "Measured",
    "ScrewNeed",
    "check_line",
    "difference_words",
    "expected_mm",
    "identify",
    "line_drawing",
    "to_buy",
]
