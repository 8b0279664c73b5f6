"""What to do when a screw will not go as planned: three exits, each with its way back."""

from __future__ import annotations

TROUBLES: dict[str, tuple[str, ...]] = {
    "it will not start": (
        "Stop after one turn that fights back: it is crossed. Out with it, by hand.",
        "Look: dirt, paint, an old drop of locker in the thread? Clean it with a brush, not a tap.",
        "Loosen the other screws of this plate again, shift the plate, start this one first.",
        "Still off: read the hole in Fit-up, Holes. It says which to loosen or open.",
        "Never a mallet on a screw, and no ratchet while pushing.",
    ),
    "its thread is damaged": (
        "Stop. Nothing is torqued on a damaged thread, and nothing ridden on it.",
        "A screw: a new one of the same class. A nut: a new one.",
        "A thread in the engine or frame: an insert, or a licensed workshop. Write it down as a "
        "fault in Survey with its photo; the joint stays open until it is mended.",
    ),
    "it is stuck": (
        "Penetrating oil, an hour, then a little tighter before looser. Six-point socket.",
        "Heat only with fuel, hoses and plastic out of the way, never on a tank or near one.",
        "Head going round: stop while there is still something to hold. A workshop drills it out "
        "on centre; freehand it takes the thread along.",
    ),
}
"""By what happened, in the order in which it is tried."""
