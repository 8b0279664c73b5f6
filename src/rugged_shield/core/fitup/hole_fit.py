"""Whether every screw starts: a plate's holes over their mounts, shifted and turned, or opened."""

from __future__ import annotations

import itertools
import math
from dataclasses import dataclass, replace
from typing import Annotated, Any

import numpy as np
from numpy.typing import NDArray

from rugged_shield.core.computation import computation
from rugged_shield.core.errors import InputError
from rugged_shield.core.quantity import Range, Ranged
from rugged_shield.core.result import Input, Outcome, Source

HOLE_FIT_SOURCE = Source(
    "greatest least margin of a plate moved as a stiff body; circles by cutting planes "
    "(Kelley 1960) on a linear programme (HiGHS)",
    "high",
)
MAX_HOLES = 40
CONVERGED_MM, OPENED_MM = 1e-6, 1e-5
"""Exact margin and that of the planes differ by no more than this at the end; and an opening's."""
_ROUNDS = 60
_FIRST_WAYS = 8
_MOST_MM = 50.0
_MOST_RAD = 0.2

Place = Annotated[float, Range(-3000.0, 3000.0, "mm")]
Offset = Annotated[float, Range(-50.0, 50.0, "mm")]
Travel = Annotated[float, Range(0.0, 100.0, "mm")]
Angle = Annotated[float, Range(-360.0, 360.0, "°")]


@dataclass(frozen=True, kw_only=True)
class PlateHole(Ranged):
    """One hole in the hole plane, mm: x to the right, y forward; its screw is off by dx, dy.

    ``radial_clearance_mm`` is (hole − screw)/2. A slot lets the screw lie anywhere on a segment;
    an adjustable bracket moves its screw. Holes with the same ``bracket`` move with it together.
    """

    name: str
    x_mm: Place
    y_mm: Place
    radial_clearance_mm: Annotated[float, Range(-5.0, 30.0, "mm")]
    dx_mm: Offset = 0.0
    dy_mm: Offset = 0.0
    slot_half_travel_mm: Travel = 0.0
    slot_angle_deg: Angle = 0.0
    bracket_half_travel_mm: Travel = 0.0
    bracket_angle_deg: Angle = 0.0
    bracket: str = ""


@dataclass(frozen=True, kw_only=True)
class Growth(Ranged):
    """How plate and frame grow: expansion per K, change of temperature K, where it is held, mm."""

    alpha_plate_per_k: Annotated[float, Range(0.0, 5e-4)]
    alpha_frame_per_k: Annotated[float, Range(0.0, 5e-4)]
    dt_k: Annotated[float, Range(-150.0, 250.0, "K")]
    datum_x_mm: Place = 0.0
    datum_y_mm: Place = 0.0


@dataclass(frozen=True, kw_only=True)
class HoleFitInput(Ranged):
    """The holes of one plate, the point it turns about (mm), and how far it has grown."""

    holes: tuple[PlateHole, ...]
    origin_x_mm: Place = 0.0
    origin_y_mm: Place = 0.0
    thermal: Growth | None = None

    def __post_init__(self) -> None:
        super().__post_init__()
        if not 1 <= len(self.holes) <= MAX_HOLES:
            raise InputError("holes", len(self.holes), f"1 to {MAX_HOLES} holes")
        names = [h.name for h in self.holes]
        if len(set(names)) != len(names):
            raise InputError("holes", ", ".join(names), "each name once")


@dataclass(frozen=True, kw_only=True)
class Opening:
    """Holes to open so that all screws start: extra diameter mm, and the way of each, degrees."""

    names: tuple[str, ...]
    diameters_mm: tuple[float, ...]
    ways_deg: tuple[float, ...]


@dataclass(frozen=True, kw_only=True)
class HoleFitResult:
    """The best least margin, mm, and the motion that gives it (mm, rad); each hole's own margin.

    ``left_mm``: where each screw then stands in its hole.
    ``open_…``: where it does not fit, the hole whose opening needs least, and what each alone
    would need (None: it does not help). ``open_pair`` only where no single one helps.
    """

    fits: bool
    margin_mm: float
    tx_mm: float
    ty_mm: float
    theta_rad: float
    margins_mm: tuple[float, ...]
    left_mm: tuple[tuple[float, float], ...]
    bracket_travel_mm: tuple[float, ...]
    effective_offsets_mm: tuple[tuple[float, float], ...]
    open_hole_name: str | None
    open_diameter_mm: float | None
    open_diameter_by_hole_mm: tuple[float | None, ...]
    open_way_by_hole_deg: tuple[float | None, ...]
    open_way_deg: float | None
    open_pair: Opening | None


def _offsets(given: HoleFitInput) -> NDArray[np.float64]:
    """Offset of each screw from its hole, mm, after growth: holes of a hot plate move outward."""
    off = np.array([[h.dx_mm, h.dy_mm] for h in given.holes])
    heat = given.thermal
    if heat is None:
        return off
    grown = (heat.alpha_plate_per_k - heat.alpha_frame_per_k) * heat.dt_k
    places = np.array([[h.x_mm, h.y_mm] for h in given.holes])
    moved: NDArray[np.float64] = off - grown * (places - [heat.datum_x_mm, heat.datum_y_mm])
    return moved


