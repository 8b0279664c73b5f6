"""One plate against stock: every quantity with its reason, and the verdict in a word."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import lru_cache

from rugged_shield.core.amounts import show_difference
from rugged_shield.core.assess.fitup.assumed import compared, has_assumed_joints
from rugged_shield.core.assess.fitup.covered import covered_by
from rugged_shield.core.assess.fitup.joints import assess_joints
from rugged_shield.core.assess.fitup.pose import PlatePose, hardware_mass_kg, plate_pose
from rugged_shield.core.assess.tighten.plan import plan_for
from rugged_shield.core.assess.tighten.tasks import plan_around
from rugged_shield.core.assess.weighup.coverage import coverage_figures
from rugged_shield.core.assess.weighup.gates import Gate, gate_findings, gates_of
from rugged_shield.core.assess.weighup.heat import (
    air_figure,
    heat_exposures,
    heat_figures,
    heat_judged,
    heat_not_known,
)
from rugged_shield.core.assess.weighup.low_points import low_figures
from rugged_shield.core.assess.weighup.mass_budget import (
    BudgetLine,
    MassBudget,
    mass_budget,
)
from rugged_shield.core.assess.weighup.ownership import (
    corrosion_figure,
    effort_figure,
    money_figures,
    nature_figures,
)
from rugged_shield.core.assess.weighup.service import service_figures
from rugged_shield.core.figures import capital, figure
from rugged_shield.core.job.model import Candidate, Job, MountedJoint, Use, mounted
from rugged_shield.core.judgement.codes import RANK
from rugged_shield.core.result import (
    Figure,
    Finding,
    Input,
    Outcome,
    Source,
    Verdict,
    finding,
    from_table,
    worst,
)
from rugged_shield.core.survey.bike import Bike
from rugged_shield.core.survey.clearance import CLEARANCE_SOURCE
from rugged_shield.core.survey.front_wheel import WheelGap, rear_wheel_gap, wheel_gap
from rugged_shield.core.survey.geometry import FoldedPlate
from rugged_shield.core.survey.mass import (
    PlateMassInput,
    PlateMassResult,
    ThicknessInput,
    plate_mass,
    thickness_compare,
)
from rugged_shield.core.survey.plate import Plate
from rugged_shield.core.survey.standoff import contact_findings, standoff_finding
from rugged_shield.core.survey.steering_lock import LockGap, lock_gap
from rugged_shield.core.survey.underside import hook_finding, hooks
from rugged_shield.core.tighten.torque import WrenchTool


@dataclass(frozen=True, kw_only=True)
class Weighed:
    """A plate's figures by key, its gates, its verdict and the one reason to say first."""

    key: str
    figures: dict[str, Figure]
    findings: tuple[Finding, ...]
    verdict: Verdict
    reason: str
    bare: frozenset[str]
    gates: tuple[Gate, ...]


@lru_cache(maxsize=256)
def _mass_figures(
    candidate: Candidate, hardware: float
) -> tuple[tuple[Figure, ...], tuple[Finding, ...]]:
    outcome: Outcome[PlateMassResult] = plate_mass(PlateMassInput(plate=candidate.plate))
    result = outcome.result
    total = result.held_mass_kg + hardware
    mass = figure(
        "mass",
        "Mass with hardware",
        total,
        "kg",
        findings=outcome.findings,
        inputs=(*outcome.inputs, Input("Hardware of the joints", hardware, "kg")),
        reasons=(
            f"The {result.held_as} mass holds, with the computed hardware of the joints: a scale "
            "goes before the sheet's claim, a claim before the computation.",
            *outcome.reasons,
        ),
        assumptions=outcome.assumptions,
        sources=outcome.sources,
    )
    claim = figure(
        "claimed_mass",
        "Claimed mass",
        result.claimed_mass_kg,
        "kg",
        findings=outcome.findings,
        inputs=outcome.inputs,
        reasons=("As the maker's sheet states it, held against the computed mass.",),
        sources=(Source("the plate's sheet", "medium"),),
    )
    weighed = figure(
        "weighed_mass",
        "Weighed mass",
        candidate.plate.weighed_mass_kg,
        "kg",
        findings=tuple(f for f in outcome.findings if f.where == "weighed"),
        inputs=(Input("Computed", result.mass_kg, "kg"),),
        reasons=("As it was weighed, held against the computed mass.",),
        sources=(Source("a scale", "medium"),),
    )
    bought = sum(e.mass_kg for e in candidate.extras)
    bundle = figure(
        "bundle_mass",
        "Mass with what it needs",
        total + bought,
        "kg",
        inputs=(
            Input("The plate with its hardware", total, "kg"),
            *(Input(capital(e.name), e.mass_kg, "kg") for e in candidate.extras),
        ),
        reasons=("The plate and everything that is bought with it.",),
        sources=outcome.sources,
    )
    return (mass, claim, weighed, bundle), outcome.findings


