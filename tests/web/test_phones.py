"""A phone is let in by a code, for one job, for its steps and Keep only, until it is ended."""

from __future__ import annotations

import io
import json
from pathlib import Path
from typing import Any

import pytest
from flask import Flask
from PIL import Image
from werkzeug.test import Client as WsgiClient
from werkzeug.test import TestResponse

from rugged_shield.core.errors import InputError
from rugged_shield.formats.guarded import BusyError
from rugged_shield.web.access import FROM_LAN, LARGEST_ENTRY
from rugged_shield.web.app import with_static_files
from rugged_shield.web.lan import Lan
from rugged_shield.web.live import MOST_STREAMS, PER_DEVICE, Streams
from rugged_shield.web.phones import (
    COOKIE,
)
from tests.conftest import Client

ADDRESS = "http://192.0.2.7:8440"
JOB = "half-fitted"


class OnLan:
    """A phone's browser on the network's listener."""

    def __init__(self, app: Flask) -> None:
        application = with_static_files(app)

        def marked(environ: dict[str, Any], start: Any) -> Any:
            environ[FROM_LAN] = True
            return application(environ, start)

        self.client = WsgiClient(marked)

    def ask(
        self, path: str, body: object = None, host: str = "192.0.2.7:8440", origin: str = ADDRESS
    ) -> TestResponse:
        headers = {"Host": host, "Origin": origin}
        if body is None:
            return self.client.get(path, base_url=ADDRESS, headers=headers)
        return self.client.post(path, base_url=ADDRESS, headers=headers, json=body)

    def send(self, path: str, data: bytes, kind: str) -> TestResponse:
        """A file from its own page."""
        headers = {"Host": "192.0.2.7:8440", "Origin": ADDRESS}
        return self.client.post(
            path, base_url=ADDRESS, headers=headers, data=data, content_type=kind
        )


@pytest.fixture
def lan(client: Client) -> OnLan:
    app = client.flask.application
    app.extensions["rugged_shield_phones"].addresses = (ADDRESS,)
    return OnLan(app)


def let_in(client: Client, lan: OnLan, job: str = JOB) -> TestResponse:
    code = client.post(f"/{job}/phones/code")["code"]["digits"]
    return lan.ask("/api/pair", {"code": code, "name": "bench phone"})


def test_a_stranger_sees_the_page_and_nothing_else(lan: OnLan) -> None:
    assert lan.ask("/pair").status_code == 200
    assert lan.ask("/api/who").get_json() == {"is_phone": True, "job": "", "name": ""}
    for path in ("/api/jobs", f"/api/jobs/{JOB}", f"/api/jobs/{JOB}/tighten", "/api/shelf"):
        answer = lan.ask(path)
        assert answer.status_code == 403, path
        assert answer.get_json()["error"]["field"] == "phone"


def test_the_token_is_kept_from_scripts(client: Client, lan: OnLan) -> None:
    cookie = let_in(client, lan).headers["Set-Cookie"]
    assert cookie.startswith(f"{COOKIE}=")
    assert {"HttpOnly", "SameSite=Strict", "Path=/api/"} <= set(cookie.split("; "))


def test_a_phone_asks_for_its_steps_and_keep_only(client: Client, lan: OnLan) -> None:
    let_in(client, lan)
    for path in ("", "/tighten", "/keep", "/tighten/steps.pdf"):
        assert lan.ask(f"/api/jobs/{JOB}{path}").status_code == 200, path
    shut = [
        "/api/jobs",
        "/api/jobs/choosing",
        "/api/jobs/choosing/tighten",
        f"/api/jobs/{JOB}/survey",
        f"/api/jobs/{JOB}/kit",
        f"/api/jobs/{JOB}/file",
        f"/api/jobs/{JOB}/phones",
        "/api/openapi.json",
        "/api/instruments",
    ]
    for path in shut:
        assert lan.ask(path).status_code in (403, 404), path
        assert "error" in lan.ask(path).get_json()
    assert lan.ask(f"/api/jobs/{JOB}/phones/code", {}).status_code == 403
    body = {"version": 1, "key": "phone-edit", "path": "title", "text": "mine"}
    assert lan.ask(f"/api/jobs/{JOB}/undo", body).status_code == 403


def test_every_other_route_refuses_a_phone(client: Client, lan: OnLan) -> None:
    """Whatever is added later is shut until somebody opens it."""
    let_in(client, lan)
    app = client.flask.application
    for rule in app.url_map.iter_rules():
        room = rule.endpoint.split(".")[0]
        opened = room.startswith(("tighten", "keep", "live", "pages")) or rule.endpoint in (
            "jobs.frame",
            "photos.photo_out",
            "space.space",
            "subscribed.private_calendar",
            "pairing.pair",
            "pairing.who",
        )
        if opened or "GET" not in (rule.methods or ()):
            continue
        path = rule.rule
        for name in rule.arguments:
            path = path.replace(f"<{name}>", JOB if name == "job_id" else "x")
            path = path.replace(f"<path:{name}>", "x").replace(f"<int:{name}>", "1")
        assert lan.ask(path).status_code == 403, path


