"""What is remembered: as ``functools.lru_cache`` does, and what it is told besides."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from functools import lru_cache
from typing import TypeVar

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rugged_shield.core.errors import InputError
from rugged_shield.core.remembered import MOST_ITEMS, ByIdentity, Remembered

X = TypeVar("X")
Y = TypeVar("Y")


def in_turn(work: Callable[[X], Y], items: Sequence[X], /) -> Iterable[Y]:
    return map(work, items)


def halved(number: int) -> float:
    if number % 5 == 0:
        raise InputError("number", number, "no multiple of 5")
    return number / 2


@given(asked=st.lists(st.integers(1, 9).filter(lambda n: n != 5)), most=st.integers(1, 5))
def test_it_works_out_just_what_an_lru_cache_does(asked: list[int], most: int) -> None:
    seen: tuple[list[int], list[int]] = ([], [])

    def work(at: int) -> Callable[[int], float]:
        def noted(number: int) -> float:
            seen[at].append(number)
            return halved(number)

        return noted

    ours, theirs = Remembered(work(0), most), lru_cache(most)(work(1))
    assert [ours(n) for n in asked] == [theirs(n) for n in asked]
    assert seen[0] == seen[1]


@given(told=st.lists(st.integers(1, 30), unique=True), most=st.integers(1, 8))
def test_what_it_is_told_last_stays(told: list[int], most: int) -> None:
    remembered = Remembered(halved, most)
    for number in told:
        remembered.put(number, -1.0)
    assert [n in remembered for n in told] == [n in told[-most:] for n in told]
    assert all(remembered(n) == -1.0 for n in told[-most:])


def test_side_by_side_it_learns_what_it_does_not_know_and_leaves_what_is_refused() -> None:
    remembered = Remembered(halved, 20)
    remembered.put(1, -1.0)
    asked: list[int] = []

    def beside(work: Callable[[X], Y], items: Sequence[X], /) -> Iterable[Y]:
        asked.extend(item for item in items if isinstance(item, int))
        return map(work, items)

    remembered.know([1, 2, 3, 3, 5], beside)
    assert asked == [2, 3, 5]
    assert remembered(1) == -1.0
    assert remembered(3) == 1.5
    assert 5 not in remembered
    with pytest.raises(InputError):
        remembered(5)


def test_nothing_is_kept_once_it_is_cleared() -> None:
    remembered = Remembered(halved, 20)
    remembered.know([2, 4], in_turn)
    assert 4 in remembered
    remembered.cache_clear()
    assert 4 not in remembered
    assert remembered(4) == 2.0


def test_a_thing_is_known_by_what_it_is_not_by_what_it_holds() -> None:
    asked: list[tuple[int, ...]] = []

    def work(thing: tuple[int, ...], more: int = 0) -> int:
        asked.append(thing)
        return sum(thing) + more

    known = ByIdentity[tuple[int, ...], int](work, 2)
    one, twin = tuple(range(1, 3)), tuple(range(1, 3))
    assert [known(one), known(one), known(twin), known(one, 5)] == [3, 3, 3, 8]
    assert asked == [one, twin, one], "the same one once; another of its content anew"
    others = [tuple(range(i, i + 1)) for i in range(50)]
    assert [known(o) for o in others] == list(range(50))
    assert known(one) == 3
    assert len(known._held) == 2


def test_what_is_known_by_identity_is_bounded_in_all_of_its_parts() -> None:
    """A record of thousands of lines comes anew with every line: the older ones go."""
    asked: list[int] = []

    def work(thing: tuple[int, ...]) -> int:
        asked.append(len(thing))
        return len(thing)

    known = ByIdentity[tuple[int, ...], int](work, 32)
    small, long = tuple(range(10)), tuple(range(MOST_ITEMS - 5))
    assert [known(small), known(small), known(long), known(long)] == [10, 10, *[MOST_ITEMS - 5] * 2]
    assert asked == [10, MOST_ITEMS - 5], "the last is held, however long"
    known(small)
    assert asked[-1] == 10, "it went when the long one came"
    many = [tuple(range(n)) for n in range(1, 40)]
    for thing in many:
        known(thing)
    asked.clear()
    for thing in many[-32:]:
        known(thing)
    assert asked == []
