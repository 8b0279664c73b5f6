"""Who may ask: known hosts only, and writes only from our own pages or from no browser at all."""

from __future__ import annotations

from urllib.parse import urlsplit

from flask import request

from rugged_shield.core.errors import InputError

LOOPBACK = ("127.0.0.1", "localhost", "[::1]", "::1")
WRITES = ("POST", "PUT", "PATCH", "DELETE")
PICTURES = ("image/jpeg", "image/png")
PDF = ("application/pdf",)
_FILE_ENDPOINTS: dict[str, tuple[str, ...]] = {}


def takes_files(endpoint: str, types: tuple[str, ...]) -> None:
    """Name an endpoint whose body is a file of one of these types instead of JSON."""
    _FILE_ENDPOINTS[endpoint] = types


def host_of(said: str) -> str:
    """The name of a host header, without its port; empty where it is none."""
    try:
        return urlsplit(f"//{said}").hostname or ""
    except ValueError:
        return ""


def check_request(hosts: tuple[str, ...]) -> None:
    """Raise InputError for a foreign host, a foreign origin, or a body of the wrong type."""
    host = host_of(request.host)
    if host not in hosts:
        raise InputError("host", host, "one of " + ", ".join(hosts), "this host is not served")
    if request.method in WRITES:
        _check_write()


def _check_write() -> None:
    origin, site = request.headers.get("Origin"), request.headers.get("Sec-Fetch-Site")
    if origin is not None and origin != f"{request.scheme}://{request.host}":
        raise InputError("origin", origin, "this application's own pages", "foreign origin")
    if site is not None and site not in ("same-origin", "none"):
        raise InputError("origin", site, "this application's own pages", "foreign origin")
    is_file = request.mimetype in _FILE_ENDPOINTS.get(request.endpoint or "", ())
    if not request.is_json and not is_file:
        raise InputError("content-type", request.content_type, "application/json")


def status_of(error: InputError) -> int:
    """403 for whoever may not ask, 422 for bad input."""
    return 403 if error.field in ("host", "origin") else 422
