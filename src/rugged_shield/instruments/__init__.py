"""Instruments: the line protocol, simulators that speak it, and the links fields read from."""
