"""Letting a phone in: a code on the computer, typed on the phone, ended at a tap."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import UTC, datetime

import segno
from flask import Blueprint, Response, after_this_request, current_app, request

from rugged_shield.web.access import FROM_LAN
from rugged_shield.web.api import route
from rugged_shield.web.jobs import row_of
from rugged_shield.web.phones import COOKIE, PAIRED_S, Device, Phones
from rugged_shield.web.views import Key, Text

blueprint = Blueprint("pairing", __name__)


@dataclass(frozen=True, kw_only=True)
class DeviceView:
    """A phone that is let in."""

    id: str
    name: str
    since: str
    until: str
    seen: str


@dataclass(frozen=True, kw_only=True)
class CodeView:
    """Six figures, until when they open, and the same as rows of dark and light squares."""

    digits: str
    until: str
    address: str
    squares: tuple[str, ...]


@dataclass(frozen=True, kw_only=True)
class PhonesView:
    """Whether phones can be let in, where, and who is; who tried wrong codes of late."""

    addresses: tuple[str, ...]
    is_encrypted: bool
    code: CodeView | None
    devices: tuple[DeviceView, ...]
    wrong_tries: tuple[str, ...]


@dataclass(frozen=True, kw_only=True)
class WhoView:
    """Who asks: a phone with the job that it was let in for, or the computer itself."""

    is_phone: bool
    job: str
    name: str


@dataclass(frozen=True, kw_only=True)
class LetInWrite:
    """The six figures, and whose phone this is."""

    code: Text
    name: Text


@dataclass(frozen=True, kw_only=True)
class EndWrite:
    """The phone to end."""

    device: Key


@dataclass(frozen=True, kw_only=True)
class Nothing:
    """An act without particulars."""


def phones() -> Phones:
    """Who is let in to the running application."""
    found: Phones = current_app.extensions["rugged_shield_phones"]
    return found


def _iso(at_s: float) -> str:
    return datetime.fromtimestamp(at_s, UTC).isoformat(timespec="seconds")


def _squares(text: str) -> tuple[str, ...]:
    """The picture code of a text: one string a row, ``1`` is dark; four light squares around."""
    rows = segno.make_qr(text, error="m").matrix_iter(border=4)
    return tuple("".join("1" if dark else "0" for dark in row) for row in rows)


def _view(job_id: str) -> PhonesView:
    known, code = phones(), phones().code()
    shown = None
    if code is not None and code.job == job_id:
        address = f"{known.addresses[0]}/pair#{code.digits}"
        shown = CodeView(
            digits=code.digits,
            until=_iso(code.until_s),
            address=address,
            squares=_squares(address),
        )
    return PhonesView(
        addresses=known.addresses,
        is_encrypted=all(a.startswith("https:") for a in known.addresses),
        code=shown,
        devices=tuple(_device(d) for d in known.devices(job_id)),
        wrong_tries=tuple(f"{count} from {address}" for address, count in known.wrong_tries()),
    )


def _device(device: Device) -> DeviceView:
    return DeviceView(
        id=device.id,
        name=device.name,
        since=_iso(device.since_s),
        until=_iso(device.until_s),
        seen=_iso(device.seen_s),
    )


@route(blueprint, "GET", "/api/jobs/<job_id>/phones", PhonesView)
def paired(job_id: str) -> PhonesView:
    """Phones that are let in for a job, and the code that stands."""
    row_of(job_id)
    return _view(job_id)


@route(blueprint, "POST", "/api/jobs/<job_id>/phones/code", PhonesView, Nothing)
def new_code(job_id: str, body: Nothing) -> PhonesView:
    """A new code that lets one phone in for this job."""
    row_of(job_id)
    phones().offer(job_id)
    return _view(job_id)


@route(blueprint, "POST", "/api/jobs/<job_id>/phones/end", PhonesView, EndWrite)
def end(job_id: str, body: EndWrite) -> PhonesView:
    """A phone is let in no more."""
    phones().end(job_id, body.device)
    return _view(job_id)


@route(blueprint, "GET", "/api/who", WhoView)
def who() -> WhoView:
    """Who asks: a phone with its job, or the computer itself."""
    if not request.environ.get(FROM_LAN):
        return WhoView(is_phone=False, job="", name="")
    device = phones().of(request.cookies.get(COOKIE))
    if device is None:
        return WhoView(is_phone=True, job="", name="")
    return WhoView(is_phone=True, job=device.job, name=device.name)


@route(blueprint, "POST", "/api/pair", WhoView, LetInWrite)
def pair(body: LetInWrite) -> WhoView:
    """Let this phone in by the code; its token goes into a cookie that scripts cannot read."""
    token, device = phones().pair(body.code, body.name, request.remote_addr or "")
    secure = request.scheme == "https"

    @after_this_request
    def keep(answer: Response) -> Response:
        answer.set_cookie(
            COOKIE,
            token,
            max_age=int(PAIRED_S),
            httponly=True,
            samesite="Strict",
            secure=secure,
            path="/api/",
        )
        return answer

    return WhoView(is_phone=True, job=device.job, name=device.name)
