"""Drawing a plate home: gaps, the order of closing, what each screw pulls and what it eats."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Annotated

import numpy as np
from numpy.typing import NDArray

from rugged_shield.core.computation import computation
from rugged_shield.core.errors import InputError
from rugged_shield.core.quantity import Range, Ranged
from rugged_shield.core.result import Input, Outcome, Source

DRAW_UP_SOURCE = Source(
    "least energy of the plate's stiffness condensed to its mounts, contact one-sided", "medium"
)
MAX_MOUNTS = 14
EXACT_MOUNTS = 8
PITCHES_TO_START = 2.0
_SOFT = 1e-9
"""Share of the stiffest entry with which a plate that may float freely is held where it lies."""


@dataclass(frozen=True, kw_only=True)
class DrawnMount(Ranged):
    """One mount: its gap as the plate hangs held up lightly by hand, and its screw, mm and N.

    ``screw_reach_mm`` is how far the screw stands past the face it has to reach.
    """

    name: str
    gap_mm: Annotated[float, Range(-20.0, 60.0, "mm")]
    screw_reach_mm: Annotated[float, Range(0.0, 120.0, "mm")]
    pitch_mm: Annotated[float, Range(0.2, 5.0, "mm")]
    preload_n: Annotated[float, Range(1.0, 200_000.0, "N")]
    x_mm: Annotated[float, Range(-3000.0, 3000.0, "mm")] = 0.0
    y_mm: Annotated[float, Range(-3000.0, 3000.0, "mm")] = 0.0


@dataclass(frozen=True, kw_only=True)
class DrawUpInput(Ranged):
    """Mounts, the plate's stiffness between them (N/mm, symmetric), the order; hand force N.

    ``order`` empty: the best one is used.
    """

    mounts: tuple[DrawnMount, ...]
    stiffness_n_per_mm: tuple[tuple[float, ...], ...]
    order: tuple[str, ...] = ()
    hand_force_n: Annotated[float, Range(0.0, 500.0, "N")] = 1.0

    def __post_init__(self) -> None:
        super().__post_init__()
        n = len(self.mounts)
        if not 1 <= n <= MAX_MOUNTS:
            raise InputError("mounts", n, f"1 to {MAX_MOUNTS} mounts")
        names = [m.name for m in self.mounts]
        if len(set(names)) != n:
            raise InputError("mounts", ", ".join(names), "each name once")
        if len(self.stiffness_n_per_mm) != n or any(len(r) != n for r in self.stiffness_n_per_mm):
            raise InputError("stiffness_n_per_mm", "", f"{n} rows of {n} numbers")
        k = np.array(self.stiffness_n_per_mm, dtype=np.float64)
        if not np.isfinite(k).all() or not np.allclose(k, k.T, rtol=1e-6, atol=1e-6):
            raise InputError("stiffness_n_per_mm", "", "finite numbers, the same either way")
        if np.linalg.eigvalsh(k).min() < -1e-6 * max(1.0, float(np.abs(k).max())):
            raise InputError("stiffness_n_per_mm", "", "a stiffness that gives no energy away")
        if self.order and sorted(self.order) != sorted(names):
            raise InputError("order", ", ".join(self.order), "each of " + ", ".join(names))


@dataclass(frozen=True, kw_only=True)
class DrawStep:
    """One screw at its turn: the gap before it, mm, whether it starts, what it pulls then, N."""

    name: str
    gap_before_mm: float
    starts: bool
    force_n: float


@dataclass(frozen=True, kw_only=True)
class Shim:
    """The shim that helps most: at which mount, how thick mm, and what is left to eat at most."""

    name: str
    thickness_mm: float
    eaten_share: float


@dataclass(frozen=True, kw_only=True)
class DrawUpResult:
    """Steps in the order asked for; forces at the end N and the share of preload they eat.

    ``best_order``: in which most screws start and the closing pulls eat least.
    """

    steps: tuple[DrawStep, ...]
    forces_n: tuple[float, ...]
    eaten_share: tuple[float, ...]
    all_start: bool
    best_order: tuple[str, ...]
    best_starts: bool
    shim: Shim | None


@dataclass(frozen=True)
class _Plate:
    """The condensed plate over its mounts, and what is remembered of sets of closed ones."""

    k: NDArray[np.float64]
    gaps: NDArray[np.float64]
    hand_n: float
    known: dict[frozenset[int], NDArray[np.float64]] = field(default_factory=dict)

    def rest(self, closed: frozenset[int]) -> NDArray[np.float64]:
        """Where the plate lies with these closed, mm; worked out once for each set."""
        if closed not in self.known:
            self.known[closed] = self._rest(closed)
        return self.known[closed]

    def _rest(self, closed: frozenset[int]) -> NDArray[np.float64]:
        """Where the plate lies, mm: on its gap where closed, at or below it elsewhere.

        Before the first one is closed it hangs as its gaps were measured.
        Least energy by an active set: what a face pushes at is held there, what it would have to
        pull is let go.
        """
        n = len(self.gaps)
        if not closed:
            return np.zeros(n)
        soft = _SOFT * max(1.0, float(np.abs(self.k).max()))
        k = self.k + soft * np.eye(n)
        load = self.hand_n * np.ones(n) + soft * self.gaps
        held = set(range(n))
        u = self.gaps.copy()
        for _ in range(20 * n + 20):
            free = [i for i in range(n) if i not in held]
            if free:
                u = self._towards(k, load, u, free, held)
                if any(u[i] > self.gaps[i] - 1e-12 and i in held for i in free):
                    continue
            pull = k @ u - load
            loose = [i for i in held - closed if pull[i] > 1e-9]
            if not loose:
                return u
            held.discard(max(loose, key=lambda i: pull[i]))
        return u

    def _towards(
        self,
        k: NDArray[np.float64],
        load: NDArray[np.float64],
        u: NDArray[np.float64],
        free: list[int],
        held: set[int],
    ) -> NDArray[np.float64]:
        """A step to the least energy of the free ones; who meets its face on the way is held."""
        fixed = [i for i in range(len(u)) if i not in free]
        goal = np.linalg.solve(
            k[np.ix_(free, free)], load[free] - k[np.ix_(free, fixed)] @ self.gaps[fixed]
        )
        step = goal - u[free]
        room = self.gaps[free] - u[free]
        shares = np.where(step > 1e-15, np.maximum(room, 0.0) / np.maximum(step, 1e-15), np.inf)
        share = min(1.0, float(shares.min()))
        out = u.copy()
        out[free] = u[free] + share * step
        if share < 1.0:
            met = free[int(np.argmin(shares))]
            out[met] = self.gaps[met]
            held.add(met)
        return out


def _steps(given: DrawUpInput, plate: _Plate, order: tuple[int, ...]) -> tuple[DrawStep, ...]:
    out = []
    closed: frozenset[int] = frozenset()
    for i in order:
        out.append(_step(given, plate, closed, i))
        closed |= {i}
    return tuple(out)


def _step(given: DrawUpInput, plate: _Plate, closed: frozenset[int], i: int) -> DrawStep:
    mount = given.mounts[i]
    gap = max(0.0, float(plate.gaps[i] - plate.rest(closed)[i]))
    after = plate.rest(closed | {i})
    force = float((plate.k @ after)[i] - plate.hand_n)
    starts = mount.screw_reach_mm - gap >= PITCHES_TO_START * mount.pitch_mm
    return DrawStep(name=mount.name, gap_before_mm=gap, starts=bool(starts), force_n=force)


def _cost(given: DrawUpInput, step: DrawStep, i: int) -> tuple[int, float]:
    return int(not step.starts), max(0.0, step.force_n) / given.mounts[i].preload_n


def _best_order(given: DrawUpInput, plate: _Plate) -> tuple[int, ...]:
    """Every screw starts, and what they pull at their turns eats least.

    Up to eight mounts exactly (over the sets that are closed), above by exchanging two at a time.
    """
    n = len(given.mounts)
    if n > EXACT_MOUNTS:
        return _by_exchange(given, plate)
    best: dict[frozenset[int], tuple[tuple[int, float], tuple[int, ...]]] = {
        frozenset(): ((0, 0.0), ())
    }
    for size in range(n):
        for closed in [s for s in best if len(s) == size]:
            (lost, eaten), order = best[closed]
            for i in set(range(n)) - closed:
                more, share = _cost(given, _step(given, plate, closed, i), i)
                found = ((lost + more, eaten + share), (*order, i))
                key = closed | {i}
                if key not in best or found < best[key]:
                    best[key] = found
    return best[frozenset(range(n))][1]


def _total(given: DrawUpInput, plate: _Plate, order: tuple[int, ...]) -> tuple[int, float]:
    costs = [
        _cost(given, step, i) for step, i in zip(_steps(given, plate, order), order, strict=True)
    ]
    return sum(c[0] for c in costs), sum(c[1] for c in costs)


def _by_exchange(given: DrawUpInput, plate: _Plate) -> tuple[int, ...]:
    """From crisscross: exchange two places as long as it helps."""
    order = _crisscross(given)
    best = _total(given, plate, order)
    improved = True
    while improved:
        improved = False
        for a in range(len(order)):
            for b in range(a + 1, len(order)):
                tried = list(order)
                tried[a], tried[b] = tried[b], tried[a]
                cost = _total(given, plate, tuple(tried))
                if cost < best:
                    order, best, improved = tuple(tried), cost, True
    return order


def _crisscross(given: DrawUpInput) -> tuple[int, ...]:
    """Opposite ones in turn: each next one is the farthest from the last."""
    left = list(range(len(given.mounts)))
    order = [left.pop(0)]
    while left:
        last = given.mounts[order[-1]]
        far = max(
            left,
            key=lambda i: np.hypot(
                given.mounts[i].x_mm - last.x_mm, given.mounts[i].y_mm - last.y_mm
            ),
        )
        left.remove(far)
        order.append(far)
    return tuple(order)


def _eaten(given: DrawUpInput, forces: NDArray[np.float64]) -> tuple[float, ...]:
    return tuple(
        max(0.0, float(f)) / m.preload_n for f, m in zip(forces, given.mounts, strict=True)
    )


def _shim(given: DrawUpInput, plate: _Plate) -> Shim | None:
    """One shim that lowers the greatest share most: as thick as takes its own pull away."""
    forces = plate.k @ plate.gaps
    before = max(_eaten(given, forces))
    best: Shim | None = None
    for i, mount in enumerate(given.mounts):
        if forces[i] <= 0 or plate.k[i, i] <= 0 or mount.gap_mm <= 0:
            continue
        thick = min(mount.gap_mm, float(forces[i] / plate.k[i, i]))
        gaps = plate.gaps.copy()
        gaps[i] -= thick
        left = max(_eaten(given, plate.k @ gaps))
        if left < before * 0.98 and (best is None or left < best.eaten_share):
            best = Shim(name=mount.name, thickness_mm=thick, eaten_share=left)
    return best


@computation("draw-up", page="draw-up", check="draw-up-01")
def draw_up(given: DrawUpInput) -> Outcome[DrawUpResult]:
    """What closing a plate's gaps in an order takes, and the order that takes least.

    With the set S closed the plate takes the least of ½uᵀKu − hΣu with u = g on S and u ≤ g
    elsewhere. Raises InputError for a stiffness that is none.
    """
    plate = _Plate(
        k=np.array(given.stiffness_n_per_mm, dtype=np.float64),
        gaps=np.array([m.gap_mm for m in given.mounts]),
        hand_n=given.hand_force_n,
    )
    names = [m.name for m in given.mounts]
    best = _best_order(given, plate)
    order = tuple(names.index(n) for n in given.order) if given.order else best
    steps = _steps(given, plate, order)
    forces = plate.k @ plate.gaps
    return Outcome(
        result=DrawUpResult(
            steps=steps,
            forces_n=tuple(float(f) for f in forces),
            eaten_share=_eaten(given, forces),
            all_start=all(s.starts for s in steps),
            best_order=tuple(names[i] for i in best),
            best_starts=all(s.starts for s in _steps(given, plate, best)),
            shim=_shim(given, plate),
        ),
        inputs=(
            Input("Mounts", len(given.mounts)),
            Input("Held up at each mount with", given.hand_force_n, "N"),
        ),
        reasons=("A face stops the plate and never pulls it; a screw pulls it to its face.",),
        assumptions=("Gaps were measured with the plate held up lightly.", "The mounts are stiff."),
        sources=(DRAW_UP_SOURCE,),
    )