@dataclass(frozen=True)
class _Model:
    """Residual of each hole as an affine map of the motion: r_i = c_i + A_i x; bounds of x."""

    start: NDArray[np.float64]
    maps: NDArray[np.float64]
    bounds: tuple[tuple[float, float], ...]
    clearance: NDArray[np.float64]
    scale_mm: float
    slides: tuple[str, ...]

    def residuals(self, x: NDArray[np.float64]) -> NDArray[np.float64]:
        moved: NDArray[np.float64] = self.start + self.maps @ x
        return moved


def _unit(angle_deg: float) -> NDArray[np.float64]:
    turn = math.radians(angle_deg)
    return np.array([math.cos(turn), math.sin(turn)])


def _model(given: HoleFitInput) -> _Model:
    """Unknowns: shift, turn (times a length, so that all are millimetres), brackets, slots."""
    holes = given.holes
    places = np.array([[h.x_mm - given.origin_x_mm, h.y_mm - given.origin_y_mm] for h in holes])
    scale = max(50.0, float(np.abs(places).max()))
    columns: list[NDArray[np.float64]] = []
    bounds = [(-_MOST_MM, _MOST_MM)] * 2 + [(-_MOST_RAD * scale, _MOST_RAD * scale)]
    for axis in (0, 1):
        column = np.zeros((len(holes), 2))
        column[:, axis] = -1.0
        columns.append(column)
    columns.append(np.stack([places[:, 1], -places[:, 0]], axis=1) / scale)
    slides: list[str] = []
    for i, h in enumerate(holes):
        if h.bracket_half_travel_mm:
            name = h.bracket or f"of {h.name}"
            column = np.zeros((len(holes), 2))
            if name in slides:
                columns[3 + slides.index(name)][i] = _unit(h.bracket_angle_deg)
                continue
            column[i] = _unit(h.bracket_angle_deg)
            slides.append(name)
            columns.append(column)
            bounds.append((-h.bracket_half_travel_mm, h.bracket_half_travel_mm))
    for i, h in enumerate(holes):
        if h.slot_half_travel_mm:
            column = np.zeros((len(holes), 2))
            column[i] = -_unit(h.slot_angle_deg)
            columns.append(column)
            bounds.append((-h.slot_half_travel_mm, h.slot_half_travel_mm))
    return _Model(
        start=_offsets(given),
        maps=np.stack(columns, axis=2),
        bounds=tuple(bounds),
        clearance=np.array([h.radial_clearance_mm for h in holes]),
        scale_mm=scale,
        slides=tuple(slides),
    )


@dataclass
class _Cuts:
    """Half-planes that hold a residual within its circle; more are added where it leaves it."""

    holes: list[int]
    normals: list[NDArray[np.float64]]

    @classmethod
    def first(cls, count: int) -> _Cuts:
        """Eight ways around every hole."""
        ways = [_unit(360.0 * k / _FIRST_WAYS) for k in range(_FIRST_WAYS)]
        holes = [i for i in range(count) for _ in ways]
        return cls(holes, [way for _ in range(count) for way in ways])

    def touch(self, residuals: NDArray[np.float64]) -> None:
        """A plane for each hole, square to where its screw now lies."""
        lengths = np.hypot(residuals[:, 0], residuals[:, 1])
        for i in np.nonzero(lengths > 1e-12)[0]:
            self.holes.append(int(i))
            self.normals.append(residuals[i] / lengths[i])


def _solve(
    model: _Model, cuts: _Cuts, cost: NDArray[np.float64], extra: NDArray[np.float64], bounds: Any
) -> NDArray[np.float64] | None:
    """One linear programme: motion x and extra unknowns e with n·r_i + extra_i·e ≤ c_i."""
    rows = np.array(cuts.holes)
    normals = np.array(cuts.normals)
    a = np.hstack([np.einsum("kd,kdv->kv", normals, model.maps[rows]), extra[rows]])
    b = model.clearance[rows] - np.einsum("kd,kd->k", normals, model.start[rows])
    low, high = np.array(bounds).T
    from scipy.optimize import Bounds, LinearConstraint, milp  # late, as everywhere

    found = milp(
        cost,
        constraints=LinearConstraint(a, -np.inf, b),
        bounds=Bounds(low, high),
        options={"presolve": False},
    )
    return None if found.x is None else np.asarray(found.x)


