"""Drawing a plate home: what is closed is on its face, and no order is worse than crisscross."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from rugged_shield.core.errors import InputError
from rugged_shield.core.fitup.draw_up import (
    DrawnMount,
    DrawUpInput,
    _crisscross,
    _Plate,
    _total,
    draw_up,
)

PLACES = ((-120, 150), (120, 150), (-110, -150), (110, -150), (0, 160))


def plate(gaps: list[float], reach: float = 6.0, seed: int = 3) -> DrawUpInput:
    """A plate that floats: stiffness against bending, none against lying elsewhere."""
    n = len(gaps)
    places = np.array(PLACES[:n], dtype=float)
    rigid = np.column_stack([np.ones(n), places])
    basis, _ = np.linalg.qr(rigid)
    rng = np.random.default_rng(seed)
    raw = rng.normal(size=(n, n))
    project = np.eye(n) - basis @ basis.T
    k = project @ (raw @ raw.T) @ project * 60.0
    return DrawUpInput(
        mounts=tuple(
            DrawnMount(
                name=str(i),
                x_mm=places[i, 0],
                y_mm=places[i, 1],
                gap_mm=gap,
                screw_reach_mm=reach,
                pitch_mm=1.25,
                preload_n=9000.0,
            )
            for i, gap in enumerate(gaps)
        ),
        stiffness_n_per_mm=tuple(tuple(float(v) for v in row) for row in (k + k.T) / 2),
    )


gap_lists = st.lists(st.floats(0.0, 5.0), min_size=3, max_size=5)


@given(gap_lists)
@settings(max_examples=25)
def test_what_is_closed_is_on_its_face_and_nothing_passes_one(gaps: list[float]) -> None:
    asked = plate(gaps)
    model = _Plate(
        k=np.array(asked.stiffness_n_per_mm), gaps=np.array(gaps), hand_n=asked.hand_force_n
    )
    for closed in (frozenset({0}), frozenset({0, 1}), frozenset(range(len(gaps)))):
        u = model.rest(closed)
        assert all(u[i] == pytest.approx(gaps[i], abs=1e-9) for i in closed)
        assert (u <= np.array(gaps) + 1e-9).all()
        pull = model.k @ u - model.hand_n
        free = [i for i in range(len(gaps)) if u[i] < gaps[i] - 1e-6]
        assert np.abs(pull[free]).max(initial=0.0) < 1e-3, "what hangs free carries nothing"


@given(gap_lists, st.floats(3.0, 8.0))
@settings(max_examples=25)
def test_the_order_found_is_never_worse_than_crisscross(gaps: list[float], reach: float) -> None:
    asked = plate(gaps, reach)
    model = _Plate(
        k=np.array(asked.stiffness_n_per_mm), gaps=np.array(gaps), hand_n=asked.hand_force_n
    )
    names = [m.name for m in asked.mounts]
    best = tuple(names.index(n) for n in draw_up(asked).result.best_order)
    lost, eaten = _total(asked, model, best)
    lost_cross, eaten_cross = _total(asked, model, _crisscross(asked))
    assert (lost, eaten) <= (lost_cross, eaten_cross + 1e-9)


def test_forces_at_the_end_are_the_same_in_any_order() -> None:
    asked = plate([0.0, 2.0, 1.0, 0.5])
    ends = {
        tuple(
            round(f, 6)
            for f in draw_up(
                DrawUpInput(
                    mounts=asked.mounts, stiffness_n_per_mm=asked.stiffness_n_per_mm, order=order
                )
            ).result.forces_n
        )
        for order in (("0", "1", "2", "3"), ("3", "2", "1", "0"), ())
    }
    assert len(ends) == 1


def test_the_shim_named_helps_and_a_flat_plate_needs_none() -> None:
    asked = plate([0.0, 3.0, 0.0, 0.0], seed=5)
    found = draw_up(asked).result
    assert found.shim is not None
    assert found.shim.eaten_share < max(found.eaten_share)
    assert draw_up(plate([0.0, 0.0, 0.0, 0.0])).result.shim is None


def test_nine_mounts_are_ordered_by_exchange() -> None:
    n = 9
    angles = np.linspace(0.0, 2 * np.pi, n, endpoint=False)
    k = 50.0 * (np.eye(n) - np.ones((n, n)) / n)
    mounts = tuple(
        DrawnMount(
            name=str(i),
            x_mm=float(150 * np.cos(a)),
            y_mm=float(150 * np.sin(a)),
            gap_mm=float(i % 3),
            screw_reach_mm=5.0,
            pitch_mm=1.25,
            preload_n=8000.0,
        )
        for i, a in enumerate(angles)
    )
    rows = tuple(tuple(float(v) for v in row) for row in k)
    found = draw_up(DrawUpInput(mounts=mounts, stiffness_n_per_mm=rows)).result
    assert sorted(found.best_order) == sorted(m.name for m in mounts)
    assert found.best_starts


@pytest.mark.parametrize(
    ("rows", "field"),
    [
        (((1.0, 2.0), (0.0, 1.0)), "stiffness_n_per_mm"),
        (((1.0, 0.0),), "stiffness_n_per_mm"),
        (((-5.0, 0.0), (0.0, 1.0)), "stiffness_n_per_mm"),
        (((float("nan"), 0.0), (0.0, 1.0)), "stiffness_n_per_mm"),
    ],
)
def test_a_stiffness_that_is_none_is_refused(
    rows: tuple[tuple[float, ...], ...], field: str
) -> None:
    with pytest.raises(InputError) as caught:
        DrawUpInput(mounts=plate([0.0, 1.0, 0.0]).mounts[:2], stiffness_n_per_mm=rows)
    assert caught.value.field == field
