"""An oil change with a plate on: the least way in, its screws, its minutes a year."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

from rugged_shield.core.assess.fitup.pose import PlatePose
from rugged_shield.core.assess.weighup.ownership import joints_not_known
from rugged_shield.core.figures import capital, figure, figure_of
from rugged_shield.core.fitup.joint import BENCH
from rugged_shield.core.job.model import Candidate, Use
from rugged_shield.core.result import Figure, Input, Source
from rugged_shield.core.survey.bike import Bike, Part
from rugged_shield.core.survey.oil import SOCKET_RADIUS_MM, TOOL_AROUND_MM, Way, oil_access
from rugged_shield.core.survey.plate import Plate
from rugged_shield.core.survey.pose import Pose
from rugged_shield.core.weighup.service import ServiceInput, service

OIL_SOURCE = Source("drain and filter against the plate's openings", "high")


@dataclass(frozen=True)
class OilWay:
    """The least way to drain and filter, the screws it takes, why, and whether oil lands on it.

    ``screws`` is None where the plate comes off and none of its joints is entered.
    """

    way: Way
    screws: int | None
    why: str
    catches: bool


@lru_cache(maxsize=2048)
def _oil_way(parts: tuple[Part, ...], candidate: Candidate, pose: Pose) -> OilWay:
    """The same for the serviced parts alone, remembered."""
    access = oil_access(parts, candidate.plate, pose)
    names = capital(" and ".join(p.name for p in parts if p.key in access.behind))
    if access.way == "open holes":
        why = "Drain and filter are reached with the plate as it is."
        return OilWay(access.way, 0, why, access.catches)
    if access.screws is not None:
        off = " and ".join(_named_off(candidate.plate, name) for name in access.off)
        why = f"{names}: reached with {off} off, {access.screws} screws."
        return OilWay(access.way, access.screws, why, access.catches)
    under = [j for j in candidate.joints if j.stage != BENCH]
    joints = [j for j in under if j.is_off_for_oil] or under
    drops = len(joints) or None
    by = f"by its {drops} screws" if drops else "by screws that are not entered"
    why = f"{names} cannot be reached through the plate: it comes off {by}."
    return OilWay("plate off", drops, why, False)


def _named_off(plate: Plate, name: str) -> str:
    """A door, wing or piece that comes off, in words."""
    pieces = {panel: p.name for p in plate.pieces for panel in p.panel_names}
    if name.startswith("door "):
        where = next(c.panel for c in plate.cutouts if f"door {c.key}" == name)
        return f"the door in the {pieces.get(where, where)}"
    return f"the {pieces.get(name, name)}"


def service_figures(
    bike: Bike, candidate: Candidate, posed: PlatePose, use: Use
) -> tuple[Figure, ...]:
    """Screws to drop for oil, and minutes a year that the plate adds to oil changes."""
    parts = tuple(p for p in bike.vitals() if p.serviced)
    return _serviced(parts, candidate, posed.pose, use)


@lru_cache(maxsize=512)
def _serviced(
    parts: tuple[Part, ...], candidate: Candidate, pose: Pose, use: Use
) -> tuple[Figure, ...]:
    """The same by the serviced parts alone."""
    found = _oil_way(parts, candidate, pose)
    if found.screws is None:
        return (
            joints_not_known("oil_screws", "Screws to drop for oil", "", candidate, OIL_SOURCE),
            joints_not_known("service", "Oil service, a year", "min", candidate, OIL_SOURCE),
        )
    outcome = service(
        ServiceInput(found.way, found.screws, found.catches, use.km_per_year, use.oil_interval_km)
    )
    return (
        figure(
            "oil_screws",
            "Screws to drop for oil",
            float(found.screws),
            "",
            inputs=(
                Input("Screws that hold the plate", len(candidate.joints)),
                Input("Radius that a drain socket needs", SOCKET_RADIUS_MM, "mm"),
                Input("Room a filter needs around it", TOOL_AROUND_MM, "mm"),
            ),
            reasons=(found.why,),
            assumptions=(
                "A drain is approached straight from below, a filter leaves the way that it is "
                "drawn.",
            ),
            sources=(OIL_SOURCE,),
        ),
        figure_of(
            outcome,
            "service",
            "Oil service, a year",
            outcome.result.minutes_per_year,
            "min",
            reasons=(found.why,),
        ),
    )
