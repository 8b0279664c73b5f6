"""Weigh-up: what each plate shields, takes, gets warm by."""

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
from rugged_shield.core.weighup.heat import HEAT_SOURCE, HeatInput, HeatResult, heat
from rugged_shield.core.weighup.response import (
    RESPONSE_SOURCE,
    EnergyResponse,
    ResponseInput,
    ResponseResult,
    strike_response,
)
from rugged_shield.core.weighup.strike import StrikeInput, StrikePlace, StrikeResult, strike

__all__ = [
    "COVERAGE_SOURCE",
    "DIRECTIONS",
    "FIRST_DIRECTIONS",
    "HEAT_SOURCE",
    "RESPONSE_SOURCE",
    "CoverageInput",
    "CoverageResult",
    "EnergyResponse",
    "HeatInput",
    "HeatResult",
    "ResponseInput",
    "ResponseResult",
    "StrikeInput",
    "StrikePlace",
    "StrikeResult",
    "VitalCoverage",
    "coverage",
    "coverage_by_stone",
    "coverage_of",
    "heat",
    "strike",
    "strike_response",
    "weighted_share",
]
