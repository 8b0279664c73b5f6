"""Tighten over HTTP: routes translate, views are what its screens are told."""

from rugged_shield.web.stations.tighten import acts, paper, routes, wrench

BLUEPRINTS = (routes.blueprint, acts.blueprint, paper.blueprint, wrench.blueprint)
