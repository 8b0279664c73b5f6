"""Kit applied to a job: what the joints ask for."""

from rugged_shield.core.assess.kit.lines import screw_needs

__all__ = ["screw_needs"]
