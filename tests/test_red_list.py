"""Ways to hurt bike or rider that an engineer checks with a thumb, each finished to the last step.

None comes out sound, each says its own code; beside them what looks alike and is right stays so.
"""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import pytest

from rugged_shield.core.assess.gate.ready import ready_of
from rugged_shield.core.fitup.layer import Layer
from rugged_shield.core.fitup.presets import nut_female
from rugged_shield.core.job.events import Record
from rugged_shield.core.job.model import Job
from tests.core.survey.test_front_wheel import side_guard
from tests.ready_changes import (
    ALL,
    Change,
    bike,
    both,
    both_say,
    joint,
    laden,
    layers,
    mount,
    narrow,
    on_the_flank,
    only,
    part,
    plate,
    sink,
    slotted,
    spacer,
    through,
    washered,
)
from tests.ready_job import NOW, ready_job
from tests.test_every_gate import judged


def sized(kind: str, **fields: float) -> Change:
    """Joint 3 with every layer of a kind in other sizes."""

    def made(stack: tuple[Layer, ...]) -> tuple[Layer, ...]:
        return tuple(replace(x, **fields) if x.kind == kind else x for x in stack)  # type: ignore[arg-type]

    return layers("a3", made)


def without(kind: str, **plates: float) -> Change:
    """Joint 3 without its layers of a kind, the plate in other sizes."""

    def made(stack: tuple[Layer, ...]) -> tuple[Layer, ...]:
        return tuple(
            replace(x, **plates) if x.kind == "plate" else x  # type: ignore[arg-type]
            for x in stack
            if x.kind != kind
        )

    return layers("a3", made)


def shimmed(stack: tuple[Layer, ...]) -> tuple[Layer, ...]:
    shim = replace(
        stack[-1], key="shim", kind="shim", name="shim", material="steel", thickness_mm=1.0,
        outer_mm=30.0, hole_mm=20.0,
    )  # fmt: skip
    return (*stack, shim)


def nut_behind(grade: str = "10.9", **more: Any) -> Change:
    return through("ISO 7040", grade=grade, **more)


def of_material(material: str) -> Change:
    """The plate of another sheet, its joints without washers."""
    return both(plate(ALL, material=material), without("washer"))


def strike_of(energy_j: float) -> Change:
    return lambda job, record: (
        replace(job, use=replace(job.use, strike_energy_j=energy_j)),
        record,
    )


def no_plate(key: str) -> Change:
    return layers(key, lambda ls: tuple(x for x in ls if x.kind != "plate"))


def sunk(**fields: float | None) -> Change:
    """The sink under joint 5's head, otherwise as it is."""
    return joint("a5", countersink=sink(**fields))


def ring(outer_mm: float, hole_mm: float) -> Change:
    """Joint 3's spacer as a thin ring on the boss."""
    return spacer("a3", 12.0, outer_mm=outer_mm, hole_mm=hole_mm)


def hot_boss(change: Change, surface_c: float = 500.0) -> Change:
    return both(change, part("sump", surface_c=surface_c))


def treated(grade: str, treatment: str, **more: Any) -> Change:
    return joint("a3", grade=grade, treatment=treatment, **more)


def guarded(x_mm: float) -> Change:
    """A sheet on edge beside the front wheel's track."""
    return plate(pieces=(side_guard(x_mm),))


def m5_nut(**more: Any) -> Change:
    given = {"thread": "M5", "nut": "ISO 4032", "female_material": "S235 steel"}
    return joint("a3", **given, female=nut_female("ISO 4032", "M5", 40.0), **more)


