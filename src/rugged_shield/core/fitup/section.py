"""A joint cut along its screw, to scale: x along the screw from the head's face, mm."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from rugged_shield.core.fitup.joint import Joint, Layer, clamped
from rugged_shield.core.fitup.stack_model import Evaluation, StackResult
from rugged_shield.core.mechanics import threads
from rugged_shield.core.mechanics.drawing import Dimension, Drawing, Fill, Path, dimension
from rugged_shield.core.mechanics.female import Female
from rugged_shield.core.mechanics.frames import Vec2
from rugged_shield.core.tables.heads import HEADS
from rugged_shield.core.tables.materials import LAYER_MATERIALS
from rugged_shield.core.tables.thread_materials import THREAD_MATERIALS

_DRILL_PITCHES = 3.0


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
    at = 0.0
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


def _solid(outline: tuple[Vec2, ...]) -> Path:
    return Path(outline, True, "section", "screw", "head")


def _countersunk(k: float, r: float, frame: _Frame) -> list[Path]:
    s, shank = frame.sink, frame.d / 2
    deep = s + max(0.0, r - shank)
    return [_solid(((s, r), (deep, shank), (deep, -shank), (s, -r)))]


def _hexagon(k: float, r: float, frame: _Frame) -> list[Path]:
    c = 0.12 * k
    body = ((0.0, r), (-k + c, r), (-k, r - 2 * c), (-k, -r + 2 * c), (-k + c, -r), (0.0, -r))
    return [_solid(body), *(Path(((-k + c, y), (0, y))) for y in (r / 2, -r / 2))]


def _flanged_hexagon(k: float, r: float, frame: _Frame) -> list[Path]:
    rim, hexagon = 0.18 * k, 0.62 * r
    upper = ((0.0, r), (-rim, r), (-2 * rim, hexagon), (-k, hexagon))
    body = (*upper, *((x, -y) for x, y in reversed(upper)))
    edges = (Path(((-k, y), (-2 * rim, y))) for y in (hexagon / 2, -hexagon / 2))
    return [_solid(body), *edges]


def _socket(k: float, r: float) -> Path:
    wide, deep = 0.3 * r, -0.5 * k
    return Path(
        ((-k, wide), (deep, wide), (-0.4 * k, 0), (deep, -wide), (-k, -wide)), weight="hidden"
    )


def _cylinder(k: float, r: float, frame: _Frame) -> list[Path]:
    c = 0.08 * k
    body = ((0.0, r), (-k + c, r), (-k, r - c), (-k, -r + c), (-k + c, -r), (0.0, -r))
    return [_solid(body), _socket(k, r)]


def _dome(k: float, r: float, rim: float) -> list[Path]:
    """A round head, on a flange of ``rim`` where it has one."""
    foot = 0.78 * r if rim else r
    dome = ((0.0, foot), (0.45, 0.94 * foot), (0.8, 0.8 * foot), (1.0, 0.62 * foot))
    upper: list[Vec2] = [(0.0, r), (-rim, r)] if rim else []
    upper += [(-rim - (k - rim) * share, y) for share, y in dome]
    return [_solid((*upper, *((x, -y) for x, y in reversed(upper)))), _socket(k, r)]


def _flanged_button(k: float, r: float, frame: _Frame) -> list[Path]:
    return _dome(k, r, 0.2 * k)


def _button(k: float, r: float, frame: _Frame) -> list[Path]:
    return _dome(k, r, 0.0)


_HEAD_OF: dict[str, Callable[[float, float, _Frame], list[Path]]] = {
    "countersunk": _countersunk,
    "hexagon": _hexagon,
    "flanged hexagon": _flanged_hexagon,
    "cylinder": _cylinder,
    "flanged button": _flanged_button,
}


def _head_paths(frame: _Frame) -> list[Path]:
    """The head by its form, left of the clamped face."""
    row = threads.head_of(frame.joint.head, frame.joint.thread)
    drawn = _HEAD_OF.get(HEADS[frame.joint.head].form, _button)
    return drawn(row.height_mm, row.diameter_mm / 2, frame)


def _screw_paths(frame: _Frame) -> list[Path]:
    """Shank, thread lines, point."""
    joint, r, tip = frame.joint, frame.d / 2, frame.tip
    chamfer = 0.6 * frame.pitch
    outline: tuple[Vec2, ...] = (
        (0, r),
        (tip - chamfer, r),
        (tip, r - chamfer),
        (tip, -r + chamfer),
        (tip - chamfer, -r),
        (0, -r),
    )
    head = threads.head_of(joint.head, joint.thread)
    start = frame.sink + (head.height_mm if joint.is_countersunk else 0.0)
    thread_b = head.thread_length_b_mm
    if thread_b and frame.length > head.fully_threaded_up_to_mm:
        start = max(start, tip - thread_b)
    paths = [Path(outline, True, "section", "screw", "screw")]
    root = frame.root / 2
    paths += [Path(((start, y), (tip - 0.3 * frame.pitch, y))) for y in (root, -root)]
    paths.append(Path(((start, r), (start, -r))))
    paths.append(Path(((tip - frame.pitch, r), (tip - frame.pitch, -r)), weight="hidden"))
    return paths


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


def _dimensions(frame: _Frame, evaluation: Evaluation | None) -> list[Dimension]:
    """Length above; grip, engagement, margin or protrusion and free space below."""
    f, x0, tip, y = frame.female, frame.grip, frame.tip, frame.wall
    below: list[Dimension] = [dimension((0, y), (x0, y), 7, "grip", x0)]
    words = f"{frame.length:g} mm"  # metric screws are sold by mm, in whatever units one thinks
    dims = [
        Dimension(
            x1=frame.sink,
            y1=-y,
            x2=tip,
            y2=-y,
            offset=-7,
            label="screw length",
            metric=words,
            us=words,
        )
    ]
    if frame.air > 0:
        air = dimension((x0, y), (frame.face, y), 14, "air", frame.air, "blocked")
        return [*dims, *below, air]
    engaged = evaluation.engagement_effective_mm if evaluation else 0.0
    if engaged > 0:
        first = x0 + f.thread_start_mm
        below.append(dimension((first, y), (first + engaged, y), 14, "thread held", engaged))
    if not f.is_through:
        end = x0 + f.thread_end_mm
        state = "blocked" if evaluation and "bottoms" in evaluation.issues else ""
        below.append(dimension((tip, y), (end, y), 21, "before it bottoms", end - tip, state))
        return dims + below
    height = x0 + (f.overall_height_mm or 0.0)
    below.append(dimension((height, y), (tip, y), 21, "stands out", tip - height))
    if f.free_space_mm is not None:
        wall = height + f.free_space_mm
        state = "blocked" if evaluation and "hits neighbour" in evaluation.issues else ""
        below.append(dimension((tip, y), (wall, y), 28, "free beyond", wall - tip, state))
    return dims + below


def section_drawing(
    joint: Joint,
    female: Female,
    material: str,
    length_mm: float,
    stack: StackResult,
    air_mm: float = 0.0,
) -> Drawing:
    """The section of a joint with a screw of this length; every coordinate true mm.

    ``air_mm`` is left between its stack and its mount before the screw pulls them together.
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
    paths = _layer_paths(frame) + _female_paths(frame) + _screw_paths(frame) + _head_paths(frame)
    left = -threads.head_of(joint.head, joint.thread).height_mm - 8
    reach = [frame.tip] + [x for path in paths for x, _ in path.points]
    right = max(reach) + 10
    paths.append(Path(((left + 3, 0.0), (right - 3, 0.0)), weight="centre"))
    dims = _dimensions(frame, evaluation)
    bottom = wall + max(d.offset for d in dims) + 14
    return Drawing(
        title=f"Section of joint {joint.number}: {joint.name}",
        x=left,
        y=-wall - 15,
        width=right - left,
        height=wall + 15 + bottom,
        paths=tuple(paths),
        circles=(),
        marks=(),
        dimensions=tuple(dims),
        scale_bar_mm=10.0,
    )
