"""Readings through the server: what stands, what stops, and from Tighten itself."""

from __future__ import annotations

from tests.conftest import Client


def card(client: Client, key: str) -> dict[str, object]:
    cards = client.get("/half-fitted/tighten")["cards"]
    return next(c for c in cards if c["card"]["joint"] == key)


def read(client: Client, text: str, **more: str) -> None:
    asked = {"joint": "a1", "text": text, "system": "metric", "override": "", "accepted": ""}
    client.post("/half-fitted/tighten/reading", **{**asked, **more})


def test_a_joint_says_where_it_stands(client: Client) -> None:
    assert card(client, "a1")["state"] == "torqued"
    assert card(client, "a5")["state"] == "started"
    read(client, "40")
    assert card(client, "a1")["state"] == "above its limit"
    full = next(
        s for s in client.get("/half-fitted/tighten")["steps"] if s["step"]["key"] == "full:a1"
    )
    assert not full["done"]
    read(client, "40", accepted="12.9 screw, read wrongly")
    assert card(client, "a1")["state"] == "torqued"
    read(client, "12")
    assert card(client, "a1")["state"] == "outside its band"
    client.field("half-fitted", "candidates.alu5.joints.a1.treatment", "anti-seize")
    assert card(client, "a1")["state"] == "changed since it was torqued"


def test_what_is_open_on_the_bike_shows_on_every_screen_until_closed(client: Client) -> None:
    job = "half-fitted"
    client.post(f"/{job}/tighten/loosened", name="vapour hose", what="hose")
    client.post(f"/{job}/tighten/loosened", name="vapour hose", what="hose", status=422)
    assert client.get(f"/{job}")["open_on_bike"] == ["vapour hose"]
    view = client.get(f"/{job}/tighten")
    assert "vapour hose is open on the bike." in view["ready"]["missing_words"]
    key = view["open"][0]["joint"]
    client.post(f"/{job}/tighten/closed", joint=key, how="back on")
    assert client.get(f"/{job}")["open_on_bike"] == []
    client.post(f"/{job}/tighten/closed", joint=key, status=422)


def test_a_click_is_one_tap_and_stands_at_the_target(client: Client) -> None:
    job = "half-fitted"
    card = next(c for c in client.get(f"/{job}/tighten")["cards"] if c["state"] == "started")
    joint = card["card"]["joint"]
    client.post(f"/{job}/tighten/reading", joint=joint, clicked=True, override="in order")
    again = client.get(f"/{job}/tighten")["cards"]
    now = next(c for c in again if c["card"]["joint"] == joint)
    assert now["reading"]["value"] == card["card"]["target_nm"]
    assert now["state"] == "torqued"


def test_riding_all_the_same_is_kept_with_what_was_missing(client: Client) -> None:
    job = "half-fitted"
    client.post(f"/{job}/tighten/ride-anyway", reason="", status=422)
    client.post(f"/{job}/tighten/ride-anyway", reason="two metres into the shed")
    [kept] = client.get(f"/{job}/tighten")["overrides"]
    assert kept["reason"] == "two metres into the shed"
    assert kept["missing"]
