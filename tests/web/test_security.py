"""Loopback names only, own pages only, a strict content policy, no way out of the folder."""

from __future__ import annotations

import pytest
from werkzeug.test import Client as WsgiClient

from rugged_shield.web.app import HEADERS, STATIC, with_static_files
from tests.conftest import Client

BODY = {"version": 1, "key": "abcdefgh", "path": "title", "text": "mine"}


def patch(client: Client, headers: dict[str, str], **more: object) -> int:
    return client.flask.patch(
        "/api/jobs/choosing/field", json=BODY, headers=headers, **more
    ).status_code  # type: ignore[no-any-return]


def test_content_policy_has_no_inline_script(client: Client) -> None:
    for path in ("/", "/api/jobs", "/jobs/choosing/survey"):
        policy = client.flask.get(path).headers["Content-Security-Policy"]
        assert "default-src 'none'" in policy
        assert "script-src 'self'" in policy
        assert "unsafe" not in policy
        assert client.flask.get(path).headers["X-Content-Type-Options"] == "nosniff"


@pytest.mark.parametrize(
    "host", ["evil.example", "localhost.evil.example", "10.0.0.5", "127.0.0.1.x"]
)
def test_other_host_names_are_not_served(client: Client, host: str) -> None:
    assert client.flask.get("/api/jobs", headers={"Host": host}).status_code == 403


@pytest.mark.parametrize("host", ["127.0.0.1:8440", "localhost:9", "[::1]:8440"])
def test_loopback_names_are_served(client: Client, host: str) -> None:
    assert client.flask.get("/api/jobs", headers={"Host": host}).status_code == 200


@pytest.mark.parametrize(
    "headers",
    [
        {"Origin": "http://evil.example"},
        {"Origin": "null"},
        {"Origin": "https://localhost"},
        {"Origin": "http://localhost:9999"},
        {"Sec-Fetch-Site": "cross-site"},
        {"Sec-Fetch-Site": "same-site"},
    ],
)
def test_writes_from_other_origins_are_refused(client: Client, headers: dict[str, str]) -> None:
    assert patch(client, headers) == 403
    assert client.get("/choosing")["title"] != "mine"


def test_writes_from_our_own_pages_are_taken(client: Client) -> None:
    own = {"Origin": "http://localhost", "Sec-Fetch-Site": "same-origin"}
    assert patch(client, own) == 200
    assert client.get("/choosing")["title"] == "mine"


def test_a_form_post_is_refused(client: Client) -> None:
    answer = client.flask.post("/api/jobs/choosing/weigh-up/pick", data={"plate": "alu5"})
    assert answer.status_code == 422


@pytest.mark.parametrize(
    "path", ["/../pyproject.toml", "/..%2fcli.py", "/assets/../../app.py", "/%2e%2e/app.py"]
)
def test_no_path_leads_out_of_the_built_files(client: Client, path: str) -> None:
    body = client.flask.get(path).get_data(as_text=True)
    assert "import" not in body
    assert "[project]" not in body


def test_text_from_people_stays_text(client: Client) -> None:
    nasty = "<script>alert(1)</script> '; DROP TABLE job; --"
    client.field("choosing", "title", nasty)
    assert client.get("/choosing")["title"] == nasty
    assert client.get("")["jobs"]
    client.field("choosing", "title", "x" * 201, 422)


def served(client: Client, path: str, host: str) -> tuple[int, dict[str, str]]:
    """Status and headers of a built file, as the server hands it out."""
    application = with_static_files(client.flask.application)
    with WsgiClient(application).get(path, headers={"Host": host}) as answer:
        return answer.status_code, dict(answer.headers)


def test_built_files_have_the_same_guards(client: Client) -> None:
    assets = sorted(p.name for p in (STATIC / "assets").glob("*.js"))
    assert assets, "the front end is built"
    path = f"/assets/{assets[0]}"
    status, headers = served(client, path, "127.0.0.1:8440")
    assert status == 200
    for name, value in HEADERS.items():
        assert headers[name] == value
    assert served(client, path, "evil.example")[0] == 403
    assert served(client, path, "")[0] == 403


@pytest.mark.parametrize("name", ["a" * 300, "%00", "..%2f..%2fetc%2fpasswd", "a/" * 150])
def test_odd_addresses_get_the_page_or_a_plain_no(client: Client, name: str) -> None:
    assert client.flask.get(f"/{name}").status_code in (200, 404, 503)
    assert client.flask.get(f"/api/{name}").status_code == 404


def test_what_the_server_itself_refuses_is_said_plainly(client: Client) -> None:
    wrong = client.flask.delete("/api/jobs", json={})
    assert wrong.status_code == 405
    assert {"GET", "POST"} <= set(wrong.headers["Allow"].split(", "))
    assert "method" in wrong.get_json()["error"]["message"]
    large = client.flask.post("/api/jobs", data=b" " * 41_000_000, content_type="application/json")
    assert large.status_code == 413
    assert "MB" in large.get_json()["error"]["allowed"]


@pytest.mark.parametrize(
    ("more", "field"),
    [
        ({"text": 0}, "text"),
        ({"version": 0.5}, "version"),
        ({"version": "1"}, "version"),
        ({"text": "a\x00b"}, "text"),
        ({"text": "a\u202eb"}, "text"),
    ],
)
def test_bodies_are_strict(client: Client, more: dict[str, object], field: str) -> None:
    body = {"path": "title", "text": "x", "system": "metric", "version": 1, "key": "strict-body-1"}
    answer = client.flask.patch("/api/jobs/choosing/field", json={**body, **more})
    assert answer.status_code == 422
    assert answer.get_json()["error"]["field"] == field
