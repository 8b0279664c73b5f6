"""Weigh-up applied to a job: every plate against stock, struck, ranked."""
