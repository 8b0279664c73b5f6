"""Which line serves which place of a joint, and which lines must not be swapped."""

from __future__ import annotations

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rugged_shield.core.amounts import in_system
from rugged_shield.core.kit.hardware import KitLine
from rugged_shield.core.kit.matching import look_alikes, serves, share_out
from rugged_shield.core.kit.needs import Need

LINE = KitLine(
    key="k", kind="screw", name="cap", thread="M8", length_mm=35, head="ISO 4762", grade="8.8"
)
NEED = Need(
    joint=1,
    joint_key="j1",
    part="screw",
    kind="screw",
    name="screw",
    thread="M8",
    length_mm=35,
    head="ISO 4762",
    grade="8.8",
)
WASHER = KitLine(key="w", kind="washer", name="washer", thread="M8", count=4)
UNDER = replace(NEED, part="washer", kind="washer", name="washer", length_mm=1.6, outer_mm=16.0)


@pytest.mark.parametrize(
    ("line", "need", "fits"),
    [
        (LINE, NEED, True),
        (replace(LINE, length_mm=40), NEED, False),
        (replace(LINE, thread="M8x1"), NEED, False),
        (replace(LINE, head="ISO 4017"), NEED, False),
        (replace(LINE, grade="10.9"), NEED, False),
        (replace(LINE, grade=""), NEED, True),
        (replace(LINE, grade="10.9"), replace(NEED, grade="not read"), True),
        (replace(LINE, length_mm=None), NEED, False),
        (WASHER, UNDER, True),
        (WASHER, replace(UNDER, outer_mm=24.0), False),
        (replace(WASHER, name="large washer"), replace(UNDER, outer_mm=24.0), True),
        (replace(WASHER, outer_mm=24.0), replace(UNDER, outer_mm=24.0), True),
        (replace(WASHER, length_mm=3.0), UNDER, False),
        (replace(WASHER, thread="M6"), UNDER, False),
        # a spacer whose length is not said cannot be told to be the right one
        (replace(WASHER, kind="spacer"), replace(UNDER, kind="spacer"), False),
        (
            replace(WASHER, kind="spacer", length_mm=8.0),
            replace(UNDER, kind="spacer", length_mm=8.0),
            True,
        ),
        (KitLine(key="b", kind="bracket", name="clamp"), replace(UNDER, kind="bracket"), True),
    ],
)
def test_a_line_serves_a_place(line: KitLine, need: Need, fits: bool) -> None:
    assert serves(line, need) is fits


@given(st.integers(1, 8), st.integers(0, 12))
def test_nothing_is_given_twice_and_nothing_is_lost(count: int, joints: int) -> None:
    needs = tuple(replace(NEED, joint=i + 1, joint_key=f"j{i}") for i in range(joints))
    shared = share_out((replace(LINE, count=count),), needs)
    given_out = shared.by_line["k"]
    assert len(given_out) == min(count, joints)
    assert (*given_out, *shared.unmet) == needs


def test_a_line_that_says_all_goes_before_one_that_leaves_something_open() -> None:
    exact = replace(WASHER, key="exact", length_mm=1.6, outer_mm=16.0, count=1)
    shared = share_out((WASHER, exact), (UNDER, replace(UNDER, joint=2, joint_key="j2")))
    assert [n.joint for n in shared.by_line["exact"]] == [1]
    assert [n.joint for n in shared.by_line["w"]] == [2]
    assert shared.line_of("j1", "washer") == "exact"
    assert shared.line_of("j9", "washer") == ""


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"length_mm": 40}, "5.0 mm apart in length"),
        ({"length_mm": 45}, ""),
        ({"thread": "M8x1"}, "another pitch"),
        ({"grade": "10.9"}, "read the mark on the head"),
        ({"thread": "M6"}, ""),
        ({"thread": "5/16-18 UNC", "head": "ASME B18.3"}, "5/16-18 UNC"),
        ({"head": "ISO 4017", "length_mm": 40}, ""),
        ({}, ""),
    ],
)
def test_look_alikes_are_named(change: dict[str, object], words: str) -> None:
    other = replace(LINE, key="o", **change)  # type: ignore[arg-type]
    found = look_alikes((LINE, other))
    assert [(f.one, f.other) for f in found] == ([("k", "o")] if words else [])
    assert all(words in in_system(f.words) for f in found)


def test_spacers_of_nearly_the_same_length_look_alike() -> None:
    one = KitLine(key="a", kind="spacer", name="spacer", thread="M8", length_mm=8)
    assert look_alikes((one, replace(one, key="b", length_mm=10)))
    assert not look_alikes((one, replace(one, key="b", length_mm=12)))
    assert not look_alikes((one, replace(one, key="b", kind="sleeve", length_mm=9)))
