"""Consequences travel: a spacer, a thickness or a vital moves what depends on it."""

from __future__ import annotations

from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from rugged_shield.core.amounts import in_system
from rugged_shield.core.assess.fitup.pose import plate_pose
from rugged_shield.core.assess.frame.ledger import ledger, marked
from rugged_shield.core.assess.frame.stations import station_states
from rugged_shield.core.assess.weighup.scorecard import hardware_kg, weigh
from rugged_shield.core.errors import InputError
from rugged_shield.core.job.edits.path import set_item, set_text, unset_item, value_at
from rugged_shield.core.job.model import Job, mounted
from rugged_shield.core.judgement.known import band_of, fact_of, overall
from rugged_shield.core.judgement.table import FINDINGS
from rugged_shield.core.result import Figure, finding, worst
from rugged_shield.core.survey.bike import AddedMass
from rugged_shield.core.survey.clearance import breakover_deg

SPACER = "candidates.alu5.joints.{}.layers.spacer.thickness_mm"


def lines(job: Job) -> dict[str, float | None]:
    return {line.key: line.now.value for line in ledger(job)}


def test_the_ledger_is_candidate_less_stock(choosing: Job) -> None:
    for line in ledger(choosing):
        assert line.now.value is not None
        assert line.stock.value is not None
        assert line.delta.value == pytest.approx(line.now.value - line.stock.value)


def test_the_ledger_says_what_is_there_where_nothing_can_be_compared(choosing: Job) -> None:
    parts = tuple(replace(p, surface_c=None) for p in choosing.bike.parts)
    cold = replace(choosing, bike=replace(choosing.bike, parts=parts))
    gap = next(line for line in ledger(cold) if line.key == "heat_gap")
    assert gap.now.value is None
    assert gap.delta.metric == gap.now.metric == "nothing hot near"
    other = next(line for line in ledger(choosing) if line.key == "heat_gap")
    assert other.delta.value is not None


def test_fitting_takes_the_minutes_of_plan_and_bundle(choosing: Job) -> None:
    now = {line.key: line.now for line in ledger(choosing)}["effort"]
    plan = next(i.value for i in now.inputs if i.label == "Steps of the plan")
    assert now.value == pytest.approx(float(plan), abs=0.5)


def test_bench_work_counts_where_it_applies(choosing: Job) -> None:
    """Rubber mounts, a slider and an exhaust cost time that a plain plate does not."""
    effort = {c.key: weigh(choosing, c.key).figures["effort"] for c in choosing.candidates}
    minutes = {key: f.value or 0.0 for key, f in effort.items()}
    soft = sum(1 for j in choosing.candidate("hdpe10").settled_joints() if j.is_soft)
    assert minutes["alu35"] == minutes["alu5"]
    assert minutes["hdpe10"] - minutes["alu5"] == pytest.approx(5.0 * soft)
    assert minutes["slide4"] > minutes["alu5"]
    assert minutes["stain2"] > minutes["slide4"]
    assert any("exhaust" in i.label.lower() for i in effort["stain2"].inputs)


def test_steel_says_that_it_rusts_once_gouged(choosing: Job) -> None:
    said = {key: weigh(choosing, key).figures["corrosion"].reasons for key in ("steel25", "stain2")}
    assert any("gouged" in reason for reason in said["steel25"])
    assert not any("gouged" in reason for reason in said["stain2"])


def test_stock_against_stock_is_nothing(choosing: Job) -> None:
    job = replace(choosing, weighing="stock")
    assert all(line.delta.value == 0 for line in ledger(job))


def test_three_mm_under_every_mount_lower_the_plate_by_three(choosing: Job) -> None:
    job = choosing
    for key in ("a1", "a2", "a3", "a4", "a5", "a6"):
        now = value_at(job, SPACER.format(key))
        job = set_text(job, SPACER.format(key), str(now + 3)).job
    before, after = plate_pose(choosing.bike, choosing.in_hand), plate_pose(job.bike, job.in_hand)
    assert after.pose.dz_mm == pytest.approx(-3)
    assert after.plate_low.z_mm == pytest.approx(before.plate_low.z_mm - 3)
    assert after.uneven_mm == 0
    assert lines(job)["clearance"] == pytest.approx((lines(choosing)["clearance"] or 0) - 3)
    assert (lines(job)["mass"] or 0) > (lines(choosing)["mass"] or 0)


