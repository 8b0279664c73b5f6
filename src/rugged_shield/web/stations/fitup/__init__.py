"""Fit-up over HTTP: routes translate, views are what its screens are told."""

from rugged_shield.web.stations.fitup import (
    changes,
    far,
    holes,
    neighbours,
    order,
    pieces,
    routes,
    sink,
)

BLUEPRINTS = (
    routes.blueprint,
    far.blueprint,
    holes.blueprint,
    order.blueprint,
    neighbours.blueprint,
    changes.blueprint,
    pieces.blueprint,
    sink.blueprint,
)
