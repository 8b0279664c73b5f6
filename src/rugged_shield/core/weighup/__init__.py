"""Weigh-up: what each plate shields."""

from rugged_shield.core.weighup.coverage import (
    COVERAGE_SOURCE,
    DIRECTIONS,
    FIRST_DIRECTIONS,
    CoverageInput,
    CoverageResult,
    VitalCoverage,
    coverage,
    coverage_by_stone,
    coverage_of,
    weighted_share,
)

__all__ = [
    "COVERAGE_SOURCE",
    "DIRECTIONS",
    "FIRST_DIRECTIONS",
    "CoverageInput",
    "CoverageResult",
    "VitalCoverage",
    "coverage",
    "coverage_by_stone",
    "coverage_of",
    "weighted_share",
]
