"""Kit over HTTP: routes translate, views are what its screens are told."""

from rugged_shield.web.stations.kit import identify, joints, routes, sheet, tools

BLUEPRINTS = (
    routes.blueprint,
    identify.blueprint,
    joints.blueprint,
    sheet.blueprint,
    tools.blueprint,
)
