"""A joint cut along its screw, to scale: x along the screw from the head's face, mm."""

from __future__ import annotations

from dataclasses import dataclass, replace

from rugged_shield.core.fitup.joint import Joint, clamped
from rugged_shield.core.fitup.layer import Layer
from rugged_shield.core.fitup.seat import Seat
from rugged_shield.core.fitup.stack_model import Evaluation, StackResult
from rugged_shield.core.mechanics import threads
from rugged_shield.core.mechanics.drawing import STOPS, Dimension, Drawing, Fill, Path, dimension
from rugged_shield.core.mechanics.female import Female
from rugged_shield.core.mechanics.frames import Vec2
from rugged_shield.core.mechanics.screw_shape import ScrewShape, head_paths, screw_paths
from rugged_shield.core.tables.materials import LAYER_MATERIALS
from rugged_shield.core.tables.thread_materials import THREAD_MATERIALS

_DRILL_PITCHES = 3.0
_WELDED_D = 0.8
"""How much of the bike is drawn behind a stud that no thread holds, in diameters."""


@dataclass(frozen=True, kw_only=True)
class _Frame:
    """Numbers that all parts of the section share, mm."""

    joint: Joint
    female: Female
    material: str
    length: float
    grip: float
    sink: float
    d: float
    pitch: float
    root: float
    bore: float
    wall: float
    air: float

    @property
    def tip(self) -> float:
        return self.length + self.sink

    @property
    def start(self) -> float:
        """Where the stack begins: at the head; on a stud, off the bike by what is open."""
        return self.air if self.joint.is_stud else 0.0

    @property
    def end(self) -> float:
        """Where the stack ends."""
        return self.start + self.grip

    @property
    def face(self) -> float:
        """Where the face of what it threads into stands: the stack's end, and what is open."""
        return self.grip + self.air


def _fill(material: str) -> Fill:
    nature = LAYER_MATERIALS[material]
    if nature.cast:
        return "cast"
    if nature.rubber:
        return "rubber"
    if nature.plastic:
        return "plastic"
    return "aluminium" if nature.metal == "aluminium" else "steel"


def _mirror(points: tuple[Vec2, ...]) -> tuple[Vec2, ...]:
    return tuple((x, -y) for x, y in points)


def _both(points: tuple[Vec2, ...], fill: Fill, ref: str) -> list[Path]:
    """A cut face above and below the screw's axis."""
    return [
        Path(points, True, "section", fill, ref),
        Path(_mirror(points), True, "section", fill, ref),
    ]


def _layer_paths(frame: _Frame) -> list[Path]:
    """Every layer where it sits; a sleeved plate lies against the far end of its sleeve."""
    paths: list[Path] = []
    at = frame.start
    spans: dict[str, tuple[float, float]] = {}
    for layer in clamped(frame.joint):
        spans[layer.key] = (at, at + layer.thickness_mm)
        at += layer.thickness_mm
    sleeve = next((k for k in frame.joint.present() if k.kind == "sleeve"), None)
    for layer in frame.joint.present():
        if layer.key not in spans and sleeve is not None:
            end = spans[sleeve.key][1]
            spans[layer.key] = (end - layer.thickness_mm, end)
        paths += _both(_band(frame, layer, *spans[layer.key]), _fill(layer.material), layer.key)
    return paths


def _band(frame: _Frame, layer: Layer, x0: float, x1: float) -> tuple[Vec2, ...]:
    hole, outer = layer.hole_mm / 2, layer.outer_mm / 2
    sunk = frame.joint.countersink
    if x0 == 0.0 and sunk is not None and frame.joint.is_countersunk:
        wide, narrow = sunk.sink_diameter_mm / 2, sunk.hole_diameter_mm / 2
        depth = min(wide - narrow, x1)
        return ((0, wide), (depth, wide - depth), (x1, narrow), (x1, outer), (0, outer))
    return ((x0, hole), (x1, hole), (x1, outer), (x0, outer))


