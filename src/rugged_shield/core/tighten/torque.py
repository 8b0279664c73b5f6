"""The torque card of a joint: every source beside every limit, one target, its band."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Annotated

from rugged_shield.core.fitup import Joint, Layer, StackResult, clamped, female_of
from rugged_shield.core.mechanics import threads
from rugged_shield.core.mechanics.preload import torque_per_preload_mm
from rugged_shield.core.quantity import Range, Ranged, show
from rugged_shield.core.result import (
    Finding,
    Input,
    Outcome,
    finding,
    merge_sources,
)
from rugged_shield.core.survey import Mount
from rugged_shield.core.tables.friction import (
    CONDITIONS,
    SPEC_CONDITION,
    WRENCH_SOURCE,
    Condition,
    wrench_error,
)
from rugged_shield.core.tables.hardware import NUTS, PREVAILING_MAX_NM, PREVAILING_SOURCE
from rugged_shield.core.tables.heads import HEADS
from rugged_shield.core.tables.materials import SHEET_MATERIALS
from rugged_shield.core.tables.thread_materials import THREAD_MATERIALS
from rugged_shield.core.tighten.limits import (
    LimitInput,
    LimitResult,
    LubricantInput,
    lubricant_change,
    torque_limit,
)
from rugged_shield.core.tighten.wrench import setting_nm

APP_UTILISATION = 0.75
CONFLICT_SHARE = 0.20
_LAYER_PRESSURE_MPA = {"steel": 490.0, "cast aluminium": 220.0}
_CONE_TANGENT = math.tan(math.radians(30))


@dataclass(frozen=True)
class WrenchTool(Ranged):
    """The click wrench and its extension: scale N·m, lengths mm, angle in degrees."""

    name: str
    scale_max_nm: Annotated[float, Range(2.0, 500.0, "N·m")]
    length_mm: Annotated[float, Range(80.0, 1500.0, "mm")]
    extension_mm: Annotated[float, Range(0.0, 500.0, "mm")] = 0.0
    angle_deg: Annotated[float, Range(0.0, 90.0, "°")] = 0.0


@dataclass(frozen=True)
class TorqueSource:
    """One opinion on the torque, as printed and as it reads for this treatment, N·m."""

    key: str
    label: str
    printed_nm: float | None
    torque_nm: float | None
    decides: bool
    note: str


@dataclass(frozen=True)
class TorqueLimit:
    """One computed limit, N·m at the wrench."""

    name: str
    torque_nm: float
    governs: bool


@dataclass(frozen=True)
class TorqueCard:
    """All that Tighten shows for a joint. Torque N·m, preload N, length mm."""

    joint: str
    number: int
    name: str
    sources: tuple[TorqueSource, ...]
    limits: tuple[TorqueLimit, ...]
    governing: str
    limit_nm: float
    target_nm: float
    low_nm: float
    high_nm: float
    preload_min_n: float
    preload_max_n: float
    yield_share_max: float
    treatment: str
    treatment_note: str
    lubricant_factor: float
    setting_nm: float
    setting_note: str
    turned: str
    tool: str
    counter_tool: str
    decision: str


def drive_tool(joint: Joint) -> str:
    """The tool for the head, in the standard's words."""
    row, family = threads.head_of(joint.head, joint.thread), HEADS[joint.head]
    if family.drive == "six-lobe":
        return f"six-lobe {row.drive_size}"
    return f"{row.drive_size} {family.drive}"


def nut_tool(joint: Joint) -> str:
    """The spanner for a loose nut, or nothing."""
    if not joint.nut:
        return ""
    return f"{NUTS[joint.nut][threads.nominal_size(joint.thread)].across_flats_mm:g} mm spanner"


def _rotating_face(joint: Joint) -> tuple[float, float]:
    """Bearing diameter that turns and the hole under it, mm."""
    layers = clamped(joint)
    if joint.turned == "nut" and joint.nut:
        return threads.head_of("ISO 4017", joint.thread).bearing_diameter_mm, layers[-1].hole_mm
    bearing = threads.head_of(joint.head, joint.thread).bearing_diameter_mm
    hole = layers[0].hole_mm
    if joint.is_countersunk or hole >= bearing:
        hole = threads.row_of(joint.thread).d_mm
    return bearing, hole


def _pressure_limit(layer: Layer) -> float | None:
    sheet = SHEET_MATERIALS.get(layer.material)
    return sheet.bearing_limit_mpa if sheet else _LAYER_PRESSURE_MPA.get(layer.material)


