"""How far a mean or a line of few readings may lie off: Student's factor."""

from __future__ import annotations


def student_95(freedom: float) -> float:
    """Student's t for 95 % on both sides, ``freedom`` above 0 (ISO/IEC Guide 98-3, G.2)."""
    from scipy.special import stdtrit  # late: start-up and small commands do without SciPy

    return float(stdtrit(freedom, 0.975))
