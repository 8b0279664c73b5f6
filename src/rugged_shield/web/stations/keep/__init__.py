"""Keep over HTTP: routes translate, views are what its screens are told."""

from rugged_shield.web.stations.keep import entries, files, routes, subscribed

BLUEPRINTS = (routes.blueprint, entries.blueprint, files.blueprint, subscribed.blueprint)
