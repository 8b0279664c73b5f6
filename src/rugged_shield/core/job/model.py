"""A whole job: one bike, its stock plate, the candidates, and what was decided."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Annotated, Literal

from rugged_shield.core.errors import InputError, choose, once
from rugged_shield.core.fitup.gap_seen import GapSeen
from rugged_shield.core.fitup.joint import Joint, with_pieces, with_plate
from rugged_shield.core.fitup.modification import MAX_CHANGES, Modification
from rugged_shield.core.fitup.substitute import MAX_SUBSTITUTES, Substitute, with_substitute
from rugged_shield.core.hashing import remember_hash
from rugged_shield.core.kit.hardware import MAX_KIT, KitLine
from rugged_shield.core.kit.sheet import NO_SHEET, Sheet
from rugged_shield.core.quantity import Range, Ranged
from rugged_shield.core.survey.bike import AlongBike, Bike, Mount
from rugged_shield.core.survey.conditions import Traits, applies, traits_of
from rugged_shield.core.survey.found import Fault, Scar, StripItem
from rugged_shield.core.survey.geometry import fold
from rugged_shield.core.survey.plate import Plate
from rugged_shield.core.survey.weighings import Weighing
from rugged_shield.core.tables.profiles import PROFILES
from rugged_shield.core.tighten.torque import WrenchTool

MAX_LIST = 100
MAX_PLATES = 40
"""Plates of a job beside its stock one, by file as by screen."""


@dataclass(frozen=True)
class KitCount(Ranged):
    """What was counted on the bench for one line of one plate's kit."""

    plate: str
    line: str
    counted: Annotated[int, Range(0, 200)]


@dataclass(frozen=True, kw_only=True)
class Extra(Ranged):
    """Something else that a plate needs and the bike does not have: it is bought with it.

    ``gives`` names the need it meets; mass kg hangs at ``x_mm`` behind the front axle.
    """

    key: str
    name: str
    gives: Literal["", "bars", "upper bars", "isolators"] = ""
    mass_kg: Annotated[float, Range(0.0, 40.0, "kg")] = 0.0
    x_mm: AlongBike = 500.0
    price: Annotated[float, Range(0.0, 100000.0)] = 0.0
    fit_minutes: Annotated[float, Range(0.0, 2000.0, "min")] = 0.0


@remember_hash
@dataclass(frozen=True, kw_only=True)
class Candidate:
    """A plate with its joints, the hardware its sheet lists, and what is bought with it.

    ``sheet`` is that sheet; ``substitutes`` stand in its joints instead of their own parts.
    ``order``: joints by key in the order in which they are torqued, ``starts``: in which they are
    started; empty: as the plan works it out, and as torqued.
    ``gaps``: to neighbours of the bike, as looked at with it on.
    ``changes``: what was done to the plate against its sheet, or is to be. ``dry_fit``: it is
    hung once without locker before it is hung for good. ``hole_set``: which of its joints' sets
    of holes is used; empty, or a set that no joint belongs to: none was chosen.
    """

    plate: Plate
    joints: tuple[Joint, ...]
    kit: tuple[KitLine, ...] = ()
    extras: tuple[Extra, ...] = ()
    sheet: Sheet = NO_SHEET
    substitutes: tuple[Substitute, ...] = ()
    order: tuple[str, ...] = ()
    starts: tuple[str, ...] = ()
    gaps: tuple[GapSeen, ...] = ()
    changes: tuple[Modification, ...] = ()
    dry_fit: bool = False
    hole_set: str = ""

    def __post_init__(self) -> None:
        fold(self.plate)
        for name in ("order", "starts"):
            order = getattr(self, name)
            if len(set(order)) != len(order) or len(order) > MAX_LIST:
                raise InputError(name, ", ".join(order)[:200], "each joint once")
        if len(self.changes) > MAX_CHANGES:
            raise InputError("changes", len(self.changes), f"at most {MAX_CHANGES}")
        if len(self.substitutes) > MAX_SUBSTITUTES:
            raise InputError("substitutes", len(self.substitutes), f"at most {MAX_SUBSTITUTES}")
        if len(self.kit) > MAX_KIT:
            raise InputError("kit", len(self.kit), f"at most {MAX_KIT} lines")
        listed = (
            ("joints", self.joints),
            ("kit", self.kit),
            ("extras", self.extras),
            ("substitutes", self.substitutes),
            ("gaps", self.gaps),
            ("changes", self.changes),
        )
        for what, items in listed:
            once(what, (item.key for item in items), "entry")
        # A substitute that no longer fits its joint is refused with the change, not at every look.
        _with_substitutes(self)
        once("joints", (j.number for j in self.joints), "joint")
        pieces = [p.key for p in self.plate.pieces]
        for joint in self.joints:
            if joint.joins and joint.joins not in pieces:
                raise InputError(
                    f"joints.{joint.key}.joins",
                    joint.joins,
                    "one of " + ", ".join(pieces) if pieces else "a piece; this plate has none",
                    f"joint {joint.number} joins a piece that this plate does not have",
                )

    @property
    def key(self) -> str:
        """The plate's key names the candidate."""
        return self.plate.key

    def settled_joints(self) -> tuple[Joint, ...]:
        """Joints by number, with the layers that are sheets of the plate as thick as those are."""
        return _settled(self.joints, self.plate)

    @property
    def hole_sets(self) -> tuple[str, ...]:
        """Names of the sets of holes that its joints belong to."""
        return tuple(dict.fromkeys(j.hole_set for j in self.joints if j.hole_set))


