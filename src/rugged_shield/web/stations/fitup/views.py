"""What Kit and Fit-up are told, and what they send."""

from __future__ import annotations

from dataclasses import dataclass

from rugged_shield.core.amounts import System
from rugged_shield.core.assess.fitup import LengthMark, Span
from rugged_shield.core.mechanics.drawing import Drawing
from rugged_shield.core.result import Figure, Finding, Verdict
from rugged_shield.web.views import FieldView, Text, Write


@dataclass(frozen=True, kw_only=True)
class JointSummary:
    """A joint in the list of Fit-up."""

    key: str
    number: int
    name: str
    side: str
    screw: str
    verdict: Verdict
    reason: str


@dataclass(frozen=True, kw_only=True)
class LayerView:
    """A layer with its fields; ``left_out`` ones stay listed."""

    key: str
    kind: str
    name: str
    material: str
    thickness: Figure
    left_out: bool
    fixed: bool
    removable: bool
    fields: tuple[FieldView, ...]


@dataclass(frozen=True, kw_only=True)
class JointDetail:
    """A joint's section, window and layers."""

    key: str
    number: int
    name: str
    verdict: Verdict
    findings: tuple[Finding, ...]
    section: Drawing
    length_mm: float
    length_is: str
    chosen_mm: float | None
    needed_mm: float | None
    allowed_mm: float | None
    shaded_mm: tuple[Span, ...]
    lengths: tuple[LengthMark, ...]
    figures: tuple[Figure, ...]
    layers: tuple[LayerView, ...]
    placing: tuple[FieldView, ...]
    fields: tuple[FieldView, ...]
    stands_in: tuple[str, ...]
    layer_places: dict[str, str]
    layer_place: str
    threads_into: str
    female: tuple[FieldView, ...]


@dataclass(frozen=True)
class JointNotHere:
    """A joint whose condition does not hold on this bike."""

    key: str
    number: int
    name: str
    when: FieldView


@dataclass(frozen=True, kw_only=True)
class FitupView:
    """All joints of the plate in hand, and what a new one can start from."""

    plate: str
    joints: tuple[JointSummary, ...]
    not_here: tuple[JointNotHere, ...]
    mounts: dict[str, str]
    presets: dict[str, str]
    threads: tuple[str, ...]
    stages: dict[str, str]
    layer_kinds: tuple[str, ...]
    layer_materials: tuple[str, ...]
    first_layer: FieldView


@dataclass(frozen=True, kw_only=True)
class JointWrite(Write):
    """A joint of one's own from a starting point."""

    preset: Text = ""
    mount: Text = ""
    thread: Text = "M8"
    stage: Text = "stiff"
    x: Text = ""
    y: Text = ""
    system: System = "metric"


@dataclass(frozen=True, kw_only=True)
class LayerWrite(Write):
    """A layer to add behind another one."""

    kind: Text = "spacer"
    material: Text = "steel"
    thickness: Text = ""
    after: Text = ""
    system: System = "metric"
