"""Weigh-up: what each plate shields, takes, gets warm by."""
