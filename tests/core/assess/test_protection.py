"""What “protect the engine” looks at: shielded, and by sheet that holds."""

from __future__ import annotations

from dataclasses import replace

import pytest

from rugged_shield.core.assess.weighup.protection import protection, struck_all_round
from rugged_shield.core.assess.weighup.ranking import choice_of, quantities_of
from rugged_shield.core.assess.weighup.scorecard import weigh
from rugged_shield.core.assess.weighup.strike import strike_figures
from rugged_shield.core.job.edits.path import set_text
from rugged_shield.core.job.edits.whatif import WhatIf, tried
from rugged_shield.core.job.model import Job
from tests.conftest import small_sheet


def known(job: Job, key: str) -> float:
    value = protection(job, weigh(job, key)).value
    assert value is not None
    return value


@pytest.mark.parametrize("plate", ["stock", "alu5", "hdpe10", "steel25"])
def test_it_is_at_most_what_is_shielded(choosing: Job, plate: str) -> None:
    cover = weigh(choosing, plate).figures["coverage"].value
    assert cover is not None
    assert 0 <= known(choosing, plate) <= cover
    inputs = {i.label: i.value for i in protection(choosing, weigh(choosing, plate)).inputs}
    assert known(choosing, plate) == pytest.approx(
        cover * float(inputs["Of its sheet, holds"]) / 100, abs=0.5
    )


def test_a_thin_sheet_of_the_same_shape_protects_less(choosing: Job) -> None:
    sheets = [
        known(tried(choosing, WhatIf(plate="alu5", thickness_mm=t)), "what-if") for t in (2, 4, 8)
    ]
    assert sheets == sorted(sheets)
    assert sheets[0] < sheets[-1] - 3


def test_a_harder_ride_asks_for_more(choosing: Job) -> None:
    hard = replace(choosing, use=replace(choosing.use, strike_energy_j=300.0))
    assert known(hard, "hdpe10") < known(choosing, "hdpe10")


def test_longer_spacers_leave_more_room_to_a_strike(choosing: Job) -> None:
    job = choosing
    for key in ("a1", "a2", "a3", "a4", "a5", "a6"):
        path = f"candidates.alu5.joints.{key}.layers.spacer.thickness_mm"
        spacer = {"a4": 18, "a5": 11, "a6": 11}.get(key, 15)
        job = set_text(job, path, str(spacer)).job

    def touch(of: Job) -> float:
        found = {f.key: f.value for f in strike_figures(of, "alu5")}
        return found["strike:touch"] or 0.0

    assert touch(job) > 1.1 * touch(choosing), "3 mm more room"
    assert known(job, "alu5") >= known(choosing, "alu5") - 1.0


def test_a_plate_without_mounts_is_ranked_with_what_is_known(choosing: Job) -> None:
    own = choosing.candidate("alu35")
    bare = replace(own, joints=(), plate=small_sheet(own.plate))
    job = replace(
        choosing, candidates=tuple(bare if c.key == "alu35" else c for c in choosing.candidates)
    )
    assert protection(job, weigh(job, "alu35")).value is None
    assert "nothing holds" in protection(job, weigh(job, "alu35")).reasons[0]
    ranked = next(r for r in choice_of(job).result.ranking if r.key == "alu35")
    assert "protect the engine" in ranked.missing
    assert quantities_of(job, weigh(job, "alu35"))[0].key == "protected"


def test_what_gives_way_from_a_side_is_said_of_it(choosing: Job) -> None:
    """What does not hold from a direction, and the shares that *protected* counts, are one."""
    weighed = weigh(choosing, "hdpe10")
    said = {
        f.text.split("Struck ")[1].split(" with")[0]: f
        for f in struck_all_round(choosing, "hdpe10", "from below").findings
        if f.code == "gives way from a side"
    }
    assert "from below" not in said, "the map says that itself"
    holds = {
        i.label.removeprefix("Holds "): float(str(i.value))
        for i in protection(choosing, weighed).inputs
        if i.label.startswith("Holds ")
    }
    for way, held in holds.items():
        if way != "from below" and held < 90.0:
            assert f"{100 - held:.0f} % of the sheet does not hold" in said[way].text.replace(
                "\N{NO-BREAK SPACE}", " "
            )
    assert said["level from ahead"].verdict == "mind"


def test_what_holds_from_all_sides_says_nothing_of_them(choosing: Job) -> None:
    mild = replace(choosing, use=replace(choosing.use, strike_energy_j=2.0))
    found = struck_all_round(mild, "alu5", "from below").findings
    assert "gives way from a side" not in {f.code for f in found}


def test_a_plastic_that_cracks_in_winter_says_so(choosing: Job) -> None:
    stock = struck_all_round(choosing, choosing.stock.key, "from below").findings
    assert choosing.stock.plate.material == "polypropylene"
    assert "brittle in the cold" in {f.code for f in stock}
    own = struck_all_round(choosing, "alu5", "from below").findings
    assert "brittle in the cold" not in {f.code for f in own}
    bare = replace(choosing, bike=replace(choosing.bike, mounts=()),
                   stock=replace(choosing.stock, joints=()),
                   candidates=(), counts=(), weighings=(), picked="",
                   weighing=choosing.stock.key)  # fmt: skip
    hung = struck_all_round(bare, choosing.stock.key, "from below").findings
    assert {"no map of strikes", "brittle in the cold"} <= {f.code for f in hung}
