"""A joint of the job: one screw with all that it clamps and threads into."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from itertools import takewhile
from typing import Annotated, Literal

from rugged_shield.core.amounts import entered
from rugged_shield.core.errors import InputError, choose
from rugged_shield.core.fitup.engagement import MAX_BEYOND, Engagement, Nut
from rugged_shield.core.fitup.layer import Layer
from rugged_shield.core.fitup.seen import NOT_SEEN, SeenHole
from rugged_shield.core.fitup.stack_model import Countersink, Sleeve, StackInput, StackLayer
from rugged_shield.core.fitup.stud import PLAIN_STUD, Stud
from rugged_shield.core.hashing import remember_hash
from rugged_shield.core.judgement.known import Known
from rugged_shield.core.mechanics import threads
from rugged_shield.core.mechanics.female import Female
from rugged_shield.core.quantity import Range, Ranged
from rugged_shield.core.survey.bike import Mount, Spring
from rugged_shield.core.survey.conditions import check_condition
from rugged_shield.core.survey.plate import Plate
from rugged_shield.core.tables.friction import CONDITIONS
from rugged_shield.core.tables.grades import GRADES
from rugged_shield.core.tables.hardware import HOLES
from rugged_shield.core.tables.heads import HEADS, STUD
from rugged_shield.core.tables.materials import LOOSE_MATERIALS
from rugged_shield.core.tables.ratings import NutClass
from rugged_shield.core.tables.thread_materials import THREAD_MATERIALS

BENCH: Literal["bench"] = "bench"
Stage = Literal[
    "bench", "bracket", "locate", "pull up", "stiff", "isolators", "front", "adjustable bracket"
]
STEEL_KG_M3 = LOOSE_MATERIALS["steel"].density_kg_m3


@remember_hash
@dataclass(frozen=True, kw_only=True)
class Joint(Ranged):
    """One screw: its layers from the head on, the thread it meets, how it is treated.

    ``length_mm`` is the screw in hand (None: none chosen yet). ``female`` None
    takes the mount's. ``drawn_stack_mm``: layers between plate and thread as the
    plate's maker drew it, so that a change shows as a lower plate. ``end_below``:
    the nut and the screw's end hang under the plate, not its head. ``side`` and
    ``orientation`` say which bracket of a pair it is and which way it faces;
    ``when`` is the condition that the joint applies under (empty: always).
    ``spring_n_per_mm`` is the stiffness along the screw of what it hangs on, where it is
    not the mount's; None: the mount's. ``second_drive``: another one on the same head, such as a
    six-lobe recess in a hexagon. ``room_mm``: across the recess or access hole that the tool
    must enter, ``room_deep_mm`` how far in the head lies; None: not entered. ``proposed``: spread
    from a list, and nobody has looked yet. ``seen``: how its hole met its thread. ``held_loose``:
    it stays half a turn back until every other joint is tight (a header until its silencer sits).
    ``beyond``: nuts on its end past the first thread, each with a treatment of its own.
    ``passes``: something hot that the screw passes beside, ``passes_gap_mm`` the room between as
    measured. ``floats``: the plate is located here, not clamped, and must keep its play.
    A ``head`` that is a stud stands in the bike instead: its layers run from the bike on,
    ``length_mm`` is what stands out, ``nut`` closes it and ``stud`` says how it is held.
    ``hole_set``: the set of holes that it belongs to where a sheet has several to choose from;
    empty: it is used whichever is chosen. ``known``: how its screw is known: thread, length,
    class; ``tried``: on the bike it starts, runs in to its head, and does not bottom.
    ``nut_class``: what is stamped on its nut; empty: nobody read it.
    ``female_known``: how the sizes of its own ``female`` are known. ``joins``: the further piece
    of the plate that it holds to another part, by key; empty: it holds to the bike. What is made
    on the ``bench`` or joins a piece meets no mount, and may stand without a place on the bike.
    """

    key: str
    number: Annotated[int, Range(1, 99)]
    name: str
    mount: str
    thread: str
    head: str
    grade: str
    layers: tuple[Layer, ...]
    stage: Stage
    treatment: str = "dry zinc"
    length_mm: Annotated[float | None, Range(5.0, 180.0, "mm")] = None
    female: Female | None = None
    female_material: str = ""
    thread_owner: Literal["bike", "kit"] = "bike"
    nut: Nut = ""
    nut_class: NutClass = ""
    turned: Literal["head", "nut"] = "head"
    sheet_torque_nm: Annotated[float | None, Range(0.5, 300.0, "N·m")] = None
    manual_torque_nm: Annotated[float | None, Range(0.5, 300.0, "N·m")] = None
    countersink: Countersink | None = None
    drawn_stack_mm: Annotated[float | None, Range(0.0, 150.0, "mm")] = None
    drops_for_oil: bool = True
    end_below: bool = False
    side: Literal["", "left", "right"] = ""
    orientation: str = ""
    when: str = ""
    x_mm: Annotated[float | None, Range(-600.0, 2600.0, "mm")] = None
    y_mm: Annotated[float | None, Range(-700.0, 700.0, "mm")] = None
    chosen_torque_nm: Annotated[float | None, Range(0.5, 300.0, "N·m")] = None
    chosen_reason: str = ""
    spring_n_per_mm: Spring = None
    second_drive: str = ""
    room_mm: Annotated[float | None, Range(3.0, 200.0, "mm")] = None
    room_deep_mm: Annotated[float | None, Range(0.0, 300.0, "mm")] = None
    special_tool: str = ""
    proposed: bool = False
    held_loose: bool = False
    beyond: tuple[Engagement, ...] = ()
    passes: str = ""
    passes_gap_mm: Annotated[float | None, Range(0.0, 200.0, "mm")] = None
    floats: bool = False
    seen: SeenHole = NOT_SEEN
    stud: Stud = PLAIN_STUD
    hole_set: str = ""
    known: Known = "printed"
    female_known: Known = "printed"
    joins: str = ""

    def __post_init__(self) -> None:
        super().__post_init__()
        if self.mount and not self.is_to_bike:
            raise InputError(
                "mount",
                self.mount,
                "none for a joint of the bench, or between two pieces",
                f"joint {self.number} holds to the bike by a mount, or to a piece: not both",
            )
        row = threads.row_of(self.thread)
        threads.head_of(self.head, self.thread)
        check_condition(self.when)
        choose("grade", self.grade, GRADES, "property class")
        choose("treatment", self.treatment, CONDITIONS, "treatment")
        if self.female_material:
            choose("female_material", self.female_material, THREAD_MATERIALS, "thread material")
        if not any(not layer.left_out for layer in self.layers):
            raise InputError("layers", "", "one layer or more", "nothing is clamped")
        if self.is_stud and not self.nut:
            raise InputError(
                "head",
                self.head,
                "a head that is turned; or choose its nut first",
                "a stud in the bike is closed by a nut of a standard",
            )
        keys = [far.key for far in self.beyond]
        if len(set(keys)) != len(keys) or len(keys) > MAX_BEYOND:
            raise InputError("beyond", len(keys), f"each key once, at most {MAX_BEYOND}")
        for far in self.beyond:
            far.check_size(self.thread)
        for layer in self.layers:
            if layer.hole_mm < row.d_mm:
                raise InputError(
                    f"layers.{layer.key}.hole_mm",
                    entered(layer.hole_mm, "mm"),
                    f"at least {entered(row.d_mm, 'mm')}, the {self.thread} screw",
                    f"the hole in {layer.name} is smaller than the screw",
                )

    def present(self) -> tuple[Layer, ...]:
        """Layers that are not left out, from the head on."""
        return tuple(layer for layer in self.layers if not layer.left_out)

    def from_below(self) -> tuple[Layer, ...]:
        """Layers that are not left out, from the lowest under the plate up to the bike."""
        return self.present()[::-1] if self.ends_below else self.present()

    @property
    def sheets(self) -> tuple[str, ...]:
        """Pieces of the plate in its stack by key, from the head on; empty for the main one."""
        own = (layer.piece for layer in self.present() if layer.piece or layer.clamps_plate)
        return tuple(dict.fromkeys(own))

    @property
    def is_to_bike(self) -> bool:
        """Whether it holds something to the bike, not two parts to one another."""
        return self.stage != BENCH and not self.joins

    @property
    def is_stud(self) -> bool:
        """Whether it stands in the bike, so that only its nut is turned."""
        return self.head == STUD

    @property
    def turns_nut(self) -> bool:
        """Whether the nut is what the wrench turns."""
        return bool(self.nut) and (self.turned == "nut" or self.is_stud)

    @property
    def ends_below(self) -> bool:
        """Whether its nut and end hang under the plate, not a head."""
        return self.end_below or self.is_stud

    @property
    def clamps_plate(self) -> bool:
        """Whether it goes through the plate's own sheet."""
        return any(layer.clamps_plate for layer in self.present())

    @property
    def hangs_plate(self) -> bool:
        """Whether the plate's own sheet hangs on the bike by it, with nothing between."""
        return self.clamps_plate and self.is_to_bike

    @property
    def holds_plate(self) -> bool:
        """Whether it fixes how high the plate hangs: it clamps it, with no play left."""
        return self.hangs_plate and not self.floats

    @property
    def gate(self) -> str:
        """Joints of one gate are all started before any of them is tightened: those of a stage.

        What holds a further piece alone waits for that piece, not for the plate.
        """
        pieces = [s for s in self.sheets if s]
        return self.stage if self.clamps_plate or not pieces else f"{self.stage}: {pieces[-1]}"

    @property
    def is_off_for_oil(self) -> bool:
        """Whether it comes out when the plate comes off for the oil."""
        return self.drops_for_oil and self.stage != BENCH

    @property
    def is_soft(self) -> bool:
        """Whether rubber stands anywhere in its stack."""
        return any(layer.is_soft for layer in self.present())

    @property
    def is_countersunk(self) -> bool:
        """Whether the nominal length includes the head."""
        return HEADS[self.head].form == "countersunk"


