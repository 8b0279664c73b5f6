"""The table of findings, by what they are about."""
