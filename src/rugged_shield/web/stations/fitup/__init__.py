"""Fit-up over HTTP: routes translate, views are what its screens are told."""

from rugged_shield.web.stations.fitup import routes

BLUEPRINTS = (routes.blueprint,)
