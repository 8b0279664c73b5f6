"""Strike maps and priorities over the API."""

from __future__ import annotations

from typing import Any

import pytest

from tests.conftest import Client


def ask(client: Client, path: str, status: int = 200, **body: Any) -> Any:
    answer = client.flask.post(f"/api/jobs/choosing/weigh-up/{path}", json=body)
    assert answer.status_code == status, answer.get_data(as_text=True)[:300]
    return answer.get_json()


def test_a_map_says_what_is_reached_first_and_draws_it(client: Client) -> None:
    view = ask(client, "strike", plate="alu5", energy="60", direction="from below")
    reaches = [row["touches"]["value"] for row in view["reaches"]]
    assert reaches == sorted(reaches)
    figures = {f["key"]: f for f in view["figures"]}
    assert figures["strike:touch"]["value"] == pytest.approx(reaches[0])
    fills = {p["fill"] for p in view["drawing"]["paths"] if p["fill"].startswith("band")}
    assert len(fills) >= 3
    assert {m["text"] for m in view["drawing"]["marks"] if m["kind"] == "mount"} == set("123456")
    assert len(view["shades"]) == 6
    harder = ask(client, "strike", plate="alu5", energy="200 J")
    deeper = {f["key"]: f for f in harder["figures"]}
    assert deeper["strike:deepest"]["value"] > figures["strike:deepest"]["value"]
    assert client.version("choosing") == 1, "looking changes nothing"


def test_a_place_of_the_map_in_numbers(client: Client) -> None:
    point = ask(client, "strike/point", plate="alu5", x_mm=660.0, y_mm=30.0)
    figures = {f["key"]: f for f in point["figures"]}
    assert point["where"].startswith("on the belly")
    assert figures["strike:p:touch"]["value"] > 0
    assert figures["strike:p:w"]["reasons"]
    assert figures["strike:p:w"]["assumptions"]


@pytest.mark.parametrize(
    ("body", "field"),
    [
        ({"energy": "much"}, "energy_j"),
        ({"energy": "0"}, "energy_j"),
        ({"radius": "90 mm"}, "contact_radius_mm"),
        ({"direction": "from above"}, "direction"),
        ({"plate": "nothing"}, "plate"),
    ],
)
def test_bad_questions_name_their_field(client: Client, body: dict[str, str], field: str) -> None:
    assert ask(client, "strike", 422, **body)["error"]["field"] == field


def test_a_plate_without_mounts_is_said(client: Client) -> None:
    client.post("/choosing/plates", name="bare sheet")
    assert ask(client, "strike", plate="own")["figures"], "on assumed joints there is a map"
    for name, size in (
        ("start_x_mm", 690), ("length_mm", 60), ("front_width_mm", 60), ("rear_width_mm", 60)
    ):  # fmt: skip
        client.field("choosing", f"candidates.own.plate.belly.{name}", str(size))
    answer = ask(client, "strike", 422, plate="own")
    assert "nothing holds the plate" in answer["error"]["message"]


def test_priorities_turn_the_ranking_and_are_kept(client: Client) -> None:
    before = client.get("/choosing/weigh-up/priorities")
    assert [r["rank"] for r in before["ranking"]] == [1, 2, 3, 4, 5, 6]
    assert before["ranking"][0]["to_first"] == "first as it is"
    assert "of the weight moved" in before["ranking"][1]["to_first"]
    client.field("choosing", "priorities.protect_the_engine", "0")
    client.field("choosing", "priorities.keep_it_light", "0")
    client.field("choosing", "priorities.quiet", "10")
    after = client.get("/choosing/weigh-up/priorities")
    assert after["ranking"][0]["key"] != before["ranking"][0]["key"]
    client.field("choosing", "priorities.money", "11", status=422)
    for _ in range(3):
        client.post("/choosing/undo")
    assert client.get("/choosing/weigh-up/priorities") == before


def test_all_weights_at_nothing_is_said(client: Client) -> None:
    names = (
        "protect_the_engine",
        "keep_it_light",
        "keep_clearance",
        "quick_oil_change",
        "easy_to_fit",
        "quiet",
        "money",
    )
    for name in names:
        client.field("choosing", f"priorities.{name}", "0")
    view = client.get("/choosing/weigh-up/priorities")
    assert view["ranking"] == []
    assert len(view["priorities"]) == 7, "so that a weight can be given again"
    assert "Nothing matters" in view["findings"][0]["text"]


def test_stones_from_ahead_are_shown_from_ahead_too(client: Client) -> None:
    assert ask(client, "strike", plate="alu5")["front"] is None
    body = {"plate": "alu5", "direction": "from ahead 20° upward"}
    front = ask(client, "strike", **body)["front"]
    assert front["title"].endswith("seen from ahead")
    assert {p["fill"] for p in front["paths"] if p["fill"].startswith("band")}
    against = ask(client, "strike/difference", other="alu35", **body)
    assert against["front"]["title"].endswith("seen from ahead")
    point = ask(client, "strike/point", y_mm=0.0, z_mm=350.0, **body)
    assert point["where"].startswith("on the apron")
    ask(client, "strike/point", 422, y_mm=0.0, z_mm=9000.0, **body)


def test_a_spacer_moves_the_strike_and_leaves_the_map_shaded(client: Client) -> None:
    def seen() -> tuple[float, int]:
        view = ask(client, "strike", plate="alu5")
        touch = next(f["value"] for f in view["figures"] if f["key"] == "strike:touch")
        bands = [p for p in view["drawing"]["paths"] if p["fill"].startswith("band")]
        return touch, len(bands)

    touch, bands = seen()
    for key, spacer in (("a1", 15), ("a2", 15), ("a3", 15), ("a4", 18), ("a5", 11), ("a6", 11)):
        path = f"candidates.alu5.joints.{key}.layers.spacer.thickness_mm"
        client.field("choosing", path, str(spacer))
    roomier, still = seen()
    assert roomier > touch
    assert still >= bands - 2, "shades follow the sheet where it hangs"