def _female_paths(frame: _Frame) -> list[Path]:
    f, x0, bore, major = frame.female, frame.face, frame.bore / 2, frame.d / 2
    fill: Fill = "steel" if THREAD_MATERIALS[frame.material].metal == "steel" else "cast"
    start, end = x0 + f.thread_start_mm, x0 + f.thread_end_mm
    if not f.is_through:
        hole = f.overall_height_mm
        drill = end + _DRILL_PITCHES * frame.pitch if hole is None else x0 + hole
        far = drill + bore + 5
        upper = ((drill, bore), (start, bore), (x0, major), (x0, frame.wall), (far, frame.wall))
        block = (*upper, *reversed(_mirror(upper)), (drill + 0.6 * bore, 0.0))
        paths = [Path(block, True, "section", fill, "female")]
    else:
        height = x0 + (f.overall_height_mm or f.thread_end_mm)
        outer = frame.wall if f.kind == "through_tapped" else 0.95 * frame.d
        if f.kind in ("clip_nut", "cage_nut", "rivet_nut"):
            outer = 0.78 * frame.d
        body = ((x0, major), (x0, outer), (height, outer), (height, bore), (start, bore))
        paths = _both(body, fill, "female")
        if f.kind == "prevailing_nut":
            paths += _both(
                ((end, bore), (height, bore), (height, major), (end, major)), "plastic", "insert"
            )
        if f.free_space_mm is not None:
            wall = height + f.free_space_mm
            face = (
                (wall, frame.wall),
                (wall + 4, frame.wall),
                (wall + 4, -frame.wall),
                (wall, -frame.wall),
            )
            paths.append(Path(face, True, "hidden", "air", "neighbour"))
    paths += [Path(((start, y), (end, y)), weight="thin") for y in (major, -major)]
    paths.append(Path(((end, major), (end, frame.wall)), weight="hidden", ref="end of thread"))
    return paths


@dataclass(frozen=True, kw_only=True)
class FarSection:
    """A nut beyond the first thread: what it clamps, from the part before on, and how it held."""

    name: str
    joint: Joint
    female: Female
    evaluation: Evaluation


def _far_paths(frame: _Frame, far: tuple[FarSection, ...]) -> tuple[list[Path], list[Dimension]]:
    """Every nut beyond the first thread where it sits, and what it holds and lets stand out."""
    paths: list[Path] = []
    dims: list[Dimension] = []
    at = frame.face + (frame.female.overall_height_mm or 0.0)
    for i, nut in enumerate(far):
        for layer in nut.joint.layers[1:]:
            band = _band(frame, layer, at, at + layer.thickness_mm)
            paths += _both(band, _fill(layer.material), layer.key)
            at += layer.thickness_mm
        paths += _female_paths(
            replace(frame, grip=at, air=0.0, female=nut.female, material="S235 steel")
        )
        held, low = nut.evaluation.engagement_effective_mm, 35 + 14 * i
        start = at + nut.female.thread_start_mm
        at += nut.female.overall_height_mm or 0.0
        if held > 0:
            ends = ((start, frame.wall), (start + held, frame.wall))
            dims.append(dimension(*ends, low, f"thread held, {nut.name}", held))
        state = STOPS if nut.evaluation.issues else ""
        ends = ((at, frame.wall), (frame.tip, frame.wall))
        words = f"stands out, {nut.name}"
        dims.append(dimension(*ends, low + 7, words, frame.tip - at, state))
    return paths, dims


def _dimensions(frame: _Frame, evaluation: Evaluation | None) -> list[Dimension]:
    """Length above; grip, engagement, margin or protrusion and free space below."""
    f, x0, tip, y = frame.female, frame.end, frame.tip, frame.wall
    below: list[Dimension] = [dimension((frame.start, y), (x0, y), 7, "grip", frame.grip)]
    words = f"{frame.length:g} mm"  # metric screws are sold by mm, in whatever units one thinks
    dims = [
        Dimension(
            x1=frame.sink,
            y1=-y,
            x2=tip,
            y2=-y,
            offset=-7,
            label="stands out" if frame.joint.is_stud else "screw length",
            metric=words,
            us=words,
        )
    ]
    if frame.air > 0:
        open_from = 0.0 if frame.joint.is_stud else x0
        ends = (open_from, y), (open_from + frame.air, y)
        air = dimension(*ends, 14, "air", frame.air, STOPS)
        return [*dims, *below, air]
    engaged = evaluation.engagement_effective_mm if evaluation else 0.0
    if engaged > 0:
        first = x0 + f.thread_start_mm
        below.append(dimension((first, y), (first + engaged, y), 14, "thread held", engaged))
    if not f.is_through:
        end = x0 + f.thread_end_mm
        state = STOPS if evaluation and "bottoms" in evaluation.issues else ""
        below.append(dimension((tip, y), (end, y), 21, "before it bottoms", end - tip, state))
        return dims + below
    height = x0 + (f.overall_height_mm or 0.0)
    beyond = "beyond its nut" if frame.joint.is_stud else "stands out"
    below.append(dimension((height, y), (tip, y), 21, beyond, tip - height))
    if f.free_space_mm is not None:
        wall = height + f.free_space_mm
        state = STOPS if evaluation and "hits neighbour" in evaluation.issues else ""
        below.append(dimension((tip, y), (wall, y), 28, "free beyond", wall - tip, state))
    return dims + below


