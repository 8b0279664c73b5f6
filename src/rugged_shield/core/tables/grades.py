"""Property classes of screws (ISO 898-1, ISO 3506-1, SAE J429)."""

from dataclasses import dataclass

from rugged_shield.core.result import Source


@dataclass(frozen=True)
class Grade:
    """Minimum strengths of a property class, MPa."""

    rm_mpa: float
    rp02_mpa: float
    stainless: bool
    source: Source


_ISO_898 = Source("ISO 898-1, sizes up to M16", "high")
_SAE = Source("SAE J429, sizes up to 1 in", "high")
_ISO_3506 = Source("ISO 3506-1", "high")

NOT_READ = "not read"
"""No class was entered: counted as the weakest on sale for that head until it has been read."""

GRADES: dict[str, Grade] = {
    "not read": Grade(400, 240, False, _ISO_898),
    "4.6": Grade(400, 240, False, _ISO_898),
    "5.8": Grade(520, 420, False, _ISO_898),
    "8.8": Grade(800, 640, False, _ISO_898),
    "10.9": Grade(1040, 940, False, _ISO_898),
    "12.9": Grade(1220, 1100, False, _ISO_898),
    "SAE 5": Grade(827, 634, False, _SAE),
    "SAE 8": Grade(1034, 896, False, _SAE),
    "A2-50": Grade(500, 210, True, _ISO_3506),
    "A2-70": Grade(700, 450, True, _ISO_3506),
    "A4-80": Grade(800, 600, True, _ISO_3506),
}
