"""A screw from its side, to scale: x along it from the head's face, mm."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from rugged_shield.core.mechanics import threads
from rugged_shield.core.mechanics.drawing import Path
from rugged_shield.core.mechanics.frames import Vec2
from rugged_shield.core.tables.heads import HEADS


@dataclass(frozen=True)
class ScrewShape:
    """A screw to draw: thread, head, nominal length; ``sink_mm``: how deep its head sits.

    A stud has ``seated_mm`` left of the face as well; ``thread_mm``: thread from its free end on,
    None: as its head's standard has it.
    """

    thread: str
    head: str
    length_mm: float
    sink_mm: float = 0.0
    seated_mm: float = 0.0
    thread_mm: float | None = None

    @property
    def radius_mm(self) -> float:
        """Half of the thread's nominal diameter."""
        return threads.row_of(self.thread).d_mm / 2

    @property
    def tip_mm(self) -> float:
        """Where the screw ends."""
        return self.length_mm + self.sink_mm

    @property
    def is_countersunk(self) -> bool:
        """Whether the length includes the head."""
        return HEADS[self.head].form == "countersunk"


def _solid(outline: tuple[Vec2, ...]) -> Path:
    return Path(outline, True, "section", "screw", "head")


def _countersunk(k: float, r: float, shape: ScrewShape) -> list[Path]:
    s, shank = shape.sink_mm, shape.radius_mm
    deep = s + max(0.0, r - shank)
    return [_solid(((s, r), (deep, shank), (deep, -shank), (s, -r)))]


def _hexagon(k: float, r: float, shape: ScrewShape) -> list[Path]:
    c = 0.12 * k
    body = ((0.0, r), (-k + c, r), (-k, r - 2 * c), (-k, -r + 2 * c), (-k + c, -r), (0.0, -r))
    return [_solid(body), *(Path(((-k + c, y), (0, y))) for y in (r / 2, -r / 2))]


def _flanged_hexagon(k: float, r: float, shape: ScrewShape) -> list[Path]:
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


def _cylinder(k: float, r: float, shape: ScrewShape) -> list[Path]:
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


def _flanged_button(k: float, r: float, shape: ScrewShape) -> list[Path]:
    return _dome(k, r, 0.2 * k)


def _button(k: float, r: float, shape: ScrewShape) -> list[Path]:
    return _dome(k, r, 0.0)


def _no_head(k: float, r: float, shape: ScrewShape) -> list[Path]:
    return []


_HEAD_OF: dict[str, Callable[[float, float, ScrewShape], list[Path]]] = {
    "countersunk": _countersunk,
    "hexagon": _hexagon,
    "flanged hexagon": _flanged_hexagon,
    "cylinder": _cylinder,
    "flanged button": _flanged_button,
    "stud": _no_head,
}


def head_paths(shape: ScrewShape) -> list[Path]:
    """The head by its form, left of the clamped face."""
    row = threads.head_of(shape.head, shape.thread)
    drawn = _HEAD_OF.get(HEADS[shape.head].form, _button)
    return drawn(row.height_mm, row.diameter_mm / 2, shape)


def screw_paths(shape: ScrewShape) -> list[Path]:
    """Shank, thread lines, point."""
    geo = threads.geometry_of(shape.thread)
    r, tip, pitch = shape.radius_mm, shape.tip_mm, geo.pitch_mm
    chamfer, foot = 0.6 * pitch, -shape.seated_mm
    upper: tuple[Vec2, ...] = ((foot, r), (tip - chamfer, r), (tip, r - chamfer))
    if shape.seated_mm:
        upper = ((foot, r - chamfer), (foot + chamfer, r), *upper[1:])
    outline = (*upper, *((x, -y) for x, y in reversed(upper)))
    head = threads.head_of(shape.head, shape.thread)
    start = shape.sink_mm + (head.height_mm if shape.is_countersunk else 0.0)
    thread_b = head.thread_length_b_mm
    if shape.thread_mm is not None:
        start = max(start, tip - shape.thread_mm)
    elif thread_b and shape.length_mm > head.fully_threaded_up_to_mm:
        start = max(start, tip - thread_b)
    paths = [Path(outline, True, "section", "screw", "screw")]
    root = geo.d3_mm / 2
    paths += [Path(((start, y), (tip - 0.3 * pitch, y))) for y in (root, -root)]
    paths.append(Path(((start, r), (start, -r))))
    if shape.seated_mm:
        paths += [Path(((foot + 0.3 * pitch, y), (0.0, y))) for y in (root, -root)]
    paths.append(Path(((tip - pitch, r), (tip - pitch, -r)), weight="hidden"))
    return paths
