"""What to measure next: each line names a verdict that turns when computed at its bound."""

from __future__ import annotations

from dataclasses import replace

import pytest

from rugged_shield.core.amounts import in_system
from rugged_shield.core.assess.survey.measure_next import (
    BEST,
    MeasureNextInput,
    measure_next,
    what_to_measure,
)
from rugged_shield.core.assess.survey.uncertain import job_at
from rugged_shield.core.assess.weighup.ranking import order_of
from rugged_shield.core.assess.weighup.scorecard import weigh
from rugged_shield.core.job.model import Job
from rugged_shield.core.judgement.known import Fact, band_of, fact_of, with_fact
from rugged_shield.core.survey.layouts import LayoutRequest, bike_from_layout
from tests.conftest import demo_file


def best_plate(job: Job) -> str:
    """Which plate ranks first, with every shell solved."""
    return order_of(job)[0] if len(job.candidates) > 1 else ""


@pytest.mark.parametrize("name", ["choosing", "kit_open", "half_fitted", "in_service"])
def test_each_line_turns_what_it_says(name: str) -> None:
    job = demo_file(name).job
    found = measure_next(job)
    for number in found.numbers:
        path, field = number.path.rsplit(".", 1)
        moved = job_at(job, path, field, number.at_value)
        if number.known == "missing":
            assert number.value - 2 * number.band < number.at_value < number.value + 2 * number.band
        else:
            assert abs(number.at_value - number.value) == pytest.approx(number.band)
        assert number.flips
        for flip in number.flips:
            if flip.what == BEST:
                assert best_plate(moved) == flip.plate != best_plate(job)
                continue
            before, after = weigh(job, flip.plate), weigh(moved, flip.plate)
            if flip.what == "the plate":
                assert (before.verdict, after.verdict) == (flip.before, flip.after)
                assert before.verdict != after.verdict
                continue
            codes = [{(f.code, f.where) for f in side.findings} for side in (before, after)]
            assert ((flip.what, flip.where) in codes[0]) != ((flip.what, flip.where) in codes[1])
        assert number.thing.casefold() in number.metric.casefold()
        assert in_system(number.flips[0].text) in number.metric
    weights = [number.weight for number in found.numbers]
    assert weights == sorted(weights, reverse=True)


def test_a_new_bike_has_much_to_measure_and_a_known_one_nothing(choosing: Job) -> None:
    bike = bike_from_layout(
        LayoutRequest(layout="big twin", name="own", wheelbase_mm=1560.0, clearance_mm=230.0)
    )
    bike = replace(bike, mounts=choosing.bike.mounts)
    few = choosing.candidates[:3]  # nine would only take longer
    assert measure_next(replace(choosing, bike=bike, candidates=few)).numbers
    known = replace(
        choosing.bike,
        known="measured",
        front_travel_mm=120.0,
        rake_deg=27.0,
        parts=tuple(replace(p, known="measured", facts=()) for p in choosing.bike.parts),
        mounts=tuple(replace(m, known="measured", facts=()) for m in choosing.bike.mounts),
    )
    plates = tuple(replace(c, plate=replace(c.plate, known="measured", facts=())) for c in few)
    assert measure_next(replace(choosing, bike=known, candidates=plates)).uncertain == 0


def test_a_wider_band_cannot_make_fewer_lines_of_a_part(choosing: Job) -> None:
    """Twenty millimetres of doubt turn at least what five turn."""
    part = next(p for p in choosing.bike.parts if p.key == "pivot")

    def lines(band: float) -> set[str]:
        wide = with_fact(part, Fact("z_min_mm", "assumed", band))
        parts = tuple(wide if p.key == part.key else p for p in choosing.bike.parts)
        few = choosing.candidates[:3]
        job = replace(choosing, bike=replace(choosing.bike, parts=parts), candidates=few)
        return {
            g.path for g in measure_next(job).numbers if g.path.startswith("bike.parts.pivot.z_min")
        }

    assert lines(5.0) <= lines(20.0)


def test_the_outcome_says_the_first_line(choosing: Job) -> None:
    outcome = what_to_measure(MeasureNextInput(choosing))
    assert outcome.reasons == (outcome.result.numbers[0].metric,)
    assert outcome.assumptions


def test_a_number_that_would_turn_the_pick_is_named(choosing: Job) -> None:
    job = twins(choosing)
    found = {
        f.plate for number in measure_next(job).numbers for f in number.flips if f.what == BEST
    }
    assert found, "a tenth of a millimetre makes one of the twins the lighter one"
    assert all(
        "rank first" in f.text for g in measure_next(job).numbers for f in g.flips if f.what == BEST
    )


def twins(job: Job) -> Job:
    """Two plates that score nearly alike: an uncertain thickness decides between them."""
    own = job.as_entered("alu5")
    twin = replace(own, plate=replace(own.plate, key="twin", name="its twin"))
    return replace(job, candidates=(own, twin))


@pytest.mark.parametrize("name", ["choosing", "kit_open", "twins"])
def test_no_plate_that_a_thickness_puts_first_is_passed_over(name: str) -> None:
    """Bounds stand for shells in the search: held against the ranking with every shell solved."""
    job = twins(demo_file("choosing").job) if name == "twins" else demo_file(name).job
    listed = {
        (n.path, f.plate) for n in measure_next(job).numbers for f in n.flips if f.what == BEST
    }
    for own in job.candidates:
        band = band_of(own.plate, "thickness_mm")
        path = f"candidates.{own.key}.plate"
        if band == 0.0 or fact_of(own.plate, "thickness_mm").known == "measured":
            continue
        ends = (own.plate.thickness_mm + side * band for side in (-1.0, 1.0))
        first = {best_plate(job_at(job, path, "thickness_mm", at)) for at in ends}
        said = {plate for where, plate in listed if where == f"{path}.thickness_mm"}
        assert said <= first
        assert bool(said) == (first != {best_plate(job)})
    assert bool(listed) or name != "twins"
