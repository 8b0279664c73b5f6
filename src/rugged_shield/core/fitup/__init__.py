"""Fit-up: each screw's stack, its lengths, and its section to scale."""
