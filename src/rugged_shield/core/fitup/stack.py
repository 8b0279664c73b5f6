"""The stack of one screw: window of lengths, engagement, bottoming, protrusion.

Axis: x = 0 at the clamped surface under the head; for a countersunk head at the
outer face of its plate. Worst case decides; the root-sum-square margin informs.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from rugged_shield.core.amounts import amount, entered
from rugged_shield.core.computation import computation
from rugged_shield.core.fitup.stack_model import (
    STACK_SOURCE,
    USUAL_SINK_DEG,
    Evaluation,
    Sleeve,
    StackInput,
    StackResult,
)
from rugged_shield.core.mechanics import threads
from rugged_shield.core.result import Finding, FindingCode, Input, Outcome, finding, verdict_of
from rugged_shield.core.tables.hardware import LENGTH_SOURCE

_EPS = 1e-9


@dataclass(frozen=True, kw_only=True)
class _Chain:
    """The tolerance chain without the screw: least and most of each link, mm."""

    given: StackInput
    pitch: float
    d: float
    grip: float
    grip_min: float
    grip_max: float
    sink: float
    sink_min: float
    sink_max: float
    point_loss: float

    @property
    def start_max(self) -> float:
        f = self.given.female
        return f.thread_start_mm + f.thread_start_tol_mm

    @property
    def start_min(self) -> float:
        f = self.given.female
        return max(0.0, f.thread_start_mm - f.thread_start_tol_mm)

    @property
    def end_min(self) -> float:
        f = self.given.female
        return f.thread_end_mm - f.thread_end_tol_mm

    @property
    def square_sum(self) -> float:
        """Sum of squared half tolerances of the layers and the head's sink."""
        sink = self.given.countersink.head_below_surface_tol_mm if self.given.countersink else 0.0
        return sum(layer.tol_mm**2 for layer in self.given.layers) + sink**2


def _chain(given: StackInput) -> _Chain:
    row = threads.row_of(given.thread)
    grip = sum(layer.thickness_mm for layer in given.layers)
    tol = sum(layer.tol_mm for layer in given.layers)
    sunk = given.countersink
    sink = sunk.head_below_surface_mm if sunk else 0.0
    sink_tol = sunk.head_below_surface_tol_mm if sunk else 0.0
    return _Chain(
        given=given,
        pitch=row.pitch_mm,
        d=row.d_mm,
        grip=grip,
        grip_min=grip - tol,
        grip_max=grip + tol,
        sink=sink,
        sink_min=sink - sink_tol,
        sink_max=sink + sink_tol,
        point_loss=row.pitch_mm if given.point_loss_mm is None else given.point_loss_mm,
    )


def _window(chain: _Chain) -> tuple[float | None, float | None]:
    """Least and most true length; None when no length can do, or nothing bounds it."""
    given, female = chain.given, chain.given.female
    needed: float | None = None
    if chain.end_min - chain.start_max >= given.required_engagement_mm - _EPS:
        reach = given.required_engagement_mm + chain.start_max + chain.point_loss
        if female.is_through and given.required_protrusion_pitches > 0:
            height = (female.overall_height_mm or 0.0) + female.overall_height_tol_mm
            reach = max(reach, height + given.required_protrusion_pitches * chain.pitch)
        needed = chain.grip_max + reach - chain.sink_min
    allowed: float | None = None
    if not female.is_through:
        allowed = chain.grip_min + chain.end_min - given.required_bottom_margin_mm - chain.sink_max
    elif female.free_space_mm is not None:
        height = (female.overall_height_mm or 0.0) - female.overall_height_tol_mm
        free = female.free_space_mm - female.free_space_tol_mm
        allowed = chain.grip_min + height + free - given.required_neighbour_gap_mm - chain.sink_max
    return needed, allowed


def _shank_jams(chain: _Chain, length: float) -> bool:
    given = chain.given
    thread, limit = given.thread_mm
    if not thread or length <= (limit or 0.0):
        return False
    return length - thread > chain.grip_min - chain.sink_max + chain.start_min + _EPS


def _land(given: StackInput) -> tuple[float | None, float | None]:
    """Land left under a countersink, nominal and worst."""
    sunk = given.countersink
    if sunk is None:
        return None, None
    tangent = math.tan(math.radians(sunk.angle_deg or USUAL_SINK_DEG) / 2)
    plate = given.layers[0]
    nominal = plate.thickness_mm - (sunk.sink_diameter_mm - sunk.hole_diameter_mm) / 2 / tangent
    widest = sunk.sink_diameter_mm + sunk.sink_diameter_tol_mm
    worst = plate.thickness_mm - plate.tol_mm - (widest - sunk.hole_diameter_mm) / 2 / tangent
    return nominal, worst


Triple = tuple[float | None, float | None, float | None]
"""Nominal, worst case and root sum of squares (or least and most) of one length, mm."""


@dataclass(frozen=True)
class _Reach:
    """How far the screw reaches past the thread's face, mm: nominal, least, most; squares mm²."""

    nominal: float
    least: float
    most: float
    squares: float


