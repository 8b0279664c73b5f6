"""One judgement: what can be found, how numbers are known, and when a verdict stands."""
