"""Commands on the record of a fitted plate: torque found, the counter read."""

from __future__ import annotations

from rugged_shield.core.amounts import amount, entered
from rugged_shield.core.assess.keep.due import due_of
from rugged_shield.core.errors import InputError
from rugged_shield.core.job import Entry, Job, Record
from rugged_shield.core.keep import CounterRead, FoundTorque


def note_found(job: Job, record: Record, key: str, torque_nm: float) -> Entry:
    """The torque found on a joint of a fitted plate."""
    due, fitted = due_of(job, record)
    joint = next((j for j in fitted if j.key == key), None)
    if joint is None:
        raise InputError("joint", key, "a joint of this plate")
    if due.state == "not fitted":
        raise InputError(
            "joint",
            key,
            "a fitted plate",
            "the plate is not fitted yet",
            "Torque every joint first, and enter the counter's km.",
        )
    words = f"joint {joint.number} found at {amount(torque_nm, 'N·m')}"
    return Entry(FoundTorque(plate=job.in_hand.key, joint=key, torque_nm=torque_nm), words)


def note_counter(job: Job, km: float) -> Entry:
    """The bike's counter now; never less than when the plate was fitted."""
    fitted_at = job.odometer_km
    if fitted_at is not None and km < fitted_at:
        raise InputError(
            "km",
            entered(km, "km"),
            f"at least {entered(fitted_at, 'km')}, the counter when fitted",
        )
    return Entry(CounterRead(km=km), f"counter at {amount(km, 'km')}")
