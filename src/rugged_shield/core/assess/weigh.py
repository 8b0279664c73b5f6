"""One plate against stock: every quantity with its reason, and the verdict in a word."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np

from rugged_shield.core.assess.budget import MassBudget, mass_budget
from rugged_shield.core.assess.hang import Hang, hang, hardware_mass_kg
from rugged_shield.core.assess.job import Candidate, Job
from rugged_shield.core.assess.stacks import assess_joints
from rugged_shield.core.quantity import show, show_difference
from rugged_shield.core.result import (
    Figure,
    Finding,
    Input,
    Outcome,
    Source,
    Verdict,
    finding,
    worst,
)
from rugged_shield.core.survey import (
    CLEARANCE_SOURCE,
    Bike,
    FoldedPlate,
    Part,
    PlateMassInput,
    PlateMassResult,
    ThicknessInput,
    blocked,
    plate_mass,
    standoff_finding,
    thickness_compare,
)
from rugged_shield.core.tables.materials import SHEET_MATERIALS
from rugged_shield.core.weighup import (
    COVERAGE_SOURCE,
    DIRECTIONS,
    FIRST_DIRECTIONS,
    CoverageResult,
    VitalCoverage,
    coverage_by_stone,
    weighted_share,
)

LOW_CLEARANCE_MM = 15.0
BARE_SHARE = 0.5
HOT_NEAR_MM = 60.0
STONE_MM = 20.0
TOOL_RADIUS_MM = {"drain": 15.0, "filter": 35.0}
_RANK = {"sound": 0, "not known": 1, "mind": 2, "blocked": 3}


@dataclass(frozen=True)
class Weighed:
    """A plate's figures by key, its verdict and the one reason to say first."""

    key: str
    figures: dict[str, Figure]
    findings: tuple[Finding, ...]
    verdict: Verdict
    reason: str
    bare: frozenset[str]


def figure(
    key: str, label: str, value: float | None, unit: str, *, text: str = "",
    findings: tuple[Finding, ...] = (), inputs: tuple[Input, ...] = (),
    reasons: tuple[str, ...] = (), assumptions: tuple[str, ...] = (),
    warnings: tuple[str, ...] = (), sources: tuple[Source, ...] = (),
) -> Figure:  # fmt: skip
    """A figure with its words in both systems; ``text`` stands for both when given."""
    metric, us = (text, text)
    if value is not None and not text:
        metric, us = show(value, unit), show(value, unit, "us")
    return Figure(
        key, label, value, unit, metric or "not given", us or "not given",
        worst(f.verdict for f in findings), findings, inputs, reasons, assumptions, warnings,
        sources,
    )  # fmt: skip


@lru_cache(maxsize=8192)
def _cover_part(part: Part, folded: FoldedPlate) -> tuple[CoverageResult, ...]:
    """One vital for both stones, remembered: vitals do not shield each other."""
    return coverage_by_stone((part,), folded, FIRST_DIRECTIONS, (0.0, STONE_MM))


def _cover(parts: tuple[Part, ...], folded: FoldedPlate) -> tuple[CoverageResult, ...]:
    """All vitals, for a point and for a stone of 20 mm radius."""
    single = [_cover_part(part, folded) for part in parts]
    results = []
    for stone in range(2):
        shares: list[VitalCoverage] = []
        weighted: dict[str, float] = {}
        for i, direction in enumerate(FIRST_DIRECTIONS):
            own = tuple(each[stone].shares[i] for each in single)
            shares += own
            weighted[direction] = weighted_share(parts, own)
        results.append(CoverageResult(tuple(shares), weighted, sum(s.rays for s in shares)))
    return tuple(results)


def oil_screws(bike: Bike, candidate: Candidate, hung: Hang) -> tuple[int, tuple[str, ...]]:
    """Screws to drop for an oil change, and why: what cannot be reached from below."""
    hidden = []
    for part in bike.vitals():
        if part.serviced:
            point = np.array([part.centre_mm])
            shut = blocked(
                point, DIRECTIONS["from below"], hung.folded, TOOL_RADIUS_MM[part.serviced]
            )
            if bool(shut[0]):
                hidden.append(part.name)
    drops = sum(1 for j in candidate.joints if j.drops_for_oil)
    if not hidden:
        return 0, ("Drain and filter are reached through openings: the plate stays on.",)
    return drops, (
        f"{_capital(' and '.join(hidden))} cannot be reached through the plate: it "
        f"comes off by its {drops} screws.",
    )