def as_built(joint: Joint) -> str:
    """What a joint is made of, as one line: two joints that differ in what holds differ here.

    Names are left out: a layer that is called otherwise is the same layer.
    """
    length = "length not chosen" if joint.length_mm is None else f"{joint.length_mm:g} mm"
    screw = f"{joint.thread} × {length} {joint.head} {joint.grade}, {joint.treatment}"
    layers = (
        f"{x.kind} {x.thickness_mm:g} {x.material} {x.outer_mm:g}/{x.hole_mm:g}"
        for x in joint.present()
    )
    female = joint.nut or joint.female_material or "the mount's thread"
    far = "".join(
        f"; then {x.nut} over {x.between_mm:g}{' and a washer' if x.washer else ''}, {x.treatment}"
        for x in joint.beyond
    )
    if joint.is_stud:
        held, seat = (
            joint.stud,
            "as deep as it is"
            if joint.stud.seated_mm is None
            else (f"{joint.stud.seated_mm:g} deep"),
        )
        screw = f"{screw}; {held.seat} {seat}, {held.treatment}"
    turned = "nut" if joint.turns_nut else joint.turned
    return f"{screw}; {', '.join(layers)}; {female}, the {turned} turned{far}"


def clearance_hole_mm(thread: str) -> float:
    """Medium clearance hole of ISO 273 for a thread, mm."""
    return HOLES[threads.nominal_size(thread)].medium_mm


