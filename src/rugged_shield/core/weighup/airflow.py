"""Air taken: how much of the engine's front a plate hides from the wind."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import shapely
from shapely.geometry.base import BaseGeometry

from rugged_shield.core.computation import computation
from rugged_shield.core.errors import InputError
from rugged_shield.core.quantity import Ranged
from rugged_shield.core.result import Input, Outcome, Source
from rugged_shield.core.survey.bike import Part
from rugged_shield.core.survey.geometry import FoldedPlate, fold
from rugged_shield.core.survey.plate import Plate

AIR_SOURCE = Source("projected areas along the bike, exact polygons", "high")


@dataclass(frozen=True)
class AirInput(Ranged):
    """A plate and the parts that want the wind."""

    plate: Plate
    parts: tuple[Part, ...]

    def __post_init__(self) -> None:
        super().__post_init__()
        if not self.parts:
            raise InputError("parts", "", "one part or more", "nothing wants air")


@dataclass(frozen=True)
class AirResult:
    """Share of the parts' front that is hidden 0–1, areas mm², openings in the hiding panels."""

    share: float
    front_mm2: float
    hidden_mm2: float
    vents_mm2: float


def _seen_from_ahead(panel_outline: BaseGeometry, to_yz: list[float]) -> BaseGeometry:
    return shapely.transform(
        panel_outline,
        lambda uv: uv @ [[to_yz[0], to_yz[1]], [to_yz[2], to_yz[3]]] + [to_yz[4], to_yz[5]],
    )


@lru_cache(maxsize=256)
def _front(parts: tuple[Part, ...]) -> BaseGeometry:
    """The front of the parts, seen level from ahead."""
    return shapely.union_all(
        [shapely.box(p.y_min_mm, p.z_min_mm, p.y_max_mm, p.z_max_mm) for p in parts]
    )


@lru_cache(maxsize=256)
def _shadow(folded: FoldedPlate) -> tuple[BaseGeometry, float]:
    """What the plate hides from ahead, and the openings in it, mm²."""
    shadows, vents = [], 0.0
    for panel in folded.panels:
        if abs(panel.normal[0]) < 1e-3:
            continue
        axes = [panel.u[1], panel.u[2], panel.v[1], panel.v[2], panel.origin[1], panel.origin[2]]
        shadows.append(shapely.make_valid(_seen_from_ahead(panel.net(), axes)))
        shut = shapely.make_valid(_seen_from_ahead(panel.outline, axes))
        vents += float(shut.area - shadows[-1].area)
    return shapely.union_all(shadows), vents


@lru_cache(maxsize=512)
def air_of(folded: FoldedPlate, parts: tuple[Part, ...]) -> AirResult:
    """Shadow of the plate on the front of the parts, level from ahead; open cutouts let it by."""
    front = _front(parts)
    shadow, vents = _shadow(folded)
    hidden = shadow.intersection(front).area
    return AirResult(float(hidden / front.area), float(front.area), float(hidden), vents)


@computation(
    "airflow",
    page="ownership",
    check="test_a_wall_hides_its_share_of_the_front",
)
def airflow(given: AirInput) -> Outcome[AirResult]:
    """Share of the parts' front area that the plate hides from the wind."""
    result = air_of(fold(given.plate), given.parts)
    return Outcome(
        result=result,
        inputs=(
            Input("Front of the parts", result.front_mm2, "mm²"),
            Input("Of it behind the plate", result.hidden_mm2, "mm²"),
            Input("Openings seen from ahead", result.vents_mm2, "mm²"),
        ),
        reasons=("Area behind the plate over the area of all parts, both seen level from ahead.",),
        assumptions=("Straight wind; wheel and mudguard are not in it.",),
        sources=(AIR_SOURCE,),
    )
