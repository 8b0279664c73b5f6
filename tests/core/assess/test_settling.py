"""What is left of a preload on the joints of the demo, and what is not known of it."""

from __future__ import annotations

from dataclasses import replace

import pytest

from rugged_shield.core.assess.tighten.cards import card_of
from rugged_shield.core.assess.tighten.settling import settled_figure, settling_cures
from rugged_shield.core.fitup.joint import with_plate
from rugged_shield.core.job.model import Job, mounted


def test_every_metal_joint_keeps_part_of_its_preload(choosing: Job) -> None:
    for at in mounted(choosing.bike, choosing.in_hand):
        least = card_of(at.joint, at.mount, choosing.wrench).result.preload_min_n
        found = settled_figure(at.joint, at.mount, least)
        assert found.value is not None
        assert 0.3 * least < found.value < least
        assert any("re-check" in reason for reason in found.reasons)


def test_plastic_under_the_head_keeps_less_than_metal(choosing: Job) -> None:
    at = next(m for m in mounted(choosing.bike, choosing.in_hand) if m.joint.mount)
    metal = settled_figure(at.joint, at.mount, 8000.0)
    soft = settled_figure(with_plate(at.joint, 10.0, "HDPE"), at.mount, 8000.0)
    assert metal.value is not None
    assert soft.value is not None
    assert soft.value < metal.value


@pytest.mark.parametrize("material", ["rubber", "polypropylene"])
def test_what_gives_in_a_way_nobody_wrote_down_is_not_known(choosing: Job, material: str) -> None:
    at = mounted(choosing.bike, choosing.in_hand)[0]
    layers = tuple(replace(layer, material=material) for layer in at.joint.layers)
    found = settled_figure(replace(at.joint, layers=layers), at.mount, 8000.0)
    assert found.value is None
    assert "not known" in found.metric


def test_a_sleeve_through_plastic_leaves_more_and_says_how_much(choosing: Job) -> None:
    """What is said is what the sum gives with the sleeve in: metal all the way through."""
    at = next(m for m in mounted(choosing.bike, choosing.in_hand) if m.joint.mount)
    soft = with_plate(at.joint, 10.0, "HDPE")
    words = settling_cures(soft, at.mount, 8000.0)
    assert any("steel sleeve" in w for w in words)
    best = float(words[0].split(":")[1].split("%")[0])
    now = settled_figure(soft, at.mount, 8000.0)
    assert now.value is not None
    assert best > 100.0 * now.value / 8000.0 + 3.0
    shares = [float(w.split(":")[1].split("%")[0]) for w in words]
    assert shares == sorted(shares, reverse=True)


def test_no_cure_is_named_where_nothing_is_known(choosing: Job) -> None:
    at = mounted(choosing.bike, choosing.in_hand)[0]
    layers = tuple(replace(layer, material="rubber") for layer in at.joint.layers)
    assert settling_cures(replace(at.joint, layers=layers), at.mount, 8000.0) == ()