def _best_margin(model: _Model) -> tuple[NDArray[np.float64], float, _Cuts]:
    """The motion with the greatest least margin, that margin, mm, and the planes that held it."""
    n, unknowns = len(model.start), model.maps.shape[2]
    cuts = _Cuts.first(n)
    cost = np.append(np.zeros(unknowns), -1.0)
    bounds = [*model.bounds, (-1e3, 1e3)]
    best_x, best = np.zeros(unknowns), -math.inf
    for _ in range(_ROUNDS):
        found = _solve(model, cuts, cost, np.ones((n, 1)), bounds)
        if found is None:
            raise InputError("holes", n, "offsets within the travel of the plate")
        x, upper = found[:unknowns], float(found[-1])
        residuals = model.residuals(x)
        exact = float((model.clearance - np.hypot(residuals[:, 0], residuals[:, 1])).min())
        if exact > best:
            best_x, best = x, exact
        if upper - best < CONVERGED_MM:
            break
        cuts.touch(residuals)
    return best_x, best, cuts


def _least_opening(model: _Model, which: tuple[int, ...], known: _Cuts) -> Opening | None:
    """The least extra radius in these holes together with which all fit; None: it never does.

    ``known``: planes to begin with; they hold whatever is opened.
    """
    n, unknowns = len(model.start), model.maps.shape[2]
    cuts = _Cuts(list(known.holes), list(known.normals))
    extra = np.zeros((n, len(which)))
    for column, i in enumerate(which):
        extra[i, column] = -1.0
    cost = np.append(np.zeros(unknowns), np.ones(len(which)))
    bounds = [*model.bounds, *[(0.0, 100.0)] * len(which)]
    for _ in range(_ROUNDS):
        found = _solve(model, cuts, cost, extra, bounds)
        if found is None:
            return None
        radii = found[unknowns:]
        residuals = model.residuals(found[:unknowns])
        room = model.clearance - extra @ radii - np.hypot(residuals[:, 0], residuals[:, 1])
        if room.min() > -OPENED_MM:
            break
        cuts.touch(residuals)
    ways = tuple(math.degrees(math.atan2(residuals[i, 1], residuals[i, 0])) % 360.0 for i in which)
    return Opening(names=(), diameters_mm=tuple(2.0 * r for r in radii), ways_deg=ways)


def _named(opening: Opening | None, names: tuple[str, ...]) -> Opening | None:
    return None if opening is None else replace(opening, names=names)


def _openings(
    given: HoleFitInput, model: _Model, cuts: _Cuts
) -> tuple[tuple[Opening | None, ...], Opening | None]:
    """What each hole alone would need; and the pair that needs least where none alone helps."""
    singles = tuple(
        _named(_least_opening(model, (i,), cuts), (h.name,)) for i, h in enumerate(given.holes)
    )
    if any(s is not None for s in singles):
        return singles, None
    pairs = (
        _named(_least_opening(model, (i, j), cuts), (a.name, b.name))
        for (i, a), (j, b) in itertools.combinations(enumerate(given.holes), 2)
    )
    useful = [p for p in pairs if p is not None]
    return singles, min(useful, key=lambda p: sum(p.diameters_mm), default=None)


@computation("hole-fit", page="hole-fit", check="fit-01")
def hole_fit(given: HoleFitInput, openings: bool = True) -> Outcome[HoleFitResult]:
    """Shift and turn of a plate with which its screws start with the most room, or what to open.

    ``openings`` false leaves out what to open, which takes most of the time.
    Raises InputError outside the ranges of the input. The motion need not be the only one: judge
    by the margin.
    """
    model = _model(given)
    x, margin, cuts = _best_margin(model)
    fits = margin >= 0.0
    singles: tuple[Opening | None, ...] = (None,) * len(given.holes)
    pair: Opening | None = None
    if not fits and openings:
        singles, pair = _openings(given, model, cuts)
    least = min((s for s in singles if s), key=lambda s: s.diameters_mm[0], default=None)
    residuals = model.residuals(x)
    return Outcome(
        result=HoleFitResult(
            fits=fits,
            margin_mm=margin,
            tx_mm=float(x[0]),
            ty_mm=float(x[1]),
            theta_rad=float(x[2]) / model.scale_mm,
            margins_mm=tuple(
                float(m) for m in model.clearance - np.hypot(residuals[:, 0], residuals[:, 1])
            ),
            left_mm=tuple((float(a), float(b)) for a, b in residuals),
            bracket_travel_mm=tuple(float(v) for v in x[3 : 3 + len(model.slides)]),
            effective_offsets_mm=tuple((float(a), float(b)) for a, b in model.start),
            open_hole_name=least.names[0] if least else None,
            open_diameter_mm=least.diameters_mm[0] if least else None,
            open_diameter_by_hole_mm=tuple(s.diameters_mm[0] if s else None for s in singles),
            open_way_by_hole_deg=tuple(s.ways_deg[0] if s else None for s in singles),
            open_way_deg=least.ways_deg[0] if least else None,
            open_pair=pair,
        ),
        inputs=(Input("Holes", len(given.holes)),),
        reasons=("The plate may shift and turn; what is left of each clearance is its margin.",),
        assumptions=("Small turns; slots keep their direction; the plate is stiff in its plane.",),
        sources=(HOLE_FIT_SOURCE,),
    )
