"""Figures of the hands-on stations: holes, drawing home, a sweep, a change's price, a large kit."""

from __future__ import annotations

import tempfile
import time
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path
from typing import Any

from rugged_shield.core.assess.fitup.neighbours import _swept
from rugged_shield.core.assess.tighten.draw_home import draw_home, stiffness_between
from rugged_shield.core.fitup.hole_fit import Growth, HoleFitInput, PlateHole, hole_fit
from rugged_shield.core.job.model import Job, mounted
from rugged_shield.core.survey.geometry import fold
from rugged_shield.core.survey.neighbours import Neighbour
from rugged_shield.web.app import create_app


def best_ms(work: Callable[[], Any], rounds: int = 5) -> float:
    """The shortest of some rounds: what the code takes undisturbed, ms."""
    took = []
    for _ in range(rounds):
        began = time.perf_counter()
        work()
        took.append((time.perf_counter() - began) * 1000)
    return min(took)


def holes() -> HoleFitInput:
    """Twelve holes around a plate, each a little off."""
    return HoleFitInput(
        holes=tuple(
            PlateHole(
                name=f"h{i}",
                x_mm=130.0 * (-1) ** i,
                y_mm=-200.0 + 40.0 * (i // 2) * 2,
                radial_clearance_mm=0.5,
                dx_mm=0.2 * ((i * 7) % 5 - 2),
                dy_mm=0.15 * ((i * 3) % 5 - 2),
            )
            for i in range(12)
        )
    )


def _sweep_ms(job: Job) -> float:
    lever = Neighbour(
        key="lever",
        name="lever",
        pivot_x_mm=700.0,
        pivot_y_mm=150.0,
        pivot_z_mm=250.0,
        tip_x_mm=550.0,
        tip_y_mm=150.0,
        tip_z_mm=240.0,
        from_deg=-20.0,
        to_deg=20.0,
    )
    folded = fold(job.in_hand.plate)

    def work() -> None:
        _swept.cache_clear()
        _swept(lever, 40.0, folded, (), ())

    return best_ms(work)


def _kit_ms() -> tuple[float, float]:
    """A kit of a hundred look-alike lines asked for cold and again, ms."""
    app = create_app(Path(tempfile.mkdtemp()))
    client = app.test_client()
    rows = "\n".join(f"screw {i};M8;{20 + i % 5 * 5};socket cap;8.8;2" for i in range(100))
    body = {
        "name": "bench",
        "layout": "single",
        "text": f"name;size;length;head;class;count\n{rows}",
        "key": "bench-0001",
    }
    job = client.post("/api/new-fit", json=body).get_json()["id"]
    cold = best_ms(lambda: client.get(f"/api/jobs/{job}/kit"), 1)
    return cold, best_ms(lambda: client.get(f"/api/jobs/{job}/kit"))


def fitup_figures(job: Job) -> list[tuple[str, str, str]]:
    """Holes, heat, drawing home, a sweep past the whole plate, a kit of a hundred lines."""
    given = holes()
    growth = Growth(alpha_plate_per_k=150e-6, alpha_frame_per_k=12e-6, dt_k=57.0)
    hot = replace(given, thermal=growth)
    joints = mounted(job.bike, job.in_hand)
    plate = job.in_hand.plate

    def drawn() -> None:
        draw_home.cache_clear()
        draw_home(plate, joints, job.wrench)

    stiffness_between.cache_clear()
    first = best_ms(drawn, 1)
    cold, again = _kit_ms()
    return [
        ("hole-fit, 12 holes", f"{best_ms(lambda: hole_fit(given, False)):.0f} ms", "aim 30 ms"),
        ("hole-fit, grown hot", f"{best_ms(lambda: hole_fit(hot, False)):.0f} ms", "aim 80 ms"),
        ("drawing home, with the mesh", f"{first:.0f} ms", ""),
        ("drawing home, the shell standing", f"{best_ms(drawn):.0f} ms", "aim 300 ms"),
        ("sweep past the whole plate", f"{_sweep_ms(job):.0f} ms", "aim 300 ms"),
        ("kit of 100 look-alikes, cold", f"{cold:.0f} ms", "aim 150 ms"),
        ("kit of 100 look-alikes, again", f"{again:.0f} ms", "aim 150 ms"),
    ]
