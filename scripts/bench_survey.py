"""Figures of the Survey: a plate full of cutouts, gaps, the drawing that follows the keys."""

from __future__ import annotations

import time
from dataclasses import replace
from multiprocessing import get_context

import numpy as np

from rugged_shield.calc.beside import beside
from rugged_shield.core.assess.survey.measure_next import measure_next
from rugged_shield.core.job.model import Job
from rugged_shield.core.survey.bike import Part
from rugged_shield.core.survey.flat import flat_pattern
from rugged_shield.core.survey.geometry import fold
from rugged_shield.core.survey.measures import PlateGeometryInput, plate_geometry
from rugged_shield.core.survey.plate import Apron, Belly, Cutout, Piece, Plate, Tail, Wing
from rugged_shield.core.survey.standoff import standoffs
from rugged_shield.web.worker import ready

FOLLOW = """
const [value, done] = arguments;
const field = document.querySelector("input[data-path='bike.parts.sump.x_max_mm']");
const path = () => document.querySelector("svg.drawing [data-ref='sump']").getAttribute("d");
const before = path();
const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value").set;
const began = performance.now();
set.call(field, String(value));
field.dispatchEvent(new Event("input", {bubbles: true}));
const look = () => path() === before && performance.now() - began < 5000
  ? requestAnimationFrame(look) : done(performance.now() - began);
requestAnimationFrame(look);
"""


def plate_with(cutouts: int) -> Plate:
    """A folded plate with a further piece and so many openings in its belly."""
    columns = 8
    holes = tuple(
        Cutout(
            key=f"c{i}",
            panel="belly",
            shape="round" if i % 2 else "slot",
            purpose="vent",
            u_mm=30.0 + (i // columns) * 340 / max(1, cutouts // columns),
            v_mm=-105 + (i % columns) * 30,
            width_mm=12.0,
            height_mm=8.0 if i % 2 == 0 else 12.0,
        )
        for i in range(cutouts)
    )
    belly = Belly(
        start_x_mm=480,
        length_mm=400,
        front_width_mm=290,
        rear_width_mm=270,
        z_front_mm=285,
        z_rear_mm=290,
    )
    return Plate(
        key="p",
        name="pan",
        role="candidate",
        material="aluminium 5052-H32",
        thickness_mm=4.0,
        form="welded",
        mounting="frame",
        belly=belly,
        apron=Apron(160, 50, 240),
        tail=Tail(100, 160, 12),
        wing_left=Wing(60, 260, 80, 50),
        wing_right=Wing(60, 260, 80, 50),
        pieces=(
            Piece(
                key="r",
                name="rear piece",
                order=1,
                x_mm=880,
                y_mm=0,
                z_mm=270,
                length_mm=120,
                front_width_mm=150,
                rear_width_mm=120,
            ),
        ),
        cutouts=holes,
    )


def geometry_ms(plate: Plate, parts: tuple[Part, ...], rounds: int = 12) -> float:
    """Best time of the whole geometry of a plate never seen before, ms."""
    import time

    best = float("inf")
    for i in range(rounds):
        moved = tuple(replace(c, u_mm=c.u_mm + 0.01 * (i + 1)) for c in plate.cutouts)
        fresh = replace(plate, cutouts=moved)
        began = time.perf_counter()
        folded = fold(fresh)
        plate_geometry(PlateGeometryInput(fresh))
        flat_pattern(fresh)
        standoffs(folded, parts)
        best = min(best, time.perf_counter() - began)
    return best * 1000


def measure_next_ms(job: Job) -> float:
    """What to measure next of a job, in a process as the worker is before its first question."""
    ready()
    began = time.perf_counter()
    measure_next(job, beside)
    return (time.perf_counter() - began) * 1000


def survey_figures(job: Job) -> list[tuple[str, str, str]]:
    """Geometry at 20, 40 and 80 cutouts with twelve vitals, and what to measure next."""
    parts = tuple(p for p in job.bike.parts if p.kind != "low")
    parts = (*parts, *(replace(p, key=f"{p.key}-2", x_min_mm=p.x_min_mm + 1) for p in parts))[:12]
    times = {n: geometry_ms(plate_with(n), parts) for n in (20, 40, 80)}
    with get_context("spawn").Pool(1, maxtasksperchild=1) as pool:
        took = min(pool.map(measure_next_ms, [job] * 3, chunksize=1))
    return [
        ("geometry, 40 cutouts and 12 vitals", f"{times[40]:.1f} ms", "aim 15 ms"),
        ("geometry, 80 cutouts over 40", f"{times[80] / times[40]:.2f} ×", "linear: below 2"),
        ("geometry, 40 cutouts over 20", f"{times[40] / times[20]:.2f} ×", "linear: below 2"),
        ("what to measure next, cold", f"{took:.0f} ms", "aim 3 s, best of 3"),
    ]


def screen_figures() -> list[tuple[str, str, str]]:
    """From a key to the drawing that follows it, in a real browser on a real server."""
    from driven import driven_page  # late: the other figures need no browser

    with driven_page() as page:
        page.size(1280, 800)
        page.open("/jobs/choosing/survey?part=sump")
        page.click("input[data-path='bike.parts.sump.x_max_mm']")
        script = page.driver.execute_async_script
        times = [float(script(FOLLOW, 811 + 0.5 * i)) for i in range(60)][10:]
    p50, p95 = np.percentile(times, [50, 95])
    return [
        ("key to drawing in the screen, p50 / p95", f"{p50:.0f} / {p95:.0f} ms", "aim p95 250 ms")
    ]