def _mass_figures(
    candidate: Candidate, hardware: float
) -> tuple[list[Figure], tuple[Finding, ...]]:
    outcome: Outcome[PlateMassResult] = plate_mass(
        PlateMassInput(plate=candidate.plate, fittings_mass_kg=hardware)
    )
    result = outcome.result
    mass = figure(
        "mass", "Mass with hardware", result.mass_kg, "kg", findings=outcome.findings,
        inputs=(*outcome.inputs, Input("of these, hardware of the joints", hardware, "kg")),
        reasons=outcome.reasons, assumptions=outcome.assumptions, sources=outcome.sources,
    )  # fmt: skip
    claim = figure(
        "claimed_mass", "Claimed mass", result.claimed_mass_kg, "kg", findings=outcome.findings,
        inputs=outcome.inputs,
        reasons=("As the maker's sheet states it, held against the computed mass.",),
        sources=(Source("the plate's sheet", "medium"),),
    )  # fmt: skip
    return [mass, claim], outcome.findings


def _ratio_figures(candidate: Candidate, stock: Candidate) -> list[Figure]:
    outcome = thickness_compare(
        ThicknessInput(
            candidate.plate.material, candidate.plate.thickness_mm,
            stock.plate.material, stock.plate.thickness_mm,
        )
    )  # fmt: skip
    r = outcome.result
    return [
        figure(
            key, label, value, "×", inputs=outcome.inputs, reasons=(words, *outcome.reasons),
            assumptions=outcome.assumptions, sources=outcome.sources,
        )
        for key, label, value, words in (
            ("thickness_ratio", "Thickness, times stock", r.thickness_ratio,
             "Thickness over stock thickness."),
            ("stiffness_ratio", "Bending stiffness, times stock", r.stiffness_ratio,
             "E·t³/(1−ν²) over the same of stock: thickness counts by its cube."),
        )
    ]  # fmt: skip


def _drop_mm(hung: Hang) -> float:
    """How much lower than drawn the sheet is at its lowest point (0, never minus 0)."""
    low = hung.low
    return 0.0 - hung.pose.lift((low.x_mm, low.y_mm, 0.0))[2]


def _low_figures(bike: Bike, hung: Hang, base: Hang, budget: MassBudget) -> list[Figure]:
    sunk = budget.sag_at(bike, hung.low.x_mm)
    height = hung.low.z_mm - sunk
    lost = base.low.z_mm - height
    found: tuple[Finding, ...] = ()
    if lost > LOW_CLEARANCE_MM:
        found = (
            finding("low clearance", f"{lost:.0f} mm of ground clearance lost against stock."),
        )
    inputs = (
        Input("Lowest with this plate", hung.low.z_mm, "mm"),
        Input("It is", hung.low.name),
        Input("Lowest with stock", base.low.z_mm, "mm"),
        Input("It was", base.low.name),
        Input("Plate hangs lower there by", _drop_mm(hung), "mm"),
        Input("Bike sinks there by", sunk, "mm"),
    )
    assumptions = (
        ("Springs as they stand: sag is not known yet.",)
        if budget.front_sag_mm is None
        else ("Sag of all that was added, with constant wheel rates.",)
    )
    return [
        figure(
            "clearance", "Ground clearance", height, "mm", findings=found, inputs=inputs,
            reasons=("Lowest of plate corners, screw heads and every other low part.",),
            assumptions=assumptions, sources=(CLEARANCE_SOURCE,),
        ),
        figure(
            "clearance_lost", "Clearance lost", lost, "mm", findings=found, inputs=inputs,
            reasons=("Lowest point with stock less lowest point with this plate.",),
            assumptions=assumptions, sources=(CLEARANCE_SOURCE,),
        ),
        figure(
            "breakover", "Breakover angle", hung.breakover_deg, "°",
            inputs=(
                Input("Point that governs", hung.breakover_at.name),
                Input("Behind the front axle", hung.breakover_at.x_mm, "mm"),
                Input("Above the ground", hung.breakover_at.z_mm, "mm"),
                Input("Wheelbase", bike.wheelbase_mm, "mm"),
            ),
            reasons=("Sum over both wheels of asin(R/√(x²+(h−R)²)) − atan2(R−h, x).",),
            assumptions=assumptions, sources=(CLEARANCE_SOURCE,),
        ),
    ]  # fmt: skip