def with_plate(joint: Joint, thickness_mm: float, material: str) -> Joint:
    """The joint with its plate layers as thick as the plate now is (a sleeved plate too)."""
    layers = tuple(
        _as_sheet(layer, thickness_mm, material) if layer.kind == "plate" else layer
        for layer in joint.layers
    )
    return replace(joint, layers=layers)


def _as_sheet(layer: Layer, thickness_mm: float, material: str) -> Layer:
    return replace(layer, thickness_mm=thickness_mm, material=material)


def with_pieces(joint: Joint, plate: Plate) -> Joint:
    """The joint with the layers that are further pieces as thick and of what those are."""
    own = {p.key for p in plate.pieces}
    layers = tuple(
        _as_sheet(layer, *plate.sheet(layer.piece)) if layer.piece in own else layer
        for layer in joint.layers
    )
    return joint if layers == joint.layers else replace(joint, layers=layers)


def clamped(joint: Joint) -> tuple[Layer, ...]:
    """Layers that make up the grip: a sleeve through a plate counts once, the plate not."""
    layers = joint.present()
    if any(layer.kind == "sleeve" for layer in layers):
        return tuple(layer for layer in layers if layer.kind != "plate")
    return layers


def above_plate(joint: Joint) -> tuple[Layer, ...]:
    """Layers between the plate and the bike, from the plate up; none without it."""
    layers = joint.from_below()
    places = [i for i, layer in enumerate(layers) if layer.clamps_plate]
    return layers[max(places) + 1 :] if places else ()


def above_plate_mm(joint: Joint) -> float:
    """How thick the layers that hold the plate off the bike are together, mm."""
    return sum(layer.thickness_mm for layer in above_plate(joint))


