"""Files that mean harm: too large, too deep, too many, no numbers, not what they say they are."""

from __future__ import annotations

import io
import json
import random
import struct
import zlib
from collections.abc import Iterator
from dataclasses import dataclass
from importlib.resources import files
from typing import Any, Literal

Kind = Literal["svg", "dxf", "job", "list", "photo", "pdf", "body"]


@dataclass(frozen=True)
class Hostile:
    """One file: what it does, which reader it goes to, its bytes."""

    name: str
    kind: Kind
    data: bytes


SVG = (
    '<svg xmlns="http://www.w3.org/2000/svg" width="{w}" height="{w}" viewBox="{box}">{inner}</svg>'
)
RECT = '<rect x="10" y="10" width="150" height="100"/>'
NO_NUMBERS = (
    "nan", "NaN", "inf", "-inf", "1e309", "1e200", "-1e300", "", "abc", "100%", ".mm", "1.2.3mm",
    "0x10", "1e", "--1", "1,2", "\u0661\u0662", "1e-320", "9" * 400, "-0",
)  # fmt: skip


def svg(inner: str = RECT, w: str = "200mm", box: str = "0 0 200 200") -> bytes:
    return SVG.format(inner=inner, w=w, box=box).encode()


def _svgs() -> Iterator[tuple[str, bytes]]:
    yield "tiny view box", svg('<circle cx="5" cy="5" r="50"/>', box="0 0 1e-9 1e-9")
    yield "huge view box", svg(box="0 0 1e300 1e300")
    yield "view box without width", svg(box="0 0 0 0")
    for bad in NO_NUMBERS:
        yield f"width of {bad[:12]!r}", svg(w=bad)
        yield f"rectangle {bad[:12]!r} wide", svg(RECT.replace("150", bad))
        yield f"turned by {bad[:12]!r}", svg(f'<g transform="rotate({bad})">{RECT}</g>')
        yield f"path to {bad[:12]!r}", svg(f'<path d="M0 0L{bad} 5L5 5Z"/>{RECT}')


def _odd_svgs() -> Iterator[tuple[str, bytes]]:
    yield "arc of 1e200", svg(f'<path d="M0 0A1e200 1e200 0 0 1 10 10L5 5Z"/>{RECT}')
    yield "scaled 1e40 times", svg(f'<g transform="{"scale(1e10) " * 4}">{RECT}</g>')
    yield (
        "twenty thousand rectangles",
        svg(
            "".join(
                f'<rect x="{i % 140 + 10}" y="{i // 140 * 0.5 + 10}" width=".3" height=".3"/>'
                for i in range(19_900)
            )
        ),
    )
    yield (
        "rectangles in each other",
        svg(
            "".join(
                f'<rect x="{10 + i * 0.002}" y="{10 + i * 0.002}" '
                f'width="{140 - i * 0.004}" height="{100 - i * 0.004}"/>'
                for i in range(12_000)
            )
        ),
    )
    yield (
        "three thousand tiny lines",
        svg(
            "".join(
                f'<line x1="{10 + i * 1e-6}" y1="10" x2="{10 + i * 1e-6}" y2="10.001"/>'
                for i in range(3_000)
            )
        ),
    )
    yield (
        "lines that all cross",
        svg(
            "".join(
                f'<line x1="{i * 0.05}" y1="0" x2="{150 - i * 0.05}" y2="100"/>'
                for i in range(3000)
            )
        ),
    )
    yield "sixty thousand curves", svg(f'<path d="M0 0{"C1e5 0 0 1e5 3 3" * 60_000}Z"/>{RECT}')
    yield "a comb of a million teeth", svg(f'<path d="M0 0{"h.1v1h.1v-1" * 300_000}Z"/>')
    yield "groups without end", b"<svg xmlns='http://www.w3.org/2000/svg'>" + b"<g>" * 400_000
    many = " ".join(f"a{i}='1'" for i in range(200_000))
    yield "two hundred thousand attributes", svg(f"<g {many}/>")


def _sly_svgs() -> Iterator[tuple[str, bytes]]:
    yield (
        "entities",
        (
            b'<!DOCTYPE svg [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;&a;&a;&a;&a;&a;">]>'
            + svg("<text>&b;</text>")
        ),
    )
    yield (
        "an outside entity",
        (b'<!DOCTYPE svg [<!ENTITY x SYSTEM "file:///etc/passwd">]>' + svg("<text>&x;</text>")),
    )
    yield "a script", svg("<script>alert(1)</script>" + RECT)
    yield "a link outside", svg('<a href="http://example.org/">' + RECT + "</a>")
    yield "copies of copies", svg('<use href="#a"/>' * 1000 + RECT)
    yield "dashed groups in each other", svg('<g stroke-dasharray="1">' * 50 + "</g>" * 50 + RECT)
    yield "no drawing at all", b"%PDF-1.4 not an svg"
    yield "bytes that are no text", bytes(range(256)) * 40
    yield "a byte order mark", b"\xef\xbb\xbf" + svg()


