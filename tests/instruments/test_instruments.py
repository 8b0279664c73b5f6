"""The line protocol, simulators and links: what is taken, what is refused and why."""

from __future__ import annotations

import itertools
import os
import pty
import socket
import threading
import time
from collections.abc import Callable, Iterator

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rugged_shield.core.errors import InputError
from rugged_shield.instruments.link import Link, Tray
from rugged_shield.instruments.protocol import LineError, Reading, parse_line, write_line
from rugged_shield.instruments.simulate import DEVICES, MOST_PACE, Simulator, serve_simulators


def until(what: str, check: Callable[[], object], seconds: float = 25.0) -> None:
    end = time.monotonic() + seconds
    while not check():
        assert time.monotonic() < end, f"never: {what}"
        time.sleep(0.02)


def line(value: float, sequence: int = 1, stable: bool = True, decimals: int = 1) -> bytes:
    return write_line(Reading("scale", sequence, value, "kg", stable, 0.1), decimals)


@given(
    value=st.floats(-999, 999),
    sequence=st.integers(0, 99999),
    stable=st.booleans(),
    decimals=st.integers(0, 4),
)
def test_what_is_written_is_read(value: float, sequence: int, stable: bool, decimals: int) -> None:
    got = parse_line(line(value, sequence, stable, decimals).rstrip(b"\n"))
    assert got.value == pytest.approx(value, abs=0.51 * 10.0**-decimals)
    assert (got.sequence, got.stable, got.step) == (sequence, stable, 10.0**-decimals)


@given(at=st.integers(0, 28), to=st.integers(32, 126))
def test_one_wrong_character_is_noticed(at: int, to: int) -> None:
    good = line(84.6).rstrip(b"\n")
    at %= len(good)
    bad = good[:at] + bytes([to]) + good[at + 1 :]
    if bad.lower() == good.lower():
        return
    with pytest.raises(LineError):
        parse_line(bad)


@given(st.binary(max_size=200))
def test_garbage_is_never_a_reading(noise: bytes) -> None:
    with pytest.raises(LineError):
        parse_line(noise)


def settle(simulator: Simulator, load: float) -> Reading:
    simulator.put(load)
    for i in range(60):
        reading = simulator.reading(0.125, i * 0.125)
        if reading.stable and abs(reading.value - load) < 1:
            return reading
    raise AssertionError("never stable")


def test_the_scale_settles_to_its_step_and_moves_meanwhile() -> None:
    scale = Simulator(DEVICES["scale"])
    scale.put(84.57)
    first = scale.reading(0.125, 0.0)
    assert not first.stable
    assert first.value < 84
    got = settle(scale, 84.57)
    assert got.value == pytest.approx(84.6, abs=0.11)
    assert got.value / 0.1 == pytest.approx(round(got.value / 0.1))
    with pytest.raises(ValueError, match="carries"):
        scale.put(1000)


def test_the_same_seed_gives_the_same_readings() -> None:
    a, b = (settle(Simulator(DEVICES["calliper"], 7), 12.34) for _ in range(2))
    assert a == b


class Wire:
    """A hand-made instrument on a socket that sends whatever it is told."""

    def __init__(self) -> None:
        self.listener = socket.create_server(("127.0.0.1", 0))
        self.url = f"socket://127.0.0.1:{self.listener.getsockname()[1]}"
        self.connection: socket.socket | None = None
        threading.Thread(target=self._accept, daemon=True).start()

    def _accept(self) -> None:
        while True:
            try:
                self.connection, _ = self.listener.accept()
            except OSError:
                return

    def send(self, data: bytes) -> None:
        until("connected", lambda: self.connection is not None)
        assert self.connection is not None
        self.connection.sendall(data)

    def unplug(self) -> None:
        if self.connection is not None:
            self.connection.close()
            self.connection = None
        self.listener.close()


@pytest.fixture
def wired() -> Iterator[tuple[Wire, Link]]:
    wire = Wire()
    link = Link("scale", "scale", "hand-made scale", wire.url)
    link.start()
    told = itertools.count(90_000)

    def listening() -> bool:
        # A line that comes before the port is open is flushed away: told until one is heard.
        wire.send(line(0.5, next(told), stable=False))
        return link.state().shown == "0.5"

    until("listening", listening)
    yield wire, link
    wire.unplug()
    link.end()


def refused(link: Link, unit: str = "kg") -> InputError:
    with pytest.raises(InputError) as caught:
        link.take(unit)
    return caught.value


def test_only_a_stable_reading_is_taken(wired: tuple[Wire, Link]) -> None:
    wire, link = wired
    wire.send(line(84.6, 1, stable=False))
    until("settling", lambda: link.state().shown == "84.6")
    assert "still moves" in refused(link).message
    wire.send(line(84.6, 2))
    until("stable", lambda: link.state().state == "stable")
    taken = link.take("kg")
    assert (taken.text, taken.step, taken.instrument) == ("84.6 kg", 0.1, "hand-made scale")
    assert taken.at.startswith("20")
    assert "this field is in mm" in refused(link, "mm").message


