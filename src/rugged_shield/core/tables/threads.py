"""Metric threads: basic sizes and the 6g/6H limits that strip calculations need.

Basic sizes d and P are ISO 261; derived diameters are computed (ISO 724) in
``mechanics.threads``. Limits are ISO 965-2 for tolerance classes 6g and 6H.
"""

from dataclasses import dataclass

from rugged_shield.core.result import Source


@dataclass(frozen=True)
class ThreadRow:
    """One thread designation; all lengths in mm."""

    d_mm: float
    pitch_mm: float
    d_min_mm: float
    d2_min_mm: float
    d1_max_mm: float
    d2_max_mm: float


THREAD_SOURCE = Source("ISO 261 sizes; ISO 965-2 limits for 6g and 6H", "high")

THREADS: dict[str, ThreadRow] = {
    "M4": ThreadRow(4, 0.7, 3.838, 3.433, 3.422, 3.663),
    "M5": ThreadRow(5, 0.8, 4.826, 4.361, 4.334, 4.605),
    "M6": ThreadRow(6, 1.0, 5.794, 5.212, 5.153, 5.5),
    "M8": ThreadRow(8, 1.25, 7.76, 7.042, 6.912, 7.348),
    "M10": ThreadRow(10, 1.5, 9.732, 8.862, 8.676, 9.206),
    "M12": ThreadRow(12, 1.75, 11.701, 10.679, 10.441, 11.063),
    "M8x1": ThreadRow(8, 1.0, 7.794, 7.212, 7.153, 7.5),
    "M10x1.25": ThreadRow(10, 1.25, 9.76, 9.042, 8.912, 9.348),
    "M10x1": ThreadRow(10, 1.0, 9.794, 9.212, 9.153, 9.5),
}
