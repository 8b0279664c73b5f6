"""Tighten: torque limits and sources, wrench settings, order of work, all started."""