bare_front = plate(apron=None, cutouts=())
RING = "nothing to bear on"
RED: dict[str, tuple[str, Change]] = {
    "plate hole 14 under a bare 13 mm head": (RING, without("washer", hole_mm=14.0)),
    "plate hole 12.8 under a bare 13 mm head": (RING, without("washer", hole_mm=12.8)),
    "plate hole 12.0 under a bare 13 mm head": (RING, without("washer", hole_mm=12.0)),
    "hole 16.5 under a 16 washer": (RING, sized("plate", hole_mm=16.5)),
    "hole 20 under washer 16 and spacer 18": (
        RING, both(sized("plate", hole_mm=20.0), spacer("a3", 12.0, outer_mm=18.0)),
    ),
    "M12 washer under an M8 head": (RING, sized("washer", hole_mm=13.0, outer_mm=24.0)),
    "washer 11.5 inside": (RING, sized("washer", hole_mm=11.5)),
    "a shim with a hole of 20 swallows its spacer": (RING, layers("a3", shimmed)),
    "spacer falls into the plate's hole": (
        RING, both(sized("plate", hole_mm=15.0), spacer("a3", 12.0, outer_mm=15.5)),
    ),
    "nut falls through": (RING, both(nut_behind(), spacer("a3", 12.0, hole_mm=13.0))),
    "four heads fall through": (
        RING,
        both(*(
            layers(k, lambda ls: tuple(
                replace(x, hole_mm=14.0) if x.kind == "plate" else x
                for x in ls if x.kind != "washer"
            ))
            for k in ("a1", "a2", "a3", "a4")
        )),
    ),
    "spacer ring 10.6 / 8.5 on die cast": ("face crushed", ring(10.6, 8.5)),
    "spacer ring 11 / 8.6 on die cast": ("face crushed", ring(11.0, 8.6)),
    "HDPE under a bare head": ("face crushed", of_material("HDPE")),
    "polypropylene under a bare head": ("face crushed", of_material("polypropylene")),
    "UHMW under a bare head": ("face crushed", of_material("UHMW-PE")),
    "no sink entered": ("sink not known", joint("a5", countersink=None)),
    "no sink entered on the other side": ("sink not known", joint("a6", countersink=None)),
    "sink too small": ("head stands proud", sunk(sink_diameter_mm=9.0)),
    "sink of 10.5": ("head stands proud", sunk(sink_diameter_mm=10.5)),
    "head 2 mm proud": ("head stands proud", sunk(head_below_surface_mm=-2.0)),
    "head 0.6 mm proud": ("head stands proud", sunk(head_below_surface_mm=-0.6)),
    "120° under a 90° head": ("cone on an edge", sunk(angle_deg=120.0)),
    "100° under a 90° head": ("cone on an edge", sunk(angle_deg=100.0)),
    "60° under a 90° head": ("cone on an edge", sunk(angle_deg=60.0)),
    "a sink whose angle nobody knows": ("sink's angle not known", sunk(angle_deg=None)),
    "flat washer under a cone": (
        "flat washer under a cone", both(joint("a5", countersink=None), layers("a5", washered)),
    ),
    "a countersunk screw on a flat sheet": (
        "sink not known", both(without("washer"), joint("a3", head="ISO 10642")),
    ),
    "an old countersunk screw on a flat sheet": (
        "sink not known", both(without("washer"), joint("a3", head="DIN 7991")),
    ),
    "a six-lobe countersunk on a flat sheet": (
        "sink not known", both(without("washer"), joint("a3", head="ISO 14581")),
    ),
    "1 N·m on an M8": ("no preload left", joint("a3", **both_say(1.0))),
    "2 N·m on an M8": ("no preload left", joint("a3", **both_say(2.0))),
    "half a N·m on an M6": ("no preload left", joint("a5", **both_say(0.5))),
    "nylon nut at its own run-down": ("no preload left", nut_behind(**both_say(6.0))),
    "nylon nut just above it": ("no preload left", nut_behind(**both_say(6.5))),
    "all-metal nut at its run-down": ("no preload left", through("ISO 7042", **both_say(6.0))),
    "a third of what it wants": ("little preload left", joint("a3", **both_say(6.0))),
    "manual 60 on M8 in a casting": ("figure past yield", joint("a3", **both_say(60.0))),
    "manual 45 on M8": ("figure past yield", joint("a3", grade="8.8", **both_say(45.0))),
    "manual 30 on M8 of 8.8": ("figure past yield", joint("a3", grade="8.8", **both_say(30.0))),
    "manual 18 on M6": ("figure past yield", joint("a5", **both_say(18.0))),
    "manual 60 on stainless": (
        "figure past yield", treated("A2-70", "dry stainless", **both_say(60.0)),
    ),
    "class not read": ("screw's class not read", joint("a3", grade="not read")),
    "class not read, hexagon": (
        "screw's class not read", joint("a3", grade="not read", head="ISO 4017"),
    ),
    "class not read, manual 18 on a hexagon": (
        "figure past yield", joint("a3", grade="not read", head="ISO 4017", **both_say(18.0)),
    ),
    "class 4.6 at the manual's 18": (
        "figure past yield", joint("a3", grade="4.6", **both_say(18.0)),
    ),
    "A2-50 at the manual's 18": (
        "figure past yield", treated("A2-50", "anti-seize", **both_say(30.0)),
    ),
    "A2-70 as dry zinc": ("treatment does not suit", treated("A2-70", "dry zinc")),
    "A4-80 as dry zinc": ("treatment does not suit", treated("A4-80", "dry zinc")),
    "8.8 as dry stainless": ("treatment does not suit", treated("8.8", "dry stainless")),
    "10.9 as dry stainless": ("treatment does not suit", joint("a3", treatment="dry stainless")),
    "12.9 in a plain nut": ("nut weaker than the screw", through("ISO 4032", grade="12.9")),
    "10.9 in a nut of class 6": (
        "nut weaker than the screw", through("ISO 4032", grade="10.9", nut_class="6"),
    ),
    "8.8 in a nut of class 5": (
        "nut weaker than the screw", through("ISO 4032", grade="8.8", nut_class="5"),
    ),
    "12.9 in a nylon nut": ("nut weaker than the screw", through("ISO 7040", grade="12.9")),
    "T-head in a blind boss": ("turns in its hole", joint("a3", head="DIN 186")),
    "carriage bolt in a blind boss": ("turns in its hole", joint("a3", head="DIN 603")),
    "a loose nut nobody holds": (
        "nothing holds the nut",
        joint("a3", female=replace(nut_female("ISO 4032", "M8", 40.0), kind="loose_nut"),
              female_material="S235 steel"),
    ),
    "a plain nut of no standard": (
        "nothing holds the nut",
        joint("a3", female=replace(nut_female("ISO 4032", "M8", 40.0), kind="plain_nut"),
              female_material="S235 steel"),
    ),
    "a stack without the plate": (
        "plate not in its stack", no_plate("a3"),
    ),
    "two stacks without the plate": (
        "plate not in its stack",
        both(no_plate("a3"), no_plate("a4")),
    ),
    "locker on a boss beside a pipe": (
        "locker too hot", hot_boss(joint("a3", treatment="medium locker"), 500.0),
    ),
    "nylon insert beside a pipe": ("locker too hot", hot_boss(nut_behind())),
    "a locker that a hotter pipe reaches": (
        "locker too hot", hot_boss(joint("a4", treatment="medium locker"), 700.0),
    ),
    "hole 4 mm from the edge": ("hole breaks the edge", narrow(189.0)),
    "hole 2 mm from the edge": ("hole breaks the edge", narrow(180.0)),
    "hole 7.5 mm from the edge": ("hole near an edge", narrow(205.0)),
    "an outline nobody measured": ("edge not known", both(narrow(189.0), plate(known="assumed"))),
    "a hole near an edge by a mount nobody measured": (
        "hole's place not known", both(narrow(189.0), mount("m5", known="assumed")),
    ),
    "an outline that was guessed": ("edge not known", both(narrow(205.0), plate(known="guessed"))),
    "a slot right across the belly": ("panel cut in two", slotted(236.0)),
    "a slot that leaves two webs": ("panel on thin webs", slotted(220.0)),
    "M5 for a belly at 60 J": ("screws small for the strike", both(m5_nut(), strike_of(60.0))),
    "M5 for a belly at 150 J": ("screws small for the strike", both(m5_nut(), strike_of(150.0))),
    "a slider that only a stop makes warm": (
        "warm after a stop",
        both(
            plate(ALL, slider_material="HDPE", slider_thickness_mm=6.0),
            part("header", surface_c=260.0),
        ),
    ),
    "a pipe without a temperature beside plastic": (
        "heat not known",
        both(
            plate(ALL, slider_material="HDPE", slider_thickness_mm=6.0),
            part("header", surface_c=None, x_min_mm=500.0, x_max_mm=620.0, z_min_mm=330.0),
        ),
    ),
    "a frame rail through the belly": (
        "touches vital", part("rail-left", z_min_mm=272.0, z_max_mm=300.0),
    ),
    "the other rail through the belly": (
        "touches vital", part("rail-right", z_min_mm=272.0, z_max_mm=300.0),
    ),
    "a rail through the belly, where it is assumed": (
        "fit not known", part("rail-left", z_min_mm=272.0, z_max_mm=300.0, known="assumed"),
    ),
    "the folded stand through the tail": (
        "touches vital",
        part("stand", x_min_mm=700.0, x_max_mm=900.0, y_min_mm=-90.0, y_max_mm=-50.0,
             z_min_mm=270.0, z_max_mm=302.0),
    ),
    "a foot peg through a wing": (
        "touches vital",
        part("peg-left", x_min_mm=600.0, x_max_mm=660.0, y_min_mm=-220.0, y_max_mm=-110.0,
             z_min_mm=290.0, z_max_mm=330.0),
    ),
    "two joints hold the plate, askew": ("turns about its joints", only("a1", "a4")),
    "two joints hold the plate, abreast": ("turns about its joints", only("a5", "a6")),
    "three joints on one side": ("held at too few places", only("a1", "a3", "a5")),
    "three joints on the other side": ("held at too few places", only("a2", "a4", "a6")),
    "both joints at its front": ("held at too few places", only("a1", "a2")),
    "40 kg and a sag nobody measured": ("heavy, sag not known", laden(40.0)),
    "15 kg and a sag nobody measured": ("heavy, sag not known", laden(15.0)),
    "no apron: the belly's edge faces forward": ("can hook", both(narrow(236.0), bare_front)),
    "a clutch on the flank, no sheet before it": ("vital not covered", on_the_flank),
    "a guard where the wheel turns to its stop": (
        "does not fit", both(bike(steering_lock_deg=38.0), guarded(250.0)),
    ),
    "a guard that every stop meets, none measured": ("does not fit", guarded(250.0)),
    "a guard that some stops meet, none measured": ("fit not known", guarded(150.0)),
    "a pipe entered as a low part over a slider": (
        "too hot",
        both(
            plate(ALL, slider_material="HDPE", slider_thickness_mm=6.0, heat_foil=False),
            part("rail-left", shape="pipe", surface_c=600.0, z_min_mm=296.0, z_max_mm=324.0),
        ),
    ),
    "a low pipe without a temperature over a slider": (
        "heat not known",
        both(
            plate(ALL, slider_material="HDPE", slider_thickness_mm=6.0),
            part("rail-left", shape="pipe"),
        ),
    ),
}  # fmt: skip

