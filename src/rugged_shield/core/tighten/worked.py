"""A joint's torque worked out: its limits, its sources, the target, the preload at both ends."""

from __future__ import annotations

import math
from dataclasses import dataclass

from rugged_shield.core.fitup.bearing import BearingFace
from rugged_shield.core.fitup.joint import Joint, female_of
from rugged_shield.core.fitup.seat import seat_of
from rugged_shield.core.fitup.stack_model import StackResult
from rugged_shield.core.mechanics import threads
from rugged_shield.core.mechanics.preload import torque_per_preload_mm
from rugged_shield.core.result import Outcome
from rugged_shield.core.survey.bike import Mount
from rugged_shield.core.tables.friction import Condition, condition_of, wrench_error
from rugged_shield.core.tables.hardware import LOCKING_NUTS, PREVAILING_MAX_NM
from rugged_shield.core.tables.heads import HEADS
from rugged_shield.core.tables.ratings import NUT_PROOF_MPA, RECESS_NM, THIN_NUT_NAMES, THIN_NUT_NM
from rugged_shield.core.tables.thread_materials import THREAD_MATERIALS
from rugged_shield.core.tighten.faces import counted_grade, rotating_face, weakest_face
from rugged_shield.core.tighten.limits import LimitInput, LimitResult, torque_limit
from rugged_shield.core.tighten.torque_sources import TorqueSource, lubricant_factor, sources_of

APP_UTILISATION = 0.75
YIELD_SHARE = 0.90
"""Share of the screw's yield that the most preload may reach (VDI 2230-1, 5.4.3)."""


def _limit_input(
    joint: Joint, mount: Mount | None, stack: StackResult, condition: Condition
) -> tuple[LimitInput, BearingFace | None]:
    """Input of the limits, and the face that yields first."""
    _, material = female_of(joint, mount)
    grade = threads.grade_of(counted_grade(joint))
    bearing, hole = rotating_face(joint)
    cone = math.sin(math.radians(45)) if joint.is_countersunk and not joint.turns_nut else 1.0
    held = stack.evaluations[0].engagement_effective_worst_mm if stack.evaluations else 0.0
    face = weakest_face(joint, mount)
    seat = seat_of(joint, mount)
    if seat is not None:  # what can strip is the thread that the stud itself sits in
        held, material = seat.held_mm or 0.0, seat.material
    strips = held > 0 and (seat is not None or not joint.nut)
    mu_head = min(0.6, condition.mu / cone)
    geometry = threads.geometry_of(joint.thread)
    k_mm = torque_per_preload_mm(geometry, (bearing + hole) / 2, condition.mu, mu_head)
    rated = {name: nm * 1000 / k_mm for name, nm in ratings_nm(joint, mount).items()}
    if joint.nut and joint.nut_class:
        rated["nut"] = NUT_PROOF_MPA[joint.nut_class] * geometry.stress_area_mm2
    return LimitInput(
        thread=joint.thread,
        bolt_rp02_mpa=grade.rp02_mpa,
        head_bearing_diameter_mm=bearing,
        head_bearing_hole_mm=hole,
        mu_thread=condition.mu,
        mu_head=mu_head,
        utilisation=APP_UTILISATION,
        engagement_effective_mm=held if strips else None,
        female_shear_strength_mpa=THREAD_MATERIALS[material].shear_strength_mpa if strips else None,
        clamped_bearing_outer_mm=face.outer_mm if face else None,
        clamped_bearing_inner_mm=face.inner_mm if face else None,
        bearing_pressure_limit_mpa=face.limit_mpa if face else None,
        prevailing_torque_nm=_prevailing_nm(joint),
        loadability=HEADS[joint.head].loadability,
        other_limits_n=rated,
    ), face


def ratings_nm(joint: Joint, mount: Mount | None) -> dict[str, float]:
    """What the recess and a nut held by thin sheet bear of torque, by name, N·m.

    The recess counts where the head is turned; a nut of a size that no rating is known for, and a
    recess that is not in the table, set no limit.
    """
    size = threads.nominal_size(joint.thread)
    found = {}
    if not joint.turns_nut:
        recess = RECESS_NM.get(threads.head_of(joint.head, joint.thread).drive_size)
        if recess is not None:
            found["recess"] = recess
    female, _ = female_of(joint, mount)
    nut = THIN_NUT_NM.get(female.kind, {}).get(size)
    if nut is not None:
        found[THIN_NUT_NAMES[female.kind]] = nut
    return found


def _prevailing_nm(joint: Joint) -> float:
    if joint.nut in LOCKING_NUTS:
        return PREVAILING_MAX_NM[threads.nominal_size(joint.thread)]
    return 0.0


