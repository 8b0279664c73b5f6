"""A figure: its words and verdict, and what one without a value says."""

from __future__ import annotations

import pytest

from rugged_shield.core.assess.weighup.protection import figures_of
from rugged_shield.core.assess.weighup.scorecard import weigh
from rugged_shield.core.figures import figure
from rugged_shield.core.result import finding
from tests.conftest import demo_file


def test_one_without_a_value_is_not_known_whatever_it_is_called() -> None:
    for text in ("", "no map", "not looked at"):
        bare = figure("gap", "Gap", None, "mm", text=text)
        assert (bare.verdict, bare.metric, bare.us) == (
            "not known",
            text or "not known",
            text or "not known",
        )


def test_nothing_to_have_a_value_is_sound_and_says_what_is_not_there() -> None:
    bare = figure("heat", "Warmest place", None, "°C", none="nothing hot near")
    assert (bare.verdict, bare.metric) == ("sound", "nothing hot near")
    warm = figure("heat", "Warmest place", 80.0, "°C", none="nothing hot near")
    assert warm.metric == "80 °C"


@pytest.mark.parametrize("value", [None, 3.0])
def test_a_graver_finding_still_rules(value: float | None) -> None:
    small = figure("gap", "Gap", value, "mm", findings=(finding("gap too small", "It strikes."),))
    assert small.verdict == "blocked"


def test_no_figure_of_the_demo_is_green_without_a_value() -> None:
    for name in ("choosing", "kit_open"):
        job = demo_file(name).job
        for plate in (job.stock, *job.candidates):
            for found in figures_of(job, weigh(job, plate.key)).values():
                absent = found.value is None and found.metric != "nothing hot near"
                assert not (absent and found.verdict == "sound"), (plate.key, found.key)
