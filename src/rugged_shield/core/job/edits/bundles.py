"""Commands on what is bought with a plate."""

from __future__ import annotations

from dataclasses import replace

from rugged_shield.core.errors import InputError, choose
from rugged_shield.core.job.edits.path import Change
from rugged_shield.core.job.model import Extra, Job

_BOUGHT = {
    "bars": Extra(
        key="bars",
        name="crash bars",
        gives="bars",
        mass_kg=4.2,
        x_mm=420.0,
        price=240.0,
        fit_minutes=90.0,
    ),
    "upper bars": Extra(
        key="upper-bars",
        name="upper bars",
        gives="upper bars",
        mass_kg=4.5,
        x_mm=450.0,
        price=220.0,
        fit_minutes=90.0,
    ),
    "isolators": Extra(
        key="isolators",
        name="isolators",
        gives="isolators",
        mass_kg=0.3,
        x_mm=700.0,
        price=45.0,
        fit_minutes=30.0,
    ),
}


"""What a need is met with until the rider enters what was really bought."""


def add_need(job: Job, key: str, needs: str) -> Change:
    """The plate weighed with something it needs, at a typical price, mass and effort."""
    choose("needs", needs, _BOUGHT, "thing to buy with it")
    own = job.as_entered(key)
    extra = _BOUGHT[needs]
    others = tuple(e for e in own.extras if e.key != extra.key)
    words = f"{own.plate.name} weighed with {extra.name}"
    return Change(job.with_candidate(replace(own, extras=(*others, extra))), words)


def remove_need(job: Job, key: str, needs: str) -> Change:
    """The plate weighed on its own again."""
    own = job.as_entered(key)
    kept = tuple(e for e in own.extras if e.gives != needs)
    if len(kept) == len(own.extras):
        raise InputError("needs", needs, "something weighed with it", "it is not weighed with that")
    words = f"{own.plate.name} weighed without {needs}"
    return Change(job.with_candidate(replace(own, extras=kept)), words)
