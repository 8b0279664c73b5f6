"""What living with a plate costs: oil changes, fitting, money, noise, sliding, corrosion."""

from __future__ import annotations

from functools import lru_cache

from rugged_shield.core.assess.fitup.metals import metal_pairs
from rugged_shield.core.figures import capital, figure, figure_of
from rugged_shield.core.job.model import Candidate, MountedJoint, Use
from rugged_shield.core.result import Figure, Input, Source, finding
from rugged_shield.core.tables.materials import SHEET_MATERIALS
from rugged_shield.core.weighup.corrosion import CorrosionInput, corrosion
from rugged_shield.core.weighup.ring import CLASS_S, RingInput, ring

EXHAUST_MINUTES, STAND_MINUTES = 40.0, 25.0
"""Exhaust off and on with its springs; a centre stand off with its spring."""
BRACKET_MINUTES, ISOLATOR_MINUTES, SLIDER_MINUTES, PIECE_SCREW_MINUTES = 8.0, 5.0, 15.0, 2.0
"""On the bench: a bracket made up, an isolator with its sleeve, a slider screwed on, a screw of a
wing or further piece."""
_SHEET = Source("the plate's sheet", "medium")
SLIDE_SOURCE = Source("friction of the outer layer on rock, dry, typical", "low")
EFFORT_SOURCE = Source("minutes of every step of the plan; own estimate for the rest", "low")


def bundle_price(candidate: Candidate) -> float:
    """Price of the plate with all that is bought with it."""
    return candidate.plate.price + sum(e.price for e in candidate.extras)


def money_figures(candidate: Candidate, use: Use, currency: str) -> list[Figure]:
    """Price of the bundle, and what a year of it costs."""
    price = bundle_price(candidate)
    lines = (
        Input("The plate", candidate.plate.price, currency),
        *(Input(capital(e.name), e.price, currency) for e in candidate.extras),
    )
    return [
        figure(
            "money",
            "Money",
            price,
            currency,
            text=f"{price:.0f} {currency}",
            inputs=lines,
            reasons=("Price of the plate and of everything bought with it.",),
            sources=(_SHEET,),
        ),
        figure(
            "money_a_year",
            "Money a year",
            price / use.years_kept,
            currency,
            text=f"{price / use.years_kept:.0f} {currency}",
            inputs=(*lines, Input("Years kept", use.years_kept)),
            reasons=("Price over the years that the plate is kept.",),
            assumptions=("Nothing is sold again; wear pieces are not counted.",),
            sources=(_SHEET,),
        ),
    ]


def joints_not_known(
    key: str, label: str, unit: str, candidate: Candidate, source: Source
) -> Figure:
    """A figure that the joints would give, of a plate for which none is entered."""
    why = "No joint is entered for this plate: how it is fitted is not known."
    return figure(
        key,
        label,
        None,
        unit,
        findings=(finding("joints not known", why, candidate.key),),
        inputs=(Input("Joints", 0),),
        reasons=(why,),
        sources=(source,),
    )


def _bench_minutes(candidate: Candidate) -> dict[str, float]:
    """What fitting takes beside the joints of the plate, own estimates: only what applies.

    A bracket or a piece whose own joints are entered has its minutes in the plan.
    """
    plate, joints = candidate.plate, candidate.settled_joints()
    in_plan = {j.joins for j in joints if j.joins}
    brackets = sum(
        1 for j in joints if j.hangs_plate and any(x.kind == "bracket" for x in j.present())
    )
    soft = sum(1 for j in joints if j.is_soft)
    wings = [w.own_screws for w in (plate.wing_left, plate.wing_right) if w is not None]
    screws = sum(wings) + sum(p.own_screws for p in plate.pieces if p.key not in in_plan)
    slider = bool(plate.slider_material) and not plate.slider_bonded
    every = {
        "Exhaust off and on, with its springs": EXHAUST_MINUTES * plate.needs.exhaust_off,
        "Centre stand off, with its spring": STAND_MINUTES * plate.needs.no_centre_stand,
        f"{brackets} brackets made up": BRACKET_MINUTES * brackets,
        f"{soft} isolators with their sleeves": ISOLATOR_MINUTES * soft,
        "Slider screwed on": SLIDER_MINUTES * slider,
        f"{screws} screws of wings and pieces": PIECE_SCREW_MINUTES * screws,
    }
    return {name: minutes for name, minutes in every.items() if minutes}


