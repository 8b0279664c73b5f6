"""Kit applied to a job: what the joints ask for."""

from rugged_shield.core.assess.kit.lines import kit_check, screw_needs

__all__ = ["kit_check", "screw_needs"]
