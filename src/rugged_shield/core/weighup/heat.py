"""Heat: how warm the sheet gets opposite a hot part, standing and moving.

A local steady balance for each area of sheet; nothing spreads along it, which is
cautious for metal and right for plastic.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Annotated, Any

from rugged_shield.core.amounts import amount, entered
from rugged_shield.core.computation import computation
from rugged_shield.core.errors import InputError
from rugged_shield.core.mechanics.roots import bracketed_root
from rugged_shield.core.quantity import Range, Ranged
from rugged_shield.core.result import Finding, Input, Outcome, Source, finding

HEAT_SOURCE = Source(
    "Incropera & DeWitt, Fundamentals of Heat and Mass Transfer: coaxial disc view factor, "
    "parallel grey surfaces, turbulent flat plate 0.037 Re^0.8 Pr^(1/3)",
    "medium",
)
STEFAN_BOLTZMANN_W_PER_M2K4 = 5.670374419e-8
ZERO_C_K = 273.15
PRANDTL = 0.71
STILL_OUT_W_PER_M2K = 6.0
STILL_IN_W_PER_M2K = 3.0
MARGIN_K = 10.0
FAR_K = 90.0
"""Farther from its limit than this no band reaches it: none is worked out."""
_BAND_WITHIN_K = 0.2
FILM_SHARE, EMISSIVITY_BAND = 0.3, 0.1
"""How far film coefficients (a share of them) and emissivities may be off, 5 to 95 %; own
estimate after Incropera & DeWitt, who give 25 % for plates in the open."""
MOVING_M_PER_S = 12.0
LEAST_GAP_MM, MOST_GAP_MM = 0.5, 500.0

Emissivity = Annotated[float, Range(0.02, 1.0)]


@dataclass(frozen=True, kw_only=True)
class HeatInput(Ranged):
    """A hot surface and the sheet opposite it. Temperatures °C, gap and length mm, area mm².

    ``shield_emissivity``: one reflective sheet between the two; None for none.
    ``thickness_mm`` and ``conductivity_w_per_mk`` are those of what heat has to pass from the
    face toward the hot part to the outer one (a plastic sheet; the slider under a metal one);
    no conductivity: both faces are equally warm, as those of metal are. ``hot_surface_u_k`` and
    ``gap_u_mm`` are half widths of their bands, 5 to 95 %; ``film_share`` scales both film
    coefficients. ``outer_emissivity``
    None: as ``plate_emissivity``. ``what`` names what is judged, for the findings.
    """

    hot_surface_c: Annotated[float, Range(20.0, 900.0, "°C")]
    gap_mm: Annotated[float, Range(LEAST_GAP_MM, MOST_GAP_MM, "mm")]
    facing_area_mm2: Annotated[float, Range(100.0, 1e6, "mm²")]
    service_limit_c: Annotated[float, Range(40.0, 500.0, "°C")]
    hot_emissivity: Emissivity = 0.8
    plate_emissivity: Emissivity = 0.9
    ambient_c: Annotated[float, Range(-40.0, 60.0, "°C")] = 25.0
    speed_m_per_s: Annotated[float, Range(0.0, 60.0)] = 0.0
    plate_length_mm: Annotated[float, Range(50.0, 2000.0, "mm")] = 400.0
    shield_emissivity: Annotated[float | None, Range(0.02, 1.0)] = None
    thickness_mm: Annotated[float, Range(0.0, 50.0, "mm")] = 0.0
    conductivity_w_per_mk: Annotated[float | None, Range(0.02, 500.0)] = None
    outer_emissivity: Annotated[float | None, Range(0.02, 1.0)] = None
    hot_surface_u_k: Annotated[float, Range(0.0, 300.0, "K")] = 40.0
    gap_u_mm: Annotated[float, Range(0.0, 200.0, "mm")] = 5.0
    film_share: Annotated[float, Range(0.2, 5.0)] = 1.0
    what: str = "sheet"

    @property
    def resistance_m2k_per_w(self) -> float:
        """What the sheet itself puts between its two faces, m²·K/W."""
        if self.conductivity_w_per_mk is None:
            return 0.0
        return self.thickness_mm / 1000 / self.conductivity_w_per_mk

    def __post_init__(self) -> None:
        super().__post_init__()
        if self.hot_surface_c <= self.ambient_c:
            raise InputError(
                "hot_surface_c",
                entered(self.hot_surface_c, "°C"),
                f"above the ambient {entered(self.ambient_c, '°C')}",
                "the hot part is not hot",
            )


@dataclass(frozen=True, kw_only=True)
class HeatResult:
    """Temperature of the sheet and what makes it; ``least_gap_mm`` None when no gap is enough.

    ``band_k``: half width of its band, 5 to 95 %.

    ``plate_temperature_c`` is that of the face toward the hot part, which is judged. Flows are
    W/m² of sheet: in by radiation and by air, out by the outer and the inner face.
    """

    plate_temperature_c: float
    outer_face_c: float
    view_factor: float
    outer_coefficient_w_per_m2k: float
    inner_coefficient_w_per_m2k: float
    radiated_in_w_per_m2: float
    conducted_in_w_per_m2: float
    out_outer_w_per_m2: float
    out_inner_w_per_m2: float
    least_gap_mm: float | None
    band_k: float


def conductivity_w_per_mk(temperature_k: float) -> float:
    """Conductivity of air, W/m·K."""
    return float(0.0241 * (temperature_k / ZERO_C_K) ** 0.81)


def viscosity_m2_per_s(temperature_k: float) -> float:
    """Kinematic viscosity of air, m²/s."""
    return float(1.327e-5 * (temperature_k / ZERO_C_K) ** 1.81)


def view_factor(facing_area_mm2: float, gap_mm: float) -> float:
    """View of a small element facing a coaxial disc of that area: a²/(a²+g²)."""
    a2 = facing_area_mm2 / math.pi
    return a2 / (a2 + gap_mm**2)


def exchange_emissivity(hot: float, plate: float, shield: float | None) -> float:
    """Effective emissivity of two parallel grey surfaces, one thin sheet between them or none."""
    resistance = 1 / hot + 1 / plate - 1
    if shield is not None:
        resistance += 2 / shield - 1
    return 1 / resistance


def _forced_w_per_m2k(given: HeatInput, face_k: float) -> float:
    film_k = (face_k + given.ambient_c + ZERO_C_K) / 2
    length_m = given.plate_length_mm / 1000
    reynolds = given.speed_m_per_s * length_m / viscosity_m2_per_s(film_k)
    return float(
        0.037 * reynolds**0.8 * PRANDTL ** (1 / 3) * conductivity_w_per_mk(film_k) / length_m
    )


@dataclass(frozen=True, kw_only=True)
class _Flows:
    """Both faces' temperatures K, the flows W/m² that they make, and the film coefficients."""

    inner_k: float
    outer_k: float
    radiated: float
    conducted: float
    outer: float
    inner: float
    h_outer: float
    h_inner: float

    @property
    def surplus(self) -> float:
        return self.radiated + self.conducted - self.outer - self.inner


