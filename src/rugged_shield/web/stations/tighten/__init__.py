"""Tighten over HTTP: routes translate, views are what its screens are told."""
