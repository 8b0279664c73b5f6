"""The line protocol: ASCII, one reading a line, documented in docs/instruments.md.

``kind;sequence;value;unit;stable|moving;checksum`` and a line feed. The
checksum is the sum of all bytes before it, modulo 256, as two hex digits.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from typing import Literal, get_args

Kind = Literal["scale", "calliper", "wrench"]
MAX_LINE = 80
UNITS: dict[Kind, dict[str, str]] = {
    "scale": {"kg": "kg", "g": "g", "lb": "lb"},
    "calliper": {"mm": "mm", "in": "in"},
    "wrench": {"Nm": "N·m", "ftlb": "ft·lb", "inlb": "in·lb"},
}
"""Units on the line, in ASCII, and as the application writes them."""
_VALUE = re.compile(r"^[+-]?\d{1,6}(\.\d{1,5})?\Z")


class LineError(ValueError):
    """A line that is no reading; says what is wrong with it in a few words."""


@dataclass(frozen=True)
class Reading:
    """One reading: value in ``unit`` as the application writes it, and its least step.

    ``step`` is what the last digit sent is worth.
    """

    kind: Kind
    sequence: int
    value: float
    unit: str
    stable: bool
    step: float


def _checksum(text: str) -> str:
    return f"{sum(text.encode('ascii')) % 256:02X}"


def write_line(reading: Reading, decimals: int) -> bytes:
    """A reading as a line, its value with so many decimals."""
    unit = next(ascii for ascii, said in UNITS[reading.kind].items() if said == reading.unit)
    word = "stable" if reading.stable else "moving"
    value = f"{reading.value:.{decimals}f}"
    text = f"{reading.kind};{reading.sequence % 100000};{value};{unit};{word};"
    return (text + _checksum(text) + "\n").encode("ascii")


def parse_line(line: bytes) -> Reading:
    """A reading from a line without its line feed; raises LineError for anything else."""
    if len(line) > MAX_LINE:
        raise LineError(f"line longer than {MAX_LINE} characters")
    try:
        text = line.decode("ascii").strip()
    except UnicodeDecodeError as error:
        raise LineError("garbage on the line") from error
    parts = text.split(";")
    if len(parts) != 6:
        raise LineError("garbage on the line")
    kind, sequence, value, unit, word, check = parts
    if check.upper() != _checksum(text[: len(text) - len(check)]):
        raise LineError("wrong checksum")
    kinds: tuple[Kind, ...] = get_args(Kind)
    known = next((k for k in kinds if k == kind), None)
    if known is None or unit not in UNITS[known]:
        raise LineError("an instrument or unit that is not known")
    if not sequence.isdigit() or not _VALUE.match(value) or word not in ("stable", "moving"):
        raise LineError("garbage on the line")
    decimals = len(value.partition(".")[2])
    return Reading(
        known, int(sequence), float(value), UNITS[known][unit], word == "stable", 10.0**-decimals
    )