def dxf(*entities: str, blocks: str = "", unit: int = 4) -> bytes:
    head = f"0\nSECTION\n2\nHEADER\n9\n$INSUNITS\n70\n{unit}\n0\nENDSEC\n"
    block = f"0\nSECTION\n2\nBLOCKS\n{blocks}0\nENDSEC\n" if blocks else ""
    body = "".join(entities)
    return f"{head}{block}0\nSECTION\n2\nENTITIES\n{body}0\nENDSEC\n0\nEOF\n".encode()


def _line(x0: object, y0: object, x1: object, y1: object) -> str:
    return f"0\nLINE\n8\n0\n10\n{x0}\n20\n{y0}\n11\n{x1}\n21\n{y1}\n"


def _poly(points: list[tuple[object, object, object]]) -> str:
    rows = "".join(f"10\n{x}\n20\n{y}\n42\n{b}\n" for x, y, b in points)
    return f"0\nLWPOLYLINE\n8\n0\n90\n{len(points)}\n70\n1\n{rows}"


_BOX = _poly([(0, 0, 0), (200, 0, 0), (200, 100, 0), (0, 100, 0)])


def _insert(name: str, columns: int = 1, rows: int = 1) -> str:
    return f"0\nINSERT\n8\n0\n2\n{name}\n10\n0\n20\n0\n70\n{columns}\n71\n{rows}\n44\n1\n45\n1\n"


def _block(name: str, body: str) -> str:
    return f"0\nBLOCK\n8\n0\n2\n{name}\n70\n0\n10\n0\n20\n0\n{body}0\nENDBLK\n8\n0\n"


def _dxfs() -> Iterator[tuple[str, bytes]]:
    for bad in ("NaN", "inf", "-inf", "1e300", "1e308", "abc", "", "1e-320"):
        yield f"line to {bad!r}", dxf(_line(0, 0, bad, 5), _BOX)
        yield f"bulge of {bad!r}", dxf(_poly([(0, 0, bad), (200, 0, 0), (200, 100, 0)]))
        yield f"circle of radius {bad!r}", dxf(f"0\nCIRCLE\n8\n0\n10\n9\n20\n9\n40\n{bad}\n", _BOX)
    nested = "".join(_block(f"B{i}", _insert(f"B{i + 1}") * 10) for i in range(9))
    yield (
        "blocks ten times in each other",
        dxf(_insert("B0"), _BOX, blocks=nested + _block("B9", "")),
    )
    yield "a block in itself", dxf(_insert("B0"), _BOX, blocks=_block("B0", _insert("B0")))
    yield (
        "two blocks in each other",
        dxf(_insert("B0"), _BOX, blocks=_block("B0", _insert("B1")) + _block("B1", _insert("B0"))),
    )
    yield (
        "a row of a thousand million",
        dxf(_insert("B0", 30_000, 30_000), _BOX, blocks=_block("B0", _line(0, 0, 1, 1))),
    )
    yield "a deep tower of blocks", dxf(
        _insert("B0"), _BOX,
        blocks="".join(_block(f"B{i}", _insert(f"B{i + 1}")) for i in range(200)),
    )  # fmt: skip
    yield "forty thousand lines", dxf(*(_line(i, 0, i, 1) for i in range(40_000)))
    yield (
        "a spline of many knots",
        dxf(
            "0\nSPLINE\n8\n0\n70\n8\n71\n3\n72\n20000\n73\n19996\n74\n0\n"
            + "".join(f"40\n{i}\n" for i in range(20_000))
            + "".join(f"10\n{i % 90}\n20\n{i % 70}\n" for i in range(19_996)),
            _BOX,
        ),
    )
    yield (
        "a thin ellipse",
        dxf("0\nELLIPSE\n8\n0\n10\n0\n20\n0\n11\n9e9\n21\n0\n40\n1e-9\n41\n0\n42\n6.28\n", _BOX),
    )
    yield "a linked picture", dxf(_BOX).replace(b"ENDSEC", b"IMAGEDEF\n0\nENDSEC", 1)
    yield "a packed file", b"PK\x03\x04" + b"\0" * 200
    yield "cut short", dxf(_BOX)[:120]
    yield "no tags", b"0\n" * 100_000
    yield "random bytes", random.Random(3).randbytes(50_000)


def demo() -> dict[str, Any]:
    text = (files("rugged_shield.demo") / "half_fitted.json").read_text()
    data: dict[str, Any] = json.loads(text)
    return data


