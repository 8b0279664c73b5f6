"""The plate in space over HTTP: on the bike and alone, its joints, blows and scars."""

from __future__ import annotations

from tests.conftest import Client


def test_every_view_of_the_demo_is_drawn(client: Client) -> None:
    first = client.get("/choosing/space/0/0/on the bike")
    for turn in range(first["turns"]):
        for height in range(0, first["heights"], 2):
            drawing = client.get(f"/choosing/space/{turn}/{height}/alone")["drawing"]
            assert any(p["fill"] == "plate" for p in drawing["paths"])
            points = [p for path in drawing["paths"] for p in path["points"]]
            assert all(drawing["x"] <= x <= drawing["x"] + drawing["width"] for x, _ in points)
            assert all(drawing["y"] <= y <= drawing["y"] + drawing["height"] for _, y in points)


def test_from_below_every_joint_shows_and_on_the_bike_its_parts(client: Client) -> None:
    numbers = {str(c["card"]["number"]) for c in client.get("/choosing/tighten")["cards"]}
    drawing = client.get("/choosing/space/1/0/on the bike")["drawing"]
    assert numbers <= {m["text"] for m in drawing["marks"]}
    alone = client.get("/choosing/space/1/0/alone")["drawing"]
    assert {p["fill"] for p in alone["paths"]} == {"plate", "none"}
    assert "part" in {p["fill"] for p in drawing["paths"]}


def test_a_blow_is_pointed_at(client: Client) -> None:
    def marks() -> list[str]:
        drawing = client.get("/in-service/space/1/0/alone")["drawing"]
        return [m["text"] for m in drawing["marks"] if m["text"].startswith("blow")]

    before = len(marks())
    body = {"felt": "not felt", "dent": "6", "note": "", "system": "metric"}
    client.post("/in-service/keep/strike", x_drawn=0.0, y_drawn=640.0, **body)
    assert len(marks()) == before + 1


def test_what_is_not_there_is_refused(client: Client) -> None:
    client.get("/choosing/space/12/0/alone", 422)
    client.get("/choosing/space/0/6/alone", 422)
    client.get("/choosing/space/0/0/upside down", 422)
    client.get("/choosing/space/left/0/alone", 422)
