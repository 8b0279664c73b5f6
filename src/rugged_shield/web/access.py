"""Who may ask: known hosts only, and writes only from our own pages or from no browser at all.

What comes in from the garage's network (``serve --lan``) is a phone's: it may ask for the built
pages, pair, and see and tick the steps of the one job that it was let in for. Nothing else.
"""

from __future__ import annotations

from typing import Any
from urllib.parse import urlsplit

from flask import g, request

from rugged_shield.core.errors import InputError
from rugged_shield.web.phones import COOKIE, Phones

LOOPBACK = ("127.0.0.1", "localhost", "[::1]", "::1")
WRITES = ("POST", "PUT", "PATCH", "DELETE")
PICTURES = ("image/jpeg", "image/png")
PDF = ("application/pdf",)
ZIP = ("application/zip",)
FROM_LAN = "rugged_shield.from_lan"
"""Set by the network's listener on everything that comes in there; no header can set it."""
PHONE_ROOMS = (
    "tighten",
    "tighten_acts",
    "tighten_paper",
    "keep",
    "keep_entries",
    "keep_files",
    "live",
)
PHONE_ENDPOINTS = (
    "jobs.frame",
    "photos.photo_in",
    "photos.photo_out",
    "space.space",
    "kit_joints.pay",
)
OPEN_TO_PHONES = ("pairing.pair", "pairing.who", "pages.page", "subscribed.private_calendar")
PHONE_FILES = ("photos.photo_in",)
LARGEST_ENTRY = 200_000
"""More than any entry from a phone that is no picture, bytes."""
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


def is_known_host(environ: dict[str, Any], hosts: tuple[str, ...], phones: Phones) -> bool:
    """Whether a request names a host that is served where it came in.

    On the network: exactly an address that is shown, port included.
    """
    said = str(environ.get("HTTP_HOST", ""))
    if environ.get(FROM_LAN):
        return said in phones.hosts
    return host_of(said) in hosts


def check_request(hosts: tuple[str, ...], phones: Phones) -> None:
    """Raise InputError for a foreign host or origin, a phone out of its room, a wrong body."""
    from_lan = bool(request.environ.get(FROM_LAN))
    if not is_known_host(request.environ, hosts, phones):
        allowed = phones.hosts if from_lan else hosts
        said = request.host if from_lan else host_of(request.host)
        raise InputError("host", said, "one of " + ", ".join(allowed), "this host is not served")
    if from_lan:
        if request.endpoint not in PHONE_FILES:
            request.max_content_length = LARGEST_ENTRY
        _check_phone(phones)
    if request.method in WRITES:
        _check_write()


def _check_phone(phones: Phones) -> None:
    """A phone asks only for what it was let in for."""
    endpoint = request.endpoint or ""
    if endpoint in OPEN_TO_PHONES:
        return
    device = phones.of(request.cookies.get(COOKIE))
    if device is None:
        raise InputError(
            "phone",
            "",
            "a phone that was let in",
            "this phone is not let in, or no more",
            "Ask for a code on the computer and type it here.",
        )
    g.phone_name = device.name
    room = endpoint.split(".")[0] in PHONE_ROOMS or endpoint in PHONE_ENDPOINTS
    if not room or (request.view_args or {}).get("job_id") != device.job:
        raise InputError(
            "phone", request.path[:200], "the steps of its job", "phones have no business here"
        )


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
    return 403 if error.field in ("host", "origin", "phone") else 422