RIGHT: dict[str, Change] = {
    "plate hole 9 under a washer": lambda job, record: (job, record),
    "a larger washer": sized("washer", outer_mm=24.0),
    "a wider spacer": spacer("a3", 12.0, outer_mm=20.0),
    "a sink of its size": joint("a5", countersink=sink()),
    "a sink of 92°": sunk(angle_deg=92.0),
    "a sheet wide enough": both(
        narrow(236.0), part("clutch", consequence=3), part("pump", consequence=3)
    ),
    "three joints about its middle": only("a1", "a2", "a3", "a4"),
    "a slot that leaves enough": slotted(90.0),
    "12.9 in the boss": joint("a3", grade="12.9"),
    "rails above the belly": part("rail-left", z_min_mm=300.0, z_max_mm=328.0),
}


@pytest.mark.parametrize("way", RED)
def test_none_is_sound_and_each_says_why(way: str) -> None:
    code, change = RED[way]
    ready = judged(change)
    assert ready.verdict != "sound"
    said = [m for m in (*ready.missing, *ready.minds) if m.code == code]
    assert said, sorted({m.code for m in (*ready.missing, *ready.minds)})
    assert all(m.remedy and m.words for m in said)


@pytest.mark.parametrize("way", RIGHT)
def test_what_is_right_stays_sound(way: str) -> None:
    ready = judged(RIGHT[way])
    assert ready.verdict == "sound", [m.words for m in (*ready.missing, *ready.minds)]


def test_a_figure_past_yield_is_confirmed_for_that_joint_alone() -> None:
    """Blocked until somebody says why it stands; another figure asks again."""
    from rugged_shield.core.assess.gate.reasons import pass_finding
    from tests.ready_job import told

    job, record = joint("a3", **both_say(60.0))(*ready_job())
    event = pass_finding(job, record, "figure past yield", "a3", "asked the maker twice", NOW).event
    kept = told(record, event)
    assert "figure past yield" not in {m.code for m in ready_of(job, kept, NOW).missing}

    def again(now: Job, then: Record) -> set[str]:
        return {m.code for m in ready_of(now, then, NOW).missing}

    own = job.as_entered("alu5")
    joints = tuple(replace(j, **both_say(70.0)) if j.key == "a3" else j for j in own.joints)
    assert "figure past yield" in again(job.with_candidate(replace(own, joints=joints)), kept)
