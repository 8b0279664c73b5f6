"""A code opens once, for whoever has it: who guesses waits, and clocks that are set move no end."""

from __future__ import annotations

from dataclasses import dataclass

import pytest

from rugged_shield.core.errors import InputError
from rugged_shield.web.pairing import _squares
from rugged_shield.web.phones import (
    CODE_S,
    FORGOTTEN_S,
    MOST_ADDRESSES,
    MOST_DEVICES,
    PAIRED_S,
    TRIES,
    Phones,
)
from tests.web.test_phones import ADDRESS, JOB


@dataclass
class Clock:
    now: float = 1000.0

    def __call__(self) -> float:
        return self.now


@pytest.fixture
def clock() -> Clock:
    return Clock()


@pytest.fixture
def phones(clock: Clock) -> Phones:
    return Phones(clock, (ADDRESS,), clock)


def wrong(code: str) -> str:
    return f"{(int(code) + 1) % 1_000_000:06d}"


def test_a_code_opens_once(phones: Phones) -> None:
    code = phones.offer(JOB)
    assert len(code.digits) == 6
    token, device = phones.pair(f" {code.digits[:3]} {code.digits[3:]} ", "  bench   phone ")
    assert (device.job, device.name) == (JOB, "bench phone")
    assert phones.of(token) == device
    with pytest.raises(InputError, match="no code stands"):
        phones.pair(code.digits, "another")


def test_a_new_code_voids_the_one_before(phones: Phones) -> None:
    first = phones.offer(JOB).digits
    while (second := phones.offer(JOB).digits) == first:
        pass
    with pytest.raises(InputError, match="not the code"):
        phones.pair(first, "x")
    assert phones.pair(second, "x")


def test_a_code_is_good_for_two_minutes(phones: Phones, clock: Clock) -> None:
    code = phones.offer(JOB).digits
    clock.now += CODE_S - 0.1
    assert phones.code() is not None
    clock.now += 0.1
    assert phones.code() is None
    with pytest.raises(InputError, match="no code stands"):
        phones.pair(code, "x")


def test_after_five_wrong_tries_an_address_waits_longer_each_time(
    phones: Phones, clock: Clock
) -> None:
    code = phones.offer(JOB).digits
    waits = []
    for i in range(8):
        with pytest.raises(InputError, match="not the code") as refused:
            phones.pair(wrong(code), "x", "192.0.2.66")
        said = refused.value.message
        waits.append(float(said.split("wait ")[1].split()[0]) if "wait" in said else 0.0)
        if waits[-1]:
            with pytest.raises(InputError, match="wrong too often"):
                phones.pair(code, "even the right one", "192.0.2.66")
        clock.now += waits[-1]
        assert i < TRIES - 1 or waits[-1] > 0
    assert waits == [0, 0, 0, 0, 1, 2, 4, 8]
    assert phones.wrong_tries() == (("192.0.2.66", 8),)


def test_a_guesser_kills_no_code(phones: Phones, clock: Clock) -> None:
    """Ten thousand tries from forty addresses: whoever has the code gets in all the same."""
    code = phones.offer(JOB).digits
    reached = 0
    for i in range(10_000):
        clock.now += CODE_S / 20_000
        with pytest.raises(InputError) as refused:
            phones.pair(wrong(code), "x", f"192.0.2.{i % 40}")
        reached += "not the code" in refused.value.message
    assert reached < 40 * 12, "looks at the code; all others waited"
    assert phones.pair(code, "bench phone", "192.0.2.99")
    again = phones.offer(JOB).digits
    clock.now += 61.0
    assert phones.pair(again, "after its wait", "192.0.2.7")


def test_addresses_that_are_remembered_have_an_end(phones: Phones, clock: Clock) -> None:
    code = phones.offer(JOB).digits
    for i in range(3 * MOST_ADDRESSES):
        with pytest.raises(InputError):
            phones.pair(wrong(code), "x", f"2001:db8::{i:x}")
    assert len(phones.wrong_tries()) == MOST_ADDRESSES
    clock.now += FORGOTTEN_S
    assert phones.wrong_tries() == ()


def test_a_clock_that_is_set_moves_no_end() -> None:
    """The time of day back by a year, then on by two: a code and a token last as they were said."""
    day, steady = Clock(1e9), Clock()
    phones = Phones(day, (ADDRESS,), steady)
    code = phones.offer(JOB)
    token, _ = phones.pair(code.digits, "x")
    second = phones.offer(JOB)
    for set_to in (1e9 - 3e7, 1e9 + 3e7):
        day.now = set_to
        assert phones.code() == second
        assert phones.of(token)
    steady.now += CODE_S
    assert phones.code() is None
    steady.now += PAIRED_S
    assert phones.of(token) is None


@pytest.mark.parametrize("said", ["", "0", "12345", "1234567", "٠١٢٣٤٥", "12345x", "é" * 6])
def test_what_is_no_code_is_a_wrong_try(phones: Phones, said: str) -> None:
    phones.offer(JOB)
    with pytest.raises(InputError):
        phones.pair(said, "x")


@pytest.mark.parametrize("name", ["", "   ", "x" * 41, "a\u202eb", "a\x00b"])
def test_a_name_says_whose_phone_it_is(phones: Phones, name: str) -> None:
    code = phones.offer(JOB).digits
    with pytest.raises(InputError) as refused:
        phones.pair(code, name)
    assert refused.value.field == "name"
    assert phones.pair(code, "then it still opens")


def test_a_phone_is_in_for_twelve_hours(phones: Phones, clock: Clock) -> None:
    token, _ = phones.pair(phones.offer(JOB).digits, "x")
    clock.now += PAIRED_S - 1
    assert phones.of(token)
    clock.now += 1
    assert phones.of(token) is None
    assert phones.devices(JOB) == ()


def test_a_phone_is_ended_for_its_job_only(phones: Phones) -> None:
    token, device = phones.pair(phones.offer(JOB).digits, "x")
    with pytest.raises(InputError):
        phones.end("choosing", device.id)
    assert phones.of(token)
    phones.end(JOB, device.id)
    assert phones.of(token) is None
    with pytest.raises(InputError):
        phones.end(JOB, device.id)


def test_there_is_an_end_to_phones(phones: Phones) -> None:
    for _ in range(MOST_DEVICES):
        phones.pair(phones.offer(JOB).digits, "x")
    with pytest.raises(InputError, match="too many"):
        phones.pair(phones.offer(JOB).digits, "x")


def test_without_a_listener_no_code_is_given() -> None:
    with pytest.raises(InputError, match="not let in"):
        Phones().offer(JOB)


def test_the_picture_code_says_the_address() -> None:
    """Its fixed parts stand where ISO/IEC 18004 puts them: three finders, a light margin."""
    rows = _squares(f"{ADDRESS}/pair#123456")
    size = len(rows)
    assert all(len(row) == size for row in rows)
    assert (size - 8 - 17) % 4 == 0, "modules are 17 + 4 times the version"
    margin = 4
    assert all(set(row) == {"0"} for row in (*rows[:margin], *rows[-margin:]))
    finder = ("1111111", "1000001", "1011101", "1011101", "1011101", "1000001", "1111111")
    for top, left in ((4, 4), (4, size - 11), (size - 11, 4)):
        assert tuple(row[left : left + 7] for row in rows[top : top + 7]) == finder