def _flows(given: HeatInput, outer_k: float, gap_mm: float) -> _Flows:
    """Flows with the outer face at a temperature: what it gives off has come through the sheet."""
    hot_k, ambient_k = given.hot_surface_c + ZERO_C_K, given.ambient_c + ZERO_C_K
    sigma = STEFAN_BOLTZMANN_W_PER_M2K4
    h_outer = given.film_share * max(STILL_OUT_W_PER_M2K, _forced_w_per_m2k(given, outer_k))
    outside = given.outer_emissivity or given.plate_emissivity
    outer = h_outer * (outer_k - ambient_k) + outside * sigma * (outer_k**4 - ambient_k**4)
    inner_k = outer_k + outer * given.resistance_m2k_per_w
    seen = view_factor(given.facing_area_mm2, gap_mm)
    exchange = exchange_emissivity(
        given.hot_emissivity, given.plate_emissivity, given.shield_emissivity
    )
    air = conductivity_w_per_mk((hot_k + inner_k) / 2) / (gap_mm / 1000)
    h_inner = given.film_share * max(STILL_IN_W_PER_M2K, _forced_w_per_m2k(given, inner_k) / 2)
    radiated_in = given.plate_emissivity * sigma * (inner_k**4 - ambient_k**4)
    return _Flows(
        inner_k=inner_k,
        outer_k=outer_k,
        radiated=seen * exchange * sigma * (hot_k**4 - inner_k**4),
        conducted=seen * air * (hot_k - inner_k),
        outer=outer,
        inner=(1 - seen) * (h_inner * (inner_k - ambient_k) + radiated_in),
        h_outer=h_outer,
        h_inner=h_inner,
    )