@lru_cache(maxsize=256)
def _settled(joints: tuple[Joint, ...], plate: Plate) -> tuple[Joint, ...]:
    ordered = sorted(joints, key=lambda j: j.number)
    return tuple(
        with_pieces(with_plate(j, plate.thickness_mm, plate.material), plate) for j in ordered
    )


Weight = Annotated[float, Range(0.0, 10.0)]


@dataclass(frozen=True, kw_only=True)
class Priorities(Ranged):
    """What matters to this rider, 0 (not at all) to 10."""

    protect_the_engine: Weight = 8.0
    keep_it_light: Weight = 5.0
    keep_clearance: Weight = 6.0
    quick_oil_change: Weight = 3.0
    easy_to_fit: Weight = 3.0
    quiet: Weight = 2.0
    money: Weight = 4.0


@dataclass(frozen=True, kw_only=True)
class Use(Ranged):
    """How this rider rides and what may not be passed; None: no limit set.

    ``strike_energy_j`` None takes the profile's. The plate is kept ``years_kept``.
    ``boot_toe_mm`` is the height of the rider's own boot over its toe, ``glove_finger_mm`` how
    thick a finger is in the rider's own glove, ``garage_c`` how warm it is
    where the work is done (None: not said).
    """

    profile: Literal["gravel roads", "forest trail", "rock and ledges", "logs and drops"] = (
        "forest trail"
    )
    strike_energy_j: Annotated[float | None, Range(0.1, 5000.0, "J")] = None
    stone_radius_mm: Annotated[float, Range(5.0, 40.0, "mm")] = 15.0
    boot_toe_mm: Annotated[float | None, Range(30.0, 200.0, "mm")] = None
    glove_finger_mm: Annotated[float | None, Range(10.0, 80.0, "mm")] = None
    garage_c: Annotated[float | None, Range(-30.0, 50.0, "°C")] = None
    km_per_year: Annotated[float, Range(100.0, 100000.0, "km")] = 5000.0
    oil_interval_km: Annotated[float, Range(500.0, 50000.0, "km")] = 4000.0
    years_kept: Annotated[float, Range(1.0, 30.0)] = 5.0
    budget: Annotated[float | None, Range(0.0, 100000.0)] = None
    least_clearance_mm: Annotated[float | None, Range(50.0, 500.0, "mm")] = None

    @property
    def energy_j(self) -> float:
        """The energy plates are compared at, J."""
        return (
            PROFILES[self.profile].energy_j
            if self.strike_energy_j is None
            else (self.strike_energy_j)
        )