@pytest.mark.parametrize(
    "host", ["localhost", "127.0.0.1:8440", "192.0.2.7", "192.0.2.7:8441", "evil.example:8440", ""]
)
def test_only_the_address_that_is_shown_is_answered(client: Client, lan: OnLan, host: str) -> None:
    let_in(client, lan)
    assert lan.ask(f"/api/jobs/{JOB}/tighten", host=host).status_code == 403


def test_a_phones_writes_come_from_its_own_page(client: Client, lan: OnLan) -> None:
    let_in(client, lan)
    version = lan.ask(f"/api/jobs/{JOB}").get_json()["version"]
    body = {"version": version, "key": "phone-loosens", "name": "peg bolt", "what": "screw"}
    at = f"/api/jobs/{JOB}/tighten/loosened"
    for origin in ("http://evil.example", "http://127.0.0.1:8440", "http://192.0.2.7", "null"):
        assert lan.ask(at, body, origin=origin).status_code == 403
    assert lan.ask(at, body).status_code == 200
    assert client.get(f"/{JOB}")["open_on_bike"] == ["peg bolt"]


def test_a_debt_is_paid_from_a_phone_and_no_substitute_made_or_unmade(
    client: Client, lan: OnLan
) -> None:
    let_in(client, lan)
    joint = client.get(f"/{JOB}/kit")["joints"][0]["key"]
    client.post(f"/{JOB}/kit/substitutes", joint=joint, part="screw", name="short", length="20")
    (debt,) = client.get(f"/{JOB}/keep")["debts"]
    at = f"/api/jobs/{JOB}/kit/substitutes"
    body = {"version": client.get(f"/{JOB}")["version"], "key": "phone-pays-1"}
    assert lan.ask(f"{at}/{debt['key']}/remove", body).status_code == 403
    assert lan.ask(at, {**body, "joint": joint, "part": "nut", "name": "x"}).status_code == 403
    assert lan.ask(f"{at}/{debt['key']}/pay", body).status_code == 200
    assert [d["paid"] for d in client.get(f"/{JOB}/keep")["debts"]] == [True]


def test_an_ended_phone_is_out_at_once(client: Client, lan: OnLan) -> None:
    let_in(client, lan)
    (device,) = client.get(f"/{JOB}/phones")["devices"]
    assert device["name"] == "bench phone"
    assert client.post(f"/{JOB}/phones/end", device=device["id"])["devices"] == []
    assert lan.ask(f"/api/jobs/{JOB}/tighten").status_code == 403


def test_the_loopback_needs_no_code_and_gives_none_by_itself(client: Client) -> None:
    assert client.flask.get("/api/who").get_json()["is_phone"] is False
    client.post(f"/{JOB}/phones/code", 422)
    assert client.get(f"/{JOB}/phones")["addresses"] == []


def test_what_was_done_earlier_stands_at_its_time(client: Client) -> None:
    """A phone without a link tells later: the record keeps when it was done."""
    version = client.get(f"/{JOB}")["version"]
    body = {"version": version, "key": "told-late-1", "name": "strap", "what": "strap"}
    client.post(f"/{JOB}/tighten/loosened", **body, late_s=7200)
    (late,) = client.get(f"/{JOB}/tighten")["open"]
    body = {"version": version + 1, "key": "told-now-1", "name": "hose", "what": "hose"}
    client.post(f"/{JOB}/tighten/loosened", **body)
    now = next(o for o in client.get(f"/{JOB}/tighten")["open"] if o["name"] == "hose")
    assert late["since"][:13] != now["since"][:13]
    assert late["since"] < now["since"]
    client.post(f"/{JOB}/tighten/loosened", 422, **{**body, "key": "told-odd-1", "late_s": -1})


def test_a_stream_tells_each_new_version(client: Client) -> None:
    answer = client.flask.get(f"/api/jobs/{JOB}/live", buffered=False)
    assert answer.mimetype == "text/event-stream"
    lines = iter(answer.response)
    version = client.get(f"/{JOB}")["version"]

    def next_said() -> str:
        for chunk in lines:
            text = chunk.decode() if isinstance(chunk, bytes) else chunk
            if "event: version" in text:
                return text
        raise AssertionError("the stream ended")

    assert f"data: {version}" in next_said()
    client.field(JOB, "title", "seen by another")
    assert f"data: {version + 1}" in next_said()
    answer.close()
    assert client.flask.get("/api/jobs/nowhere/live").status_code == 404


