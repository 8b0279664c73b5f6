"""The record of a job: everything that happened, in order. It is only ever added to."""

from __future__ import annotations

from dataclasses import dataclass

from rugged_shield.core.errors import InputError
from rugged_shield.core.event import OnPlate, Voided, of_kind
from rugged_shield.core.keep.events import (
    CounterRead,
    DidNotMove,
    FoundTorque,
    LookedOver,
    Noted,
    OilChanged,
    PartReplaced,
    PlateStruck,
    Ridden,
    RunsWarm,
    Snoozed,
    WearRead,
)
from rugged_shield.core.tighten.events import (
    BikeJointClosed,
    BikeJointOpened,
    FindingPassed,
    JointRenewed,
    Reading,
    RiddenAnyway,
    StageReopened,
    Started,
    StepDone,
    StepReopened,
    TakenBack,
    ThreadDamaged,
)

Event = (
    Started
    | Reading
    | TakenBack
    | StepDone
    | StepReopened
    | FoundTorque
    | CounterRead
    | BikeJointOpened
    | BikeJointClosed
    | RiddenAnyway
    | StageReopened
    | DidNotMove
    | Ridden
    | PlateStruck
    | LookedOver
    | OilChanged
    | WearRead
    | PartReplaced
    | RunsWarm
    | Noted
    | Snoozed
    | Voided
    | ThreadDamaged
    | JointRenewed
    | FindingPassed
)
"""One line of the record, told apart by its ``kind``. A new kind is a dataclass named here."""
Record = tuple[Event, ...]


def spent_keys(record: Record) -> frozenset[str]:
    """Names of plates and joints that the record speaks of.

    What is new never takes one of them: it would inherit the torque of what was taken out.
    """
    joints = {
        e.joint
        for e in record
        if isinstance(
            e,
            Started | Reading | TakenBack | FoundTorque | DidNotMove | ThreadDamaged | JointRenewed,
        )
    }
    return frozenset(joints | {e.plate for e in of_kind(record, OnPlate) if e.plate})


@dataclass(frozen=True)
class Entry:
    """A line to add to the record, and what happened in words."""

    event: Event
    words: str


def check_record(record: Record) -> None:
    """Lines are numbered upward, and what is taken back stands before it. Raises InputError."""
    seen: set[int] = set()
    last = -1
    for i, event in enumerate(record):
        if event.seq <= last:
            raise InputError(f"records.{i}.seq", event.seq, "numbers that go up")
        if isinstance(event, TakenBack | Voided) and event.ref not in seen:
            raise InputError(f"records.{i}.ref", event.ref, "an earlier line of the record")
        seen.add(event.seq)
        last = event.seq
