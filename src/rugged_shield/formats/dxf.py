"""DXF in (a traced outline) and out (the flat pattern in true mm)."""

from __future__ import annotations

import io
import re
from collections import Counter
from typing import Any

from ezdxf import path as dxfpath
from ezdxf import recover, units
from ezdxf.disassemble import recursive_decompose
from ezdxf.document import Drawing as DxfDocument
from ezdxf.filemanagement import new
from ezdxf.lldxf.const import DXFError

from rugged_shield.core.assess.fitup.template import ScrewPlace
from rugged_shield.core.errors import InputError
from rugged_shield.core.survey.flat import FlatPattern
from rugged_shield.formats.traced import (
    FLATTEN_MM,
    MAX_PATHS,
    Placing,
    Points,
    Traced,
    check_count,
    check_reach,
    traced,
    unit_scale,
)

MAX_BYTES = 4_000_000
MAX_DEPTH = 20
_DRAWN = {"LINE", "LWPOLYLINE", "POLYLINE", "ARC", "CIRCLE", "ELLIPSE", "SPLINE"}
_NO_CUT = re.compile(r"fold|bend|centre|center", re.IGNORECASE)
"""Layers whose lines are no edge of the sheet."""
_SAID = {1: "in", 4: "mm", 5: "cm", 6: "m"}
_ENTITY = re.compile(r"^[ \t]*0[ \t]*\r?\n", re.MULTILINE)
_LINKED = re.compile(r"\b(IMAGEDEF|PDFDEFINITION|OLE2FRAME)\b")


def _document(text: str) -> DxfDocument:
    """The file as a document; damaged ones are refused with what is wrong."""
    if len(text) > MAX_BYTES:
        raise InputError("file", f"{len(text)} characters", f"at most {MAX_BYTES} characters")
    if text.startswith("PK"):
        raise InputError("file", "a packed file", "a DXF file", "this is a packed (zip) file")
    if len(_ENTITY.findall(text)) > MAX_PATHS:
        raise InputError(
            "file",
            "a very large drawing",
            f"at most {MAX_PATHS} entities",
            "the drawing has too many entities",
            "Keep only the outline and its holes.",
        )
    if _LINKED.search(text):
        raise InputError(
            "file",
            "a linked picture",
            "lines and curves only",
            "the drawing refers to other files",
            "Remove pictures and embedded objects.",
        )
    try:
        document, audit = recover.read(io.BytesIO(text.encode("utf-8", "replace")))
    except (OSError, DXFError, ValueError, KeyError, IndexError) as error:
        raise InputError(
            "file", type(error).__name__, "a DXF file (text form)", "this cannot be read as DXF"
        ) from error
    if audit.has_errors:
        raise InputError(
            "file",
            audit.errors[0].message[:120],
            "an undamaged DXF file",
            f"the drawing is damaged: {audit.errors[0].message[:120]}",
        )
    return document


def _check_blocks(document: DxfDocument) -> None:
    """Refuse a drawing whose blocks, taken apart, are too many, too deep or inside themselves."""
    sizes: dict[str, int] = {}

    def size(layout: Any, inside: tuple[str, ...]) -> int:
        if len(inside) > MAX_DEPTH:
            raise InputError("file", "deep blocks", f"at most {MAX_DEPTH} blocks in each other")
        total = 0
        for entity in layout:
            total += 1
            if entity.dxftype() != "INSERT":
                continue
            name = entity.dxf.name
            if name in inside:
                raise InputError("file", name, "blocks", "a block of the drawing holds itself")
            if name not in sizes and name in document.blocks:
                sizes[name] = size(document.blocks[name], (*inside, name))
            total += max(1, entity.mcount) * (1 + sizes.get(name, 0))
            if total > MAX_PATHS:
                raise InputError("file", total, f"at most {MAX_PATHS} entities")
        return total

    size(document.modelspace(), ())


def read_dxf(text: str, placing: Placing = Placing()) -> Traced:
    """Read an outline with holes from a DXF; blocks are taken apart, curves flattened.

    Layers named after folds, bends or centre lines are passed over.
    Raises InputError naming what is wrong and where.
    """
    try:
        return _read(text, placing)
    except InputError:
        raise
    except (ValueError, ArithmeticError, LookupError, TypeError, AttributeError, DXFError) as error:
        raise InputError(
            "file",
            type(error).__name__,
            "numbers as in a DXF file",
            "a number or shape in this drawing cannot be read",
        ) from error


def _read(text: str, placing: Placing) -> Traced:
    document = _document(text)
    _check_blocks(document)
    unit, scale = unit_scale(_SAID.get(document.header.get("$INSUNITS", 0), ""), placing)
    paths: list[Points] = []
    passed: Counter[str] = Counter()
    count = 0
    for entity in recursive_decompose(document.modelspace()):
        kind = entity.dxftype()
        if kind not in _DRAWN:
            passed[kind] += 1
            continue
        if _NO_CUT.search(entity.dxf.get("layer", "")):
            passed["line on a layer of folds or centre lines"] += 1
            continue
        drawn = dxfpath.make_path(entity)
        corners = [(p.x, p.y) for p in drawn.control_vertices()]
        check_reach(corners, scale, len(drawn) if drawn.has_curves else 0)
        points = [(p.x, p.y) for p in drawn.flattening(FLATTEN_MM / scale)]
        count += len(points)
        check_count(count)
        if len(points) >= 2:
            if drawn.is_closed and points[0] != points[-1]:
                points.append(points[0])
            paths.append(points)  # type: ignore[arg-type]
    notes = []
    if passed:
        kinds = ", ".join(f"{n} {kind}" for kind, n in sorted(passed.items()))
        notes.append(f"Passed over, being no outline: {kinds}.")
    return traced(paths, unit, scale, placing, tuple(notes))


def flat_dxf(pattern: FlatPattern, screws: tuple[ScrewPlace, ...] = ()) -> str:
    """The flat pattern as DXF R2010 in mm: layers CUT, FOLD, SCREW and CENTRE, y to the left."""
    document = new("R2010", units=units.MM)
    document.layers.add("CUT", color=7)
    document.layers.add(
        "FOLD", color=5, linetype="DASHED" if "DASHED" in document.linetypes else "CONTINUOUS"
    )
    space = document.modelspace()
    for ring in pattern.cuts_mm():
        space.add_lwpolyline([(x, -y) for x, y in ring], close=True, dxfattribs={"layer": "CUT"})
    for fold in pattern.folds:
        (x0, y0), (x1, y1) = fold.start_mm, fold.end_mm
        space.add_line((x0, -y0), (x1, -y1), dxfattribs={"layer": "FOLD"})
    if screws:
        document.layers.add("SCREW", color=7)
        document.layers.add("CENTRE", color=3)
    for screw in screws:
        x, y = screw.at_mm[0], -screw.at_mm[1]
        space.add_circle((x, y), screw.hole_mm / 2, dxfattribs={"layer": "SCREW"})
        for (ax, ay), (bx, by) in screw.cross_mm:
            space.add_line((ax, -ay), (bx, -by), dxfattribs={"layer": "CENTRE"})
    out = io.StringIO()
    document.write(out)
    return out.getvalue()