def _standoff_figure(bike: Bike, candidate: Candidate, hung: Hang) -> Figure:
    parts = {p.key: p for p in bike.parts}
    found: list[Finding] = []
    plastic = SHEET_MATERIALS[candidate.plate.material].family == "plastic"
    for gap in hung.standoffs:
        part = parts[gap.part]
        judged = standoff_finding(part, gap.distance_mm)
        if judged is not None:
            found.append(judged)
        if plastic and part.surface_c is not None and gap.distance_mm < HOT_NEAR_MM:
            found.append(
                finding(
                    "heat not known",
                    f"{candidate.plate.material} is {gap.distance_mm:.0f} mm from {part.name} at "
                    f"about {part.surface_c:.0f} °C: measure the sheet's temperature there after "
                    "idling; above 70 °C it softens.",
                    part.key,
                )
            )
    least = min(hung.standoffs, key=lambda g: g.distance_mm)
    return figure(
        "standoff", "Least standoff", least.distance_mm, "mm", findings=tuple(found),
        inputs=tuple(
            Input(f"To {parts[g.part].name}", g.distance_mm, "mm") for g in hung.standoffs
        ),
        reasons=(f"Least distance from the inside of the plate, to {parts[least.part].name}.",),
        assumptions=("Parts are boxes; the plate is undented.",),
        sources=(Source("sampled distance, inner face to box", "high"),),
    )  # fmt: skip


def _capital(text: str) -> str:
    return text[:1].upper() + text[1:]


def _coverage_figures(bike: Bike, hung: Hang) -> tuple[list[Figure], frozenset[str]]:
    vitals = bike.vitals()
    point, stone = _cover(vitals, hung.folded)
    names = {p.key: p for p in vitals}
    by_stone = {(s.vital, s.direction): s.share for s in stone.shares}
    figures, bare = [], set()
    assumptions = ("Vitals are boxes; nothing but the plate shields.",)
    for s in point.shares:
        share, part = s.share or 0.0, names[s.vital]
        found: tuple[Finding, ...] = ()
        if part.consequence >= 4 and share < BARE_SHARE:
            found = (
                finding(
                    "bare vital",
                    f"{_capital(part.name)} is {1 - share:.0%} bare {s.direction}.",
                    s.vital,
                ),
            )
        if share < BARE_SHARE and s.direction == FIRST_DIRECTIONS[0]:
            bare.add(s.vital)
        r20 = by_stone[(s.vital, s.direction)] or 0.0
        figures.append(
            figure(
                f"cover:{s.direction}:{s.vital}", part.name, share * 100, "%", findings=found,
                inputs=(Input("Rays", s.rays), Input("Direction", s.direction)),
                reasons=(
                    f"Share of its face toward the stone that is shielded; {r20:.0%} for a "
                    f"stone of {STONE_MM:g} mm radius, which open cutouts may stop.",
                ),
                assumptions=assumptions, sources=(COVERAGE_SOURCE,),
            )
        )  # fmt: skip
    for direction, weighted in point.weighted.items():
        figures.append(
            figure(
                f"coverage:{direction}", f"Shielded {direction}", weighted * 100, "%",
                inputs=tuple(
                    Input(f"{names[s.vital].name}, weight {names[s.vital].consequence}",
                          round((s.share or 0) * 100, 1), "%")
                    for s in point.shares if s.direction == direction
                ),
                reasons=("Share of every vital, weighted by how much its loss would cost (1–5).",),
                assumptions=assumptions, sources=(COVERAGE_SOURCE,),
            )
        )  # fmt: skip
    return figures, frozenset(bare)


