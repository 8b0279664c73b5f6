"""Importing this loads every computation: for a process whose forks are asked for any of them."""

from rugged_shield.calc.registry import computation_of, names

LOADED = tuple(computation_of(name) for name in names())
