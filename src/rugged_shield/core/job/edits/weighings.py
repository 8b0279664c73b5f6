"""Commands on weighings: pairs of readings, a mean taken over."""

from __future__ import annotations

from dataclasses import replace

from rugged_shield.core.amounts import entered
from rugged_shield.core.errors import InputError
from rugged_shield.core.job.edits.keys import free_key
from rugged_shield.core.job.edits.path import (
    Change,
    set_item,
    set_text,
    unset_item,
    value_at,
)
from rugged_shield.core.job.edits.plates import plate_path
from rugged_shield.core.job.model import Job
from rugged_shield.core.survey.weighings import Pair, Weighing, weighing_result


def add_pair(job: Job, weighing: str, pair: Pair) -> Change:
    """A pair of readings onto a weighing."""
    found: Weighing = value_at(job, f"weighings.{weighing}")
    pair = replace(pair, key=free_key(f"p{len(found.pairs) + 1}", {p.key for p in found.pairs}))
    words = f"weighed {entered(pair.with_kg, 'kg')} with, {entered(pair.without_kg, 'kg')} without"
    return set_item(job, f"weighings.{weighing}.pairs", pair, words)


def adopt_weighing(job: Job, key: str, hardware_kg: float) -> Change:
    """Enter the mean of a weighing of one plate alone as its weighed mass.

    ``hardware_kg``: the screws and spacers of its joints, taken off where they were on the scale.
    """
    weighing: Weighing = value_at(job, f"weighings.{key}")
    outcome = weighing_result(weighing)
    if outcome is None or weighing.against or weighing.axle != "whole":
        raise InputError("weighing", key, "pairs of one plate alone, on the whole bike or bare")
    path = f"{plate_path(job, weighing.plate)}.plate.weighed_mass_kg"
    on_scale = weighing.hardware_with and not weighing.hardware_without
    mean = outcome.result.mean_difference - (hardware_kg if on_scale else 0.0)
    return set_text(job, path, f"{mean:.3f} kg")


def remove_pair(job: Job, key: str, pair: str) -> Change:
    """Take a pair of readings out, a misread one for instance."""
    return unset_item(job, f"weighings.{key}.pairs.{pair}", "pair of readings taken out")