def _oil_and_money(bike: Bike, candidate: Candidate, hung: Hang, currency: str) -> list[Figure]:
    screws, why = oil_screws(bike, candidate, hung)
    price = candidate.plate.price
    return [
        figure(
            "oil_screws", "Screws to drop for oil", float(screws), "", inputs=(
                Input("Screws that hold the plate", len(candidate.joints)),
                Input("Room a drain socket needs", TOOL_RADIUS_MM["drain"], "mm radius"),
                Input("Room a filter cup needs", TOOL_RADIUS_MM["filter"], "mm radius"),
            ), reasons=why, assumptions=("Drain and filter are approached straight from below.",),
            sources=(Source("drain and filter against the plate's openings", "high"),),
        ),
        figure(
            "money", "Money", price, currency, text=f"{price:.0f} {currency}",
            inputs=(Input("Price of the plate", price, currency),),
            reasons=("The plate's price; what else it needs is not priced yet.",),
            sources=(Source("the plate's sheet", "medium"),),
        ),
    ]  # fmt: skip


def _joint_findings(bike: Bike, candidate: Candidate) -> tuple[Finding, ...]:
    found = []
    for assessed in assess_joints(bike, candidate):
        if assessed.verdict == "blocked":
            found.append(
                finding(
                    "joint blocked",
                    f"Joint {assessed.joint.number}: {assessed.findings[0].code}.",
                    assessed.joint.key,
                )
            )
    return tuple(found)


def weigh(job: Job, key: str) -> Weighed:
    """All figures of one plate of the job, its findings and its verdict."""
    return _weigh(job.bike, job.candidate(job.stock.key), job.candidate(key), job.currency)


def _hardware_kg(bike: Bike, candidate: Candidate) -> float:
    lengths = tuple(a.length_mm for a in assess_joints(bike, candidate))
    return hardware_mass_kg(candidate, lengths)


def _mass_kg(bike: Bike, candidate: Candidate) -> float:
    given = PlateMassInput(candidate.plate, fittings_mass_kg=_hardware_kg(bike, candidate))
    return plate_mass(given).result.mass_kg


def budget_of(bike: Bike, stock: Candidate, candidate: Candidate) -> MassBudget:
    """Everything added to the bike with this plate on, against the bike as it was stock."""
    return mass_budget(
        bike, _mass_kg(bike, candidate), hang(bike, candidate), _mass_kg(bike, stock),
        hang(bike, stock), candidate.key == stock.key,
    )  # fmt: skip


@lru_cache(maxsize=256)
def _weigh(bike: Bike, stock: Candidate, candidate: Candidate, currency: str) -> Weighed:
    """The same, remembered by just what it depends on."""
    hung, base = hang(bike, candidate), hang(bike, stock)
    masses, mass_findings = _mass_figures(candidate, _hardware_kg(bike, candidate))
    budget = budget_of(bike, stock, candidate)
    covers, bare = _coverage_figures(bike, hung)
    thickness = figure(
        "thickness", "Thickness", candidate.plate.thickness_mm, "mm",
        inputs=(Input("Material", candidate.plate.material),),
        reasons=("As entered for this plate.",),
        sources=(Source("the plate's sheet", "medium"),),
    )  # fmt: skip
    figures = [
        *masses, thickness, *_ratio_figures(candidate, stock),
        *_low_figures(bike, hung, base, budget),
        _standoff_figure(bike, candidate, hung), *covers,
        *_oil_and_money(bike, candidate, hung, currency),
    ]  # fmt: skip
    found = [f for fig in figures for f in fig.findings]
    found += [*hung.findings, *_joint_findings(bike, candidate), *mass_findings]
    unique = tuple(sorted(dict.fromkeys(found), key=lambda f: -_RANK[f.verdict]))
    return Weighed(
        candidate.key, {f.key: f for f in figures}, unique, worst(f.verdict for f in unique),
        unique[0].text if unique else "Nothing speaks against it.", bare,
    )  # fmt: skip


def against(figure_now: Figure, base: Figure, label: str) -> Figure:
    """The difference of a figure to stock, with a sign."""
    if figure_now.value is None or base.value is None:
        return replace(figure_now, metric="", us="")
    now, then, unit = figure_now.value, base.value, figure_now.unit
    return replace(
        figure_now, label=label, value=now - then, metric=show_difference(now, then, unit),
        us=show_difference(now, then, unit, "us"),
    )  # fmt: skip
