"""Survey over HTTP: routes translate, views are what its screens are told."""

from rugged_shield.web.stations.survey import from_photo, plates, routes, rows, strip, weighing

BLUEPRINTS = (
    routes.blueprint,
    plates.blueprint,
    weighing.blueprint,
    strip.blueprint,
    rows.blueprint,
    from_photo.blueprint,
)
