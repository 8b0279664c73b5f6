"""SVG in (a traced outline) and out (the flat pattern in true mm)."""

from __future__ import annotations

import math
import re
from xml.etree.ElementTree import Element
from xml.sax.saxutils import escape

from defusedxml import ElementTree
from defusedxml.common import DefusedXmlException
from ezdxf import path as dxfpath
from ezdxf.math import Vec2
from fontTools.misc.transform import Identity, Transform
from fontTools.pens.recordingPen import RecordingPen
from fontTools.svgLib.path import parse_path
from fontTools.svgLib.path.shapes import PathBuilder

from rugged_shield.core.assess.fitup.template import ScrewPlace
from rugged_shield.core.errors import InputError
from rugged_shield.core.survey.flat import FlatPattern
from rugged_shield.formats.traced import (
    FLATTEN_MM,
    MAX_PATHS,
    Placing,
    Traced,
    check_count,
    check_reach,
    traced,
    unit_scale,
)

MAX_BYTES = 4_000_000
MAX_DEPTH = 60
MAX_PATH_LETTERS = 1_500_000
_SHAPES = {"path", "rect", "circle", "ellipse", "polygon", "polyline", "line"}
_GROUPS = {"svg", "g", "a", "switch"}
_REFUSED = {"script", "foreignObject", "image", "use", "iframe", "style", "animate", "set"}
_LENGTH = re.compile(r"^\s*(\d+\.?\d*|\.\d+)\s*(mm|cm|in|px|pt|)\s*$")
_PART = re.compile(r"(matrix|translate|scale|rotate|skewX|skewY)\s*\(([^)]*)\)")
_NUMBER = re.compile(r"[-+]?(?:\d+\.?\d*|\.\d+)(?:[eE][-+]?\d+)?")
_POINTS_PER_INCH = 72.0


def _name(element: Element) -> str:
    return str(element.tag).rsplit("}", 1)[-1]


def _transform(text: str) -> Transform:
    """The transform attribute, SVG 1.1 section 7.6."""
    whole = Identity
    for name, inside in _PART.findall(text):
        n = [float(x) for x in _NUMBER.findall(inside)]
        if name == "matrix" and len(n) == 6:
            whole = whole.transform(Transform(*n))
        elif name == "translate" and n:
            whole = whole.translate(n[0], n[1] if len(n) > 1 else 0)
        elif name == "scale" and n:
            whole = whole.scale(n[0], n[1] if len(n) > 1 else n[0])
        elif name == "rotate" and n:
            x, y = (n[1], n[2]) if len(n) == 3 else (0.0, 0.0)
            whole = whole.translate(x, y).rotate(math.radians(n[0])).translate(-x, -y)
        elif name in ("skewX", "skewY") and n:
            angle = math.radians(n[0])
            whole = whole.skew(angle, 0) if name == "skewX" else whole.skew(0, angle)
        else:
            raise InputError("file", f"{name}({inside})"[:80], "a transform as in SVG 1.1")
    return whole


def _check_element(element: Element) -> None:
    name = _name(element)
    if name in _REFUSED:
        raise InputError(
            "file",
            f"<{name}>",
            "paths and basic shapes only",
            f"the drawing holds a <{name}>, which is not read",
            "Turn it into plain paths, without pictures, scripts, styles and copies.",
        )
    for key, value in element.attrib.items():
        bare = key.rsplit("}", 1)[-1].lower()
        if bare.startswith("on") or (bare == "href" and not value.startswith("#")):
            raise InputError(
                "file",
                f"{bare}={value}"[:80],
                "no scripts and no links to other files",
                "the drawing refers to something outside itself",
            )


def _flattened(d: str, transform: Transform, scale: float) -> list[list[tuple[float, float]]]:
    """One path's subpaths as points in drawing units, curves flattened, y turned up."""
    if len(d) > MAX_PATH_LETTERS:
        raise InputError(
            "file", f"{len(d)} letters", f"at most {MAX_PATH_LETTERS} letters in a path"
        )
    pen = RecordingPen()
    try:
        parse_path(d, pen)
    except (ValueError, IndexError, TypeError) as error:
        raise InputError("file", d[:60], "path data as in SVG 1.1", "a path is damaged") from error
    out: list[list[tuple[float, float]]] = []
    current: dxfpath.Path | None = None

    def put(p: tuple[float, float]) -> Vec2:
        x, y = transform.transformPoint(p)
        return Vec2(x, -y)

    def finish(close: bool) -> None:
        if current is not None and len(current) > 0:
            check_reach(
                [(v.x, v.y) for v in current.control_vertices()],
                scale,
                len(current) if current.has_curves else 0,
            )
            points = [(v.x, v.y) for v in current.flattening(FLATTEN_MM / scale)]
            if close and points[0] != points[-1]:
                points.append(points[0])
            out.append(points)

    for verb, args in pen.value:
        if verb == "moveTo":
            finish(False)
            current = dxfpath.Path(put(args[0]))
        elif current is None:
            continue
        elif verb == "lineTo":
            current.line_to(put(args[0]))
        elif verb == "curveTo":
            current.curve4_to(put(args[2]), put(args[0]), put(args[1]))
        elif verb == "qCurveTo":
            current.curve3_to(put(args[1]), put(args[0]))
        else:
            finish(verb == "closePath")
            current = None
    finish(False)
    return out


