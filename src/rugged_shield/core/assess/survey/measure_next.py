"""What to measure next: which uncertain number could overturn which verdict.

One at a time, each number that is assumed or from a sheet is put to both ends
of its band and the whole job is judged again. Saltelli et al. 2008, 1.2.2
(one-at-a-time screening): interactions of two numbers are not seen.
"""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import suppress
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Literal

from rugged_shield.core.amounts import difference_unit, entered, in_system
from rugged_shield.core.assess.survey.uncertain import (
    About,
    UncertainNumber,
    job_at,
    uncertain_numbers,
)
from rugged_shield.core.assess.weighup.protection import protected_bounds, solve_beside
from rugged_shield.core.assess.weighup.ranking import (
    Bounds,
    best_by,
    bounds_of,
    open_by,
    rivals,
    values_of,
)
from rugged_shield.core.assess.weighup.scorecard import Weighed, weigh
from rugged_shield.core.computation import computation
from rugged_shield.core.errors import InputError
from rugged_shield.core.figures import capital
from rugged_shield.core.job.edits.path import label_of
from rugged_shield.core.job.model import Job
from rugged_shield.core.quantity import ranges_of
from rugged_shield.core.remembered import Beside, Remembered
from rugged_shield.core.result import (
    Finding,
    FindingCode,
    Input,
    Outcome,
    Source,
    Verdict,
    verdict_of,
)
from rugged_shield.core.survey.bike import Mount

MEASURE_NEXT_SOURCE = Source("one-at-a-time over each band; Saltelli et al. 2008, 1.2.2", "medium")
End = Literal["low", "high"]
_GATE, _BEST, _VERDICT, _FINDING = 100, 30, 10, 1
BEST: Literal["the best plate"] = "the best plate"


@dataclass(frozen=True)
class MeasureNextInput:
    """A whole job, as in a job file."""

    job: Job


@dataclass(frozen=True, kw_only=True)
class Flip:
    """What turns at the end of a band: a plate's verdict, one finding of it, or the best plate.

    For the best plate ``plate`` is the one that comes first instead.
    """

    plate: str
    plate_name: str
    what: FindingCode | Literal["the plate", "the best plate"]
    where: str
    before: Verdict
    after: Verdict
    text: str


@dataclass(frozen=True, kw_only=True)
class NumberToMeasure:
    """One number that could overturn something: where it is, its band, what flips at which end.

    ``about`` and ``key`` name the thing that it belongs to.
    """

    path: str
    about: About
    key: str
    thing: str
    label: str
    known: str
    value: float
    band: float
    unit: str
    end: End
    at_value: float
    flips: tuple[Flip, ...]
    weight: int
    metric: str
    us: str


@dataclass(frozen=True)
class MeasureNextResult:
    """Numbers to measure, the one that matters most first; how many were tried."""

    numbers: tuple[NumberToMeasure, ...]
    tried: int
    uncertain: int


@dataclass(frozen=True)
class _Base:
    """The job as it is: every plate weighed, which ranks first, whose shells that took."""

    job: Job
    weighed: dict[str, Weighed]
    best: str
    solved: frozenset[str]


@lru_cache(maxsize=4)
def _base(job: Job) -> _Base:
    plates = job.candidates or (job.stock,)
    weighed = {c.key: weigh(job, c.key) for c in plates}
    through = open_by(job, weighed.__getitem__)
    solved: set[str] = set()

    def closer(key: str) -> Iterator[Bounds]:
        yield bounds_of(job, weighed[key])
        solved.add(key)
        yield _known(job, weighed[key])

    return _Base(job, weighed, best_by(job, through, closer), frozenset(solved))


def _known(job: Job, weighed: Weighed) -> Bounds:
    values = values_of(job, weighed)
    return values, values


@lru_cache(maxsize=64)
def _known_as_it_is(job: Job, key: str) -> Bounds:
    """What is known of a plate of the job as it is: a number that does not reach it asks that."""
    return _known(job, _base(job).weighed[key])


def _reached(job: Job, number: UncertainNumber) -> frozenset[str]:
    """Keys of the plates that a number can reach: its own, those on its mount, or every one."""
    plates = job.candidates or (job.stock,)
    if number.about == "plate":
        return frozenset({number.key})
    hanging = {c.key for c in (job.stock, *plates) if any(j.mount == number.key for j in c.joints)}
    if number.about == "mount" and job.stock.key not in hanging:
        return frozenset(hanging)
    return frozenset(c.key for c in plates)


@dataclass(frozen=True)
class _Moved:
    """The job with a number at an end of its band; plates that it does not reach as they were."""

    job: Job
    at: float
    reached: frozenset[str]
    weighed: dict[str, Weighed]


