"""The gate before riding: every finding about the plate that is on, and what holds from riding."""

from rugged_shield.core.assess.gate.deciders import deciders_of
from rugged_shield.core.assess.gate.fit import fit_seen
from rugged_shield.core.assess.gate.judged import judged
from rugged_shield.core.assess.gate.ready import (
    TO_DO,
    Missing,
    Passed,
    Ready,
    gravest_first,
    ready_of,
    to_settle,
)
from rugged_shield.core.assess.gate.reasons import pass_finding
from rugged_shield.core.assess.gate.steps import at_step

__all__ = [
    "TO_DO",
    "Missing",
    "Passed",
    "Ready",
    "at_step",
    "deciders_of",
    "fit_seen",
    "gravest_first",
    "judged",
    "pass_finding",
    "ready_of",
    "to_settle",
]
