"""Faces that bear a joint's clamp, from the head to the nut or boss: ring, area, pressure."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from itertools import pairwise
from typing import Annotated

from rugged_shield.core.amounts import amount, percent
from rugged_shield.core.computation import computation
from rugged_shield.core.errors import InputError
from rugged_shield.core.fitup.joint import Joint, clamped, female_of
from rugged_shield.core.fitup.layer import Layer
from rugged_shield.core.mechanics import threads
from rugged_shield.core.quantity import Range, Ranged
from rugged_shield.core.result import Finding, Input, Outcome, Source, from_table
from rugged_shield.core.survey.bike import Mount
from rugged_shield.core.tables.materials import SHEET_MATERIALS
from rugged_shield.core.tables.thread_materials import THREAD_MATERIALS

FACES_SOURCE = Source(
    "VDI 2230-1:2015 step R10, p = F_max / A_p; limits of VDI 2230-1:2003 Table A9", "medium"
)
LEAST_RING_MM = 0.5
"""Less than this of overlap all round is none once the hole stands off its middle."""
MAX_PARTS = 40
_LOOSE_LIMIT_MPA = {"steel": 490.0, "cast aluminium": 220.0}
_NUT_KINDS = ("plain_nut", "loose_nut", "prevailing_nut", "domed_nut")
"""Female parts that bear with a face of their own; others sit in the part that bears."""


@dataclass(frozen=True, kw_only=True)
class BearingPart(Ranged):
    """One part of a clamped stack, mm and MPa.

    ``outer_mm`` None: wider than anything that lies on it. ``hole_mm`` 0: none.
    ``pressure_limit_mpa`` None: it does not yield first (a head, a hard nut), or is rubber.
    """

    name: str
    outer_mm: Annotated[float | None, Range(2.0, 500.0, "mm")] = None
    hole_mm: Annotated[float, Range(0.0, 200.0, "mm")] = 0.0
    pressure_limit_mpa: Annotated[float | None, Range(0.5, 3000.0, "MPa")] = None

    def __post_init__(self) -> None:
        super().__post_init__()
        if self.outer_mm is not None and self.hole_mm >= self.outer_mm:
            raise InputError("hole_mm", self.hole_mm, f"less than {self.outer_mm:g} mm across")


@dataclass(frozen=True, kw_only=True)
class BearingFacesInput(Ranged):
    """A stack from the head on, and the largest preload on it, N."""

    parts: tuple[BearingPart, ...]
    preload_n: Annotated[float, Range(0.0, 1e6, "N")]

    def __post_init__(self) -> None:
        super().__post_init__()
        if not 2 <= len(self.parts) <= MAX_PARTS:
            raise InputError("parts", len(self.parts), f"from 2 to {MAX_PARTS} parts")


@dataclass(frozen=True, kw_only=True)
class BearingFace:
    """Where two parts meet: the ring of overlap in mm and mm², who yields first and at what MPa.

    ``ring_mm``: width of the ring, below nought where they do not meet at all.
    ``load_limit_n``: what the weaker bears; None where nothing is known to yield.
    """

    above: str
    below: str
    outer_mm: float
    inner_mm: float
    ring_mm: float
    area_mm2: float
    weaker: str
    limit_mpa: float | None
    load_limit_n: float | None
    pressure_mpa: float | None
    share: float | None

    @property
    def bears(self) -> bool:
        """Whether there is enough of a ring to carry anything."""
        return self.ring_mm >= LEAST_RING_MM


@dataclass(frozen=True, kw_only=True)
class BearingFacesResult:
    """Every face from the head on; the one nearest to its limit, or without a ring, by its place.

    ``share``: largest pressure over limit; None where no limit is known.
    """

    faces: tuple[BearingFace, ...]
    worst: int
    share: float | None


def _face(above: BearingPart, below: BearingPart, preload_n: float) -> BearingFace:
    outer = min(x.outer_mm or math.inf for x in (above, below))
    if math.isinf(outer):
        raise InputError("parts", above.name, "an outer size for one of each two that meet")
    inner = max(above.hole_mm, below.hole_mm)
    area = math.pi / 4 * (outer**2 - inner**2) if outer > inner else 0.0
    limits = [(x.pressure_limit_mpa, x.name) for x in (above, below) if x.pressure_limit_mpa]
    limit, weaker = min(limits, default=(None, ""))
    pressure = preload_n / area if area else None
    return BearingFace(
        above=above.name,
        below=below.name,
        outer_mm=outer,
        inner_mm=inner,
        ring_mm=(outer - inner) / 2,
        area_mm2=area,
        weaker=weaker,
        limit_mpa=limit,
        load_limit_n=limit * area if limit is not None and area else None,
        pressure_mpa=pressure,
        share=pressure / limit if pressure is not None and limit is not None else None,
    )


def _gravity(face: BearingFace) -> tuple[bool, float]:
    return not face.bears, face.share or 0.0


@computation(
    "bearing-faces",
    page="faces-and-angles",
    check="test_a_thin_ring_crushes_die_cast",
)
def bearing_faces(given: BearingFacesInput) -> Outcome[BearingFacesResult]:
    """Pressure on every face of a clamped stack at its largest preload.

    Ring of overlap: the larger hole inside, the smaller outside diameter outside; the limit is
    that of the weaker of the two (VDI 2230-1, step R10). Nothing is spread from one face to the
    next. Raises InputError where two parts without an outer size meet.
    """
    faces = tuple(_face(a, b, given.preload_n) for a, b in pairwise(given.parts))
    pressed = [crushed(face, given.preload_n) for face in faces]
    worst = max(range(len(faces)), key=lambda i: _gravity(faces[i]))
    result = BearingFacesResult(
        faces=faces, worst=worst, share=max((f.share for f in faces if f.share), default=None)
    )
    return Outcome(
        result=result,
        inputs=(
            Input("Largest preload", given.preload_n, "N"),
            *(Input(f"Outside of {p.name}", p.outer_mm, "mm") for p in given.parts if p.outer_mm),
            *(Input(f"Hole in {p.name}", p.hole_mm, "mm") for p in given.parts if p.hole_mm),
        ),
        findings=(*_ring_findings(faces), *(f for f in pressed if f is not None)),
        reasons=(_words(faces[worst]),),
        assumptions=("The load is spread evenly over the ring; the hole stands in its middle.",),
        sources=(FACES_SOURCE,),
    )


def _words(face: BearingFace) -> str:
    where = f"{face.above} on {face.below}"
    if not face.bears:
        return f"{where}: no ring to bear on."
    if face.share is None:
        return f"{where}: nothing is known that would yield."
    return f"{where}: {percent(face.share)} of what {face.weaker} bears."


def _ring_findings(faces: tuple[BearingFace, ...], key: str = "") -> Iterator[Finding]:
    for face in faces:
        if not face.bears:
            yield from_table(
                "nothing to bear on",
                key,
                above=face.above,
                below=face.below,
                outer=amount(face.outer_mm, "mm", 1),
                inner=amount(face.inner_mm, "mm", 1),
            )


def crushed(face: BearingFace, preload_n: float) -> Finding | None:
    """A face that a preload presses past what the weaker bears; None where it does not."""
    if face.limit_mpa is None or not face.area_mm2:
        return None
    pressure = preload_n / face.area_mm2
    if pressure <= face.limit_mpa:
        return None
    return from_table(
        "face crushed",
        above=face.above,
        below=face.below,
        pressure=amount(pressure, "MPa", 0),
        weaker=face.weaker,
        limit=amount(face.limit_mpa, "MPa", 0),
    )


def _of_layer(layer: Layer) -> BearingPart:
    sheet = SHEET_MATERIALS.get(layer.material)
    limit = sheet.bearing_limit_mpa if sheet else _LOOSE_LIMIT_MPA.get(layer.material)
    return BearingPart(
        name=layer.name,
        outer_mm=layer.outer_mm,
        hole_mm=layer.hole_mm,
        pressure_limit_mpa=limit,
    )


def _head(joint: Joint, layers: tuple[Layer, ...]) -> BearingPart:
    """What turns or is held at the near end; a cone bears on its sink's ring, not on the layer."""
    bearing = threads.head_of(joint.head, joint.thread).bearing_diameter_mm
    sink = joint.countersink if joint.is_countersunk else None
    if sink is not None and sink.sink_diameter_mm > layers[0].hole_mm:
        bearing = min(bearing, sink.sink_diameter_mm)
    return BearingPart(name="head", outer_mm=bearing)