def test_streams_have_an_end_and_give_their_place_back(client: Client) -> None:
    open_now = [client.flask.get(f"/api/jobs/{JOB}/live", buffered=False) for _ in range(6)]
    assert client.flask.get(f"/api/jobs/{JOB}/live").status_code == 503
    for answer in open_now:
        answer.close()
    again = client.flask.get(f"/api/jobs/{JOB}/live", buffered=False)
    assert again.status_code == 200
    again.close()


def test_phones_keep_no_stream_from_the_computer_nor_from_each_other() -> None:
    streams = Streams()
    first = streams.open("bench")
    others = [streams.open("bench") for _ in range(20)]
    assert first.is_set(), "a phone that lost its link comes back: its oldest ends"
    assert [over.is_set() for over in others[-PER_DEVICE:]] == [False] * PER_DEVICE
    for i in range(MOST_STREAMS - PER_DEVICE):
        streams.open(f"phone {i}")
    with pytest.raises(BusyError):
        streams.open("one too many")
    here = [streams.open("") for _ in range(MOST_STREAMS)]
    with pytest.raises(BusyError):
        streams.open("")
    streams.close("", here[0])
    assert not streams.open("").is_set()
    streams.close("bench", others[-1])
    assert not streams.open("one more").is_set()


def test_a_certificate_wants_its_key(client: Client, tmp_path: Any) -> None:
    with pytest.raises(InputError, match="one is missing"):
        Lan(client.flask.application, "127.0.0.2", 0, cert=tmp_path / "c.pem")
    with pytest.raises(InputError):
        Lan(client.flask.application, "192.0.2.99", 8440)


def test_pairing_over_a_real_socket(client: Client) -> None:
    """The listener itself: marks what comes in, whatever the headers say."""
    import http.client

    app = client.flask.application
    lan = Lan(with_static_files(app), "127.0.0.2", 0)
    app.extensions["rugged_shield_phones"].addresses = (lan.address,)
    lan.start()
    try:
        for host in ("localhost", lan.address.split("//")[1]):
            link = http.client.HTTPConnection(lan.address.split("//")[1], timeout=120)
            link.request("GET", "/api/jobs", headers={"Host": host})
            answer = link.getresponse()
            assert answer.status == 403
            assert "error" in json.loads(answer.read())
            link.close()
    finally:
        lan.stop()


def test_a_phone_sends_a_picture_and_no_other_large_thing(client: Client, lan: OnLan) -> None:
    let_in(client, lan)
    out = io.BytesIO()
    noise = Image.effect_noise((900, 700), 120)
    noise.save(out, "PNG")
    assert len(out.getvalue()) > LARGEST_ENTRY
    sent = lan.send(f"/api/jobs/{JOB}/photos", out.getvalue(), "image/png")
    assert sent.status_code == 200
    kept = sent.get_json()["id"]
    assert lan.ask(f"/api/jobs/{JOB}/photos/{kept}").data.startswith(b"\xff\xd8")
    assert lan.ask(f"/api/jobs/{JOB}/photos/all.zip").status_code == 403
    assert lan.ask(f"/api/jobs/choosing/photos/{kept}").status_code == 403
    version = lan.ask(f"/api/jobs/{JOB}").get_json()["version"]
    long = {"version": version, "key": "too-long", "text": "a" * (LARGEST_ENTRY + 1)}
    assert lan.ask(f"/api/jobs/{JOB}/keep/note", long).status_code == 413


def test_a_private_calendar_is_read_without_a_phone_and_by_nobody_else(
    client: Client, lan: OnLan
) -> None:
    """Over the network too: by its address alone; a wrong one, an old one and another job's not."""
    address = client.get(f"/{JOB}/calendar")["addresses"]
    assert len(address) == 2, "this computer's and the network's"
    path = "/calendar/" + address[1].split("/calendar/")[1]
    made = lan.ask(path)
    assert made.status_code == 200
    assert made.get_data(as_text=True).startswith("BEGIN:VCALENDAR")
    token = path.rsplit("/", 1)[1]
    for wrong in (
        f"/calendar/{JOB}/{'0' * 40}.ics",
        f"/calendar/choosing/{token}",
        f"/calendar/{JOB}/ключ.ics",
    ):
        assert lan.ask(wrong).status_code == 422
    assert lan.ask(f"/api/jobs/{JOB}/calendar").status_code == 403, "no phone was let in"
    renewed = client.post(f"/{JOB}/calendar/renew")["addresses"]
    assert renewed[1] != address[1]
    assert lan.ask(path).status_code == 422
    assert lan.ask("/calendar/" + renewed[1].split("/calendar/")[1]).status_code == 200


def test_the_calendars_key_is_its_owners_alone(client: Client, app_folder: Path) -> None:
    client.get(f"/{JOB}/calendar")
    key = app_folder / "calendar.key"
    assert len(key.read_bytes()) == 32
    assert key.stat().st_mode & 0o077 == 0
