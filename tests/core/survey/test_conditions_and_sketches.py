"""Conditions on lines and joints; sketches that show where the tape goes."""

from __future__ import annotations

from dataclasses import replace

import pytest

from rugged_shield.core.errors import InputError
from rugged_shield.core.job.model import Job
from rugged_shield.core.survey.conditions import applies, check_condition
from rugged_shield.core.survey.drawings import underside_drawing
from rugged_shield.core.survey.geometry import fold
from rugged_shield.core.survey.sketches import tape_sketch

PLACES = ("x_min_mm", "x_max_mm", "y_min_mm", "y_max_mm", "z_min_mm", "z_max_mm")


@pytest.mark.parametrize(
    ("when", "holds"),
    [
        ("", True),
        ("bars", True),
        ("no bars", False),
        ("no centre stand", True),
        ("bars, no centre stand", True),
        ("bars, centre stand", False),
        ("variant B2", True),
        ("variant b2", True),
        ("variant A1", False),
        ("market north", True),
        ("year 2021", True),
        ("year 2019-2022", True),
        ("year 2022-2024", False),
        ("year 2019–2021", True),
        (" bars ,  side stand ", True),
    ],
)
def test_a_condition_holds_or_not(choosing: Job, when: str, holds: bool) -> None:
    bike = replace(
        choosing.bike,
        has_bars=True,
        has_centre_stand=False,
        has_side_stand=True,
        year=2021,
        variant="B2",
        market="north",
    )
    check_condition(when)
    assert applies(when, bike) is holds


@pytest.mark.parametrize(
    "when", ["sometimes", "bars and stand", "year soon", "no year 2020", "bars;"]
)
def test_what_is_not_understood_is_refused(when: str) -> None:
    with pytest.raises(InputError) as refused:
        check_condition(when, "when")
    assert "is not understood" in str(refused.value)


def test_joints_layers_and_lines_apply_by_condition(choosing: Job) -> None:
    own = choosing.as_entered("alu5")
    first, *rest = own.joints
    layer = replace(first.layers[-1], when="bars")
    first = replace(first, layers=(*first.layers[:-1], layer))
    last = replace(rest[-1], when="centre stand")
    line = replace(own.kit[0], when="no bars")
    own = replace(own, joints=(first, *rest[:-1], last), kit=(line, *own.kit[1:]))
    job = choosing.with_candidate(own)
    without = replace(job, bike=replace(job.bike, has_bars=False, has_centre_stand=False))
    seen = without.candidate("alu5")
    assert seen.joints[0].layers[-1].left_out
    assert last.key not in {j.key for j in seen.joints}
    assert line.key in {k.key for k in seen.kit}
    both = replace(job, bike=replace(job.bike, has_bars=True, has_centre_stand=True))
    seen = both.candidate("alu5")
    assert not seen.joints[0].layers[-1].left_out
    assert last.key in {j.key for j in seen.joints}
    assert line.key not in {k.key for k in seen.kit}
    assert len(both.as_entered("alu5").kit) == len(own.kit)


def test_every_place_has_its_sketch(choosing: Job) -> None:
    bike = choosing.bike
    places = [(p, f) for p in bike.parts for f in PLACES]
    places += [(m, f) for m in bike.mounts for f in ("x_mm", "y_mm", "z_mm")]
    for thing, field in places:
        sketch = tape_sketch(bike, thing, field)
        value = abs(getattr(thing, field))
        shown = sketch.drawing.dimensions[0]
        assert shown.metric.lstrip("−") == f"{value:.1f} mm"
        length = max(abs(shown.x2 - shown.x1), abs(shown.y2 - shown.y1))
        assert length == pytest.approx(value, abs=0.01), f"{thing.name} {field} is not to scale"
        assert thing.name in sketch.words


def test_what_no_tape_measures_has_no_sketch(choosing: Job) -> None:
    with pytest.raises(InputError):
        tape_sketch(choosing.bike, choosing.bike.parts[0], "consequence")


def test_marks_of_the_creeper_view_do_not_hide_each_other(choosing: Job) -> None:
    drawing = underside_drawing(choosing.bike, fold(choosing.stock.plate), None)
    marks = [m for m in drawing.marks if m.kind in ("part", "mount")]
    assert len(marks) == len(choosing.bike.parts) + len(choosing.bike.mounts)
    for i, a in enumerate(marks):
        for b in marks[i + 1 :]:
            assert (a.x - b.x) ** 2 + (a.y - b.y) ** 2 > 20**2, f"{a.ref} hides {b.ref}"