@remember_hash
@dataclass(frozen=True, kw_only=True)
class Job(Ranged):
    """Facts and decisions of one job. ``picked`` and ``weighing`` name candidates.

    Prices are in ``currency``; ``customer`` is whose bike it is, in a workshop; the odometer is
    the bike's own, in km, when the plate was fitted.
    """

    title: str
    bike: Bike
    stock: Candidate
    candidates: tuple[Candidate, ...]
    wrench: WrenchTool
    picked: str = ""
    pick_reason: str = ""
    weighing: str = ""
    counts: tuple[KitCount, ...] = ()
    odometer_km: Annotated[float | None, Range(0.0, 500000.0, "km")] = None
    currency: str = "crowns"
    customer: str = ""
    scars: tuple[Scar, ...] = ()
    faults: tuple[Fault, ...] = ()
    strip: tuple[StripItem, ...] = ()
    weighings: tuple[Weighing, ...] = ()
    priorities: Priorities = Priorities()
    use: Use = Use()

    def __post_init__(self) -> None:
        super().__post_init__()
        if not self.title.strip():
            raise InputError("title", self.title, "a title", "a job has a title")
        keys = [c.key for c in (self.stock, *self.candidates)]
        once("candidates", keys, "plate")
        for field in ("picked", "weighing"):
            value = getattr(self, field)
            if value and value not in keys:
                raise InputError(field, value, "one of " + ", ".join(keys))
        for candidate in (self.stock, *self.candidates):
            for joint in candidate.joints:
                check_mount(joint, self.bike)
        if len(self.candidates) > MAX_PLATES:
            raise InputError("candidates", len(self.candidates), f"at most {MAX_PLATES} plates")
        self._check_lists(keys)

    def _check_lists(self, plates: list[str]) -> None:
        for name in ("scars", "faults", "strip", "weighings"):
            items = getattr(self, name)
            own = [item.key for item in items]
            if len(set(own)) != len(own) or len(own) > MAX_LIST:
                raise InputError(name, len(own), f"each key once, at most {MAX_LIST}")
        parts = {part.key for part in self.bike.parts}
        for fault in self.faults:
            if fault.part:
                choose(f"faults.{fault.key}.part", fault.part, parts, "part of this bike")
        panels = {panel.name for panel in fold(self.stock.plate).panels}
        for scar in self.scars:
            choose(f"scars.{scar.key}.panel", scar.panel, panels, "panel of the stock plate")
        for weighing in self.weighings:
            for field in ("plate", "against"):
                key = getattr(weighing, field)
                if key or field == "plate":
                    choose(f"weighings.{weighing.key}.{field}", key, plates, "plate of this job")

    def candidate(self, key: str) -> Candidate:
        """The candidate (or stock) of that key as it stands: what applies, substitutes in place."""
        return on_bike(self.as_entered(key), self.bike)

    def as_entered(self, key: str) -> Candidate:
        """The candidate (or stock) of that key with every line and joint, applying or not."""
        for candidate in (self.stock, *self.candidates):
            if candidate.key == key:
                return candidate
        names = ", ".join(c.key for c in (self.stock, *self.candidates))
        raise InputError("plate", key, f"one of {names}", f"there is no plate “{key}” in this job")

    def counted(self, candidate: Candidate) -> dict[str, int]:
        """What was counted of a candidate's kit, by line."""
        found = {c.line: c.counted for c in self.counts if c.plate == candidate.key}
        return {line.key: found[line.key] for line in candidate.kit if line.key in found}

    @property
    def in_hand(self) -> Candidate:
        """The picked plate; before a pick the one being weighed, else the first, else stock."""
        key = self.picked or self.weighing
        if key:
            return self.candidate(key)
        return self.candidate((self.candidates[0] if self.candidates else self.stock).key)

    def mount_of(self, joint: Joint) -> Mount | None:
        """The mount a joint hangs on, if it names one."""
        return self.bike.mount(joint.mount)

    def with_candidate(self, candidate: Candidate) -> Job:
        """The job with one candidate exchanged for its newer self."""
        if candidate.key == self.stock.key:
            return replace(self, stock=candidate)
        return replace(
            self,
            candidates=tuple(candidate if c.key == candidate.key else c for c in self.candidates),
        )


def on_bike(candidate: Candidate, bike: Bike) -> Candidate:
    """The candidate with what applies on this bike, and in each joint the part that is in it."""
    return _as_it_stands(_with_traits(candidate, traits_of(bike)))


@lru_cache(maxsize=256)
def _as_it_stands(candidate: Candidate) -> Candidate:
    """Substitutes in their joints; everything that is judged of them judges these."""
    if all(sub.paid for sub in candidate.substitutes):
        return candidate
    return replace(candidate, joints=_with_substitutes(candidate))


def _with_substitutes(candidate: Candidate) -> tuple[Joint, ...]:
    joints = []
    for joint in candidate.joints:
        for sub in candidate.substitutes:
            joint = with_substitute(joint, sub)
        joints.append(joint)
    return tuple(joints)