def test_one_spacer_alone_tilts_and_leaves_a_gap(choosing: Job) -> None:
    job = set_text(choosing, SPACER.format("a3"), "15").job
    posed = plate_pose(job.bike, job.in_hand)
    assert posed.uneven_mm > 0.5
    assert "stands off unevenly" in {f.code for f in posed.findings}
    assert 0 < -posed.pose.lift((845, -68, 0))[2] < 3


CLAIM = "candidates.alu5.plate.claimed_mass_kg"
WEIGHED = "candidates.alu5.plate.weighed_mass_kg"


def unclaimed(job: Job) -> Job:
    """The plate in hand without its sheet's claim: its mass is computed."""
    return set_text(job, CLAIM, "").job


def test_a_scale_goes_before_a_claim_and_a_claim_before_the_computation(choosing: Job) -> None:
    bare = unclaimed(choosing)
    claimed = set_text(bare, CLAIM, "2.9").job
    weighed = set_text(claimed, WEIGHED, "3.05").job
    held = {}
    for name, job in (("computed", bare), ("claimed", claimed), ("weighed", weighed)):
        figure = weigh(job, "alu5").figures["mass"]
        assert f"The {name} mass holds" in figure.reasons[0]
        held[name] = figure.value or 0.0
    hardware = hardware_kg(mounted(choosing.bike, choosing.in_hand))
    assert held["claimed"] == pytest.approx(2.9 + hardware)
    assert held["weighed"] == pytest.approx(3.05 + hardware)
    inputs = {i.label: i.value for i in weigh(weighed, "alu5").figures["mass"].inputs}
    assert (inputs["Claimed mass"], inputs["Weighed mass"]) == (2.9, 3.05)
    assert inputs["Computed mass"] == pytest.approx(held["computed"] - hardware)
    assert not [f for f in weigh(weighed, "alu5").findings if f.code == "mass differs from claim"]
    far = set_text(weighed, WEIGHED, "3.3").job
    assert [
        f.where for f in weigh(far, "alu5").findings if f.code == "mass differs from claim"
    ] == ["weighed"]


def test_a_spacer_more_weighs_more_under_any_mass(choosing: Job) -> None:
    """What was weighed is the plate: its joints' hardware is added, and follows them."""
    for job in (choosing, set_text(choosing, WEIGHED, "3.1").job):
        more = set_text(job, SPACER.format("a1"), "30").job
        assert (lines(more)["mass"] or 0) > (lines(job)["mass"] or 0)


def test_what_moved_is_marked(choosing: Job) -> None:
    base = unclaimed(choosing)
    job = set_text(base, "candidates.alu5.plate.thickness_mm", "6").job
    moved = {line.key for line in marked(ledger(job), ledger(base)) if line.moved_metric}
    assert "mass" in moved
    assert "money" not in moved
    still = marked(ledger(job), ledger(job))
    assert not any(line.moved_metric or line.moved_us for line in still)


@settings(max_examples=15, deadline=None)
@given(st.floats(1, 12), st.floats(0.1, 5))
def test_a_thicker_plate_is_heavier_and_hangs_lower(choosing: Job, t: float, more: float) -> None:
    base = unclaimed(choosing)
    thin = set_text(base, "candidates.alu5.plate.thickness_mm", str(t)).job
    thick = set_text(base, "candidates.alu5.plate.thickness_mm", str(t + more)).job
    assert (lines(thick)["mass"] or 0) > (lines(thin)["mass"] or 0)
    # its inner face stays on the spacers: what gets thicker goes toward the ground
    assert (lines(thick)["clearance"] or 0) < (lines(thin)["clearance"] or 0)
    moved = (lines(thick)["standoff"] or 0) - (lines(thin)["standoff"] or 0)
    assert -1e-6 <= moved < more


def test_a_vital_moved_changes_what_is_shielded(choosing: Job) -> None:
    job = set_text(choosing, "bike.parts.sump.y_max_mm", "300").job
    assert (lines(job)["coverage:from below"] or 0) < (lines(choosing)["coverage:from below"] or 0)


