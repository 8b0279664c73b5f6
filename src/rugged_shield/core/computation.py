"""A computation known by its name, with what vouches for it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, TypeVar, get_type_hints

from rugged_shield.core.result import Outcome

Run = TypeVar("Run", bound=Callable[..., Outcome[Any]])


@dataclass(frozen=True)
class Computation:
    """A computation by its name.

    ``page`` is the page of ``docs/methods`` that tells formula and source; ``check`` what holds
    it against something outside ourselves: the id of a reference case, or the name of a test.
    """

    name: str
    run: Callable[..., Outcome[Any]]
    page: str
    check: str

    @property
    def given(self) -> Any:
        """The type of its input."""
        return next(iter(get_type_hints(self.run).values()))


REGISTERED: dict[str, Computation] = {}
"""Every computation of the modules imported so far."""


def computation(name: str, *, page: str, check: str) -> Callable[[Run], Run]:
    """Register the function below under ``name``; ValueError when another has it already."""

    def register(run: Run) -> Run:
        before = REGISTERED.get(name)
        if before and before.run.__qualname__ != run.__qualname__:
            raise ValueError(
                f"{name} is registered twice: {before.run.__module__}, {run.__module__}"
            )
        REGISTERED[name] = Computation(name, run, page, check)
        return run

    return register
