"""A treatment and torques said once: to whom they go, and what is refused."""

from __future__ import annotations

from typing import Any

import pytest

from rugged_shield.core.amounts import in_system
from rugged_shield.core.errors import InputError
from rugged_shield.core.job.edits.at_once import all_at_once, torques_by_size
from rugged_shield.core.job.model import Job

KEY = "alu5"


@pytest.mark.parametrize(
    ("text", "system", "found"),
    [
        ("M6 = 10, M8 = 20", "metric", {"M6": 10.0, "M8": 20.0}),
        ("m6:9,5; M8 22 N·m", "metric", {"M6": 9.5, "M8": 22.0}),
        ("M8=18 lbf·ft\nM6 = 10 Nm", "metric", {"M8": 24.405, "M6": 10.0}),
        ("M8 20", "us", {"M8": 27.116}),
        ("  ", "metric", {}),
    ],
)
def test_sizes_and_torques_are_read_as_a_sheet_says_them(
    text: str, system: Any, found: dict[str, float]
) -> None:
    assert torques_by_size(text, system) == pytest.approx(found, rel=1e-3)


@pytest.mark.parametrize(
    ("given", "field"),
    [
        ({"torques": "M6"}, "torques"),
        ({"torques": "M6 = 10, M6 = 12"}, "torques"),
        ({"torques": "M7.5 = 10"}, "torques"),
        ({"torques": "M6 = 9000"}, "torques.M6"),
        ({"torques": "M12 = 80"}, "torques"),
        ({"treatment": "spit"}, "treatment"),
        ({}, "torques"),
    ],
)
def test_what_says_nothing_or_nonsense_is_refused(
    choosing: Job, given: dict[str, Any], field: str
) -> None:
    with pytest.raises(InputError) as refused:
        all_at_once(choosing, KEY, **given)
    assert refused.value.field == field


def test_each_size_gets_its_own_and_others_keep_theirs(choosing: Job) -> None:
    before = choosing.as_entered(KEY).joints
    change = all_at_once(choosing, KEY, torques="M6 = 8")
    after = change.job.as_entered(KEY).joints
    for old, new in zip(before, after, strict=True):
        assert new.sheet_torque_nm == (8.0 if old.thread == "M6" else old.sheet_torque_nm)
        assert new.treatment == old.treatment
    assert in_system(change.words) == "2 joints: M6 8.0 N·m by the sheet"
    with pytest.raises(InputError, match="already"):
        all_at_once(change.job, KEY, torques="M6 = 8")


def test_one_treatment_goes_on_every_thread(choosing: Job) -> None:
    after = all_at_once(choosing, KEY, treatment="anti-seize").job.as_entered(KEY).joints
    assert {j.treatment for j in after} == {"anti-seize"}