def under_plate(joint: Joint) -> tuple[Layer, ...]:
    """Washers under the plate, between it and the head or nut, from the lowest; none without it."""
    stack = joint.from_below()
    return tuple(takewhile(lambda x: not x.clamps_plate, stack)) if joint.clamps_plate else ()


def below_plate_mm(joint: Joint) -> float:
    """How thick the washers under the plate are together, mm."""
    return sum(layer.thickness_mm for layer in under_plate(joint))


def place_above_plate(joint: Joint) -> int:
    """Where among its layers one comes to lie between the plate and the bike."""
    places = [i for i, layer in enumerate(joint.layers) if layer.clamps_plate]
    if joint.ends_below:
        return min(places, default=len(joint.layers))
    return max(places, default=-1) + 1


def female_of(joint: Joint, mount: Mount | None) -> tuple[Female, str]:
    """The female part and its material: the joint's own, else the mount's."""
    if joint.female is not None:
        return joint.female, joint.female_material or "S235 steel"
    if mount is None:
        raise InputError(
            "mount",
            joint.mount,
            "a mount of this bike, or a female part of its own",
            f"joint {joint.number} threads into nothing",
        )
    return mount.female(), joint.female_material or mount.material


def wanted_engagement_mm(female: Female, material: str, d_mm: float) -> float:
    """Engagement asked for: multiples of d in tapped holes, full thread in nuts."""
    full = (
        female.thread_end_mm
        - female.thread_end_tol_mm
        - female.thread_start_mm
        - female.thread_start_tol_mm
    )
    if female.kind in ("blind_tapped", "through_tapped", "rivet_nut"):
        return THREAD_MATERIALS[material].wanted_engagement_d * d_mm
    return max(0.0, full)


def _protrusion_pitches(female: Female) -> float:
    return {
        "prevailing_nut": 2.0,
        "through_tapped": 0.0,
        "blind_tapped": 0.0,
        "domed_nut": 0.0,
    }.get(female.kind, 1.0)


def _sleeve(joint: Joint) -> Sleeve | None:
    layers = joint.present()
    sleeve = next((layer for layer in layers if layer.kind == "sleeve"), None)
    plate = next((layer for layer in layers if layer.kind == "plate"), None)
    if sleeve is None or plate is None:
        return None
    return Sleeve(sleeve.thickness_mm, plate.thickness_mm, sleeve.tol_mm, plate.tol_mm)


def stack_input(joint: Joint, mount: Mount | None) -> StackInput:
    """The stack of a joint, ready for ``joint_stack``."""
    female, material = female_of(joint, mount)
    row = threads.row_of(joint.thread)
    head = threads.head_of(joint.head, joint.thread)
    return StackInput(
        thread=joint.thread,
        head=joint.head,
        length_includes_head=joint.is_countersunk,
        thread_length_b_mm=(joint.stud.thread_mm if joint.is_stud else head.thread_length_b_mm)
        or None,
        fully_threaded_up_to_length_mm=head.fully_threaded_up_to_mm or None,
        layers=tuple(
            StackLayer(layer.name, layer.thickness_mm, layer.tol_mm) for layer in clamped(joint)
        ),
        female=female,
        required_engagement_mm=wanted_engagement_mm(female, material, row.d_mm),
        required_protrusion_pitches=_protrusion_pitches(female),
        required_bottom_margin_mm=0.0 if female.is_through else 0.5,
        required_neighbour_gap_mm=1.0 if female.is_through else 0.0,
        evaluate_lengths_mm=(joint.length_mm,) if joint.length_mm else (),
        countersink=joint.countersink if joint.is_countersunk else None,
        sleeve=_sleeve(joint),
    )


def screw_mass_kg(joint: Joint, length_mm: float) -> float:
    """Mass of a screw: shank at its stress diameter, its head as a solid disc; mm in.

    A stud is the bike's own and was weighed with it.
    """
    if joint.is_stud:
        return 0.0
    geo = threads.geometry_of(joint.thread)
    head = threads.head_of(joint.head, joint.thread)
    shank = length_mm - (head.height_mm if joint.is_countersunk else 0.0)
    fill = 0.4 if joint.is_countersunk else 0.7
    volume = geo.stress_area_mm2 * shank
    volume += fill * math.pi / 4 * head.diameter_mm**2 * head.height_mm
    return volume * STEEL_KG_M3 * 1e-9
