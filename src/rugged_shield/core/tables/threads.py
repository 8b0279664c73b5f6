"""Metric and inch threads: basic sizes and the limits that strip calculations need.

Basic sizes d and P are ISO 261; derived diameters are computed (ISO 724) in
``mechanics.threads``. Limits are ISO 965-2 for tolerance classes 6g and 6H; of inch threads ASME B1.1, 2A and
2B. Both have the same 60 degree profile.
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

ISO_THREADS: dict[str, ThreadRow] = {
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

INCH_SOURCE = Source("ASME B1.1 sizes and limits, 2A and 2B", "high")

INCH_THREADS: dict[str, ThreadRow] = {
    "1/4-20 UNC": ThreadRow(6.35, 1.27, 6.1163, 5.4026, 5.2578, 5.649),
    "1/4-28 UNF": ThreadRow(6.35, 0.907143, 6.1595, 5.6515, 5.588, 5.8699),
    "5/16-18 UNC": ThreadRow(7.9375, 1.41111, 7.686, 6.8885, 6.731, 7.1552),
    "5/16-24 UNF": ThreadRow(7.9375, 1.05833, 7.7267, 7.1272, 7.0358, 7.3711),
    "3/8-16 UNC": ThreadRow(9.525, 1.5875, 9.2532, 8.349, 8.1534, 8.6385),
    "3/8-24 UNF": ThreadRow(9.525, 1.05833, 9.3142, 8.7122, 8.636, 8.9611),
}
"""UNC and UNF of the sizes that crash bars, racks and kits come with."""

THREADS: dict[str, ThreadRow] = {**ISO_THREADS, **INCH_THREADS}

_ES_6G_MM = {0.7: 0.022, 0.8: 0.024, 1.0: 0.026, 1.25: 0.028, 1.5: 0.032, 1.75: 0.034}
_ALLOWANCE_2A_IN = {
    "1/4-20 UNC": 0.0011,
    "1/4-28 UNF": 0.0010,
    "5/16-18 UNC": 0.0012,
    "5/16-24 UNF": 0.0011,
    "3/8-16 UNC": 0.0013,
    "3/8-24 UNF": 0.0011,
}


def allowance_mm(thread: str) -> float:
    """By how much the largest screw of a thread stays below its nominal diameter, mm.

    Fundamental deviation es of ISO 965-1 for 6g by pitch; allowance of ASME B1.1 for 2A.
    """
    if thread in _ALLOWANCE_2A_IN:
        return _ALLOWANCE_2A_IN[thread] * 25.4
    return _ES_6G_MM[THREADS[thread].pitch_mm]
