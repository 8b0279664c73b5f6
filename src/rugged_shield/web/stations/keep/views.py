"""What Keep is told, and what it sends."""

from __future__ import annotations

from dataclasses import dataclass

from rugged_shield.core.amounts import System
from rugged_shield.core.assess.keep import Recheck
from rugged_shield.core.assess.kit import Debt
from rugged_shield.core.keep import DueState
from rugged_shield.core.result import Figure
from rugged_shield.formats.codec import StoredEvent
from rugged_shield.web.views import FieldView, Key, Text, Write


@dataclass(frozen=True, kw_only=True)
class KeepView:
    """What is due, and every joint's found torque."""

    plate: str
    due: DueState
    joints: tuple[Recheck, ...]
    odometer: FieldView
    km: Figure
    records: tuple[StoredEvent, ...]
    cautions: tuple[str, ...]
    debts: tuple[Debt, ...]


@dataclass(frozen=True, kw_only=True)
class KmWrite(Write):
    """The bike's counter now."""

    text: Text = ""
    system: System = "metric"


@dataclass(frozen=True, kw_only=True)
class FoundWrite(Write):
    """A torque found on a joint, as typed."""

    joint: Key
    text: Text = ""
    system: System = "metric"