def _jobs() -> Iterator[tuple[str, bytes]]:
    yield (
        "twenty thousand fields",
        (
            '{"format":"rugged-shield job","version":2,'
            + ",".join(f'"k{i}":1' for i in range(20_000))
            + "}"
        ).encode(),
    )
    yield "one field ten thousand times", ("{" + ",".join(['"a":1'] * 10_000) + "}").encode()
    yield "lists without end", b"[" * 500_000
    yield "objects without end", b'{"a":' * 100_000
    yield "a list of a million", json.dumps([0] * 1_000_000).encode()
    yield "numbers that are none", b'{"format": NaN}'
    yield "a number of a million digits", b'{"version": ' + b"9" * 1_000_000 + b"}"
    yield "five million letters", b'"' + b"a" * 4_900_000 + b'"'
    yield "more than five million", b" " * 5_100_000
    yield "no text", bytes(range(128, 256)) * 100
    yield "a byte order mark", b"\xef\xbb\xbf" + json.dumps(demo()).encode()
    yield "two bytes a letter", json.dumps(demo()).encode("utf-16")
    yield "empty", b""
    yield "null", b"null"
    yield "a newer version", json.dumps({"format": "rugged-shield job", "version": 99}).encode()


def _changed_jobs() -> Iterator[tuple[str, bytes]]:
    def changed(name: str, change: Any) -> tuple[str, bytes]:
        data = demo()
        change(data)
        return name, json.dumps(data).encode()

    def into(*path: Any, value: Any) -> Any:
        def change(data: Any) -> None:
            for step in path[:-1]:
                data = data[step]
            data[path[-1]] = value

        return change

    for value in ("", " ", "a" * 201, "a\x00b", "a\u202eb", "a\x1bb", "\ud800"):
        yield changed(f"titled {value[:6]!r}", into("job", "title", value=value))
    for value in ("", "../../etc", "a b", "a.b", "a/b", "é", "-a", "a" * 61):
        yield changed(
            f"a plate keyed {value[:9]!r}",
            into("job", "candidates", 0, "plate", "key", value=value),
        )
    for value in (-1, 2**63, 2**80, 1.5, "1", True, None):
        yield changed(f"a line numbered {value!r}", into("records", 0, "seq", value=value))
    for value in (1e309, -1.0, "4", None, True, [], {}):
        yield changed(f"a wheelbase of {value!r}", into("job", "bike", "wheelbase_mm", value=value))
    yield changed(
        "a record of fifty thousand lines",
        lambda d: d.__setitem__("records", [{**d["records"][0], "seq": i} for i in range(50_000)]),
    )
    yield changed(
        "a thousand parts",
        lambda d: d["job"]["bike"].__setitem__(
            "parts", [{**d["job"]["bike"]["parts"][0], "key": f"p{i}"} for i in range(1000)]
        ),
    )
    yield changed(
        "holes without end",
        lambda d: d["job"]["candidates"][0]["plate"].__setitem__(
            "cutouts",
            [
                {**d["job"]["candidates"][0]["plate"]["cutouts"][0], "key": f"c{i}"}
                for i in range(5000)
            ],
        ),
    )


def _lists() -> Iterator[tuple[str, bytes]]:
    yield "one cell of 200 000 letters", b"thread,length\n" + b"M" * 200_000 + b",20"
    yield "a quote that never ends", b'thread,length\n"' + b"M8,20\n" * 20_000
    yield "ten thousand lines", b"thread,length\n" + b"M8,20\n" * 10_000
    yield "ten thousand columns", b"," * 10_000 + b"\n" + b"1," * 10_000
    yield "nothing", b""
    yield "only separators", b";;;;\n;;;;\n"
    yield "NUL", b"thread,length\nM8\0,20"
    yield "control characters", b"thread,length\nM8\x1b[2J,20"
    yield "a formula", b'thread,length,note\nM8,20,=HYPERLINK("http://x")'
    yield "numbers that are none", b"thread,length,count\nM8,1e309,9e99"


def png(width: int, height: int, data: bytes = b"") -> bytes:
    def chunk(kind: bytes, body: bytes) -> bytes:
        crc = struct.pack(">I", zlib.crc32(kind + body))
        return struct.pack(">I", len(body)) + kind + body + crc

    head = struct.pack(">IIBBBBB", width, height, 8, 2, 0, 0, 0)
    body = chunk(b"IHDR", head) + chunk(b"IDAT", data) + chunk(b"IEND", b"")
    return b"\x89PNG\r\n\x1a\n" + body


