"""Tighten over HTTP: routes translate, views are what its screens are told."""

from rugged_shield.web.stations.tighten import paper, routes, wrench

BLUEPRINTS = (routes.blueprint, paper.blueprint, wrench.blueprint)
