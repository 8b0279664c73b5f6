"""Instruments: the line protocol, simulators that speak it, and the links fields read from."""

from rugged_shield.instruments.link import Link, LinkState, State, Taken, Tray
from rugged_shield.instruments.protocol import Kind, LineError, Reading, parse_line, write_line
from rugged_shield.instruments.simulate import DEVICES, MOST_PACE, Simulator, serve_simulators

__all__ = [
    "DEVICES",
    "MOST_PACE",
    "Kind",
    "LineError",
    "Link",
    "LinkState",
    "Reading",
    "Simulator",
    "State",
    "Taken",
    "Tray",
    "parse_line",
    "serve_simulators",
    "write_line",
]