def _of_set(joints: tuple[Joint, ...], chosen: str) -> tuple[Joint, ...]:
    """Joints of the chosen set of holes and of none; all where no joint belongs to that set."""
    if not any(chosen and joint.hole_set == chosen for joint in joints):
        return joints
    return tuple(joint for joint in joints if joint.hole_set in ("", chosen))


@lru_cache(maxsize=256)
def _with_traits(candidate: Candidate, bike: Traits) -> Candidate:
    joints = tuple(
        replace(
            joint,
            layers=tuple(
                layer if applies(layer.when, bike) else replace(layer, left_out=True)
                for layer in joint.layers
            ),
        )
        for joint in candidate.joints
        if applies(joint.when, bike)
    )
    joints = _of_set(joints, candidate.hole_set)
    kit = tuple(line for line in candidate.kit if applies(line.when, bike))
    if joints == candidate.joints and kit == candidate.kit:
        return candidate
    return replace(candidate, joints=joints, kit=kit)


def check_mount(joint: Joint, bike: Bike) -> None:
    """A joint must name a mount of this bike with its own thread, or bring a female part."""
    if joint.female is not None:
        return
    mount = bike.mount(joint.mount)
    if mount is None:
        raise InputError(
            f"joints.{joint.key}.mount",
            joint.mount,
            "one of " + ", ".join(m.key for m in bike.mounts),
            f"joint {joint.number} hangs on a mount this bike does not have",
        )
    if mount.thread != joint.thread:
        raise InputError(
            f"joints.{joint.key}.thread",
            joint.thread,
            mount.thread,
            f"joint {joint.number} is {joint.thread}, its mount {mount.number} is {mount.thread}",
        )


@dataclass(frozen=True)
class MountedJoint:
    """A joint with the mount it hangs on (None: its own thread) and its place on the bike, mm.

    One of the bench may have no place of its own, and then stands for show in the middle of what
    it holds. ``rank``: when it is torqued, ``start_rank``: when it is started, 0 first; None: no
    order was chosen.
    What is judged of joints depends on this and on nothing else of the bike.
    """

    joint: Joint
    mount: Mount | None
    x_mm: float
    y_mm: float
    rank: int | None = None
    start_rank: int | None = None

    @property
    def is_placed(self) -> bool:
        """Whether its place was said: on the bike always, of the bench where it is entered."""
        said = self.joint.x_mm is not None and self.joint.y_mm is not None
        return self.joint.is_to_bike or said

    @property
    def is_in_sheet(self) -> bool:
        """Whether it goes through the plate's own sheet at a place that was said."""
        return self.joint.clamps_plate and self.is_placed


@lru_cache(maxsize=256)
def mounted(bike: Bike, candidate: Candidate) -> tuple[MountedJoint, ...]:
    """The joints of a candidate by number, each on its mount."""
    ranks = {key: rank for rank, key in enumerate(candidate.order)}
    starts = {key: rank for rank, key in enumerate(candidate.starts)}
    return tuple(
        MountedJoint(
            joint,
            bike.mount(joint.mount),
            *(place_of(bike, joint) or _middle(candidate.plate, joint)),
            rank=ranks.get(joint.key),
            start_rank=starts.get(joint.key),
        )
        for joint in candidate.settled_joints()
    )


def _middle(plate: Plate, joint: Joint) -> tuple[float, float]:
    """Middle of the piece that a joint of the bench joins, or of the plate's belly, mm."""
    piece = next((p for p in plate.pieces if p.key == joint.joins), None)
    if piece is not None:
        return piece.x_mm + piece.length_mm / 2, piece.y_mm
    return plate.belly.start_x_mm + plate.belly.length_mm / 2, 0.0


def place_of(bike: Bike, joint: Joint) -> tuple[float, float] | None:
    """Where a joint is, mm: its own place, else its mount's; None: of the bench, nobody said.

    Raises InputError for a joint on the bike without a place.
    """
    mount = bike.mount(joint.mount)
    if joint.x_mm is not None and joint.y_mm is not None:
        return joint.x_mm, joint.y_mm
    if mount is None and not joint.is_to_bike:
        return None
    if mount is None:
        raise InputError(f"joints.{joint.key}.x_mm", None, "a place on the bike")
    return mount.x_mm, mount.y_mm