def test_every_figure_says_why(choosing: Job) -> None:
    for plate in (choosing.stock, *choosing.candidates):
        for figure in weigh(choosing, plate.key).figures.values():
            assert figure.reasons, figure.key
            assert figure.sources, figure.key
            assert figure.inputs, figure.key
            assert figure.metric
            assert figure.us


def test_why_holds_the_inputs_that_were_used(choosing: Job) -> None:
    job = set_text(choosing, "candidates.alu5.plate.thickness_mm", "6,5").job
    inputs = {i.label: i.value for i in weigh(job, "alu5").figures["mass"].inputs}
    assert inputs["Thickness"] == 6.5


def test_oil_screws_follow_the_openings(choosing: Job) -> None:
    assert lines(choosing)["oil_screws"] == 0
    cut = replace(
        choosing.candidate("alu5").plate,
        cutouts=tuple(c for c in choosing.candidate("alu5").plate.cutouts if c.key != "drain"),
    )
    shut = choosing.with_candidate(replace(choosing.candidate("alu5"), plate=cut))
    assert lines(shut)["oil_screws"] == 6


def test_verdicts_of_the_demo_plates(choosing: Job) -> None:
    found = {k: weigh(choosing, k) for k in ("stock", "alu5", "steel25", "hdpe10")}
    assert found["steel25"].verdict == "blocked"
    assert "hits neighbour" in found["steel25"].reason
    assert found["alu5"].verdict == "mind"
    assert "heat near its limit" in {f.code for f in found["hdpe10"].findings}
    mass = next(f for f in found["hdpe10"].findings if f.code == "mass differs from claim")
    assert "would mean a sheet of" in mass.text


def test_a_plate_into_a_vital_is_blocked(choosing: Job) -> None:
    job = set_text(choosing, "bike.parts.sump.z_min_mm", "285").job
    assert "touches vital" in {f.code for f in weigh(job, "alu5").findings}


def test_station_states_say_what_is_open(choosing: Job) -> None:
    states = {s.key: s for s in station_states(choosing, ())}
    assert list(states) == ["survey", "weigh-up", "kit", "fit-up", "tighten", "keep"]
    assert states["survey"].words == "4 assumed"
    assert states["fit-up"].verdict == "sound"
    steel = replace(choosing, weighing="steel25")
    states = {s.key: s for s in station_states(steel, ())}
    assert states["fit-up"].verdict == "blocked"


BAD = [
    ("candidates.alu5.plate.thickness_mm", text)
    for text in ("", "abc", "-3", "0", "5 m", "5 kg", "0.49", "25.1", "nan", "1e400", "3.5.2")
] + [
    ("candidates.alu5.plate.material", "cheese"),
    ("candidates.alu5.plate.key", "x"),
    ("candidates.alu5.plate", "x"),
    ("candidates.alu5.joints.a3.thread", "M6"),
    ("candidates.alu5.joints.a3.treatment", "honey"),
    ("candidates.alu5.joints.a3.layers.spacer.hole_mm", "5"),
    ("candidates.alu5.joints.zz.length_mm", "5"),
    ("candidates.alu5.plate.belly.length_mm", "150"),
    ("bike.parts.sump.x_max_mm", "500"),
    ("bike.parts.sump.consequence", "2,5"),
    ("bike.parts.sump.consequence", "6"),
    ("bike.mounts.m3.thread", "M10"),
    ("bike.mounts.m3.thread_end_mm", "0.5"),
    ("picked", "nope"),
    ("nowhere", "1"),
    ("bike..parts", "1"),
    ("bike.parts.sump.__class__", "1"),
]


@pytest.mark.parametrize(("path", "text"), BAD)
def test_bad_edits_are_refused_with_place_and_range(choosing: Job, path: str, text: str) -> None:
    with pytest.raises(InputError) as caught:
        set_text(choosing, path, text)
    assert caught.value.allowed
    assert caught.value.message
    assert caught.value.field


