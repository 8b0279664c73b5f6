"""A revised sheet: what it alters, adds and no longer lists."""

from __future__ import annotations

from dataclasses import replace

from rugged_shield.core.amounts import in_system
from rugged_shield.core.kit.hardware import KitLine
from rugged_shield.core.kit.revision import differences

BELLY = KitLine(
    key="k1",
    kind="screw",
    name="belly screw",
    thread="M8",
    length_mm=30,
    head="ISO 4017",
    count=4,
    bag="B",
)
WASHER = KitLine(key="k2", kind="washer", name="washer", thread="M8", count=4)


def test_the_same_list_alters_nothing() -> None:
    again = (replace(BELLY, key="list-2", bag=""), replace(WASHER, key="list-3"))
    assert differences((BELLY, WASHER), again) == ()


def test_what_changed_is_said_and_what_was_found_on_the_bench_stays() -> None:
    (change,) = differences((BELLY,), (replace(BELLY, key="x", length_mm=35, count=6, bag=""),))
    assert (change.kind, change.key) == ("changed", "changed:k1")
    assert "length from 30 mm to 35 mm" in in_system(change.words)
    assert "count from 4 to 6" in change.words
    assert change.new == replace(BELLY, length_mm=35, count=6)


def test_a_part_number_names_a_line_whatever_it_is_called() -> None:
    old = replace(BELLY, part_number="P-7")
    new = replace(BELLY, key="n", name="front screw", length_mm=45, part_number="P-7")
    assert [c.kind for c in differences((old,), (new,))] == ["changed"]


def test_another_size_under_another_name_is_another_line() -> None:
    new = replace(BELLY, key="n", name="tail bolt", thread="M6", length_mm=16)
    kinds = [(c.kind, c.key) for c in differences((BELLY, WASHER), (WASHER, new))]
    assert kinds == [("added", "added:n"), ("gone", "gone:k1")]


def test_what_a_new_list_leaves_out_is_not_taken_away() -> None:
    bare = replace(BELLY, key="n", head="", length_mm=None)
    assert differences((BELLY,), (bare,)) == ()


def test_an_empty_old_list_takes_all_as_new() -> None:
    assert [c.kind for c in differences((), (BELLY, WASHER))] == ["added", "added"]
    assert [c.kind for c in differences((BELLY, WASHER), ())] == ["gone", "gone"]