def _limits(chain: _Chain, length: float) -> tuple[float, float]:
    given = chain.given
    return threads.length_limits_mm(given.thread, length, given.length_tolerance_class)


def _reach(chain: _Chain, length: float) -> _Reach:
    least, most = _limits(chain, length)
    return _Reach(
        length + chain.sink - chain.grip,
        least + chain.sink_min - chain.grip_max,
        most + chain.sink_max - chain.grip_min,
        chain.square_sum + ((most - least) / 2) ** 2,
    )


def _bottom(chain: _Chain, reach: _Reach) -> Triple:
    """What is left before the screw bottoms in a blind hole."""
    female = chain.given.female
    if female.is_through:
        return None, None, None
    rss = math.sqrt(reach.squares + female.thread_end_tol_mm**2)
    left = female.thread_end_mm - reach.nominal
    return left, chain.end_min - reach.most, left - rss


def _protrusion(chain: _Chain, reach: _Reach) -> Triple:
    """How far the screw stands out of a through thread: nominal, least, most."""
    female = chain.given.female
    if not female.is_through:
        return None, None, None
    height, tol = female.overall_height_mm or 0.0, female.overall_height_tol_mm
    return reach.nominal - height, reach.least - height - tol, reach.most - height + tol


def _neighbour_gap(chain: _Chain, reach: _Reach, protrusion: Triple) -> Triple:
    """What is left to whatever stands behind a through thread."""
    female = chain.given.female
    nominal, _, most = protrusion
    if nominal is None or most is None or female.free_space_mm is None:
        return None, None, None
    space, tol = female.free_space_mm, female.free_space_tol_mm
    rss = math.sqrt(reach.squares + female.overall_height_tol_mm**2 + tol**2)
    return space - nominal, space - tol - most, space - nominal - rss


def _evaluate(chain: _Chain, length: float) -> Evaluation:
    given, female = chain.given, chain.given.female
    least, most = _limits(chain, length)
    reach = _reach(chain, length)
    end, start = female.thread_end_mm, female.thread_start_mm
    effective = max(0.0, min(reach.nominal - chain.point_loss, end) - start)
    worst = max(0.0, min(reach.least - chain.point_loss, chain.end_min) - chain.start_max)
    bottom, protrusion = _bottom(chain, reach), _protrusion(chain, reach)
    gap = _neighbour_gap(chain, reach, protrusion)
    land, land_worst = _land(given)
    jams = _shank_jams(chain, length)
    issues = _issues(given, chain.pitch, worst, bottom[1], protrusion[1], gap[1], land_worst, jams)
    return Evaluation(
        length_mm=length,
        length_tol_mm=(most - least) / 2,
        reach_nominal_mm=reach.nominal,
        engagement_geometric_mm=max(0.0, min(reach.nominal, end) - start),
        engagement_effective_mm=effective,
        engagement_effective_d=effective / chain.d,
        engagement_effective_worst_mm=worst,
        bottom_margin_nominal_mm=bottom[0],
        bottom_margin_worst_mm=bottom[1],
        bottom_margin_rss_mm=bottom[2],
        protrusion_nominal_mm=protrusion[0],
        protrusion_worst_min_mm=protrusion[1],
        protrusion_worst_max_mm=protrusion[2],
        neighbour_gap_nominal_mm=gap[0],
        neighbour_gap_worst_mm=gap[1],
        neighbour_gap_rss_mm=gap[2],
        shank_jams=jams,
        countersink_land_nominal_mm=land,
        countersink_land_worst_mm=land_worst,
        issues=issues,
        verdict=issues[0] if issues else verdict_of(None),
    )


def _issues(
    given: StackInput,
    pitch: float,
    worst: float,
    bottom: float | None,
    protrusion: float | None,
    gap: float | None,
    land: float | None,
    jams: bool,
) -> tuple[FindingCode, ...]:
    """Findings in the order in which they decide."""
    issues: list[FindingCode] = []
    if land is not None and given.countersink and land < given.countersink.required_land_mm - _EPS:
        issues.append("knife-edged countersink")
    if jams or (bottom is not None and bottom < given.required_bottom_margin_mm - _EPS):
        issues.append("bottoms")
    if gap is not None and gap < given.required_neighbour_gap_mm - _EPS:
        issues.append("hits neighbour")
    wanted = given.required_protrusion_pitches
    if worst < given.required_engagement_mm - _EPS or (
        protrusion is not None and wanted > 0 and protrusion < wanted * pitch - _EPS
    ):
        issues.append("too short")
    return tuple(issues)


def consequence(code: str, length: float) -> str:
    """What an issue means for the person with the wrench."""
    return {
        "knife-edged countersink": "The countersink cuts through the back of the plate: the "
        "head bears on an edge, whatever the length.",
        "bottoms": f"At {entered(length, 'mm')} the screw can bottom (or its shank jam) "
        "before it clamps: "
        "the wrench clicks while the plate stays loose.",
        "hits neighbour": f"At {entered(length, 'mm')} the end can touch what lies behind.",
        "too short": f"At {entered(length, 'mm')} too little thread is held: it can "
        "strip, or the nut's "
        "insert is not reached.",
    }[code]


