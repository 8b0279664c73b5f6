"""Every public computation by its name: JSON in, JSON out, schema from the dataclasses."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, get_args, get_type_hints

from pydantic import TypeAdapter, ValidationError

from rugged_shield.calc.examples import EXAMPLES
from rugged_shield.core.assess.survey.measure_next import MeasureNextInput, what_to_measure
from rugged_shield.core.errors import InputError, choose
from rugged_shield.core.fitup.bearing import BearingFacesInput, bearing_faces
from rugged_shield.core.fitup.bracket_bend import BracketBendInput, bracket_bend
from rugged_shield.core.fitup.draw_up import DrawUpInput, draw_up
from rugged_shield.core.fitup.hole_fit import HoleFitInput, hole_fit
from rugged_shield.core.fitup.stack import joint_stack
from rugged_shield.core.fitup.stack_model import StackInput
from rugged_shield.core.fitup.sweep import SweepInput, sweep
from rugged_shield.core.fitup.vent_field import VentFieldInput, vent_field
from rugged_shield.core.keep.spares import SparesInput, spares
from rugged_shield.core.keep.wear_left import WearLeftInput, wear_left
from rugged_shield.core.kit.identify import IdentifyInput, identify
from rugged_shield.core.kit.read_list import ReadListInput, read_list
from rugged_shield.core.mechanics.preload import PreloadInput, assembly_preload
from rugged_shield.core.mechanics.strip import StripInput, thread_strip
from rugged_shield.core.quantity import convert_torque, ranges_of
from rugged_shield.core.result import Input, Outcome, Source
from rugged_shield.core.shell.solve import ShellInput, shell_response
from rugged_shield.core.survey.mass import (
    PlateMassInput,
    ThicknessInput,
    plate_mass,
    thickness_compare,
)
from rugged_shield.core.survey.measures import PlateGeometryInput, plate_geometry
from rugged_shield.core.survey.photo_outline import (
    PhotoOutlineInput,
    PhotoPlacesInput,
    photo_outline,
    photo_places,
)
from rugged_shield.core.survey.photo_scale import PhotoScaleInput, photo_scale
from rugged_shield.core.survey.rampover import (
    BudgetInput,
    ClearanceInput,
    clearance,
    clearance_budget,
)
from rugged_shield.core.survey.sag import SagInput, sag
from rugged_shield.core.survey.standoff import StandoffInput, standoff
from rugged_shield.core.survey.weighing import WeighInput, weigh_difference
from rugged_shield.core.tighten.limits import (
    LimitInput,
    LubricantInput,
    lubricant_change,
    torque_limit,
)
from rugged_shield.core.tighten.preload_loss import PreloadLossInput, preload_loss
from rugged_shield.core.tighten.turn_angle import TurnAngleInput, turn_angle
from rugged_shield.core.tighten.wrench import WrenchInput, wrench_setting
from rugged_shield.core.weighup.airflow import AirInput, airflow
from rugged_shield.core.weighup.corrosion import CorrosionInput, corrosion
from rugged_shield.core.weighup.coverage import CoverageInput, coverage
from rugged_shield.core.weighup.decide import DecideInput, decide
from rugged_shield.core.weighup.dent_back import DentInput, dent_energy
from rugged_shield.core.weighup.heat import HeatInput, heat
from rugged_shield.core.weighup.response import ResponseInput, strike_response
from rugged_shield.core.weighup.ring import RingInput, ring
from rugged_shield.core.weighup.service import ServiceInput, service
from rugged_shield.core.weighup.strike import StrikeInput, strike
from rugged_shield.core.weighup.strike_field import StrikeMapInput
from rugged_shield.core.weighup.strike_map import strike_map
from rugged_shield.core.weighup.strike_point import StrikePointInput, strike_point
from rugged_shield.core.weighup.withstood import withstood_share
from rugged_shield.formats.jsontext import first_error, unknown_names

MAX_ITEMS = 1000


@dataclass(frozen=True)
class TorqueItem:
    """One torque to convert."""

    value: float
    unit_from: str
    unit_to: str


@dataclass(frozen=True)
class ConvertInput:
    """Torques to convert, up to 1000 at once."""

    items: tuple[TorqueItem, ...]


@dataclass(frozen=True)
class ConvertResult:
    """Converted values in the order given."""

    results: tuple[float, ...]


def convert_torques(given: ConvertInput) -> Outcome[ConvertResult]:
    """Exact conversion between N.m, lbf.ft, lbf.in, kgf.m and kgf.cm."""
    if not 1 <= len(given.items) <= MAX_ITEMS:
        raise InputError("items", len(given.items), f"1 to {MAX_ITEMS} items")
    results = []
    for i, item in enumerate(given.items):
        try:
            results.append(convert_torque(item.value, item.unit_from, item.unit_to))
        except InputError as error:
            raise error.at(f"items.{i}") from error
    return Outcome(
        result=ConvertResult(tuple(results)),
        inputs=(Input("Items", len(results)),),
        reasons=("Exact factors: 0.45359237 kg, 0.3048 m, 9.80665 m/s².",),
        sources=(Source("ISO 80000-4; international yard and pound (1959)", "high"),),
    )


@dataclass(frozen=True)
class Calculation:
    """One named computation: its input type, its function and a runnable example."""

    given: Any
    run: Callable[[Any], Outcome[Any]]
    example: dict[str, Any]


CALCULATIONS: dict[str, Calculation] = {
    "thread-strip": Calculation(StripInput, thread_strip, EXAMPLES["thread-strip"]),
    "assembly-preload": Calculation(PreloadInput, assembly_preload, EXAMPLES["assembly-preload"]),
    "joint-stack": Calculation(StackInput, joint_stack, EXAMPLES["joint-stack"]),
    "torque-limit": Calculation(LimitInput, torque_limit, EXAMPLES["torque-limit"]),
    "lubricant-change": Calculation(LubricantInput, lubricant_change, EXAMPLES["lubricant-change"]),
    "wrench-setting": Calculation(WrenchInput, wrench_setting, EXAMPLES["wrench-setting"]),
    "convert-torque": Calculation(ConvertInput, convert_torques, EXAMPLES["convert-torque"]),
    "plate-mass": Calculation(PlateMassInput, plate_mass, EXAMPLES["plate-mass"]),
    "thickness-compare": Calculation(
        ThicknessInput, thickness_compare, EXAMPLES["thickness-compare"]
    ),
    "plate-geometry": Calculation(PlateGeometryInput, plate_geometry, EXAMPLES["plate-geometry"]),
    "standoff": Calculation(StandoffInput, standoff, EXAMPLES["standoff"]),
    "weigh-difference": Calculation(WeighInput, weigh_difference, EXAMPLES["weigh-difference"]),
    "clearance": Calculation(ClearanceInput, clearance, EXAMPLES["clearance"]),
    "clearance-budget": Calculation(BudgetInput, clearance_budget, EXAMPLES["clearance-budget"]),
    "sag": Calculation(SagInput, sag, EXAMPLES["sag"]),
    "what-to-measure": Calculation(MeasureNextInput, what_to_measure, EXAMPLES["what-to-measure"]),
    "read-list": Calculation(ReadListInput, read_list, EXAMPLES["read-list"]),
    "identify": Calculation(IdentifyInput, identify, EXAMPLES["identify"]),
    "photo-scale": Calculation(PhotoScaleInput, photo_scale, EXAMPLES["photo-scale"]),
    "photo-outline": Calculation(PhotoOutlineInput, photo_outline, EXAMPLES["photo-outline"]),
    "photo-places": Calculation(PhotoPlacesInput, photo_places, EXAMPLES["photo-places"]),
    "hole-fit": Calculation(HoleFitInput, hole_fit, EXAMPLES["hole-fit"]),
    "draw-up": Calculation(DrawUpInput, draw_up, EXAMPLES["draw-up"]),
    "bracket-bend": Calculation(BracketBendInput, bracket_bend, EXAMPLES["bracket-bend"]),
    "vent-field": Calculation(VentFieldInput, vent_field, EXAMPLES["vent-field"]),
    "sweep": Calculation(SweepInput, sweep, EXAMPLES["sweep"]),
    "preload-loss": Calculation(PreloadLossInput, preload_loss, EXAMPLES["preload-loss"]),
    "turn-angle": Calculation(TurnAngleInput, turn_angle, EXAMPLES["turn-angle"]),
    "bearing-faces": Calculation(BearingFacesInput, bearing_faces, EXAMPLES["bearing-faces"]),
    "wear-left": Calculation(WearLeftInput, wear_left, EXAMPLES["wear-left"]),
    "spares": Calculation(SparesInput, spares, EXAMPLES["spares"]),
    "coverage": Calculation(CoverageInput, coverage, EXAMPLES["coverage"]),
    "heat": Calculation(HeatInput, heat, EXAMPLES["heat"]),
    "airflow": Calculation(AirInput, airflow, EXAMPLES["airflow"]),
    "ring": Calculation(RingInput, ring, EXAMPLES["ring"]),
    "corrosion": Calculation(CorrosionInput, corrosion, EXAMPLES["corrosion"]),
    "service": Calculation(ServiceInput, service, EXAMPLES["service"]),
    "shell-response": Calculation(ShellInput, shell_response, EXAMPLES["shell-response"]),
    "strike-response": Calculation(ResponseInput, strike_response, EXAMPLES["strike-response"]),
    "strike-map": Calculation(StrikeMapInput, strike_map, EXAMPLES["strike-map"]),
    "strike-held": Calculation(StrikeMapInput, withstood_share, EXAMPLES["strike-held"]),
    "strike-point": Calculation(StrikePointInput, strike_point, EXAMPLES["strike-point"]),
    "dent-energy": Calculation(DentInput, dent_energy, EXAMPLES["dent-energy"]),
    "decide": Calculation(DecideInput, decide, EXAMPLES["decide"]),
    "strike": Calculation(StrikeInput, strike, EXAMPLES["strike"]),
}

_ADAPTERS: dict[str, TypeAdapter[Any]] = {}


def _adapter(name: str) -> TypeAdapter[Any]:
    choose("name", name, CALCULATIONS, "computation")
    if name not in _ADAPTERS:
        _ADAPTERS[name] = TypeAdapter(CALCULATIONS[name].given)
    return _ADAPTERS[name]


def schema(name: str) -> dict[str, Any]:
    """JSON Schema of a computation's input, with the ranges the core enforces."""
    found = _adapter(name).json_schema()
    types = {CALCULATIONS[name].given.__name__: CALCULATIONS[name].given}
    _collect(CALCULATIONS[name].given, types)
    for title, block in ((found.get("title"), found), *found.get("$defs", {}).items()):
        for field, allowed in ranges_of(types[title]).items() if title in types else ():
            target = block["properties"][field]
            target |= {"x-unit": allowed.unit, "minimum": allowed.least, "maximum": allowed.most}
    return found


