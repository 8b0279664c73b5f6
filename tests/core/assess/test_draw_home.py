"""Drawing home on demo plates: the sheet's own stiffness, gaps, orders, and the plan's."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from rugged_shield.core.assess.tighten.cards import card_of
from rugged_shield.core.assess.tighten.draw_home import OrderJudged, draw_home, force_words
from rugged_shield.core.assess.tighten.plan import plan_of
from rugged_shield.core.errors import InputError
from rugged_shield.core.fitup.layer import Layer
from rugged_shield.core.job.edits.clearances import take_order
from rugged_shield.core.job.model import Job, MountedJoint, mounted
from rugged_shield.core.shell.condense import condensed_stiffness
from rugged_shield.core.shell.mesh import ShellPanel


def strip(length: float = 400.0, width: float = 40.0) -> tuple[ShellPanel, ...]:
    ring = ((0, -width / 2), (length, -width / 2), (length, width / 2), (0, width / 2))
    return (ShellPanel("strip", ring, (0, 0, 0), (1, 0, 0), (0, 1, 0)),)


def test_a_strip_on_three_points_is_a_beam() -> None:
    places = ((10.0, 0.0, 0.0), (200.0, 0.0, 0.0), (390.0, 0.0, 0.0))
    k = condensed_stiffness(
        strip(),
        places,
        ((0.0, 0.0, 1.0),) * 3,
        thickness_mm=4.0,
        youngs_modulus_mpa=70_000.0,
        poisson=0.0,
        mesh_mm=8.0,
    )
    # Euler–Bernoulli, simply supported, a force in the middle: 48 EI/L³
    beam = 48 * 70_000 * (40 * 4**3 / 12) / 380**3
    assert k[1, 1] == pytest.approx(beam, rel=0.005)
    assert k[0] == pytest.approx([k[1, 1] / 4, -k[1, 1] / 2, k[1, 1] / 4], rel=0.005)
    assert np.abs(k.sum(axis=0)).max() < 1e-2, "a plate lifted as a whole pulls nowhere"


def seen(job: Job, gaps: dict[str, float]) -> tuple[MountedJoint, ...]:
    return tuple(
        replace(
            at, joint=replace(at.joint, seen=replace(at.joint.seen, gap_mm=gaps.get(at.joint.key)))
        )
        for at in mounted(job.bike, job.in_hand)
    )


def test_a_plate_without_gaps_pulls_nothing(choosing: Job) -> None:
    found = draw_home(
        choosing.in_hand.plate, mounted(choosing.bike, choosing.in_hand), choosing.wrench
    )
    assert not found.not_known
    assert max(found.eaten.values()) == 0.0
    assert all(o.all_start for o in found.orders)
    assert {o.most_force_n for o in found.orders} == {0.0}, "a hand holds it up: no screw pushes"


def test_one_gap_is_spread_as_the_stiffness_says_and_a_shim_takes_it(choosing: Job) -> None:
    joints = seen(choosing, {"a1": 4.0})
    found = draw_home(choosing.in_hand.plate, joints, choosing.wrench)
    assert found.eaten["a1"] > 0.01
    assert any("shim" in words for words in found.cures)
    twice = draw_home(choosing.in_hand.plate, seen(choosing, {"a1": 8.0}), choosing.wrench)
    assert twice.eaten["a1"] == pytest.approx(2 * found.eaten["a1"], rel=1e-6)


@pytest.mark.parametrize(
    ("gap_mm", "bends", "folds"), [(0.3, False, False), (1.5, True, False), (6.0, True, True)]
)
def test_a_soft_bracket_is_bent_first_and_said_to_fold(
    choosing: Job, gap_mm: float, bends: bool, folds: bool
) -> None:
    """Steel 4 × 30, 60 mm free: it yields at 0.69 mm and folds at 20/9 of that, 1.53 mm."""
    arm = Layer(
        key="arm", kind="bracket", name="arm", material="mild steel S235",
        thickness_mm=4.0, outer_mm=30.0, span_mm=60.0,
    )  # fmt: skip
    joints = tuple(
        replace(at, joint=replace(at.joint, layers=(*at.joint.layers, arm)))
        if at.joint.key == "a1"
        else at
        for at in seen(choosing, {"a1": gap_mm})
    )
    cures = draw_home(choosing.in_hand.plate, joints, choosing.wrench).cures
    mine = [words for words in cures if "two pliers" in words]
    assert bool(mine) is bends
    assert any("folds where it is held" in words for words in mine) is folds


def test_a_gap_longer_than_its_screw_starts_in_no_order(choosing: Job) -> None:
    joints = seen(choosing, dict.fromkeys(("a1", "a2", "a3", "a4", "a5", "a6"), 40.0))
    found = draw_home(choosing.in_hand.plate, joints, choosing.wrench)
    assert "screw will not start" in {f.code for f in found.findings}


@settings(max_examples=12, deadline=None)
@given(gaps=st.lists(st.floats(0.0, 5.0), min_size=6, max_size=6))
def test_the_order_found_is_never_worse_than_the_schools(choosing: Job, gaps: list[float]) -> None:
    keys = ("a1", "a2", "a3", "a4", "a5", "a6")
    joints = seen(choosing, dict(zip(keys, gaps, strict=True)))
    found = draw_home(choosing.in_hand.plate, joints, choosing.wrench)

    preload_n = {
        m.joint.key: card_of(m.joint, m.mount, choosing.wrench).result.preload_min_n for m in joints
    }

    def cost(order: OrderJudged) -> tuple[int, float]:
        eaten = (max(0.0, t.force_n) / preload_n[t.key] for t in order.turns)
        return sum(not t.starts for t in order.turns), sum(eaten)

    lost, eaten = cost(found.orders[0])
    for school in found.orders[1:]:
        assert (lost, eaten) <= (cost(school)[0], cost(school)[1] + 1e-9), school.label


def test_the_order_chosen_is_the_plans_and_what_speaks_against_it_is_said(choosing: Job) -> None:
    plate = choosing.in_hand.key
    plan = plan_of(choosing, plate).joint_order
    turned = take_order(choosing, plate, tuple(reversed(plan))).job
    assert plan_of(turned, plate).joint_order == plan[::-1]
    joints = mounted(turned.bike, turned.candidate(plate))
    found = draw_home(turned.in_hand.plate, joints, turned.wrench)
    stages = {at.joint.stage for at in joints}
    now = next(o for o in found.orders if o.key == "plan")
    assert bool(now.against) == (len(stages) > 1)
    back = take_order(turned, plate, ()).job
    assert plan_of(back, plate).joint_order == plan
    with pytest.raises(InputError, match="order"):
        take_order(choosing, plate, ("nobody",))


def test_forces_are_said_as_a_person_judges_them() -> None:
    assert "closes by itself" in force_words(-3.0)
    assert "hand" in force_words(50.0)
    assert "knee" in force_words(180.0)
    assert "jack" in force_words(900.0)


def test_two_joints_at_one_place_are_not_known_and_break_no_screen(choosing: Job) -> None:
    joints = seen(choosing, {"a1": 2.0})
    first, second = joints[0], joints[1]
    twice = (first, replace(second, x_mm=first.x_mm, y_mm=first.y_mm), *joints[2:])
    found = draw_home(choosing.in_hand.plate, twice, choosing.wrench)
    assert found.not_known
    assert {f.verdict for f in found.findings} == {"not known"}
