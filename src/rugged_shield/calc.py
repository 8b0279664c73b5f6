"""Every public computation by its name: JSON in, JSON out, schema from the dataclasses."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, fields
from typing import Any, get_args, get_type_hints

from pydantic import TypeAdapter, ValidationError

from rugged_shield.core.assess.survey import MeasureNextInput, what_to_measure
from rugged_shield.core.errors import InputError, choose
from rugged_shield.core.fitup import StackInput, joint_stack
from rugged_shield.core.mechanics.preload import PreloadInput, assembly_preload
from rugged_shield.core.mechanics.strip import StripInput, thread_strip
from rugged_shield.core.quantity import convert_torque, ranges_of
from rugged_shield.core.result import Input, Outcome, Source
from rugged_shield.core.shell import ShellInput, shell_response
from rugged_shield.core.survey import (
    BudgetInput,
    ClearanceInput,
    PlateGeometryInput,
    PlateMassInput,
    SagInput,
    StandoffInput,
    ThicknessInput,
    WeighInput,
    clearance,
    clearance_budget,
    plate_geometry,
    plate_mass,
    sag,
    standoff,
    thickness_compare,
    weigh_difference,
)
from rugged_shield.core.tighten import (
    LimitInput,
    LubricantInput,
    WrenchInput,
    lubricant_change,
    torque_limit,
    wrench_setting,
)
from rugged_shield.core.weighup import (
    AirInput,
    CorrosionInput,
    CoverageInput,
    DecideInput,
    DentInput,
    HeatInput,
    ResponseInput,
    RingInput,
    ServiceInput,
    StrikeInput,
    StrikeMapInput,
    StrikePointInput,
    airflow,
    corrosion,
    coverage,
    decide,
    dent_energy,
    heat,
    ring,
    service,
    strike,
    strike_map,
    strike_point,
    strike_response,
    withstood_share,
)
from rugged_shield.formats.jsontext import first_error

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


_BOX_PLATE = {
    "key": "pan",
    "name": "flat pan",
    "role": "candidate",
    "material": "aluminium 5052-H32",
    "thickness_mm": 4,
    "form": "flat",
    "mounting": "frame",
    "belly": {
        "start_x_mm": 500,
        "length_mm": 400,
        "front_width_mm": 240,
        "rear_width_mm": 240,
        "z_front_mm": 280,
        "z_rear_mm": 280,
    },
    "cutouts": [
        {
            "key": "drain",
            "panel": "belly",
            "shape": "round",
            "purpose": "drain",
            "u_mm": 200,
            "v_mm": 0,
            "width_mm": 60,
        }
    ],
}
_SUMP = {
    "key": "sump",
    "name": "sump",
    "kind": "vital",
    "shape": "sump",
    "x_min_mm": 600,
    "x_max_mm": 800,
    "y_min_mm": -80,
    "y_max_mm": 80,
    "z_min_mm": 310,
    "z_max_mm": 340,
}
_JOB = {
    "title": "which plate",
    "wrench": {"name": "click wrench", "scale_max_nm": 60, "length_mm": 270},
    "bike": {
        "name": "a single",
        "wheelbase_mm": 1480,
        "front_wheel_radius_mm": 345,
        "rear_wheel_radius_mm": 322,
        "parts": [_SUMP],
        "mounts": [],
    },
    "stock": {"plate": {**_BOX_PLATE, "key": "stock", "role": "stock"}, "joints": []},
    "candidates": [{"plate": _BOX_PLATE, "joints": []}],
}
_TURNING = {"head_bearing_diameter_mm": 15.8, "head_bearing_hole_mm": 9.0}

_SHEET = {
    "panels": [
        {
            "name": "belly",
            "outline_mm": [[0, -120], [300, -120], [300, 120], [0, 120]],
            "origin_mm": [0, 0, 0],
            "u_axis": [1, 0, 0],
            "v_axis": [0, 1, 0],
        }
    ],
    "thickness_mm": 4,
    "youngs_modulus_mpa": 70000,
    "poisson": 0.33,
}
_HELD = [
    {"name": f"m{i}", "at_mm": [x, y, 0], "stiffness_n_per_mm": [10000, 10000, 50000]}
    for i, (x, y) in enumerate(((20, -100), (20, 100), (280, -100), (280, 100)))
]

_STRUCK = {
    "plate": _BOX_PLATE,
    "parts": [_SUMP],
    "mesh_mm": 25,
    "energy_j": 60,
    "mounts": [
        {"name": f"m{i}", "at_mm": [x, y, 280], "stiffness_n_per_mm": [6000, 6000, 2300]}
        for i, (x, y) in enumerate(((530, -80), (530, 80), (770, -80), (770, 80)))
    ],
}

CALCULATIONS: dict[str, Calculation] = {
    "thread-strip": Calculation(
        StripInput,
        thread_strip,
        {"thread": "M6", "engagement_effective_mm": 9.5, "female_shear_strength_mpa": 110},
    ),
    "assembly-preload": Calculation(
        PreloadInput,
        assembly_preload,
        {"thread": "M8", "bolt_rp02_mpa": 640, "mu_thread": 0.1, "mu_head": 0.14, **_TURNING},
    ),
    "joint-stack": Calculation(
        StackInput,
        joint_stack,
        {
            "thread": "M8",
            "head": "ISO 4762",
            "layers": [{"name": "plate", "thickness_mm": 5, "tol_mm": 0.2}],
            "female": {"kind": "blind_tapped", "thread_start_mm": 1, "thread_end_mm": 22},
            "required_engagement_mm": 12,
        },
    ),
    "torque-limit": Calculation(
        LimitInput,
        torque_limit,
        {
            "thread": "M8",
            "bolt_rp02_mpa": 640,
            "mu_thread": 0.12,
            "mu_head": 0.12,
            "engagement_effective_mm": 9,
            "female_shear_strength_mpa": 110,
            **_TURNING,
        },
    ),
    "lubricant-change": Calculation(
        LubricantInput,
        lubricant_change,
        {
            "thread": "M8",
            "torque_dry_nm": 22,
            "mu_dry": 0.14,
            "mu_new": 0.1,
            "bolt_rp02_mpa": 640,
            **_TURNING,
        },
    ),
    "wrench-setting": Calculation(
        WrenchInput,
        wrench_setting,
        {
            "torque_wanted_nm": 22,
            "wrench_length_mm": 270,
            "extension_mm": 60,
            "thread": "M8",
            "mu_min": 0.1,
            "mu_max": 0.2,
            **_TURNING,
        },
    ),
    "convert-torque": Calculation(
        ConvertInput,
        convert_torques,
        {"items": [{"value": 22, "unit_from": "N.m", "unit_to": "lbf.ft"}]},
    ),
    "plate-mass": Calculation(PlateMassInput, plate_mass, {"plate": _BOX_PLATE}),
    "thickness-compare": Calculation(
        ThicknessInput,
        thickness_compare,
        {
            "material": "HDPE",
            "thickness_mm": 10,
            "base_material": "aluminium 5052-H32",
            "base_thickness_mm": 4,
        },
    ),
    "plate-geometry": Calculation(PlateGeometryInput, plate_geometry, {"plate": _BOX_PLATE}),
    "standoff": Calculation(StandoffInput, standoff, {"plate": _BOX_PLATE, "parts": [_SUMP]}),
    "weigh-difference": Calculation(
        WeighInput,
        weigh_difference,
        {
            "with_part": [84.6, 84.5, 84.6],
            "without_part": [80.3, 80.4, 80.3],
            "resolution": 0.1,
            "unit": "kg",
        },
    ),
    "clearance": Calculation(
        ClearanceInput,
        clearance,
        {
            "wheelbase_mm": 1480,
            "low_point_from_rear_axle_mm": 700,
            "low_point_height_mm": 270,
            "rear_wheel_radius_mm": 322,
            "front_wheel_radius_mm": 345,
            "added_mass_kg": 4.2,
            "added_mass_from_rear_axle_mm": 750,
            "front_wheel_rate_n_per_mm": 9,
            "rear_wheel_rate_n_per_mm": 24,
            "plate_below_low_point_mm": 8,
        },
    ),
    "clearance-budget": Calculation(
        BudgetInput,
        clearance_budget,
        {
            "gap_mm": 14,
            "gap_tol_mm": 0.5,
            "required_mm": 3,
            "parts": [{"name": "screw head", "value_mm": 4.4, "tol_mm": 0.2}],
        },
    ),
    "sag": Calculation(
        SagInput,
        sag,
        {
            "wheelbase_mm": 1480,
            "added_mass_kg": 4.2,
            "added_mass_from_front_axle_mm": 690,
            "rider_mass_kg": 88,
            "front_sag_with_rider_mm": 62,
            "front_sag_without_rider_mm": 28,
            "rear_sag_with_rider_mm": 95,
            "rear_sag_without_rider_mm": 30,
        },
    ),
    "what-to-measure": Calculation(MeasureNextInput, what_to_measure, {"job": _JOB}),
    "coverage": Calculation(CoverageInput, coverage, {"parts": [_SUMP], "plate": _BOX_PLATE}),
    "heat": Calculation(
        HeatInput,
        heat,
        {"hot_surface_c": 330, "gap_mm": 25, "facing_area_mm2": 6000, "service_limit_c": 80},
    ),
    "airflow": Calculation(AirInput, airflow, {"parts": [_SUMP], "plate": _BOX_PLATE}),
    "ring": Calculation(
        RingInput,
        ring,
        {
            "material": "aluminium 5052-H32",
            "thickness_mm": 4,
            "slider_material": "HDPE",
            "slider_thickness_mm": 6,
        },
    ),
    "corrosion": Calculation(
        CorrosionInput,
        corrosion,
        {"pairs": [{"where": "joint 3, thread", "first": "stainless", "second": "aluminium"}]},
    ),
    "service": Calculation(ServiceInput, service, {"way": "plate off", "screws": 6}),
    "shell-response": Calculation(
        ShellInput,
        shell_response,
        {
            **_SHEET,
            "mounts": _HELD,
            "mesh_mm": 20,
            "loads": [{"panel": "belly", "at_mm": [150, 0]}],
        },
    ),
    "strike-response": Calculation(
        ResponseInput,
        strike_response,
        {
            "plate_stiffness_n_per_mm": 570,
            "thickness_mm": 4,
            "youngs_modulus_mpa": 70000,
            "poisson": 0.33,
            "yield_mpa": 190,
            "in_plane_stiffness_n_per_mm": 10000,
            "energies_j": [15, 60, 150],
        },
    ),
    "strike-map": Calculation(StrikeMapInput, strike_map, _STRUCK),
    "strike-held": Calculation(StrikeMapInput, withstood_share, _STRUCK),
    "strike-point": Calculation(
        StrikePointInput, strike_point, {"asked": _STRUCK, "x_mm": 650, "y_mm": 0}
    ),
    "dent-energy": Calculation(
        DentInput, dent_energy, {"asked": _STRUCK, "x_mm": 650, "y_mm": 20, "depth_mm": 4}
    ),
    "decide": Calculation(
        DecideInput,
        decide,
        {
            "criteria": [
                {"key": "mass", "name": "keep it light", "worst": 8, "best": 1, "weight": 2},
                {
                    "key": "cover",
                    "name": "protect the engine",
                    "worst": 20,
                    "best": 95,
                    "weight": 3,
                },
            ],
            "options": [
                {"key": "a", "name": "aluminium pan", "values": [2.9, 69]},
                {"key": "s", "name": "steel tray", "values": [5.1, 82]},
            ],
        },
    ),
    "strike": Calculation(
        StrikeInput,
        strike,
        {
            **_SHEET,
            "mounts": _HELD,
            "mesh_mm": 20,
            "yield_mpa": 190,
            "energies_j": [15, 60],
            "strike": {"panel": "belly", "at_mm": [150, 0], "direction": [0, 0, 1]},
        },
    ),
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


def calculate(name: str, given: Any) -> dict[str, Any]:
    """Run one computation on plain JSON values; raises InputError for bad input."""
    adapter = _adapter(name)
    if not isinstance(given, dict):
        raise InputError("input", type(given).__name__, "one JSON object")
    try:
        typed = adapter.validate_python(given)
    except ValidationError as error:
        raise first_error(error) from error
    outcome = CALCULATIONS[name].run(typed)
    unused = sorted(set(given) - {f.name for f in fields(CALCULATIONS[name].given)})
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