def _collect(cls: Any, types: dict[str, Any]) -> None:
    """Dataclasses that an input is made of, by name."""
    for hint in get_type_hints(cls).values():
        for option in (hint, *get_args(hint)):
            if hasattr(option, "__dataclass_fields__") and option.__name__ not in types:
                types[option.__name__] = option
                _collect(option, types)


def _read(adapter: TypeAdapter[Any], given: dict[str, Any]) -> tuple[Any, tuple[str, ...]]:
    """The input, and the paths in it that nothing takes."""
    try:
        return adapter.validate_python(given, extra="forbid"), ()
    except ValidationError as refused:
        unused = unknown_names(refused)
    try:
        return adapter.validate_python(given), unused
    except ValidationError as error:
        raise first_error(error) from error


def calculate(name: str, given: Any) -> dict[str, Any]:
    """Run one computation on plain JSON values; raises InputError for bad input."""
    adapter = _adapter(name)
    if not isinstance(given, dict):
        raise InputError("input", type(given).__name__, "one JSON object")
    typed, unused = _read(adapter, given)
    outcome = CALCULATIONS[name].run(typed)
    extra = tuple(f"The field “{field}” is not known here and was not used." for field in unused)
    out: dict[str, Any] = _OUTCOME.dump_python(
        {
            "result": outcome.result,
            "verdict": outcome.verdict,
            "findings": outcome.findings,
            "reasons": outcome.reasons,
            "assumptions": outcome.assumptions,
            "warnings": outcome.warnings + extra,
            "sources": outcome.sources,
        },
        mode="json",
    )
    return out


_OUTCOME: TypeAdapter[Any] = TypeAdapter(dict[str, Any])


def error_json(error: InputError, reference: str = "") -> dict[str, Any]:
    """The one error shape of calc and API."""
    return {
        "error": {
            "field": error.field,
            "value": error.value,
            "allowed": error.allowed,
            "message": error.message,
            "remedy": error.remedy,
            "reference": reference,
        }
    }
