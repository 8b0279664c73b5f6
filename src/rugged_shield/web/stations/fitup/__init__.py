"""Fit-up over HTTP: routes translate, views are what its screens are told."""

from rugged_shield.web.stations.fitup import changes, holes, neighbours, order, routes

BLUEPRINTS = (
    routes.blueprint,
    holes.blueprint,
    order.blueprint,
    neighbours.blueprint,
    changes.blueprint,
)
