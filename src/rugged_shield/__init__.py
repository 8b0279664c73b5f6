"""Rugged Shield: choose an engine bash plate, fit it, keep it."""

__version__ = "0.1.0"
