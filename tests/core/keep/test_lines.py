"""Lines of a record by their kind, and a year of rides in one line."""

from __future__ import annotations

from hypothesis import given
from hypothesis import strategies as st

from rugged_shield.core.amounts import in_system
from rugged_shield.core.assess.keep.story import story
from rugged_shield.core.event import Happened, OnPlate, Voided, of_kind
from rugged_shield.core.keep.events import CounterRead, Noted, Ridden, RunsWarm
from tests.conftest import demo_file

LINES = {
    "ride": lambda seq: Ridden(seq=seq, km=1.0),
    "note": lambda seq: Noted(seq=seq, text="seen"),
    "warm": lambda seq: RunsWarm(seq=seq, running_c=90.0, air_c=20.0, with_plate=True, ride="r"),
    "counter": lambda seq: CounterRead(seq=seq, km=10.0),
}


@given(st.lists(st.sampled_from(sorted(LINES)), max_size=30))
def test_lines_of_a_kind_are_those_that_a_look_at_each_finds(kinds: list[str]) -> None:
    record: tuple[Happened, ...] = tuple(LINES[k](i + 1) for i, k in enumerate(kinds))
    for asked in ((Ridden,), (Noted, CounterRead), (OnPlate,), (Happened,), ()):
        assert of_kind(record, *asked) == tuple(e for e in record if isinstance(e, asked))


def test_rides_in_a_row_are_one_line_of_the_story() -> None:
    file = demo_file("in_service")
    last, at = file.records[-1], "2027-01-0{}T10:00:00+00:00"
    rides = [Ridden(seq=last.seq + i, at=at.format(i), km=10.0 * i) for i in (1, 2, 3)]
    unsaid = Ridden(seq=last.seq + 4, at=at.format(4), hours=2.5)
    wrong = Ridden(seq=last.seq + 5, at=at.format(5), km=900.0)
    void = Voided(seq=last.seq + 6, at=at.format(6), ref=wrong.seq, reason="mistyped")
    told = story(file.job, (*file.records, *rides, unsaid, wrong, void))
    lines = [in_system(line) for line in told]
    joined = "2027-01-01 to 2027-01-04 ridden 4 times, 60 km in 3 of them, 2.5 h in 1 of them"
    assert lines[-2] == joined
    assert lines[-1] == "2027-01-05 ridden 900 km (voided: mistyped)"
