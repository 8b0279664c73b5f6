"""Kit over HTTP: routes translate, views are what its screens are told."""

from rugged_shield.web.stations.kit import identify, routes

BLUEPRINTS = (routes.blueprint, identify.blueprint)