@dataclass(frozen=True, kw_only=True)
class Worked:
    """What the card is made of: limits, sources and the target that follows."""

    joint: Joint
    condition: Condition
    given: LimitInput
    weakest: BearingFace | None
    limits: Outcome[LimitResult]
    sources: tuple[TorqueSource, ...]
    factor: float
    wanted_nm: float
    target_nm: float
    preload_n: tuple[float, float]
    wrench_max_nm: float

    @property
    def error(self) -> float:
        """Relative error of the wrench at the target."""
        return wrench_error(self.target_nm, self.wrench_max_nm)

    @property
    def yield_share(self) -> float:
        """Most preload over the preload at yield."""
        bolt = self.limits.result.preload_limits_n["bolt"]
        return self.preload_n[1] * APP_UTILISATION / bolt

    @property
    def strip_share(self) -> float:
        """Most preload over the strip load of the female thread."""
        allowed = self.limits.result.preload_limits_n.get("female thread strip", math.inf)
        return self.preload_n[1] / (allowed * self.given.strip_safety_factor)

    @property
    def rated_share(self) -> tuple[float, str]:
        """Most preload over the least rating of recess and nut, and whose it is; 0 for none."""
        rated = self.given.other_limits_n
        name = min(rated, key=rated.__getitem__, default="")
        return (self.preload_n[1] / rated[name], name) if name else (0.0, "")

    @property
    def decided_by(self) -> str:
        """Which of the figures decides, as it is called."""
        return next(s.label for s in self.sources if s.decides)

    @property
    def stands_above(self) -> bool:
        """Whether a figure is kept above what our limits allow."""
        return self.target_nm > self.limits.result.torque_set_nm + 1e-9

    def named(self, limit: str) -> str:
        """A limit's name with the face it is about."""
        if limit != "bearing pressure" or self.weakest is None:
            return limit
        return f"bearing pressure on {self.weakest.weaker}"


def _band_within(limit_nm: float, wrench_max_nm: float) -> float:
    """The torque whose band, with the wrench's error, ends at a limit, N·m."""
    return limit_nm / (1 + wrench_error(limit_nm, wrench_max_nm))


def _safe_nm(
    joint: Joint,
    given: LimitInput,
    condition: Condition,
    limits: LimitResult,
    wrench_max_nm: float,
) -> float:
    """A target for a joint without any figure, N·m: sound at the upper end of band and scatter.

    At the least friction and the wrench's error the preload stays within 90 % of the screw's
    yield, and within what thread and face bear; the band ends within the limit.
    """
    allowed = dict(limits.preload_limits_n)
    allowed["bolt"] *= YIELD_SHARE / APP_UTILISATION
    _, most_n = _preload_band(joint, given, condition, 1.0, 0.0, 0.0)
    least = min(allowed.values()) / most_n
    return _band_within(min(limits.torque_set_nm, least), wrench_max_nm)


def _stands(source: str, joint: Joint) -> bool:
    """Whether a figure is kept even above our limit: the manual's, of the bike's own thread."""
    return source == "bike manual" and joint.thread_owner == "bike"


def work_out(joint: Joint, mount: Mount | None, stack: StackResult, wrench_max_nm: float) -> Worked:
    """Limits, sources and the target that follows from them, with its preload's band."""
    stainless = threads.grade_of(counted_grade(joint)).stainless
    condition = condition_of(joint.treatment, stainless)
    given, face = _limit_input(joint, mount, stack, condition)
    limits = torque_limit(given)
    most = limits.result.torque_set_nm
    factors = {
        s: lubricant_factor(joint, given, condition, s) for s in ("bike manual", "plate sheet")
    }
    sources = sources_of(joint, mount, factors, most)
    deciding = next(s for s in sources if s.decides)
    safe = _safe_nm(joint, given, condition, limits.result, wrench_max_nm)
    wanted = (
        safe
        if deciding.torque_nm is None or deciding.key == "computed limit"
        else (deciding.torque_nm)
    )
    target = (
        wanted if _stands(deciding.key, joint) else min(wanted, _band_within(most, wrench_max_nm))
    )
    band = _preload_band(
        joint,
        given,
        condition,
        target,
        wrench_error(target, wrench_max_nm),
        given.prevailing_torque_nm,
    )
    return Worked(
        joint=joint,
        condition=condition,
        given=given,
        weakest=face,
        limits=limits,
        sources=sources,
        factor=factors.get(deciding.key, 1.0),
        wanted_nm=wanted,
        target_nm=target,
        preload_n=band,
        wrench_max_nm=wrench_max_nm,
    )


def _preload_band(
    joint: Joint,
    given: LimitInput,
    condition: Condition,
    target: float,
    error: float,
    prevailing: float,
) -> tuple[float, float]:
    """Least and most preload N for this set torque, wrench and friction scattering."""
    geo = threads.geometry_of(joint.thread)
    d_km = (given.head_bearing_diameter_mm + given.head_bearing_hole_mm) / 2
    cone = given.mu_head / given.mu_thread
    slick = torque_per_preload_mm(geo, d_km, condition.mu_min, condition.mu_min * cone)
    rough = torque_per_preload_mm(geo, d_km, condition.mu_max, condition.mu_max * cone)
    least = max(0.0, target * (1 - error) - prevailing) * 1000 / rough
    return least, target * (1 + error) * 1000 / slick