def _balance(given: HeatInput, within_k: float = 1e-9) -> _Flows:
    """The balance between ambient and the hot surface (by the outer face's temperature)."""
    low, high = given.ambient_c + ZERO_C_K, given.hot_surface_c + ZERO_C_K
    gap = given.gap_mm
    outer_k = bracketed_root(lambda t: _flows(given, t, gap).surplus, low, high, within_k)
    return _flows(given, outer_k, gap)


def plate_temperature_k(given: HeatInput) -> float:
    """Temperature of the sheet's face toward the hot part, K."""
    return _balance(given).inner_k


def _either_way(given: HeatInput) -> list[tuple[HeatInput, HeatInput]]:
    """The question with each number that is not sure at both of its ends, one at a time."""
    hot, gap, least = given.hot_surface_c, given.gap_mm, given.ambient_c + 1.0

    def kept(value: float, low: float, high: float) -> float:
        return min(max(value, low), high)

    def warm(by: float) -> HeatInput:
        return replace(given, hot_surface_c=kept(hot + by, least, 900.0))

    def away(by: float) -> HeatInput:
        return replace(given, gap_mm=kept(gap + by, LEAST_GAP_MM, MOST_GAP_MM))

    def grey(name: str, by: float) -> HeatInput:
        there: Any = {name: kept(getattr(given, name) + by, 0.02, 1.0)}
        return replace(given, **there)

    pairs = [
        (warm(given.hot_surface_u_k), warm(-given.hot_surface_u_k)),
        (away(given.gap_u_mm), away(-given.gap_u_mm)),
        (
            replace(given, film_share=given.film_share * (1 + FILM_SHARE)),
            replace(given, film_share=given.film_share * (1 - FILM_SHARE)),
        ),
    ]
    names = ["hot_emissivity", "plate_emissivity"]
    names += ["outer_emissivity"] if given.outer_emissivity is not None else []
    names += ["shield_emissivity"] if given.shield_emissivity is not None else []
    pairs += [(grey(name, EMISSIVITY_BAND), grey(name, -EMISSIVITY_BAND)) for name in names]
    return pairs


@lru_cache(maxsize=1024)
def band_k(given: HeatInput) -> float:
    """Half width of the temperature's band, 5 to 95 %, K.

    Root of the sum of squares of what each number does within its own band (JCGM 100:2008, 5.1);
    each counts with the larger of its two sides, since a gap acts more as it closes.
    """
    here = plate_temperature_k(given)
    squares = 0.0
    for more, less in _either_way(given):
        ends = (_balance(end, _BAND_WITHIN_K).inner_k for end in (more, less))
        sides = [end - here for end in ends]
        squares += max(abs(side) for side in sides) ** 2
    return math.sqrt(squares)


def least_gap_mm(given: HeatInput) -> float | None:
    """Least gap that keeps the sheet 10 K under its limit, mm; None when none up to 500 does."""
    return _least_gap_mm(replace(given, gap_mm=LEAST_GAP_MM))


