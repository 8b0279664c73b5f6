"""The HTTP side: one blueprint a station, one error shape, one OpenAPI document."""