def weakest_face(joint: Joint) -> tuple[float, float, float, str] | None:
    """Ring (outer, inner mm), pressure limit MPa and name of the face that yields first.

    The load spreads in a 30° cone from the head (VDI 2230-1, 5.1), never wider
    than the narrower of the two parts. A sleeve carries it past its plate.
    """
    layers = clamped(joint)
    head = threads.head_of(joint.head, joint.thread)
    d = threads.row_of(joint.thread).d_mm
    spread, faces = head.bearing_diameter_mm, []
    above_outer, above_hole = spread, d
    for layer in layers:
        limit = _pressure_limit(layer)
        outer = min(above_outer, layer.outer_mm, spread)
        inner = max(above_hole, layer.hole_mm)
        if limit is not None and outer > inner:
            area = math.pi / 4 * (outer**2 - inner**2)
            faces.append((limit * area, outer, inner, limit, layer.name))
        wide = layer.outer_mm if layer.kind == "washer" else math.inf
        spread = max(min(spread + 2 * layer.thickness_mm * _CONE_TANGENT, wide), spread)
        if layer.kind == "washer":
            spread = layer.outer_mm
        above_outer, above_hole = layer.outer_mm, layer.hole_mm
    if not faces:
        return None
    _, outer, inner, limit, name = min(faces)
    return outer, inner, limit, name


def _limit_input(
    joint: Joint, mount: Mount | None, stack: StackResult, condition: Condition
) -> tuple[LimitInput, str]:
    """Input of the limits, and the name of the weakest face."""
    _, material = female_of(joint, mount)
    grade = threads.grade_of(joint.grade)
    bearing, hole = _rotating_face(joint)
    cone = math.sin(math.radians(45)) if joint.is_countersunk and joint.turned == "head" else 1.0
    held = stack.evaluations[0].engagement_effective_worst_mm if stack.evaluations else 0.0
    face = weakest_face(joint)
    strips = not joint.nut and held > 0
    return LimitInput(
        thread=joint.thread,
        bolt_rp02_mpa=grade.rp02_mpa,
        head_bearing_diameter_mm=bearing,
        head_bearing_hole_mm=hole,
        mu_thread=condition.mu,
        mu_head=min(0.6, condition.mu / cone),
        utilisation=APP_UTILISATION,
        engagement_effective_mm=held if strips else None,
        female_shear_strength_mpa=THREAD_MATERIALS[material].shear_strength_mpa if strips else None,
        clamped_bearing_outer_mm=face[0] if face else None,
        clamped_bearing_inner_mm=face[1] if face else None,
        bearing_pressure_limit_mpa=face[2] if face else None,
        prevailing_torque_nm=_prevailing_nm(joint),
        loadability=HEADS[joint.head].loadability,
    ), (face[3] if face else "")


def _prevailing_nm(joint: Joint) -> float:
    if joint.nut in ("ISO 7040", "ISO 7042"):
        return PREVAILING_MAX_NM[threads.nominal_size(joint.thread)]
    return 0.0


def _specified_for(joint: Joint, source: str) -> Condition:
    """The condition a printed torque means: the bike's own bolt, or the kit's screw."""
    if source == "plate sheet" and threads.grade_of(joint.grade).stainless:
        return CONDITIONS["dry stainless"]
    return CONDITIONS[SPEC_CONDITION]


def _factor(joint: Joint, given: LimitInput, condition: Condition, source: str) -> float:
    """What this treatment makes of a torque that the source prints for dry threads."""
    spec = _specified_for(joint, source)
    if not condition.is_lubricant:
        return 1.0
    return lubricant_change(
        LubricantInput(
            joint.thread, 10.0, spec.mu, condition.mu, given.head_bearing_diameter_mm,
            given.head_bearing_hole_mm, given.bolt_rp02_mpa,
        )
    ).result.factor  # fmt: skip


def _sources(
    joint: Joint, mount: Mount | None, factors: dict[str, float], limit_nm: float
) -> tuple[TorqueSource, ...]:
    """Bike manual, plate sheet and computed limit; one of them decides."""
    manual = joint.manual_torque_nm or (mount.manual_torque_nm if mount else None)
    sheet = joint.sheet_torque_nm
    owner = "bike manual" if joint.thread_owner == "bike" else "plate sheet"
    printed = {"bike manual": manual, "plate sheet": sheet}
    decides = owner if printed[owner] is not None else next(
        (name for name, value in printed.items() if value is not None), "computed limit"
    )  # fmt: skip
    if joint.chosen_torque_nm is not None:
        decides = "rider"
    rows = [
        TorqueSource(
            name, name[0].upper() + name[1:], value,
            None if value is None else value * factors[name],
            name == decides, _note(value, factors[name], name == owner),
        )
        for name, value in printed.items()
    ]  # fmt: skip
    rows.append(
        TorqueSource(
            "computed limit",
            "Computed limit",
            None,
            limit_nm,
            decides == "computed limit",
            "never passed, whatever a sheet says",
        )
    )
    if joint.chosen_torque_nm is not None:
        rows.append(
            TorqueSource(
                "rider",
                "Your decision",
                joint.chosen_torque_nm,
                joint.chosen_torque_nm,
                True,
                joint.chosen_reason,
            )
        )
    return tuple(rows)


