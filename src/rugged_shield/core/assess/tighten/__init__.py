"""Tighten applied to a job: cards, the order of work, where it stands."""
