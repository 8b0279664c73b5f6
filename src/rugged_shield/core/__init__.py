"""Pure computation: no I/O, no clock, no interface. See ``docs/architecture.md``."""