def _note(value: float | None, factor: float, is_owner: bool) -> str:
    if value is None:
        return "gives no figure for this joint"
    words = "owner of the thread" if is_owner else "second opinion"
    return f"{words}; ×{factor:.2f} for the lubricant" if abs(factor - 1) > 0.005 else words


def _findings(
    joint: Joint, sources: tuple[TorqueSource, ...], limit: LimitResult, target: float,
    wanted: float, yield_share: float, strip_share: float,
) -> list[Finding]:  # fmt: skip
    found = []
    opinions = [s.torque_nm for s in sources if s.key in ("bike manual", "plate sheet")]
    values = [v for v in opinions if v is not None]
    if not values and joint.chosen_torque_nm is None:
        found.append(
            finding(
                "no torque source",
                "Neither manual nor sheet gives a torque: the computed limit is used as target. "
                "The sheet or the service manual would settle it.",
            )
        )
    if len(values) == 2 and abs(values[0] - values[1]) > CONFLICT_SHARE * max(values):
        found.append(
            finding(
                "sources conflict",
                f"Manual and sheet differ by {abs(values[0] - values[1]):.1f} N·m.",
            )
        )
    if wanted > target + 1e-9:
        found.append(
            finding(
                "held at the limit",
                f"{wanted:.1f} N·m is above the limit of the {limit.governing}: "
                f"held at {target:.1f}.",
            )
        )
    if yield_share > 1 or strip_share > 1:
        what = "the screw's yield" if yield_share > 1 else "the strip load of the female thread"
        found.append(
            finding("limit reached by scatter", f"Wrench and friction scatter can reach {what}.")
        )
    if any(layer.material == "rubber" for layer in clamped(joint)):
        found.append(
            finding(
                "isolator by feel",
                "Rubber sets its own limit: stop when the washer seats and the rubber stops "
                "bulging further; its maker's figure comes first.",
            )
        )
    if threads.grade_of(joint.grade).stainless and joint.treatment == "dry stainless":
        found.append(finding("galls", "Dry stainless galls and seizes: use anti-seize."))
    return found


def _treatment_note(joint: Joint, condition: Condition, factor: float, kept_share: float) -> str:
    if condition.is_lubricant:
        return (
            f"Slippery: a dry figure is multiplied by {factor:.2f}. Kept as printed, the screw "
            f"would reach {kept_share:.0%} of its yield."
        )
    if condition.is_locker:
        return (
            "Wet locker slides about like a clean zinc thread (×1.00). Never under a "
            "nylon-insert nut. Let it cure as its label says before riding."
        )
    return "As the printed figures assume."