def _moved(base: _Base, number: UncertainNumber, at: float) -> _Moved:
    job = job_at(base.job, number.path, number.field, at)
    reached = _reached(job, number)
    weighed = {key: weigh(job, key) if key in reached else old for key, old in base.weighed.items()}
    return _Moved(job, at, reached, weighed)


def _key(found: Finding) -> tuple[FindingCode, str]:
    return (found.code, found.where)


def _flips(base: _Base, moved: _Moved) -> tuple[Flip, ...]:
    flips = []
    for old, new in ((base.weighed[key], moved.weighed[key]) for key in sorted(moved.reached)):
        name = base.job.as_entered(old.key).plate.name
        if old.verdict != new.verdict:
            flips.append(
                Flip(
                    plate=old.key,
                    plate_name=name,
                    what="the plate",
                    where="",
                    before=old.verdict,
                    after=new.verdict,
                    text=new.reason,
                )
            )
        was, now = {_key(f): f for f in old.findings}, {_key(f): f for f in new.findings}
        for key in now.keys() - was.keys():
            flips.append(
                Flip(
                    plate=old.key,
                    plate_name=name,
                    what=key[0],
                    where=key[1],
                    before=verdict_of(None),
                    after=now[key].verdict,
                    text=now[key].text,
                )
            )
        for key in was.keys() - now.keys():
            text = f"No longer: {was[key].text[0].lower()}{was[key].text[1:]}"
            flips.append(
                Flip(
                    plate=old.key,
                    plate_name=name,
                    what=key[0],
                    where=key[1],
                    before=was[key].verdict,
                    after=verdict_of(None),
                    text=text,
                )
            )
    return tuple(flips)


def _sorted(flips: tuple[Flip, ...]) -> tuple[Flip, ...]:
    return tuple(sorted(flips, key=lambda f: (-_weight(f), f.plate, f.what, f.where)))


def _ranks(number: UncertainNumber) -> bool:
    """Whether a number can change the ranking in a way that is tried.

    Where exactly a mount stands in the plate's plane changes only how a strike is held, and
    asks for a new shell of every plate: that is not tried.
    """
    return not (isinstance(number.owner, Mount) and number.field in ("x_mm", "y_mm"))


def _closer(base: _Base, moved: _Moved, number: UncertainNumber, key: str) -> Iterator[Bounds]:
    """What the values of a plate lie between there; its shell is solved last.

    A sheet of another thickness is bounded from the shell there is. Every score rises with what
    is held: what the most cannot turn, nothing between can.
    """
    yield bounds_of(moved.job, moved.weighed[key])
    if key not in moved.reached:
        yield _known_as_it_is(base.job, key)
        return
    if number.field == "thickness_mm" and key == number.key and key in base.solved:
        thicker = moved.at - float(getattr(number.owner, number.field))
        # A plate that has no map may hold anything from nothing to all.
        with suppress(InputError):
            least, most = protected_bounds(base.job, base.weighed[key], thicker)
            yield bounds_of(moved.job, moved.weighed[key], least, most)
    yield _known(moved.job, moved.weighed[key])


def _best_at(base: _Base, moved: _Moved, number: UncertainNumber) -> str:
    """Which plate ranks first there; a shell is solved only where the order hangs on it."""
    through = open_by(moved.job, moved.weighed.__getitem__)
    return best_by(moved.job, through, lambda key: _closer(base, moved, number, key))


def _best_flip(base: _Base, moved: _Moved, number: UncertainNumber) -> tuple[Flip, ...]:
    """The plate that ranks first at the end of the band, when it is another one."""
    if not _ranks(number):
        return ()
    before, after, job = base.best, _best_at(base, moved, number), base.job
    if before == after:
        return ()
    old, new = job.as_entered(before).plate.name, job.as_entered(after).plate.name
    verdict = base.weighed[after].verdict
    text = f"It would rank first by your priorities, instead of the {old}."
    return (
        Flip(
            plate=after,
            plate_name=new,
            what=BEST,
            where="",
            before=verdict,
            after=verdict,
            text=text,
        ),
    )


def _weight(flip: Flip) -> int:
    """A gate that opens or shuts counts most, then a plate's verdict, then a finding."""
    if flip.what == BEST:
        return _BEST
    if "blocked" in (flip.before, flip.after):
        return _GATE
    return _VERDICT if flip.what == "the plate" else _FINDING


def _sentence(gap: NumberToMeasure) -> str:
    value, end = (entered(round(v, 4), gap.unit) for v in (gap.value, gap.at_value))
    band = entered(gap.band, difference_unit(gap.unit))
    first = gap.flips[0]
    others = len(gap.flips) - 1
    more = f" ({others} more verdict{'s' if others > 1 else ''} would turn)" if others else ""
    thing = f"{gap.thing[:1].upper()}{gap.thing[1:]}"
    return (
        f"{thing}, {gap.label}: {gap.known} {value} ± {band}. At its {gap.end} end, "
        f"{end}, for the {first.plate_name}: {first.text}{more}"
    )


