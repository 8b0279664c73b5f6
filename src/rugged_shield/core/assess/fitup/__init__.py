"""Fit-up applied to a job: the pose of a plate, every joint judged."""
