"""Survey applied to a job: what to measure next."""

from rugged_shield.core.assess.survey.measure_next import (
    BEST,
    Gap,
    GapsInput,
    gap_at,
    gaps,
    job_at,
    uncertain_numbers,
    what_to_measure,
)

__all__ = [
    "BEST",
    "Gap",
    "GapsInput",
    "gap_at",
    "gaps",
    "job_at",
    "uncertain_numbers",
    "what_to_measure",
]
