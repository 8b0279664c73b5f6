"""The figures of a plate's geometry, as the plate's page shows them."""

from __future__ import annotations

from rugged_shield.core.assess.weighup.scorecard import weigh
from rugged_shield.core.figures import figure
from rugged_shield.core.job.model import Job
from rugged_shield.core.result import Figure
from rugged_shield.core.survey.measures import (
    PlateGeometryInput,
    PlateGeometryResult,
    plate_geometry,
)


def plate_measures(job: Job, key: str, result: PlateGeometryResult) -> tuple[Figure, ...]:
    """What a plate's geometry says in figures: mass, areas, folds, centre of gravity, gaps."""
    weighed = weigh(job, key).figures
    x, _, z = result.centre_of_gravity_mm
    plate = job.as_entered(key).plate
    outcome = plate_geometry(PlateGeometryInput(plate))

    def said(name: str, label: str, value: float | None, unit: str) -> Figure:
        return figure(
            f"plate:{name}",
            label,
            value,
            unit,
            inputs=outcome.inputs,
            reasons=outcome.reasons,
            assumptions=outcome.assumptions,
            sources=outcome.sources,
        )

    found = [
        weighed["mass"],
        weighed["claimed_mass"],
        said("area", "Sheet less openings", result.area_mm2, "mm²"),
        said("folds", "Length of folds", result.fold_length_mm, "mm"),
        said("cg-x", "Centre of gravity behind the front axle", x, "mm"),
        said("cg-z", "Centre of gravity above ground", z, "mm"),
        said("low", f"Lowest, on the {result.lowest_panel}", result.lowest_point_mm[2], "mm"),
    ]
    for gap in result.piece_gaps:
        label = f"{gap.first} to {gap.second}, outer faces"
        found.append(said(f"gap:{gap.second}", label, gap.gap_mm, "mm"))
    return tuple(found)
