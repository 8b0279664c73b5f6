"""The HTTP side: one blueprint a station, one error shape, one OpenAPI document."""

from rugged_shield.web.app import create_app

__all__ = ["create_app"]