def test_garbage_and_wrong_checksums_leave_the_last_reading(wired: tuple[Wire, Link]) -> None:
    wire, link = wired
    wire.send(line(5.0, 1))
    until("stable", lambda: link.state().state == "stable")
    wire.send(b"\xff\xfe garbage\n" + line(9.9, 2).replace(b"9.9", b"9.8") + b"x" * 1000)
    until("noticed", lambda: link.state().bad_lines >= 2)
    assert link.state().trouble in ("wrong checksum", "garbage on the line")
    assert link.state().shown == "5.0"
    wire.send(b"\n" + line(6.0, 3))
    until("recovered", lambda: link.state().shown == "6.0")
    assert link.state().trouble == ""


def test_a_flood_is_said_and_nothing_is_taken_from_it(wired: tuple[Wire, Link]) -> None:
    wire, link = wired
    wire.send(b"".join(line(7.0, i) for i in range(2000)))
    until("flood", lambda: "flood" in link.state().trouble)
    refused(link)


def test_a_reading_goes_stale_and_a_hanging_instrument_is_said(
    wired: tuple[Wire, Link], monkeypatch: pytest.MonkeyPatch
) -> None:
    wire, link = wired
    monkeypatch.setattr("rugged_shield.instruments.link.STALE_S", 0.4)
    wire.send(line(5.0, 1))
    until("stable", lambda: link.state().state == "stable")
    wire.send(line(5.0, 1))
    until("hangs", lambda: "hang" in link.state().trouble)
    until("stale", lambda: link.state().state == "stale", 5)
    assert "nothing new" in refused(link).message


def test_unplugged_and_plugged_in_again(wired: tuple[Wire, Link]) -> None:
    wire, link = wired
    wire.send(line(5.0, 1))
    until("stable", lambda: link.state().state == "stable")
    wire.unplug()
    until("absent", lambda: link.state().state == "absent")
    assert "does not answer" in refused(link).message
    assert "not connected" in link.state().trouble


def test_another_instrument_on_the_wire_is_said(wired: tuple[Wire, Link]) -> None:
    wire, link = wired
    wire.send(write_line(Reading("calliper", 1, 12.3, "mm", True, 0.01), 2))
    until("said", lambda: "a calliper answers" in link.state().trouble)
    refused(link)


def test_a_pseudo_terminal_works_like_a_port() -> None:
    ours, theirs = pty.openpty()
    link = Link("scale", "scale", "scale on a terminal", os.ttyname(theirs))
    link.start()
    try:
        until("open", lambda: link.state().state == "settling")
        os.write(ours, line(4.2, 1))
        until("read", lambda: link.state().state == "stable")
        assert link.take("kg").text == "4.2 kg"
    finally:
        link.stop()
        os.close(ours)
        os.close(theirs)


def test_a_port_that_is_not_there() -> None:
    link = Link("scale", "scale", "no scale", "/dev/nonexistent-port")
    link.start()
    try:
        until("said", lambda: "no such port" in link.state().trouble)
        assert link.state().state == "absent"
        with pytest.raises(InputError, match="simulated"):
            link.put(1.0)
    finally:
        link.stop()


def test_all_simulators_through_the_tray() -> None:
    running = serve_simulators(pace=MOST_PACE)
    tray = Tray(
        tuple(
            Link(key, d.kind, d.name, running.urls[key], simulated=True)
            for key, d in DEVICES.items()
        )
    )
    tray.start()
    try:
        loads = {"scale": 84.6, "calliper": 12.34, "wrench": 20.0}
        for key in loads:
            until(f"{key} answers", lambda k=key: tray.link(k).state().shown)  # type: ignore[misc]
        for key, load in loads.items():
            tray.link(key).put(load)
        for key, load in loads.items():
            until(
                f"{key} stands",
                lambda k=key, v=load: (
                    tray.link(k).state().state == "stable"  # type: ignore[misc]
                    and abs(float(tray.link(k).state().shown) - v) < 0.3
                ),
            )
        assert tray.link("wrench").take("N·m").unit == "N·m"
        assert len(tray.states()) == 3
        with pytest.raises(InputError, match="one of"):
            tray.link("hammer")
        with pytest.raises(InputError, match="value"):
            tray.link("scale").put(5000.0)
    finally:
        tray.stop()
        running.stop()


@pytest.mark.parametrize("pace", [0.0, -1.0, 8.5, float("nan")])
def test_a_pace_that_a_link_would_not_follow_is_refused(pace: float) -> None:
    with pytest.raises(InputError, match="pace"):
        serve_simulators(pace=pace)


def test_a_pull_is_recorded_once(wired: tuple[Wire, Link]) -> None:
    """As long as it rests it is the same pull, however many lines it sends."""
    wire, link = wired
    wire.send(line(18.2, 1))
    until("stable", lambda: link.state().state == "stable")
    taken, rest = link.take_once("kg")
    assert taken.text == "18.2 kg"
    assert link.take_once("kg")[1] == rest, "until it is recorded it may be asked for again"
    link.spend(rest)
    wire.send(line(18.3, 2))
    until("again", lambda: link.state().shown == "18.3")
    with pytest.raises(InputError, match="recorded already"):
        link.take_once("kg")
    wire.send(line(5.0, 3, stable=False))
    until("moves", lambda: link.state().state == "settling")
    wire.send(line(18.3, 4))
    until("stable again", lambda: link.state().state == "stable")
    assert link.take_once("kg")[1] == rest + 1