@lru_cache(maxsize=256)
def _ratio_figures(plate: Plate, stock: Plate) -> tuple[Figure, ...]:
    outcome = thickness_compare(
        ThicknessInput(
            plate.material,
            plate.thickness_mm,
            stock.material,
            stock.thickness_mm,
        )
    )
    r = outcome.result
    return tuple(
        figure(
            key,
            label,
            value,
            "×",
            inputs=outcome.inputs,
            reasons=(words, *outcome.reasons),
            assumptions=outcome.assumptions,
            sources=outcome.sources,
        )
        for key, label, value, words in (
            (
                "thickness_ratio",
                "Thickness, times stock",
                r.thickness_ratio,
                "Thickness over stock thickness.",
            ),
            (
                "stiffness_ratio",
                "Bending stiffness, times stock",
                r.stiffness_ratio,
                "E·t³/(1−ν²) over the same of stock: thickness counts by its cube.",
            ),
        )
    )


def added_figures(budget: MassBudget) -> tuple[Figure, Figure]:
    """All that was added to the bike, and how far the springs give at the wheel that gives more."""
    front, rear = budget.front_sag_mm, budget.rear_sag_mm
    known = front is not None and rear is not None
    added = figure(
        "added",
        "Added to the bike",
        budget.total_kg,
        "kg",
        inputs=tuple(Input(capital(line.name), line.mass_kg, "kg") for line in budget.lines)
        or (Input("Nothing added", 0.0, "kg"),),
        reasons=("Everything that was bolted on since stock, less what came off.",),
        sources=(CLEARANCE_SOURCE,),
    )
    sag = figure(
        "sag",
        "Sag from added mass",
        max(front or 0.0, rear or 0.0) if known else None,
        "mm",
        inputs=(
            Input("Added in all", round(budget.total_kg, 2), "kg"),
            Input("Front sinks by", front, "mm"),
            Input("Rear sinks by", rear, "mm"),
        ),
        reasons=("Mass on each wheel over its rate; a load between the axles is shared.",),
        assumptions=("Wheel rates are constant.",),
        sources=(CLEARANCE_SOURCE,),
    )
    return added, sag


def _standoff_figure(bike: Bike, posed: PlatePose) -> Figure:
    parts = {p.key: p for p in bike.parts}
    judged = (standoff_finding(parts[g.part], g.distance_mm) for g in posed.standoffs)
    found = tuple(f for f in judged if f is not None)
    if not posed.standoffs:
        why = ("No vital or neighbouring part of the bike is entered: enter them in Survey.",)
        return figure("standoff", "Least standoff", None, "mm", reasons=why)
    least = min(posed.standoffs, key=lambda g: g.distance_mm)
    return figure(
        "standoff",
        "Least standoff",
        least.distance_mm,
        "mm",
        findings=found,
        inputs=tuple(
            Input(f"To {parts[g.part].name}", g.distance_mm, "mm") for g in posed.standoffs
        ),
        reasons=(f"Least distance from the inside of the plate, to {parts[least.part].name}.",),
        assumptions=("Parts are boxes; the plate is undented.",),
        sources=(Source("sampled distance, inner face to box", "high"),),
    )


def _contacts(bike: Bike, posed: PlatePose) -> tuple[Finding, ...]:
    """Rails, stand and pegs that the sheet runs through."""
    low = tuple(p for p in bike.parts if p.kind not in ("vital", "neighbour"))
    return contact_findings(posed.folded, low)


ROOT_MM = 60.0
"""A forward edge so wide catches a root or a rut; narrower ones are said in Survey alone."""


def _hooks(posed: PlatePose) -> tuple[Finding, ...]:
    """Edges that face forward, wide enough for a root."""
    found = hooks(posed.folded, list(posed.points))
    return tuple(hook_finding(h) for h in found if h.length_mm >= ROOT_MM)


def _on_the_bike(
    bike: Bike, plate: Plate, posed: PlatePose, budget: MassBudget
) -> tuple[Finding, ...]:
    """What a plate does beside the rest of the bike.

    What the bike came with passes its own rails, and its edges are its maker's. That the plate's
    own mass sinks the springs by some unknown millimetres is said in Survey alone.
    """
    is_stock = plate.role == "stock"
    return (
        *heat_not_known(bike, plate, posed),
        *(() if is_stock else (*_contacts(bike, posed), *_hooks(posed))),
        *(f for f in budget.findings if f.kind.gates),
    )


def _wheel_gates(
    bike: Bike, folded: FoldedPlate
) -> tuple[WheelGap, LockGap, tuple[float, str] | None]:
    """Room to the front wheel ahead and at its stop, and to the rear one."""
    return wheel_gap(bike, folded), lock_gap(bike, folded), rear_wheel_gap(bike, folded)


