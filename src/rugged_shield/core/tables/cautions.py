"""The usual cautions by the step at which they bite; each names what to do."""

from __future__ import annotations

CAUTIONS: dict[str, tuple[str, ...]] = {
    "kit": (
        "Edges of a new plate cut: gloves, and break a sharp edge with a file before it is hung. "
        "Pull the protective film off first; it creeps under a screw's head.",
    ),
    "strip": (
        "The last bolt drops the plate: hold it or put a jack with wood under it, fingers clear.",
        "Loosening from below: dirt falls. Wear glasses; let exhaust and oil cool first.",
    ),
}
