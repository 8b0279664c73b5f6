"""Hashes found out once: big frozen things are keys of many remembered results."""

from __future__ import annotations

from typing import TypeVar

T = TypeVar("T")


def remember_hash(cls: type[T]) -> type[T]:
    """Class decorator over ``@dataclass(frozen=True)``: the same hash, computed once an object.

    A bike hashes hundreds of numbers, and every look into a cache asks for it again.
    """
    computed = cls.__hash__

    def remembered(self: T) -> int:
        known = self.__dict__.get("_hash")
        if known is None:
            known = computed(self)
            object.__setattr__(self, "_hash", known)
        return int(known)

    def kept(self: T) -> dict[str, object]:
        """What a copy takes along: hashes of text differ from process to process."""
        return {name: value for name, value in self.__dict__.items() if name != "_hash"}

    cls.__getstate__ = kept  # type: ignore[method-assign, assignment]
    cls.__hash__ = remembered  # type: ignore[method-assign, assignment]
    return cls
