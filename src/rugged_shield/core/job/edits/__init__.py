"""Commands that change a job: each takes a job and gives a new one with what was done in words."""