def test_refusal_speaks_the_system_in_use(choosing: Job) -> None:
    with pytest.raises(InputError) as caught:
        set_text(choosing, "candidates.alu5.plate.thickness_mm", "9", "us")
    assert "in" in caught.value.allowed.split()
    assert "9 in is too large" in caught.value.message


def test_edits_say_what_happened(choosing: Job) -> None:
    change = set_text(choosing, SPACER.format("a3"), "3,5")
    assert in_system(change.words) == "joint 3, spacer: thickness from 12 mm to 3.5 mm"
    change = set_text(choosing, "candidates.alu5.joints.a3.layers.washer.left_out", "true")
    assert in_system(change.words) == "joint 3, washer: left out from no to yes"
    change = set_text(choosing, "candidates.alu5.plate.claimed_mass_kg", "")
    assert change.job.candidate("alu5").plate.claimed_mass_kg is None
    assert "to nothing" in change.words


def test_a_corrected_number_counts_as_measured(choosing: Job) -> None:
    """Only that number; a word for the whole part holds for all of it again."""
    job = set_text(choosing, "bike.parts.hose.z_min_mm", "355").job
    hose = value_at(job, "bike.parts.hose")
    assert fact_of(hose, "z_min_mm").known == "measured"
    assert fact_of(hose, "x_min_mm").known == "assumed"
    assert band_of(hose, "z_min_mm") < band_of(hose, "x_min_mm") == 20.0
    assert overall(hose) == (1, 7)
    same = set_text(choosing, "bike.parts.hose.z_min_mm", "360").job
    assert same == choosing
    whole = set_text(job, "bike.parts.hose.known", "printed").job
    assert overall(value_at(whole, "bike.parts.hose")) == (7, 7)
    assert value_at(whole, "bike.parts.hose.facts") == ()


def test_items_come_and_go(choosing: Job) -> None:
    line = replace(choosing.in_hand.kit[0], key="own")
    grown = set_item(choosing, "candidates.alu5.kit", line, "added").job
    assert len(grown.in_hand.kit) == len(choosing.in_hand.kit) + 1
    assert unset_item(grown, "candidates.alu5.kit.own", "out").job == choosing
    with pytest.raises(InputError):
        unset_item(choosing, "candidates.alu5.kit.nope", "out")


def test_the_last_layer_cannot_leave(choosing: Job) -> None:
    job = unset_item(choosing, "candidates.alu5.joints.a1.layers.spacer", "out").job
    with pytest.raises(InputError, match="nothing is clamped"):
        unset_item(job, "candidates.alu5.joints.a1.layers.plate", "out")


def test_finding_codes_have_one_verdict_each() -> None:
    for code, kind in FINDINGS.items():
        assert finding(code, "x").verdict == kind.verdict
    with pytest.raises(KeyError):
        finding("no such code", "x")
    assert worst([]) == "sound"
    assert worst(["sound", "not known"]) == "not known"
    assert worst(["mind", "not known", "blocked"]) == "blocked"


def test_sag_reaches_clearance_breakover_and_what_touches_first(choosing: Job) -> None:
    bike = choosing.bike
    sag = replace(bike.sag, front_wheel_rate_n_per_mm=8.0, rear_wheel_rate_n_per_mm=9.0)
    light = replace(choosing, bike=replace(bike, sag=sag))
    load = AddedMass("load", "luggage", 34.0, 1300.0)
    heavy = replace(choosing, bike=replace(light.bike, added=(*bike.added, load)))
    before, after = lines(light), lines(heavy)
    assert (after["breakover"] or 0) < (before["breakover"] or 0) - 0.5
    assert (after["clearance"] or 0) < (before["clearance"] or 0) - 3
    figure = next(line.now for line in ledger(heavy) if line.key == "breakover")
    high = next(i.value for i in figure.inputs if i.label == "Above the ground")
    was = next(line.now for line in ledger(light) if line.key == "breakover")
    assert float(str(high)) < float(
        str(next(i.value for i in was.inputs if i.label == "Above the ground"))
    )
    table = breakover_deg(heavy.bike, _at(figure), float(str(high)))
    assert figure.value == pytest.approx(table), "the angle is that of the point it names"


def _at(figure: Figure) -> float:
    return float(str(next(i.value for i in figure.inputs if i.label == "Behind the front axle")))
