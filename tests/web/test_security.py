"""Loopback names only, own pages only, a strict content policy, no way out of the folder."""

from __future__ import annotations

import pytest

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