@lru_cache(maxsize=1024)
def _least_gap_mm(given: HeatInput) -> float | None:
    """The same, remembered: the gap that a plate now has does not enter it.

    At the limit both faces are as warm as they are whatever the gap: only what comes in hangs on
    it, and falls as it grows.
    """
    ambient_k, limit_k = given.ambient_c + ZERO_C_K, given.service_limit_c - MARGIN_K + ZERO_C_K
    if limit_k >= given.hot_surface_c + ZERO_C_K:
        return LEAST_GAP_MM
    if limit_k <= ambient_k:
        return None
    # How far the hot part stands away does not enter what passes through the sheet.
    outer_k = bracketed_root(
        lambda t: _flows(given, t, LEAST_GAP_MM).inner_k - limit_k, ambient_k, limit_k, 1e-9
    )

    def over(gap_mm: float) -> float:
        return _flows(given, outer_k, gap_mm).surplus

    if over(LEAST_GAP_MM) <= 0:
        return LEAST_GAP_MM
    if over(MOST_GAP_MM) > 0:
        return None
    return bracketed_root(over, LEAST_GAP_MM, MOST_GAP_MM, 1e-4)


def _findings(
    given: HeatInput, temperature_c: float, gap: float | None, band: float
) -> tuple[Finding, ...]:
    limit = given.service_limit_c - MARGIN_K
    needs = "no gap is enough" if gap is None else f"{amount(gap, 'mm', 0)} would do"
    said = (
        f"The {given.what} reaches about {amount(temperature_c, '°C', 0)} ± {amount(band, 'K', 0)}"
    )
    if temperature_c - band > limit:
        text = f"{said}, above the {amount(limit, '°C', 0)} that it bears: {needs}."
        return (finding("too hot", text),)
    if temperature_c + band > limit:
        text = f"{said}; {amount(limit, '°C', 0)} is what it bears: measure it; {needs}."
        return (finding("heat near its limit", text),)
    return ()


@computation("heat", page="heat", check="heat-01")
def heat(given: HeatInput) -> Outcome[HeatResult]:
    """Steady temperature of the sheet opposite a hot part, and the least gap it needs.

    q_in = F ε_e σ (T_h⁴−T_i⁴) + F k_air/g (T_h−T_i) = outer face (T_o) + (1−F) inner face (T_i),
    with T_i − T_o = t/k times what the outer face gives off.
    """
    flows = _balance(given)
    gap = least_gap_mm(given)
    temperature_c = flows.inner_k - ZERO_C_K
    shield, band = given.shield_emissivity, band_k(given)
    return Outcome(
        result=HeatResult(
            plate_temperature_c=temperature_c,
            outer_face_c=flows.outer_k - ZERO_C_K,
            view_factor=view_factor(given.facing_area_mm2, given.gap_mm),
            outer_coefficient_w_per_m2k=flows.h_outer,
            inner_coefficient_w_per_m2k=flows.h_inner,
            radiated_in_w_per_m2=flows.radiated,
            conducted_in_w_per_m2=flows.conducted,
            out_outer_w_per_m2=flows.outer,
            out_inner_w_per_m2=flows.inner,
            least_gap_mm=gap,
            band_k=band,
        ),
        inputs=(
            Input("Hot surface", given.hot_surface_c, "°C"),
            Input("Gap", given.gap_mm, "mm"),
            Input("Air past the sheet", given.speed_m_per_s, "m/s"),
            Input("Ambient", given.ambient_c, "°C"),
            Input("Outer face of the sheet", round(flows.outer_k - ZERO_C_K), "°C"),
            Input("Reflective sheet between", "none" if shield is None else f"ε {shield:g}"),
        ),
        findings=_findings(given, temperature_c, gap, band),
        reasons=(
            "In: radiation and air across the gap, as far as the sheet sees the hot part. "
            "Out: air and radiation on the outer face, and on the part of the inner one that "
            "does not see it. Judged is the face toward the hot part: plastic keeps its other face "
            "cooler.",
        ),
        assumptions=(
            "Steady: the state lasts long enough.",
            "Nothing spreads along the sheet.",
            f"Band ± {amount(band, 'K', 0)}, 5 to 95 %: surface ± "
            f"{amount(given.hot_surface_u_k, 'K', 0)}, gap ± {amount(given.gap_u_mm, 'mm', 0)}, "
            "films ± 30 %, emissivities ± 0.1.",
        ),
        sources=(HEAT_SOURCE,),
    )
