"""Survey applied to a job: what to measure next."""

from rugged_shield.core.assess.survey.measure_next import (
    BEST,
    MeasureNextInput,
    NumberToMeasure,
    measure_next,
    rank_shifts,
    what_to_measure,
)
from rugged_shield.core.assess.survey.uncertain import job_at, uncertain_numbers

__all__ = [
    "BEST",
    "MeasureNextInput",
    "NumberToMeasure",
    "job_at",
    "measure_next",
    "rank_shifts",
    "uncertain_numbers",
    "what_to_measure",
]
