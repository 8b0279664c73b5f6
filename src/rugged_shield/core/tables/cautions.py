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
    "under": (
        "Support the bike so that it cannot fall before going under it, and let the exhaust cool.",
    ),
    "first": (
        "The bike maker's service manual and the plate's sheet come first. Where they conflict, or "
        "a structural, brake or exhaust part is changed, ask a licensed workshop.",
    ),
    "ride": (
        "Before a bolt that a stand hangs on comes out: the bike stands otherwise, a strap or a "
        "helper holds it; try the stand again before riding.",
        "Springs one at a time, with a puller, eyes and fingers out of their line.",
        "Ride only with every joint read, the stand and the brake pedal tried with your own boot, "
        "the straps off and every hose back. Lifting points are the bike maker's.",
    ),
    "sweep": (
        "Brake pedal, gear lever and stand through their whole travel, with your own riding boot "
        "on, before the first ride. Engine off, exhaust cool, the bike held so that it cannot fall.",
    ),
}

CHANGE_CAUTIONS: dict[str, str] = {
    "trim": "Plate off the bike and clamped down. Eyes and ears covered; file the edge round; "
    "no grinding near fuel, its hoses or a canister.",
    "hole": "Plate off the bike. Clamp it, start small, glasses on; deburr both faces.",
    "slot": "Plate off the bike. Drill both ends, then file; glasses on; deburr both faces.",
    "vent field": "Plate off the bike. Print, glue, punch, drill; glasses on; brush off all swarf.",
    "bend": "In two pliers or a vise, slowly and once: a second bend at the same place cracks.",
    "neighbour trimmed": "A part of the bike is cut: the law or its maker's warranty may say no. "
    "Ask first; never cut a part that brakes, steers or carries fuel.",
    "sleeve cut": "Square to its length, both ends deburred: a sleeve that leans eats preload.",
}
"""What to mind with each kind of change."""
NEAR_CAUTION = (
    "Never on the bike here: behind it lie {near}. A stop collar on the drill, and look behind."
)
LAW_CAUTION = (
    "A changed plate may lose its maker's warranty. Where the law asks for approved parts, ask "
    "before cutting; a part that carries load or fuel is for a licensed workshop."
)
