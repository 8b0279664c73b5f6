"""What Kit is told, and what it sends."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from pydantic import StringConstraints

from rugged_shield.core.amounts import System
from rugged_shield.core.kit import LineState, ScrewNeed
from rugged_shield.core.mechanics.drawing import Drawing
from rugged_shield.web.views import FieldView, Key, Text, Write


@dataclass(frozen=True)
class CsvText:
    """A pasted list."""

    text: Annotated[str, StringConstraints(max_length=200_000)] = ""
    system: System = "metric"


@dataclass(frozen=True, kw_only=True)
class CsvWrite(Write):
    """A pasted list to take in, all lines that are understood."""

    text: Annotated[str, StringConstraints(max_length=200_000)] = ""
    system: System = "metric"


@dataclass(frozen=True, kw_only=True)
class KitLineView:
    """One line of the kit: as listed, as counted."""

    key: str
    kind: str
    name: str
    size: str
    head: str
    grade: str
    count: int
    already_fitted: int
    state: LineState
    fields: tuple[FieldView, ...]
    more: tuple[FieldView, ...]
    applies: bool
    when: str
    drawing: Drawing | None


@dataclass(frozen=True, kw_only=True)
class KitView:
    """The kit of the plate in hand, and what has to be bought."""

    plate: str
    lines: tuple[KitLineView, ...]
    buy: tuple[ScrewNeed, ...]
    kinds: tuple[str, ...]
    threads: tuple[str, ...]
    heads: tuple[str, ...]
    grades: tuple[str, ...]
    head_forms: tuple[str, ...]


@dataclass(frozen=True, kw_only=True)
class CountWrite(Write):
    """A count for one line of the kit; empty text takes the count back."""

    line: Key
    text: Text


@dataclass(frozen=True, kw_only=True)
class LineWrite(Write):
    """A new line of the kit, as typed."""

    kind: Text = ""
    name: Text = ""
    thread: Text = ""
    length: Text = ""
    head: Text = ""
    grade: Text = ""
    count: Text = "1"
    drive: Text = ""
    when: Text = ""
    system: System = "metric"
