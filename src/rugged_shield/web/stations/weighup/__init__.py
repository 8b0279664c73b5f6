"""Weigh-up over HTTP: routes translate, views are what its screens are told."""

from rugged_shield.web.stations.weighup import coverage, ranking, routes, strike, what_if

BLUEPRINTS = (
    routes.blueprint,
    strike.blueprint,
    coverage.blueprint,
    what_if.blueprint,
    ranking.blueprint,
)