def _sleeve(sleeve: Sleeve | None) -> tuple[float | None, float | None, float | None, bool | None]:
    if sleeve is None:
        return None, None, None, None
    nominal = sleeve.sleeve_length_mm - sleeve.plate_thickness_mm
    spread = sleeve.sleeve_length_tol_mm + sleeve.plate_thickness_tol_mm
    return nominal, nominal - spread, nominal + spread, nominal - spread >= -_EPS


def _acceptable(chain: _Chain, needed: float | None, allowed: float | None) -> tuple[float, ...]:
    lengths = chain.given.stock_lengths_mm or threads.stock_lengths_mm(chain.given.thread)
    if needed is None:
        return ()
    fits = []
    for length in sorted(lengths):
        least, most = _limits(chain, length)
        if least < needed - _EPS or (allowed is not None and most > allowed + _EPS):
            continue
        if not _shank_jams(chain, length):
            fits.append(float(length))
    return tuple(fits)


@computation("joint-stack", page="joint-stack", check="stack-01")
def joint_stack(given: StackInput) -> Outcome[StackResult]:
    """Window of lengths of one screw and every asked length judged.

    Worst case over the tolerance chain decides each verdict; knife edge is
    independent of the length and removes none. Lengths by ISO 888 with
    ISO 4759-1 tolerances (inch: ASME B18.2.1). Raises InputError naming the field.
    """
    chain = _chain(given)
    needed, allowed = _window(chain)
    acceptable = _acceptable(chain, needed, allowed)
    chosen = acceptable[0] if acceptable else None
    asked = given.evaluate_lengths_mm or ((chosen,) if chosen else ())
    evaluations = tuple(_evaluate(chain, float(length)) for length in asked)
    sleeve = _sleeve(given.sleeve)
    result = StackResult(
        grip_nominal_mm=chain.grip,
        length_needed_min_mm=needed,
        length_allowed_max_mm=allowed,
        acceptable_lengths_mm=acceptable,
        chosen_length_mm=chosen,
        evaluations=evaluations,
        sleeve_float_nominal_mm=sleeve[0],
        sleeve_float_worst_min_mm=sleeve[1],
        sleeve_float_worst_max_mm=sleeve[2],
        clamp_carried_by_sleeve=sleeve[3],
    )
    return Outcome(
        result=result,
        inputs=_inputs(given, chain),
        findings=_findings(given, result),
        reasons=_reasons(result),
        assumptions=(
            f"The first {entered(chain.point_loss, 'mm')} at the screw's point carry nothing; "
            f"ISO 4753 lets up to two pitches, {entered(2 * chain.pitch, 'mm')}, be incomplete "
            "(medium confidence): where the thread held is short, look at the point.",
            "All tolerances fall on the bad side at once (worst case).",
        ),
        sources=(STACK_SOURCE, LENGTH_SOURCE, threads.length_source(given.thread)),
    )


def _inputs(given: StackInput, chain: _Chain) -> tuple[Input, ...]:
    female = given.female
    return (
        Input("Thread", given.thread),
        Input("Head", given.head),
        *(Input(f"Layer: {layer.name}", layer.thickness_mm, "mm") for layer in given.layers),
        Input("Grip", chain.grip, "mm"),
        Input("Thread starts below the face", female.thread_start_mm, "mm"),
        Input("Full thread ends at", female.thread_end_mm, "mm"),
        Input("Height of the nut or wall", female.overall_height_mm, "mm"),
        Input("Free space beyond", female.free_space_mm, "mm"),
        Input("Engagement wanted", given.required_engagement_mm, "mm"),
    )


def _findings(given: StackInput, result: StackResult) -> tuple[Finding, ...]:
    found = [
        finding(code, consequence(code, evaluation.length_mm), f"{evaluation.length_mm:g} mm")
        for evaluation in result.evaluations
        for code in evaluation.issues
    ]
    if not result.acceptable_lengths_mm:
        found.append(finding("no length fits", "No standard length fits this stack."))
    if result.clamp_carried_by_sleeve is False:
        found.append(
            finding(
                "sleeve shorter than its plate",
                "The sleeve ends up to "
                f"{amount(-(result.sleeve_float_worst_min_mm or 0), 'mm', 1)} below "
                "the plate's face: the plastic carries the clamp and creeps away from it.",
            )
        )
    return tuple(found)


def _reasons(result: StackResult) -> tuple[str, ...]:
    needed = result.length_needed_min_mm
    allowed = result.length_allowed_max_mm
    first = (
        f"True length needed: {amount(needed, 'mm', 2)} at least"
        if needed is not None
        else "The full thread is shorter than the engagement wanted: no screw can do it"
    )
    second = (
        f", {amount(allowed, 'mm', 2)} at most."
        if allowed is not None
        else "; nothing bounds it above."
    )
    reasons = [first + second]
    if result.chosen_length_mm is not None:
        reasons.append(
            f"Shortest standard length inside: {entered(result.chosen_length_mm, 'mm')}."
        )
    return tuple(reasons)
