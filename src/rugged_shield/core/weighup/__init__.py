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
from rugged_shield.core.weighup.decide import (
    Criterion,
    DecideInput,
    DecideResult,
    Option,
    Ranked,
    decide,
    first_of,
)
from rugged_shield.core.weighup.heat import HEAT_SOURCE, HeatInput, HeatResult, heat
from rugged_shield.core.weighup.map_view import BAND_FILLS, band_words, map_drawing
from rugged_shield.core.weighup.response import (
    RESPONSE_SOURCE,
    EnergyResponse,
    ResponseInput,
    ResponseResult,
    strike_response,
)
from rugged_shield.core.weighup.strike import StrikeInput, StrikePlace, StrikeResult, strike
from rugged_shield.core.weighup.strike_map import (
    MapPoint,
    StrikeMapInput,
    StrikeMapResult,
    linear_of,
    shell_panels,
    strike_map,
)

__all__ = [
    "BAND_FILLS",
    "COVERAGE_SOURCE",
    "DIRECTIONS",
    "FIRST_DIRECTIONS",
    "HEAT_SOURCE",
    "RESPONSE_SOURCE",
    "CoverageInput",
    "CoverageResult",
    "Criterion",
    "DecideInput",
    "DecideResult",
    "EnergyResponse",
    "HeatInput",
    "HeatResult",
    "MapPoint",
    "Option",
    "Ranked",
    "ResponseInput",
    "ResponseResult",
    "StrikeInput",
    "StrikeMapInput",
    "StrikeMapResult",
    "StrikePlace",
    "StrikeResult",
    "VitalCoverage",
    "band_words",
    "coverage",
    "coverage_by_stone",
    "coverage_of",
    "decide",
    "first_of",
    "heat",
    "linear_of",
    "map_drawing",
    "shell_panels",
    "strike",
    "strike_map",
    "strike_response",
    "weighted_share",
]
