"""What a screw's stack is made of, and what is found of it: layers, sink, sleeve, lengths."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Annotated, Literal

from rugged_shield.core.amounts import entered
from rugged_shield.core.errors import InputError, choose
from rugged_shield.core.mechanics import threads
from rugged_shield.core.mechanics.female import Female, Tolerance
from rugged_shield.core.quantity import Range, Ranged, check_order
from rugged_shield.core.result import FindingCode, Source
from rugged_shield.core.tables.heads import HEADS, OTHER_HEADS

STACK_SOURCE = Source(
    "worst-case tolerance chain; ISO 4753 screw points (1P counted as lost)", "high"
)


ToleranceClass = Literal["ISO 4759-1 A js15", "ISO 4759-1 B js17"]


@dataclass(frozen=True)
class StackLayer(Ranged):
    """One clamped layer with its half tolerance, mm."""

    name: str
    thickness_mm: Annotated[float, Range(0.01, 200.0, "mm")]
    tol_mm: Tolerance = 0.0


USUAL_SINK_DEG = 90.0


@dataclass(frozen=True, kw_only=True)
class Countersink(Ranged):
    """The sink in the outermost plate; lengths mm, angle in degrees, None: nobody knows it.

    What hangs on an angle that nobody knows is reckoned as at 90°.
    """

    sink_diameter_mm: Annotated[float, Range(1.0, 80.0, "mm")]
    hole_diameter_mm: Annotated[float, Range(1.0, 60.0, "mm")]
    angle_deg: Annotated[float | None, Range(30.0, 150.0, "°")] = USUAL_SINK_DEG
    sink_diameter_tol_mm: Tolerance = 0.0
    head_below_surface_mm: Annotated[float, Range(-10.0, 20.0, "mm")] = 0.0
    head_below_surface_tol_mm: Tolerance = 0.0
    required_land_mm: Annotated[float, Range(0.0, 10.0, "mm")] = 0.5

    def __post_init__(self) -> None:
        super().__post_init__()
        check_order(
            ("hole_diameter_mm", self.hole_diameter_mm),
            ("sink_diameter_mm", self.sink_diameter_mm),
            "mm",
            "the sink must be wider than its hole",
        )


@dataclass(frozen=True)
class Sleeve(Ranged):
    """A sleeve that should carry the clamp past a soft plate, mm."""

    sleeve_length_mm: Annotated[float, Range(0.1, 200.0, "mm")]
    plate_thickness_mm: Annotated[float, Range(0.1, 200.0, "mm")]
    sleeve_length_tol_mm: Tolerance = 0.0
    plate_thickness_tol_mm: Tolerance = 0.0


@dataclass(frozen=True, kw_only=True)
class StackInput(Ranged):
    """One screw, its layers from the head on and one female thread; lengths mm.

    ``thread_length_b_mm`` None: that of the head's own standard. ``stock_lengths_mm``
    empty: the preferred ISO 888 lengths. ``point_loss_mm`` None: one pitch.
    """

    thread: str
    layers: tuple[StackLayer, ...]
    female: Female
    required_engagement_mm: Annotated[float, Range(0.0, 200.0, "mm")]
    head: str = "ISO 4762"
    diameter_mm: Annotated[float | None, Range(2.0, 40.0, "mm")] = None
    pitch_mm: Annotated[float | None, Range(0.2, 5.0, "mm")] = None
    length_includes_head: bool = False
    length_tolerance_class: ToleranceClass = "ISO 4759-1 A js15"
    thread_length_b_mm: Annotated[float | None, Range(0.0, 300.0, "mm")] = None
    fully_threaded_up_to_length_mm: Annotated[float | None, Range(0.0, 300.0, "mm")] = None
    point_loss_mm: Annotated[float | None, Range(0.0, 20.0, "mm")] = None
    required_protrusion_pitches: Annotated[float, Range(0.0, 10.0)] = 0.0
    required_bottom_margin_mm: Annotated[float, Range(0.0, 50.0, "mm")] = 0.0
    required_neighbour_gap_mm: Annotated[float, Range(0.0, 200.0, "mm")] = 0.0
    stock_lengths_mm: tuple[float, ...] = ()
    evaluate_lengths_mm: tuple[float, ...] = ()
    countersink: Countersink | None = None
    sleeve: Sleeve | None = None

    def __post_init__(self) -> None:
        super().__post_init__()
        choose("head", self.head, (*HEADS, *OTHER_HEADS), "screw head")
        row = threads.row_of(self.thread)
        for name, given, known in (
            ("diameter_mm", self.diameter_mm, row.d_mm),
            ("pitch_mm", self.pitch_mm, row.pitch_mm),
        ):
            if given is not None and abs(given - known) > 0.001:
                raise InputError(
                    name,
                    entered(given, "mm"),
                    f"{entered(known, 'mm')} for {self.thread}",
                    f"{self.thread} has another size",
                )
        if not self.layers:
            raise InputError("layers", "", "at least one layer", "nothing is clamped")
        if self.countersink and self.countersink.hole_diameter_mm < row.d_mm:
            raise InputError(
                "countersink.hole_diameter_mm",
                entered(self.countersink.hole_diameter_mm, "mm"),
                f"at least {entered(row.d_mm, 'mm')}",
                f"the hole is smaller than the {self.thread} screw",
            )
        for field in ("stock_lengths_mm", "evaluate_lengths_mm"):
            for length in getattr(self, field):
                if not (math.isfinite(length) and 1 <= length <= 180):
                    raise InputError(field, length, "lengths from 1 to 180 mm")

    @property
    def thread_mm(self) -> tuple[float | None, float | None]:
        """Thread length, and the screw's length up to which it is threaded to the head, mm."""
        if self.thread_length_b_mm is not None:
            return self.thread_length_b_mm, self.fully_threaded_up_to_length_mm
        family = HEADS.get(self.head)
        row = family.rows.get(threads.nominal_size(self.thread)) if family else None
        if row is None or not row.thread_length_b_mm:
            return None, None
        return row.thread_length_b_mm, row.fully_threaded_up_to_mm


@dataclass(frozen=True, kw_only=True)
class Evaluation:
    """One nominal length judged; lengths mm. None where it does not apply."""

    length_mm: float
    length_tol_mm: float
    reach_nominal_mm: float
    engagement_geometric_mm: float
    engagement_effective_mm: float
    engagement_effective_d: float
    engagement_effective_worst_mm: float
    bottom_margin_nominal_mm: float | None
    bottom_margin_worst_mm: float | None
    bottom_margin_rss_mm: float | None
    protrusion_nominal_mm: float | None
    protrusion_worst_min_mm: float | None
    protrusion_worst_max_mm: float | None
    neighbour_gap_nominal_mm: float | None
    neighbour_gap_worst_mm: float | None
    neighbour_gap_rss_mm: float | None
    shank_jams: bool
    countersink_land_nominal_mm: float | None
    countersink_land_worst_mm: float | None
    issues: tuple[FindingCode, ...]
    verdict: str


@dataclass(frozen=True, kw_only=True)
class StackResult:
    """The window of true lengths, the acceptable nominal ones, each length judged; mm."""

    grip_nominal_mm: float
    length_needed_min_mm: float | None
    length_allowed_max_mm: float | None
    acceptable_lengths_mm: tuple[float, ...]
    chosen_length_mm: float | None
    evaluations: tuple[Evaluation, ...]
    sleeve_float_nominal_mm: float | None
    sleeve_float_worst_min_mm: float | None
    sleeve_float_worst_max_mm: float | None
    clamp_carried_by_sleeve: bool | None
