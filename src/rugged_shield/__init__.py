"""Rugged Shield: choose an engine bash plate, fit it, keep it."""

import os

__version__ = "0.15.0"

# Fronts of a shell are small: one thread of the linear algebra is several times faster than
# threads that wait for each other. Read when NumPy is first imported; a person's own wish holds.
os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
