"""Where riders disagree, priced for this bike: what each way gains and costs, in numbers."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace

from rugged_shield.core.assess.weighup.ranking import order_of
from rugged_shield.core.assess.weighup.scorecard import weigh
from rugged_shield.core.job.model import Candidate, Job
from rugged_shield.core.result import Figure
from rugged_shield.core.survey.plate import Plate
from rugged_shield.core.tables.materials import SHEET_MATERIALS


@dataclass(frozen=True)
class SchoolOption:
    """One way: who stands for it here, and its figures; none when no plate does.

    ``plate`` is the key of a plate of the job; empty where the plate in hand is made otherwise.
    """

    label: str
    stands_for: str
    figures: tuple[Figure, ...]
    plate: str = ""


@dataclass(frozen=True)
class School:
    """One question that riders answer differently."""

    key: str
    question: str
    note: str
    options: tuple[SchoolOption, ...]
    struck: tuple[str, ...] = ()
    """Figures of the strike maps that belong to the question, once every plate was struck."""


_STUFF = (
    "bundle_mass",
    "stiffness_ratio",
    "clearance_lost",
    "standoff",
    "heat_idling",
    "ring",
    "slide",
    "money",
)
_SERVICE = ("drain", "filter", "tool access")
_WAYS = ("coverage", "service", "oil_screws", "mass")
_HUNG = ("bundle_mass", "effort", "money", "standoff", "corrosion")
_OVER = ("added", "clearance_lost", "sag", "standoff", "service")


def _figures(job: Job, key: str, names: tuple[str, ...]) -> tuple[Figure, ...]:
    found = weigh(job, key).figures
    return tuple(found[name] for name in names)


def _of_kind(
    job: Job, label: str, order: list[str], names: tuple[str, ...], kind: Callable[[Plate], bool]
) -> SchoolOption:
    """The candidate of a kind that ranks best; the first of them when none is ranked."""
    own = [c for c in job.candidates if kind(c.plate)]
    if not own:
        return SchoolOption(label, "", ())
    best = min(own, key=lambda c: order.index(c.key) if c.key in order else len(order))
    return SchoolOption(label, best.plate.name, _figures(job, best.key, names), best.key)


def _varied(job: Job, label: str, candidate: Candidate, names: tuple[str, ...]) -> SchoolOption:
    """The plate in hand, made otherwise."""
    key = "varied"
    other = replace(candidate, plate=replace(candidate.plate, key=key))
    there = replace(job, candidates=(*job.candidates, other))
    return SchoolOption(label, f"{candidate.plate.name}, so", _figures(there, key, names))


def _material(job: Job, order: list[str]) -> School:
    def family(name: str) -> Callable[[Plate], bool]:
        return lambda p: SHEET_MATERIALS[p.material].family == name and not p.slider_material

    options = (
        _of_kind(job, "aluminium", order, _STUFF, family("aluminium")),
        _of_kind(job, "steel", order, _STUFF, family("steel")),
        _of_kind(job, "plastic", order, _STUFF, family("plastic")),
        _of_kind(
            job, "metal with a plastic slider", order, _STUFF, lambda p: bool(p.slider_material)
        ),
    )
    return School(
        "material",
        "Metal or plastic?",
        "Metal keeps its standoff and can be straightened; it dents, grabs and rings. Plastic "
        "springs back, slides and is quiet; it bends further and softens near heat.",
        options,
        ("strike:touch", "strike:dent"),
    )


def _openings(job: Job) -> School:
    own = job.in_hand
    open_ = tuple(replace(c, closed_door=False) for c in own.plate.cutouts)
    doors = tuple(c.with_door() if c.purpose in _SERVICE else c for c in own.plate.cutouts)
    shut = tuple(c for c in own.plate.cutouts if c.purpose not in _SERVICE)

    def made(cutouts: tuple[object, ...]) -> Candidate:
        return replace(own, plate=replace(own.plate, cutouts=cutouts))  # type: ignore[arg-type]

    options = (
        _varied(job, "open holes", made(open_), _WAYS),
        _varied(job, "closed doors", made(doors), _WAYS),
        _varied(job, "solid", made(shut), _WAYS),
    )
    return School(
        "openings",
        "Holes, doors or solid?",
        "Holes are quick, but bare what is behind and let mud in. Doors bare nothing and cost "
        "screws. Solid comes off each time, and everything is seen and cleaned.",
        options,
    )


def _mounting(job: Job, order: list[str]) -> School:
    options = tuple(
        _of_kind(job, label, order, _HUNG, lambda p, m=mounting: p.mounting == m)  # type: ignore[misc]
        for label, mounting in (
            ("frame only", "frame"),
            ("engine", "engine"),
            ("engine through isolators", "isolators"),
            ("crash bars", "crash bars"),
        )
    )
    return School(
        "mounting",
        "Frame, engine, isolators or bars?",
        "On the frame nothing reaches the castings; the engine is simplest and takes every hit; "
        "isolators are good in compression and torn by shear; bars are strong, if one has them. "
        "Strike every plate to see what the mounts take.",
        options,
        ("strike:mount", "strike:casting"),
    )


def _over_stock(job: Job) -> School:
    own = job.in_hand
    options = (
        _varied(
            job, "instead of stock", replace(own, plate=replace(own.plate, over_stock=False)), _OVER
        ),
        _varied(job, "over stock", replace(own, plate=replace(own.plate, over_stock=True)), _OVER),
    )
    return School(
        "over",
        "Over stock or instead of it?",
        "Over stock is quicker to take off again; the mass of both hangs on the bike.",
        options,
    )


def schools_of(job: Job) -> tuple[School, ...]:
    """The four questions for this bike; those of openings and over stock vary the plate in hand."""
    order = list(order_of(job))
    return (_material(job, order), _openings(job), _mounting(job, order), _over_stock(job))
