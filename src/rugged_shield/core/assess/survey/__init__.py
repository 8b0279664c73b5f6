"""Survey applied to a job: what to measure next."""