def _seat_paths(frame: _Frame, seat: Seat) -> list[Path]:
    """The bike's body that a stud stands in, left of the face its stack lies on."""
    steel = not seat.material or THREAD_MATERIALS[seat.material].metal == "steel"
    fill: Fill = "steel" if steel else "cast"
    bore, female = frame.bore / 2, seat.female
    if female is None:  # welded or pressed in, or its mount is not chosen: no thread is shown
        deep = -_WELDED_D * frame.d
        return _both(((deep, 0.0), (0.0, 0.0), (0.0, frame.wall), (deep, frame.wall)), fill, "seat")
    if female.is_through:
        deep = -(female.overall_height_mm or female.thread_end_mm)
        body = ((deep, bore), (0.0, bore), (0.0, frame.wall), (deep, frame.wall))
        return _both(body, fill, "seat")
    end = -(female.overall_height_mm or female.thread_end_mm + _DRILL_PITCHES * frame.pitch)
    upper = ((end, bore), (0.0, bore), (0.0, frame.wall), (end - bore - 5, frame.wall))
    return [
        Path(
            (*upper, *reversed(_mirror(upper)), (end - 0.6 * bore, 0.0)),
            True,
            "section",
            fill,
            "seat",
        )
    ]


def _shape(frame: _Frame, seat: Seat | None) -> ScrewShape:
    """The screw, or the stud with its end in the bike, as it is drawn."""
    joint = frame.joint
    seated = joint.stud.seated_mm if seat is not None and seat.female is not None else None
    return ScrewShape(
        joint.thread,
        joint.head,
        frame.length,
        frame.sink,
        seated or 0.0,
        joint.stud.thread_mm if joint.is_stud else None,
    )


def _seated(
    frame: _Frame, shape: ScrewShape, seat: Seat | None
) -> tuple[list[Path], list[Dimension]]:
    """What a stud stands in, and how deep; nothing for a screw."""
    if seat is None:
        return [], []
    paths = _seat_paths(frame, seat)
    if not shape.seated_mm:
        return paths, []
    ends = ((-shape.seated_mm, -frame.wall), (0.0, -frame.wall))
    shallow = any(f.code == "stud sits too shallow" for f in seat.findings)
    state = STOPS if shallow else ""
    return paths, [dimension(*ends, -16, "seated", shape.seated_mm, state)]


def section_drawing(
    joint: Joint,
    female: Female,
    material: str,
    length_mm: float,
    stack: StackResult,
    air_mm: float = 0.0,
    far: tuple[FarSection, ...] = (),
    seat: Seat | None = None,
) -> Drawing:
    """The section of a joint with a screw of this length; every coordinate true mm.

    ``air_mm`` is left between its stack and its mount before the screw pulls them together;
    ``far``: nuts beyond its first thread; ``seat``: what holds a stud, left of the face.
    """
    geo = threads.geometry_of(joint.thread)
    sink = (
        joint.countersink.head_below_surface_mm
        if joint.countersink and joint.is_countersunk
        else 0.0
    )
    layers = joint.present()
    wall = max(max(layer.outer_mm / 2 for layer in layers), 1.6 * geo.d_mm)
    frame = _Frame(
        joint=joint,
        female=female,
        material=material,
        length=length_mm,
        grip=stack.grip_nominal_mm,
        sink=sink,
        d=geo.d_mm,
        pitch=geo.pitch_mm,
        root=geo.d3_mm,
        bore=geo.d1_mm,
        wall=wall,
        air=air_mm,
    )
    evaluation = next((e for e in stack.evaluations if e.length_mm == length_mm), None)
    shape = _shape(frame, seat)
    far_paths, far_dims = _far_paths(frame, far)
    paths = _layer_paths(frame) + _female_paths(frame) + far_paths
    seat_paths, seat_dims = _seated(frame, shape, seat)
    paths += seat_paths
    paths += screw_paths(shape) + head_paths(shape)
    left = min((x for path in paths for x, _ in path.points), default=0.0) - 8
    reach = [frame.tip] + [x for path in paths for x, _ in path.points]
    right = max(reach) + 10
    paths.append(Path(((left + 3, 0.0), (right - 3, 0.0)), weight="centre"))
    dims = _dimensions(frame, evaluation) + far_dims + seat_dims
    bottom = wall + max(d.offset for d in dims) + 14
    top = wall + 8 - min(d.offset for d in dims)
    return Drawing(
        title=f"Section of joint {joint.number}: {joint.name}",
        x=left,
        y=-top,
        width=right - left,
        height=top + bottom,
        paths=tuple(paths),
        circles=(),
        marks=(),
        dimensions=tuple(dims),
        scale_bar_mm=10.0,
    )