def torque_card(
    joint: Joint, mount: Mount | None, stack: StackResult, wrench: WrenchTool
) -> Outcome[TorqueCard]:
    """Target and band of a joint, with every source and limit beside it.

    The owner of the thread decides (bike's thread: manual; kit to kit: sheet),
    corrected for the lubricant, never above the computed limit. Sources are
    total torques; a prevailing nut's run-down is taken off for the preload.
    """
    condition = CONDITIONS[joint.treatment]
    given, face_name = _limit_input(joint, mount, stack, condition)
    limits = torque_limit(given)
    limit = limits.result
    prevailing = given.prevailing_torque_nm
    factors = {s: _factor(joint, given, condition, s) for s in ("bike manual", "plate sheet")}
    sources = _sources(joint, mount, factors, limit.torque_set_nm)
    deciding = next(s for s in sources if s.decides)
    wanted = deciding.torque_nm or limit.torque_set_nm
    factor = factors.get(deciding.key, 1.0)
    target = min(wanted, limit.torque_set_nm)
    error = wrench_error(target)
    least, most = _preload_band(joint, given, condition, target, error, prevailing)
    geo = threads.geometry_of(joint.thread)
    at_yield = limit.preload_limits_n["bolt"] / APP_UTILISATION
    strip_load = 2 * limit.preload_limits_n.get("female thread strip", math.inf)
    found = _findings(joint, sources, limit, target, wanted, most / at_yield, most / strip_load)
    setting = setting_nm(target, wrench.length_mm, wrench.extension_mm, wrench.angle_deg)
    if not 0.2 * wrench.scale_max_nm <= setting <= wrench.scale_max_nm:
        found.append(
            finding(
                "outside wrench range",
                f"{setting:.1f} N·m is outside 20–100 % of this wrench "
                f"({0.2 * wrench.scale_max_nm:g}–{wrench.scale_max_nm:g} N·m): take another.",
            )
        )
    named = {"bearing pressure": f"bearing pressure on {face_name}"}
    card = TorqueCard(
        joint=joint.key,
        number=joint.number,
        name=joint.name,
        sources=sources,
        limits=tuple(
            TorqueLimit(named.get(n, n), v + prevailing, n == limit.governing)
            for n, v in limit.torque_limits_nm.items()
        ),
        governing=named.get(limit.governing, limit.governing),
        limit_nm=limit.torque_set_nm,
        target_nm=target,
        low_nm=target * (1 - error),
        high_nm=target * (1 + error),
        preload_min_n=least,
        preload_max_n=most,
        yield_share_max=most / at_yield,
        treatment=condition.label,
        treatment_note=_treatment_note(
            joint,
            condition,
            factor,
            APP_UTILISATION * target / factor / limit.torque_limits_nm["bolt"],
        ),
        lubricant_factor=factor,
        setting_nm=setting,
        setting_note=_setting_note(wrench),
        turned=_turned(joint),
        tool=nut_tool(joint) if joint.turned == "nut" else drive_tool(joint),
        counter_tool=drive_tool(joint) if joint.turned == "nut" else nut_tool(joint),
        decision=_decision(sources, wanted, target, limit.governing),
    )
    return Outcome(
        card,
        inputs=(
            *limits.inputs,
            *(Input(s.label, s.printed_nm, "N·m") for s in sources if s.printed_nm is not None),
            Input("Friction band", f"{condition.mu_min:g}–{condition.mu_max:g}"),
            Input("Root diameter of the screw", geo.d3_mm, "mm"),
        ),
        findings=tuple(found),
        reasons=(card.decision, *limits.reasons, card.treatment_note),
        assumptions=limits.assumptions
        + (("A nut of the screw's class outlasts the screw (ISO 898-2).",) if joint.nut else ())
        + HEADS[joint.head].notes,
        sources=merge_sources(
            limits.sources, (condition.source, WRENCH_SOURCE, HEADS[joint.head].source),
            (PREVAILING_SOURCE,) if prevailing else (),
        ),
    )  # fmt: skip


def _preload_band(
    joint: Joint, given: LimitInput, condition: Condition, target: float, error: float,
    prevailing: float,
) -> tuple[float, float]:  # fmt: skip
    """Least and most preload N for this set torque, wrench and friction scattering."""
    geo = threads.geometry_of(joint.thread)
    d_km = (given.head_bearing_diameter_mm + given.head_bearing_hole_mm) / 2
    cone = given.mu_head / given.mu_thread
    slick = torque_per_preload_mm(geo, d_km, condition.mu_min, condition.mu_min * cone)
    rough = torque_per_preload_mm(geo, d_km, condition.mu_max, condition.mu_max * cone)
    least = max(0.0, target * (1 - error) - prevailing) * 1000 / rough
    return least, target * (1 + error) * 1000 / slick


def _setting_note(wrench: WrenchTool) -> str:
    if wrench.extension_mm == 0:
        return "no extension: set the target itself"
    return (
        f"with {show(wrench.extension_mm, 'mm', decimals=0)} of extension at "
        f"{wrench.angle_deg:g}° on {show(wrench.length_mm, 'mm', decimals=0)} of wrench"
    )


def _turned(joint: Joint) -> str:
    if joint.turned == "nut":
        return "turn the nut, hold the head"
    return "turn the head, hold the nut" if joint.nut else "turn the head"


def _decision(
    sources: tuple[TorqueSource, ...], wanted: float, target: float, governing: str
) -> str:
    deciding = next(s for s in sources if s.decides)
    words = {
        "bike manual": "The bike's manual decides: the thread is the bike's own.",
        "plate sheet": "The plate's sheet decides.",
        "computed limit": "No figure is printed: the computed limit stands in.",
        "rider": f"Your decision: {deciding.note}",
    }[deciding.key]
    if wanted > target + 1e-9:
        words += f" Held at the limit of the {governing}."
    return words
