"""Keep applied to a job: what is due, what was found, what a blow did, what wears."""
