"""The gate before riding: every finding about the plate that is on, and what holds from riding."""
