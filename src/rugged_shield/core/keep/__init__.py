"""Keep: what happens to a fitted plate, what is due, and what a re-check found."""
