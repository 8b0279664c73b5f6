"""Importing this loads every computation: for a process whose forks are asked for any of them."""

from rugged_shield.calc.registry import computation_of, names

for _name in names():
    computation_of(_name)
