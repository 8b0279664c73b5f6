"""Kit: hardware as listed, as counted, and as the joints need it."""

from rugged_shield.core.kit.hardware import (
    KitLine,
    LineKind,
    LineState,
    ScrewNeed,
    check_line,
    to_buy,
)

__all__ = ["KitLine", "LineKind", "LineState", "ScrewNeed", "check_line", "to_buy"]