def effort_figure(candidate: Candidate, plan_minutes: float, is_on: bool = False) -> Figure:
    """Minutes to fit: the plan's, those of what is bought with it, exhaust and stand.

    Nothing for a plate that is on the bike already; not known while no joint is entered.
    """
    if is_on:
        return figure(
            "effort",
            "Fitting",
            0.0,
            "min",
            inputs=(Input("Joints", len(candidate.joints)),),
            reasons=("It is on the bike already.",),
            sources=(EFFORT_SOURCE,),
        )
    if not candidate.joints:
        return joints_not_known("effort", "Fitting", "min", candidate, EFFORT_SOURCE)
    lines = [Input("Steps of the plan", round(plan_minutes), "min")]
    lines += [Input(capital(e.name), e.fit_minutes, "min") for e in candidate.extras]
    work = _bench_minutes(candidate)
    lines += [Input(name, minutes, "min") for name, minutes in work.items()]
    total = plan_minutes + sum(e.fit_minutes for e in candidate.extras) + sum(work.values())
    return figure(
        "effort",
        "Fitting",
        total,
        "min",
        inputs=(*lines, Input("Joints", len(candidate.joints))),
        reasons=("Minutes of every step of the order of work, and of what else must come off.",),
        assumptions=("A first fitting by one person with all tools at hand.",),
        sources=(EFFORT_SOURCE,),
    )


@lru_cache(maxsize=512)
def nature_figures(candidate: Candidate) -> tuple[Figure, ...]:
    """Ring of a stone's hit, friction on rock, mounting school."""
    plate = candidate.plate
    rung = ring(
        RingInput(
            plate.material,
            plate.thickness_mm,
            plate.slider_material,
            plate.slider_thickness_mm,
            plate.slider_bonded,
            any(joint.is_soft for joint in candidate.settled_joints()),
        )
    )
    outer = plate.slider_material or plate.material
    return (
        figure_of(
            rung,
            "ring",
            "Ring after a stone",
            CLASS_S[rung.result.sounds],
            "s",
            text=rung.result.sounds,
            inputs=(Input("Falls by 60 dB in about", round(rung.result.ring_s, 2), "s"),),
        ),
        figure(
            "slide",
            "Friction on rock",
            SHEET_MATERIALS[outer].slide_friction,
            "µ",
            inputs=(Input("Outer layer", outer),),
            reasons=("Less slides off more easily; metal also grabs where it is gouged.",),
            sources=(SLIDE_SOURCE,),
        ),
        figure(
            "school",
            "Bolts to",
            None,
            "",
            text=f"{plate.mounting}{', over stock' if plate.over_stock else ''}",
            inputs=(Input("Joints", len(candidate.joints)),),
            reasons=("As the plate's sheet says.",),
            sources=(_SHEET,),
        ),
    )


@lru_cache(maxsize=512)
def corrosion_figure(joints: tuple[MountedJoint, ...], material: str) -> Figure:
    """Pairs of metals that eat each other in mud and salt, in all joints; and rust of the sheet."""
    pairs = tuple(p for m in joints for p in metal_pairs(m.joint, m.mount))
    outcome = corrosion(CorrosionInput(pairs))
    rusts = SHEET_MATERIALS[material].metal == "steel"
    gouged = "Its sheet is painted steel: it rusts where a stone has gouged it, touch it up."
    return figure_of(
        outcome,
        "corrosion",
        "Metal pairs that corrode",
        float(outcome.result.open_pairs),
        "",
        reasons=(gouged,) if rusts else (),
    )
