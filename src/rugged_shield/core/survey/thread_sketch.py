"""A mount cut along its thread: every depth that is asked for, in one sketch."""

from __future__ import annotations

from rugged_shield.core.mechanics import threads
from rugged_shield.core.mechanics.drawing import Dimension, Drawing, Fill, Path, dimension
from rugged_shield.core.mechanics.frames import Vec2
from rugged_shield.core.survey.bike import Mount
from rugged_shield.core.tables.thread_materials import THREAD_MATERIALS

DEPTHS = ("thread_start_mm", "thread_end_mm", "overall_height_mm", "free_space_mm")
"""Fields of a mount that are depths along its screw, each from its face or its outer end."""
_DRILL_PITCHES = 3.0
_STEP_MM = 7.0
_Mm = tuple[float, float]


def _mirrored(points: list[Vec2]) -> list[Vec2]:
    return [(x, -y) for x, y in points]


def _body(mount: Mount, far: float, bore: float, major: float, wall: float) -> list[Path]:
    metal = THREAD_MATERIALS[mount.material].metal
    fill: Fill = "steel" if metal == "steel" else "cast"
    start, end = mount.thread_start_mm, mount.thread_end_mm
    inner = [(0.0, major), (start, bore), (far, bore)]
    if mount.female().is_through:
        side = [(0.0, wall), *inner, (far, wall)]
        paths = [Path(tuple(s), True, "section", fill, "female") for s in (side, _mirrored(side))]
    else:
        bottom = far + 0.6 * bore
        beyond = bottom + 4.0
        upper = [(beyond, wall), (0.0, wall), *inner]
        block = (*upper, (bottom, 0.0), *reversed(_mirrored(upper)))
        paths = [Path(block, True, "section", fill, "female")]
    paths += [Path(((start, y), (end, y))) for y in (major, -major)]
    paths.append(Path(((end, -major), (end, major)), weight="hidden", ref="end of thread"))
    return paths


def _depths(mount: Mount, far: float, wall: float) -> list[Dimension]:
    """From the face: lead, thread, hole or wall; from its end: what is free beyond."""
    through = mount.female().is_through
    spans: list[tuple[_Mm, str]] = [
        ((0.0, mount.thread_start_mm), "lead"),
        ((0.0, mount.thread_end_mm), "thread"),
    ]
    if mount.overall_height_mm is not None:
        spans.append(((0.0, far), "height" if through else "hole"))
    if through and mount.free_space_mm is not None:
        spans.append(((far, far + mount.free_space_mm), "free"))
    return [
        dimension((a, wall), (b, wall), _STEP_MM * (i + 1), words, b - a)
        for i, ((a, b), words) in enumerate(spans)
        if b > a
    ]


def thread_sketch(mount: Mount) -> Drawing:
    """The section of a mount with its depths, mm, its face at x = 0."""
    geo = threads.geometry_of(mount.thread)
    bore, major, wall = geo.d1_mm / 2, geo.d_mm / 2, 1.6 * geo.d_mm
    drilled = mount.thread_end_mm + _DRILL_PITCHES * geo.pitch_mm
    through = mount.female().is_through
    far = mount.overall_height_mm or (mount.thread_end_mm if through else drilled)
    end = far + (mount.free_space_mm or 0.0) if through else far + bore + 4.0
    dims = _depths(mount, far, wall)
    # Room for the words of a dimension that is too short to hold them.
    left, right = -max(30.0, 0.9 * end), end + max(12.0, 0.4 * end)
    axis = Path(((left + 3, 0.0), (right - 3, 0.0)), weight="centre")
    bottom = wall + _STEP_MM * (len(dims) + 1) + 4
    return Drawing(
        title=f"{mount.name}, cut along its thread",
        x=left,
        y=-wall - 8,
        width=right - left,
        height=wall + 8 + bottom,
        paths=(*_body(mount, far, bore, major, wall), axis),
        circles=(),
        marks=(),
        dimensions=tuple(dims),
        scale_bar_mm=0.0,
    )