_Tried = tuple[NumberToMeasure | None, int]


def _tried(base: _Base, number: UncertainNumber) -> _Tried:
    """The end of a number's band that overturns most, if any, and how many ends were tried."""
    owner, field = number.owner, number.field
    low, high = number.ends
    unit = ranges_of(type(owner))[field].unit
    best: NumberToMeasure | None = None
    tried = 0
    ends: tuple[tuple[End, float], ...] = (("low", low), ("high", high))
    for end, at in ends:
        try:
            moved = _moved(base, number, at)
        except InputError:
            continue  # a bike that cannot be: this end of the band is no possible number
        tried += 1
        flips = _sorted((*_flips(base, moved), *_best_flip(base, moved, number)))
        weight = sum(_weight(f) for f in flips)
        if flips and (best is None or weight > best.weight):
            best = NumberToMeasure(
                path=f"{number.path}.{field}",
                about=number.about,
                key=number.key,
                thing=owner.name,
                label=label_of(field),
                known=number.known,
                value=number.value,
                band=number.band,
                unit=unit,
                end=end,
                at_value=at,
                flips=flips,
                weight=weight,
                metric="",
                us="",
            )
    if best is not None:
        best = replace(
            best,
            metric=in_system(_sentence(best)),
            us=in_system(_sentence(best), "us"),
        )
    return best, tried


def _tried_of(asked: tuple[Job, UncertainNumber]) -> _Tried:
    job, number = asked
    return _tried(_base(job), number)


number_tried = Remembered(_tried_of, 512)
"""One number of a job tried: ranking and list ask for the same ones, of a job or two."""


def rank_shifts(job: Job) -> Iterator[tuple[str, str | None]]:
    """Each uncertain number tried against the ranking, step by step.

    Yields what is tried next and nothing, then the sentence in which it puts another plate
    first; "" where it does not.
    """
    for number in uncertain_numbers(job):
        words = number.words
        yield f"trying {words}", None
        wanted, _ = number_tried((job, number))
        turns = _shift_words(wanted)
        yield f"tried {words}", f"{turns} Measure it." if turns else ""


def _shift_words(wanted: NumberToMeasure | None) -> str:
    best = next((f for f in wanted.flips if f.what == BEST), None) if wanted else None
    if wanted is None or best is None:
        return ""
    return (
        f"{capital(wanted.thing)}, {wanted.label} ({wanted.known}): at its {wanted.end} end the "
        f"{best.plate_name} would be first."
    )


@dataclass(frozen=True)
class Wanted:
    """One measurement in words, and the path of its number; both empty for none."""

    words: str
    path: str


def one_to_measure(found: MeasureNextResult, plate: str) -> Wanted:
    """The measurement that would put another plate first; else the gravest about ``plate``."""
    for number in found.numbers:
        if words := _shift_words(number):
            return Wanted(words, number.path)
    own = (n for n in found.numbers if any(f.plate == plate for f in n.flips))
    first = next(own, None)
    if first is None:
        return Wanted("", "")
    named = f"{capital(first.thing)}, {first.label} ({first.known})"
    return Wanted(f"None changes which is first. Gravest: {named}.", first.path)


def measure_next(job: Job, beside: Beside | None = None) -> MeasureNextResult:
    """Every uncertain number of a job that could overturn a verdict, gravest first.

    ``beside`` is asked for what may be worked out side by side; without it all is in turn.
    """
    if beside is not None:
        solve_beside(job, rivals(job), beside)
    # Before the forks, so that all know it; the one that is remembered is found by its identity.
    job = _base(job).job
    asked = [(job, number) for number in uncertain_numbers(job)]
    if beside is not None:
        number_tried.know(asked, beside)
    tried = [number_tried(one) for one in asked]
    found = sorted((w for w, _ in tried if w is not None), key=lambda n: (-n.weight, n.path))
    return MeasureNextResult(tuple(found), sum(ends for _, ends in tried), len(tried))


@computation(
    "what-to-measure",
    page="survey",
    check="test_each_line_turns_what_it_says",
)
def what_to_measure(given: MeasureNextInput) -> Outcome[MeasureNextResult]:
    """The numbers worth measuring, ordered by what they could overturn."""
    result = measure_next(given.job)
    first = (
        result.numbers[0].metric if result.numbers else "Nothing uncertain would turn a verdict."
    )
    return Outcome(
        result=result,
        inputs=(
            Input("Numbers not measured", result.uncertain),
            Input("Ends tried", result.tried),
        ),
        reasons=(first,),
        assumptions=(
            "One number at a time: two that are off together are not seen.",
            "Bands of what is assumed or from a sheet are typical, unless typed.",
            "A mount's place along and across the bike is not tried against the ranking.",
        ),
        sources=(MEASURE_NEXT_SOURCE,),
    )
