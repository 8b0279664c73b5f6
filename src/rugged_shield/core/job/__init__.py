"""The model of a job: its facts, its record, what each version was."""
