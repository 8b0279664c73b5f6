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
