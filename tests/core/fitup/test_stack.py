"""The stack: properties that must hold, findings with consequences, named refusals."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Any

import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from rugged_shield.core.errors import InputError
from rugged_shield.core.fitup.stack import joint_stack
from rugged_shield.core.fitup.stack_model import Countersink, Sleeve, StackInput, StackLayer
from rugged_shield.core.mechanics.female import Female
from rugged_shield.core.mechanics.threads import length_tolerance

BLIND = Female(
    kind="blind_tapped",
    thread_start_mm=1.0,
    thread_end_mm=24.0,
    thread_start_tol_mm=0.3,
    thread_end_tol_mm=0.5,
)
NUT = Female(
    kind="prevailing_nut",
    thread_start_mm=0,
    thread_end_mm=6.44,
    thread_start_tol_mm=0,
    thread_end_tol_mm=0,
    overall_height_mm=9.21,
    overall_height_tol_mm=0.29,
    free_space_mm=20,
    free_space_tol_mm=1,
)
BASE = StackInput(
    thread="M8",
    layers=(StackLayer("plate", 6, 0.2), StackLayer("spacer", 12, 0.1)),
    female=BLIND,
    required_engagement_mm=16,
)

layers = st.lists(st.tuples(st.floats(0.5, 20), st.floats(0, 0.3)), min_size=1, max_size=4).map(
    lambda items: tuple(StackLayer(f"l{i}", t, tol) for i, (t, tol) in enumerate(items))
)
blinds = st.builds(
    lambda start, end: Female(
        kind="blind_tapped",
        thread_start_mm=start,
        thread_end_mm=start + end,
        thread_start_tol_mm=0.2,
        thread_end_tol_mm=0.4,
    ),
    st.floats(0, 3),
    st.floats(8, 40),
)
lengths = st.sampled_from([12.0, 16.0, 20.0, 25.0, 30.0, 35.0, 40.0, 45.0, 50.0, 60.0, 70.0])


@given(layers, blinds, lengths, lengths)
def test_a_longer_screw_never_has_less_engagement(
    stack: tuple[StackLayer, ...], female: Female, a: float, b: float
) -> None:
    short, long = sorted((a, b))
    given_input = StackInput(
        thread="M8",
        layers=stack,
        female=female,
        required_engagement_mm=8,
        evaluate_lengths_mm=(short, long),
    )
    first, second = joint_stack(given_input).result.evaluations
    assert second.engagement_geometric_mm >= first.engagement_geometric_mm
    assert second.engagement_effective_mm >= first.engagement_effective_mm
    assert second.bottom_margin_worst_mm is not None
    assert first.bottom_margin_worst_mm is not None
    assert second.bottom_margin_worst_mm <= first.bottom_margin_worst_mm


@given(layers, st.floats(0.1, 8))
def test_a_thicker_layer_never_shortens_the_needed_length(
    stack: tuple[StackLayer, ...], more: float
) -> None:
    thick = (replace(stack[0], thickness_mm=stack[0].thickness_mm + more), *stack[1:])
    thin_need = joint_stack(replace(BASE, layers=stack)).result.length_needed_min_mm
    thick_need = joint_stack(replace(BASE, layers=thick)).result.length_needed_min_mm
    assert thin_need is not None
    assert thick_need == pytest.approx(thin_need + more)


@settings(max_examples=200)
@given(layers, blinds, st.floats(4, 20))
def test_acceptable_lengths_are_sound_and_the_others_are_not(
    stack: tuple[StackLayer, ...], female: Female, wanted: float
) -> None:
    """The window and the evaluation of each length are two roads to one verdict."""
    all_lengths = tuple(float(x) for x in (10, 12, 16, 20, 25, 30, 35, 40, 45, 50, 55, 60))
    result = joint_stack(
        StackInput(
            thread="M8",
            layers=stack,
            female=female,
            required_engagement_mm=wanted,
            stock_lengths_mm=all_lengths,
            evaluate_lengths_mm=all_lengths,
        )
    ).result
    for evaluation in result.evaluations:
        margins = (
            evaluation.engagement_effective_worst_mm - wanted,
            evaluation.bottom_margin_worst_mm or 0,
        )
        assume(all(abs(m) > 1e-6 for m in margins))
        sound = evaluation.verdict == "sound"
        assert sound == (evaluation.length_mm in result.acceptable_lengths_mm)


@given(layers, blinds, lengths)
def test_worst_is_never_better_than_rss_nor_rss_than_nominal(
    stack: tuple[StackLayer, ...], female: Female, length: float
) -> None:
    given_input = StackInput(
        thread="M8",
        layers=stack,
        female=female,
        required_engagement_mm=8,
        evaluate_lengths_mm=(length,),
    )
    (e,) = joint_stack(given_input).result.evaluations
    assert e.bottom_margin_nominal_mm is not None
    assert e.bottom_margin_rss_mm is not None
    assert e.bottom_margin_worst_mm is not None
    assert e.bottom_margin_worst_mm <= e.bottom_margin_rss_mm + 1e-9
    assert e.bottom_margin_rss_mm <= e.bottom_margin_nominal_mm + 1e-9
    assert e.engagement_effective_worst_mm <= e.engagement_effective_mm + 1e-9


def test_order_of_layers_does_not_matter() -> None:
    turned = replace(BASE, layers=tuple(reversed(BASE.layers)))
    assert joint_stack(turned).result == joint_stack(BASE).result


def test_a_nut_bounds_the_length_only_by_free_space() -> None:
    open_end = replace(BASE, female=replace(NUT, free_space_mm=None), required_engagement_mm=5)
    result = joint_stack(replace(open_end, required_protrusion_pitches=2)).result
    assert result.length_allowed_max_mm is None
    assert result.length_needed_min_mm == pytest.approx(18.3 + 9.5 + 2.5)
    assert result.acceptable_lengths_mm[0] == 35


def test_a_thread_shorter_than_wanted_lets_no_screw_do() -> None:
    outcome = joint_stack(replace(BASE, required_engagement_mm=40))
    assert outcome.result.length_needed_min_mm is None
    assert outcome.result.acceptable_lengths_mm == ()
    assert "no length fits" in {f.code for f in outcome.findings}
    assert "no screw can do it" in outcome.reasons[0]


def test_findings_name_their_consequence() -> None:
    outcome = joint_stack(replace(BASE, evaluate_lengths_mm=(30.0, 50.0)))
    found = {f.code: f for f in outcome.findings}
    assert found["bottoms"].verdict == "blocked"
    assert "plate stays loose" in found["bottoms"].text
    assert "strip" in found["too short"].text


def test_a_short_sleeve_is_a_finding_and_no_error() -> None:
    outcome = joint_stack(replace(BASE, sleeve=Sleeve(9.8, 10, 0.1, 0.3)))
    assert outcome.result.clamp_carried_by_sleeve is False
    assert "creeps" in next(f.text for f in outcome.findings if "sleeve" in f.code)
    assert joint_stack(
        replace(BASE, sleeve=Sleeve(10.5, 10, 0.1, 0.3))
    ).result.clamp_carried_by_sleeve


def test_knife_edge_does_not_remove_lengths() -> None:
    sunk = Countersink(
        sink_diameter_mm=17.3,
        hole_diameter_mm=9.0,
        angle_deg=90,
        sink_diameter_tol_mm=0.3,
        head_below_surface_mm=0.1,
        head_below_surface_tol_mm=0.1,
        required_land_mm=0.5,
    )
    thin = replace(
        BASE,
        head="ISO 10642",
        length_includes_head=True,
        countersink=sunk,
        layers=(StackLayer("plate", 4, 0.15), StackLayer("spacer", 14, 0.1)),
    )
    result = joint_stack(thin).result
    assert result.acceptable_lengths_mm
    assert result.evaluations[0].verdict == "knife-edged countersink"
    land = result.evaluations[0].countersink_land_nominal_mm
    assert land == pytest.approx(4 - (17.3 - 9) / 2 / math.tan(math.radians(45)))


@pytest.mark.parametrize(
    ("length", "half"),
    [(3, 0.2), (6, 0.24), (10, 0.29), (10.5, 0.35), (30, 0.42), (31, 0.5), (120, 0.7)],
)
def test_length_tolerance_bands(length: float, half: float) -> None:
    assert length_tolerance(length) == half


def test_wider_grade_has_wider_bands() -> None:
    assert length_tolerance(30, "ISO 4759-1 B js17") > 2 * length_tolerance(30)
    with pytest.raises(InputError):
        length_tolerance(500)


BAD: list[tuple[dict[str, Any], str]] = [
    ({"thread": "M7"}, "thread"),
    ({"head": "ISO 1"}, "head"),
    ({"layers": ()}, "layers"),
    ({"diameter_mm": 6.0}, "diameter_mm"),
    ({"pitch_mm": 1.0}, "pitch_mm"),
    ({"required_engagement_mm": -1.0}, "required_engagement_mm"),
    ({"evaluate_lengths_mm": (0.0,)}, "evaluate_lengths_mm"),
    ({"stock_lengths_mm": (float("nan"),)}, "stock_lengths_mm"),
    (
        {"countersink": Countersink(sink_diameter_mm=17, hole_diameter_mm=6.6)},
        "countersink.hole_diameter_mm",
    ),
]


@pytest.mark.parametrize(("change", "field"), BAD, ids=lambda x: str(x)[:40])
def test_refusals_name_the_field(change: dict[str, Any], field: str) -> None:
    with pytest.raises(InputError) as caught:
        replace(BASE, **change)
    assert caught.value.field == field


@pytest.mark.parametrize("thickness", [0.0, -1.0, 201.0, float("nan"), float("inf")])
def test_layers_refuse_just_outside_their_range(thickness: float) -> None:
    with pytest.raises(InputError, match="thickness_mm"):
        StackLayer("plate", thickness)


def test_female_parts_refuse_what_cannot_be() -> None:
    with pytest.raises(InputError, match="end before it starts"):
        Female(kind="blind_tapped", thread_start_mm=5, thread_end_mm=4)
    with pytest.raises(InputError, match="height"):
        Female(kind="weld_nut", thread_start_mm=0, thread_end_mm=6)
    with pytest.raises(InputError, match="wider than its hole"):
        Countersink(sink_diameter_mm=9, hole_diameter_mm=12)


@pytest.mark.parametrize(("beyond_mm", "short"), [(2.2, True), (2.4, True), (2.6, False)])
def test_a_nut_wants_its_pitches_beyond_it_in_millimetres(beyond_mm: float, short: bool) -> None:
    """Two pitches of an M8 are 2.5 mm: neither two millimetres nor less."""

    def found(thick_mm: float) -> Any:
        given = replace(
            BASE,
            layers=(StackLayer("plate", thick_mm, 0.0),),
            female=NUT,
            required_engagement_mm=5.0,
            required_protrusion_pitches=2.0,
            evaluate_lengths_mm=(40.0,),
        )
        return joint_stack(given).result.evaluations[0]

    worst = found(20.0).protrusion_worst_min_mm
    assert worst is not None
    there = found(20.0 + worst - beyond_mm)
    assert there.protrusion_worst_min_mm == pytest.approx(beyond_mm)
    assert ("too short" in there.issues) is short