def _nut(thread: str) -> BearingPart:
    hexagon = threads.head_of(threads.hexagon_of(thread), thread)
    hole_mm = threads.row_of(thread).d_mm
    return BearingPart(name="nut", outer_mm=hexagon.bearing_diameter_mm, hole_mm=hole_mm)


def _end(joint: Joint, mount: Mount | None) -> BearingPart:
    """What the stack lies on at the far end: a nut's own face, or the part with the thread."""
    female, material = female_of(joint, mount)
    d_mm = threads.row_of(joint.thread).d_mm
    if joint.nut or female.kind in _NUT_KINDS:
        return _nut(joint.thread)
    name = mount.name if mount is not None and joint.female is None else "its thread's part"
    limit = THREAD_MATERIALS[material].bearing_limit_mpa
    return BearingPart(name=name, hole_mm=d_mm, pressure_limit_mpa=limit)


def bearing_parts(joint: Joint, mount: Mount | None) -> tuple[BearingPart, ...]:
    """A joint's stack from what turns to what it bears on; of a stud from its nut to the bike."""
    layers = clamped(joint)
    own = tuple(_of_layer(layer) for layer in layers)
    if joint.is_stud:
        d_mm = threads.row_of(joint.thread).d_mm
        limit = None
        if mount is not None and mount.material in THREAD_MATERIALS:
            limit = THREAD_MATERIALS[mount.material].bearing_limit_mpa
        seat = BearingPart(name="the bike", hole_mm=d_mm, pressure_limit_mpa=limit)
        return (_nut(joint.thread), *own[::-1], seat)
    return (_head(joint, layers), *own, _end(joint, mount))


def faces_of(joint: Joint, mount: Mount | None, preload_n: float = 0.0) -> BearingFacesResult:
    """The faces of a joint of the job at a preload, N."""
    return bearing_faces(
        BearingFacesInput(parts=bearing_parts(joint, mount), preload_n=preload_n)
    ).result


def ring_findings(joint: Joint, mount: Mount | None) -> tuple[Finding, ...]:
    """Where a part of a joint's stack falls through the next."""
    return tuple(_ring_findings(faces_of(joint, mount).faces))