def _joint_findings(joints: tuple[MountedJoint, ...]) -> tuple[Finding, ...]:
    found = []
    for assessed in assess_joints(joints):
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
    """All figures of one plate of the job, its gates, its findings and its verdict."""
    own, stock = compared(job, key), job.candidate(job.stock.key)
    weighed = _weigh(job.bike, stock, own, job.currency, job.use, job.wrench)
    if not has_assumed_joints(job, key):
        return weighed
    names = "; ".join(f"joint {j.number}" for j in own.joints)
    told = from_table("on assumed joints", key, count=str(len(own.joints)), names=names)
    verdict = worst((weighed.verdict, told.verdict))
    return replace(weighed, findings=(*weighed.findings, told), verdict=verdict)


def shared_findings(weighed: Sequence[Weighed]) -> tuple[Finding, ...]:
    """What is found of every one of several plates, in the same words: it sets none apart."""
    if len(weighed) < 2:
        return ()
    first, *others = weighed
    said = [{(f.code, f.where, f.text) for f in w.findings} for w in others]
    return tuple(f for f in first.findings if all((f.code, f.where, f.text) in s for s in said))


@lru_cache(maxsize=512)
def hardware_kg(joints: tuple[MountedJoint, ...]) -> float:
    """Screws at the lengths that they need, and all layers that are hardware, kg."""
    lengths = tuple(a.length_mm for a in assess_joints(joints))
    return hardware_mass_kg(tuple(m.joint for m in joints), lengths)


@lru_cache(maxsize=512)
def _mass_kg(plate: Plate, joints: tuple[MountedJoint, ...]) -> float:
    return plate_mass(PlateMassInput(plate=plate)).result.held_mass_kg + hardware_kg(joints)


def budget_of(bike: Bike, stock: Candidate, candidate: Candidate) -> MassBudget:
    """Everything added to the bike with this plate on, against the bike as it was stock."""
    bought = tuple(BudgetLine(e.name, e.mass_kg, e.x_mm) for e in candidate.extras)
    return mass_budget(
        bike,
        _mass_kg(candidate.plate, mounted(bike, candidate)),
        plate_pose(bike, candidate),
        _mass_kg(stock.plate, mounted(bike, stock)),
        plate_pose(bike, stock),
        candidate.key == stock.key,
        bought,
        candidate.plate.over_stock,
    )


@lru_cache(maxsize=256)
def _weigh(
    bike: Bike, stock: Candidate, candidate: Candidate, currency: str, use: Use, wrench: WrenchTool
) -> Weighed:
    """The same, remembered by just what it depends on."""
    posed, base = plate_pose(bike, candidate), plate_pose(bike, stock)
    joints = mounted(bike, candidate)
    plan = plan_for(
        joints, wrench, plan_around(bike, candidate), frozenset(covered_by(candidate.plate, joints))
    )
    masses, mass_findings = _mass_figures(candidate, hardware_kg(joints))
    budget = budget_of(bike, stock, candidate)
    covers, bare = coverage_figures(bike.vitals(), posed.folded, use.profile)
    thickness = figure(
        "thickness",
        "Thickness",
        candidate.plate.thickness_mm,
        "mm",
        inputs=(Input("Material", candidate.plate.material),),
        reasons=("As entered for this plate.",),
        sources=(Source("the plate's sheet", "medium"),),
    )
    exposures = heat_exposures(bike, candidate.plate, posed)
    listed = [
        *masses,
        thickness,
        *_ratio_figures(candidate.plate, stock.plate),
        *low_figures(bike, posed, base, budget),
        *added_figures(budget),
        _standoff_figure(bike, posed),
        *covers,
        *heat_figures(candidate.plate, exposures),
        air_figure(bike, posed),
        *service_figures(bike, candidate, posed, use),
        effort_figure(candidate, plan.minutes, candidate.key == stock.key),
        *money_figures(candidate, use, currency),
        *nature_figures(candidate),
        corrosion_figure(joints, candidate.plate.material),
    ]
    figures = {f.key: f for f in listed}
    judged = heat_judged(candidate.plate, exposures)
    wheels = _wheel_gates(bike, posed.folded)
    gates = gates_of(bike, candidate, use, currency, figures["clearance"].value, judged, *wheels)
    found = [*gate_findings(gates), *(f for fig in listed for f in fig.findings)]
    found += [*posed.findings, *_joint_findings(joints), *mass_findings]
    found += _on_the_bike(bike, candidate.plate, posed, budget)
    unique = tuple(sorted(dict.fromkeys(found), key=lambda f: -RANK[f.verdict]))
    return Weighed(
        key=candidate.key,
        figures=figures,
        findings=unique,
        verdict=worst(f.verdict for f in unique),
        reason=unique[0].text if unique else "Nothing speaks against it.",
        bare=bare,
        gates=gates,
    )


def against(figure_now: Figure, base: Figure, label: str) -> Figure:
    """The difference of a figure to stock, with a sign."""
    if figure_now.value is None or base.value is None:
        return replace(figure_now, metric="", us="")
    now, then, unit = figure_now.value, base.value, figure_now.unit
    return replace(
        figure_now,
        label=label,
        value=now - then,
        metric=show_difference(now, then, unit),
        us=show_difference(now, then, unit, "us"),
    )
