"""Computations asked for by name."""