def _photos() -> Iterator[tuple[str, bytes]]:
    from PIL import Image

    def jpeg(size: tuple[int, int], **more: Any) -> bytes:
        out = io.BytesIO()
        Image.new("RGB", size, (90, 90, 90)).save(out, "JPEG", **more)
        return out.getvalue()

    def bomb(width: int, height: int) -> bytes:
        return png(width, height, zlib.compress(b"\0" * (3 * width + 1), 9) * 40)

    yield "a PNG that says 60 000 square", png(60_000, 60_000)
    yield "a PNG that says 2 thousand million wide", png(2_000_000_000, 1)
    yield "a tall thin PNG", png(1, 39_000_000, zlib.compress(b"\0" * 4_000_000))
    yield "a PNG of 6 300 square", bomb(6_300, 6_300)
    yield "no pixels", png(0, 0)
    yield "a JPEG of 40 megapixels", jpeg((8_000, 4_999), quality=10)
    yield "a JPEG of 48 megapixels", jpeg((8_000, 6_000), quality=10)
    yield "a JPEG cut short", jpeg((3_000, 2_000))[:5_000]
    yield "a JPEG with a tail of a megabyte", jpeg((400, 300)) + b"\0" * 1_000_000
    yield (
        "an Exif head of lies",
        jpeg((400, 300), exif=b"Exif\0\0MM\0*\0\0\0\x08\xff\xff" + b"\xff" * 60),
    )
    yield "a GIF under a JPEG's name", b"GIF89a" + b"\0" * 600
    yield "an SVG under a JPEG's name", svg()
    yield "nothing", b""
    yield "random bytes", random.Random(4).randbytes(100_000)


def pdf(pages: int = 1, size: tuple[float, float] = (300.0, 400.0)) -> bytes:
    """A plain PDF of empty pages with a line of text on each."""
    from reportlab.pdfgen.canvas import Canvas

    out = io.BytesIO()
    canvas = Canvas(out, pagesize=size, invariant=1)
    for i in range(pages):
        canvas.drawString(20, 20, f"page {i + 1}")
        canvas.showPage()
    canvas.save()
    return out.getvalue()


def _pdfs() -> Iterator[tuple[str, bytes]]:
    plain = pdf()
    yield "a PDF of 400 pages", pdf(400)
    yield "a PDF page of 14 metres", pdf(size=(40_000.0, 40_000.0))
    yield "a PDF page a hair wide", pdf(size=(0.5, 2_000.0))
    yield "a PDF cut short", plain[: len(plain) // 2]
    yield "a PDF whose table of places lies", plain.replace(b"startxref", b"startxrfe")
    yield (
        "a PDF that opens a script",
        plain.replace(
            b"/Type /Catalog", b"/Type /Catalog /OpenAction << /S /JavaScript /JS (app.alert(1)) >>"
        ),
    )
    yield "a PDF that says it is locked", plain.replace(b"/Root", b"/Encrypt 1 0 R /Root")
    yield "pages that hold themselves", plain.replace(b"/Kids [ ", b"/Kids [ 2 0 R 3 0 R 4 0 R ")
    yield "an SVG under a PDF's name", svg()
    yield "a PDF of nothing", b"%PDF-1.7\n"
    yield "random bytes under a PDF's name", b"%PDF-1.4\n" + random.Random(9).randbytes(50_000)


def _bodies() -> Iterator[tuple[str, bytes]]:
    write = {"path": "title", "text": "x", "system": "metric", "version": 1, "key": "hostile-1234"}

    def body(**more: Any) -> bytes:
        return json.dumps({**write, **more}).encode()

    yield "a field twice", b'{"path":"title","path":"bike.name"}'
    yield "text with NUL", body(text="a\0b")
    yield "text that turns", body(text="a\u202eb")
    yield "text of a million", body(text="a" * 1_000_000)
    yield "a path of a thousand steps", body(path=".".join(["a"] * 1000))
    yield "a path into the program", body(path="__class__.__init__.__globals__")
    yield "a version of 2^80", body(version=2**80)
    yield "a version of 0.5", body(version=0.5)
    yield "0 for text", body(text=0)
    yield "a list for text", body(text=["x"])
    yield "no object", b"[1, 2]"
    yield "deep", b'{"path":' * 5_000
    yield "more fields than there are", body(**{f"f{i}": 1 for i in range(600)})


def collection() -> tuple[Hostile, ...]:
    """Every hostile file, each generated."""
    makers: tuple[tuple[Kind, Any], ...] = (
        ("svg", _svgs),
        ("svg", _odd_svgs),
        ("svg", _sly_svgs),
        ("dxf", _dxfs),
        ("job", _jobs),
        ("job", _changed_jobs),
        ("list", _lists),
        ("photo", _photos),
        ("pdf", _pdfs),
        ("body", _bodies),
    )
    return tuple(Hostile(name, kind, data) for kind, make in makers for name, data in make())
