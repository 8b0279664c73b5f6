"""Answers of a pure function kept for its latest questions; others' answers can be put there."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable, Hashable, Iterable, Sequence, Sized
from threading import Lock
from typing import Generic, Protocol, TypeVar

from rugged_shield.core.errors import InputError

K = TypeVar("K", bound=Hashable)
V = TypeVar("V")
X = TypeVar("X")
Y = TypeVar("Y")
L = TypeVar("L", bound=Sized)


class Beside(Protocol):
    """Answers questions that do not know each other, in their order: in turn or side by side."""

    def __call__(self, work: Callable[[X], Y], items: Sequence[X], /) -> Iterable[Y]:
        """``work`` of each of the items."""


class Remembered(Generic[K, V]):
    """As ``functools.lru_cache`` over a function of one thing, which can be told of an answer.

    What a fork found out is lost with it unless its parent is told. ``most`` answers are kept,
    those that were asked for last; what raises is not kept. No answer is None.
    """

    def __init__(self, work: Callable[[K], V], most: int) -> None:
        self._work, self._most = work, most
        self._answers: OrderedDict[K, V] = OrderedDict()
        self._lock = Lock()

    def __call__(self, asked: K) -> V:
        """The answer, worked out if it is not known."""
        with self._lock:
            if asked in self._answers:
                self._answers.move_to_end(asked)
                return self._answers[asked]
        answer = self._work(asked)
        self.put(asked, answer)
        return answer

    def __contains__(self, asked: K) -> bool:
        return asked in self._answers

    def know(self, asked: Iterable[K], beside: Beside) -> None:
        """Works out side by side what is not known yet, so that it is known here.

        What is refused is left: it is refused when it is asked.
        """
        new = [one for one in dict.fromkeys(asked) if one not in self]
        for one, answer in zip(new, beside(self._tried, new), strict=True):
            if answer is not None:
                self.put(one, answer)

    def _tried(self, asked: K) -> V | None:
        try:
            return self(asked)
        except InputError:
            return None

    def put(self, asked: K, answer: V) -> None:
        """Keep an answer that was found elsewhere."""
        with self._lock:
            self._answers[asked] = answer
            self._answers.move_to_end(asked)
            while len(self._answers) > self._most:
                self._answers.popitem(last=False)

    def cache_clear(self) -> None:
        """Forget everything."""
        with self._lock:
            self._answers.clear()


MOST_ITEMS = 60_000


class ByIdentity(Generic[L, V]):
    """Answers about a few large things that never change, known by what they are, not by content.

    To compare a record of thousands of lines costs as much as to read it: whoever holds the very
    same one gets the answer that was worked out for it. ``most`` things are held, and no more
    than ``MOST_ITEMS`` in all of them but the last: a long record comes anew with each line.
    """

    def __init__(self, work: Callable[..., V], most: int) -> None:
        self._work, self._most = work, most
        self._held: OrderedDict[tuple[int, Hashable], tuple[L, V]] = OrderedDict()
        self._items = 0
        self._lock = Lock()

    def __call__(self, thing: L, *more: Hashable) -> V:
        """The answer for this very thing."""
        key = id(thing), more
        with self._lock:
            known = self._held.get(key)
            if known is not None and known[0] is thing:
                self._held.move_to_end(key)
                return known[1]
        answer = self._work(thing, *more)
        with self._lock:
            # Held with its answer: while it is, nothing else can have its number.
            before = self._held.pop(key, None)
            self._items -= 0 if before is None else len(before[0])
            self._held[key] = thing, answer
            self._items += len(thing)
            while len(self._held) > self._most or (
                self._items > MOST_ITEMS and len(self._held) > 1
            ):
                _, (gone, _) = self._held.popitem(last=False)
                self._items -= len(gone)
        return answer