def _walk(
    element: Element,
    transform: Transform,
    found: list[tuple[str, Transform]],
    passed: set[str],
    depth: int,
) -> None:
    if depth > MAX_DEPTH:
        raise InputError("file", "deep groups", f"at most {MAX_DEPTH} groups in each other")
    _check_element(element)
    name = _name(element)
    here = transform.transform(_transform(element.get("transform", "")))
    if element.get("stroke-dasharray", "none") not in ("", "none", "0"):
        passed.add("dashed lines (folds)")
        for child in element.iter():
            _check_element(child)
    elif name in _SHAPES:
        builder = PathBuilder()
        builder.add_path_from_element(element)
        found += [(d, here) for d in builder.paths if d]
        if len(found) > MAX_PATHS:
            raise InputError("file", len(found), f"at most {MAX_PATHS} shapes")
    elif name in _GROUPS:
        for child in element:
            _walk(child, here, found, passed, depth + 1)
    else:
        passed.add(name)
        for child in element.iter():
            _check_element(child)


def _said_unit(root: Element) -> tuple[str, float]:
    """The unit a drawing says, and its user units per that unit; empty when it does not say."""
    width = _LENGTH.match(root.get("width", ""))
    box = [float(x) for x in _NUMBER.findall(root.get("viewBox", ""))][:4]
    if width is None or width[2] in ("", "px") or float(width[1]) <= 0:
        return "", 1.0
    size, unit = float(width[1]), width[2]
    if unit == "pt":
        size, unit = size / _POINTS_PER_INCH, "in"
    if len(box) == 4 and box[2] > 0:
        return unit, box[2] / size
    return "in", 96.0


def read_svg(text: str, placing: Placing = Placing()) -> Traced:
    """Read an outline with holes from an SVG; only paths and basic shapes are looked at.

    Dashed lines are folds, no cuts, and are passed over.
    Scripts, external references, embedded pictures, entities and DTDs are refused, and so are
    numbers that are none, or that no drawing has.
    """
    try:
        return _read(text, placing)
    except InputError:
        raise
    except (ValueError, ArithmeticError, LookupError, TypeError, AssertionError) as error:
        raise InputError(
            "file",
            str(error)[:80],
            "numbers and shapes as in SVG 1.1",
            "a number or shape in this drawing cannot be read",
        ) from error


def _read(text: str, placing: Placing) -> Traced:
    if len(text) > MAX_BYTES:
        raise InputError("file", f"{len(text)} characters", f"at most {MAX_BYTES} characters")
    try:
        root = ElementTree.fromstring(text, forbid_dtd=True)
    except DefusedXmlException as error:
        raise InputError(
            "file", "entities or a DTD", "plain SVG", "the drawing defines entities"
        ) from error
    except (ElementTree.ParseError, ValueError, RecursionError) as error:
        raise InputError(
            "file", str(error)[:80], "an SVG file", "this cannot be read as SVG"
        ) from error
    if _name(root) != "svg":
        raise InputError("file", f"<{_name(root)}>", "an SVG file", "this is no SVG drawing")
    said, per_unit = _said_unit(root)
    unit, scale = unit_scale(said, placing)
    if unit == said:
        scale /= per_unit
    found: list[tuple[str, Transform]] = []
    passed: set[str] = set()
    _walk(root, Identity, found, passed, 0)
    paths, count = [], 0
    for d, at in found:
        for ring in _flattened(d, at, scale):
            count += len(ring)
            check_count(count)
            paths.append(ring)
    notes = []
    if passed:
        notes.append("Passed over, being no outline: " + ", ".join(sorted(passed)) + ".")
    return traced(paths, unit, scale, placing, tuple(notes))


def _screw(screw: ScrewPlace) -> str:
    """A screw's hole with its centre marks."""
    (x, y), r = screw.at_mm, screw.hole_mm / 2
    (level, across), (up, down) = screw.cross_mm
    return (
        f'<circle cx="{x:.3f}" cy="{y:.3f}" r="{r:.3f}"/>'
        f'<path d="M{level[0]:.3f} {y:.3f}H{across[0]:.3f}M{x:.3f} {up[1]:.3f}V{down[1]:.3f}"/>'
    )


def flat_svg(pattern: FlatPattern, title: str, screws: tuple[ScrewPlace, ...] = ()) -> str:
    """The flat pattern as SVG in true mm, outer face up, front at the left; screws with crosses."""
    points = [p for panel in pattern.panels for p in panel.outline_mm]
    x0, y0 = min(p[0] for p in points) - 10, min(p[1] for p in points) - 10
    width = max(p[0] for p in points) + 10 - x0
    height = max(p[1] for p in points) + 10 - y0

    def ring(corners: tuple[tuple[float, float], ...]) -> str:
        return "M" + "L".join(f"{x:.3f} {y:.3f}" for x, y in corners) + "Z"

    cuts = [f'<path d="{ring(r)}"/>' for r in pattern.cuts_mm()]
    folds = [
        f'<path d="M{f.start_mm[0]:.3f} {f.start_mm[1]:.3f}L{f.end_mm[0]:.3f} {f.end_mm[1]:.3f}"/>'
        for f in pattern.folds
    ]
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{width:.3f}mm" height="{height:.3f}mm" '
        f'viewBox="{x0:.3f} {y0:.3f} {width:.3f} {height:.3f}">'
        f"<title>{escape(title)}</title>"
        '<g fill="none" stroke="black" stroke-width="0.25">' + "".join(cuts) + "</g>"
        '<g fill="none" stroke="black" stroke-width="0.25" stroke-dasharray="4 2">'
        + "".join(folds)
        + '</g><g fill="none" stroke="black" stroke-width="0.12">'
        + "".join(_screw(s) for s in screws)
        + "</g></svg>\n"
    )
