"""The Survey over the API: new bikes, plates, weighings, strip list, shelf, instruments."""

from __future__ import annotations

import io
import math
from typing import Any

import ezdxf
import pytest
from PIL import Image

from rugged_shield.demo.jobs import DEMO_JOBS
from tests.conftest import Client, stands

BIKE = {"layout": "single", "name": "Own single", "wheelbase": "1480", "clearance": "11 in"}


def start(client: Client, status: int = 200, **change: Any) -> Any:
    answer = client.flask.post("/api/new-job", json={**BIKE, **change})
    assert answer.status_code == status, answer.get_data(as_text=True)[:400]
    return answer.get_json()


def test_a_job_from_nothing_but_the_bike(client: Client) -> None:
    made = start(client)
    job = made["id"]
    for station in (
        "survey",
        "weigh-up",
        "kit",
        "fit-up",
        "tighten",
        "keep",
        "survey/underside",
        "survey/measure-next",
        "plates/stock",
        "weighings",
        "strip",
    ):
        assert client.get(f"/{job}/{station}")
    view = client.get(f"/{job}/survey")
    assert view["low"]["value"] == pytest.approx(11 * 25.4, abs=0.01)
    assert {p["known"] for p in (*view["parts"], *view["mounts"])} == {"assumed"}
    fields = {f["path"]: f for p in view["parts"] for f in p["fields"]}
    assert fields["bike.parts.sump.z_min_mm"]["note_metric"].startswith("assumed ± ")
    assert fields["bike.parts.sump.z_min_mm"]["takes"] == "mm"


def test_asked_twice_after_a_cut_makes_one_job(client: Client) -> None:
    first = start(client, key="same-key-1")
    assert start(client, key="same-key-1") == first
    assert start(client, key="same-key-2") != first


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"layout": "v8"}, "layout"),
        ({"wheelbase": ""}, "wheelbase_mm"),
        ({"wheelbase": "14"}, "wheelbase_mm"),
        ({"front_tyre": "?"}, "front_tyre"),
        ({"year": "old"}, "year"),
        ({"name": ""}, "name"),
        ({"shelf_bike": "none"}, "item"),
    ],
)
def test_a_bad_start_names_its_field(client: Client, change: dict[str, str], field: str) -> None:
    assert start(client, 422, **change)["error"]["field"] == field
    assert len(client.flask.get("/api/jobs").get_json()["jobs"]) == len(DEMO_JOBS)


def test_what_if_shows_and_saves_nothing(client: Client) -> None:
    before = client.get("/choosing/survey")
    body = {"path": "bike.parts.sump.z_min_mm", "text": "260", "system": "metric"}
    seen = client.flask.post("/api/jobs/choosing/survey/what-if", json=body).get_json()
    assert seen["low"]["value"] == pytest.approx(260.0)
    assert client.get("/choosing/survey") == before
    assert client.version("choosing") == 1
    client.field("choosing", "candidates.alu5.plate.claimed_mass_kg", "")
    body = {"path": "candidates.alu5.plate.thickness_mm", "text": "6", "system": "metric"}
    plate = client.flask.post("/api/jobs/choosing/plates/alu5/what-if", json=body).get_json()
    own = client.get("/choosing/plates/alu5")
    mass = {v["key"]: v["value"] for v in plate["measures"]}["mass"]
    assert mass > {v["key"]: v["value"] for v in own["measures"]}["mass"]
    body["text"] = "a lot"
    refused = client.flask.post("/api/jobs/choosing/plates/alu5/what-if", json=body)
    assert refused.status_code == 422


def test_items_come_and_go_by_list(client: Client) -> None:
    for where in (
        "bike.parts",
        "bike.mounts",
        "bike.joints",
        "bike.added",
        "scars",
        "strip",
        "weighings",
    ):
        client.post("/choosing/survey/items", where=where)
    client.post("/choosing/survey/items", where="bike.parts", like="sump", mirror=True)
    client.post("/choosing/survey/items", status=422, where="bike.wheels")
    client.post("/choosing/survey/items", status=422, where="bike.parts", like="nothing")
    client.post("/choosing/survey/items/bike.parts/part/remove")
    client.post("/choosing/survey/items/bike.parts/part/remove", status=422)
    client.post("/choosing/survey/items/bike/part/remove", status=422)
    underside = client.get("/choosing/survey/underside")
    assert len(underside["scars"]) == 3
    assert underside["budget"]["total"]["value"] > 1.0


def test_a_plate_typed_traced_and_taken_out(client: Client) -> None:
    client.post("/choosing/plates", name="Shop pan")
    at = "candidates.own.plate"
    client.field("choosing", f"{at}.thickness_mm", "4")
    client.post("/choosing/plates/own/panel", panel="apron")
    client.post("/choosing/plates/own/cutouts", name="belly")
    client.field("choosing", f"{at}.cutouts.hole.u_mm", "9000", status=422)
    client.post("/choosing/plates/own/pieces")
    view = client.get("/choosing/plates/own")
    assert list(view["can_add"]) == ["tail", "wing left", "wing right", "slider"]
    assert len(view["views"]) == 3
    client.post("/choosing/plates/own/items/hole/remove")
    client.post("/choosing/plates/own/items/piece/remove")
    text = client.flask.get("/api/jobs/choosing/plates/own/flat.dxf").get_data(as_text=True)
    body = {"kind": "dxf", "text": text, "front": "top", "seen": "from below"}
    client.post("/choosing/plates/own/outline", **body)
    again = client.get("/choosing/plates/own")
    areas = [
        next(m["value"] for m in v["measures"] if m["key"] == "plate:area") for v in (view, again)
    ]
    assert areas[1] == pytest.approx(areas[0] + math.pi * 20**2 - 120 * 110, rel=0.02)
    svg = client.flask.get("/api/jobs/choosing/plates/own/flat.svg")
    assert svg.mimetype == "image/svg+xml"
    assert b"<script" not in svg.data
    client.post("/choosing/plates/own/copy")
    client.post("/choosing/plates/own/remove")
    client.post("/choosing/plates/stock/remove", status=422)
    client.get("/choosing/plates/own", status=422)


def test_an_outline_without_its_unit_is_asked_for(client: Client) -> None:
    drawing = ezdxf.new()
    drawing.header["$INSUNITS"] = 0
    drawing.modelspace().add_lwpolyline([(0, 0), (26, 0), (26, 40), (0, 40)], close=True)
    out = io.StringIO()
    drawing.write(out)
    body = {"kind": "dxf", "text": out.getvalue()}
    refused = client.post("/choosing/plates/alu5/outline", status=422, **body)
    assert refused["error"]["field"] == "unit"
    client.post("/choosing/plates/alu5/outline", unit="cm", **body)
    belly = next(g for g in client.get("/choosing/plates/alu5")["groups"] if g["key"] == "belly")
    length = next(f for f in belly["fields"] if f["path"].endswith("length_mm"))
    assert float(length["metric"]) == pytest.approx(400.0)
    hostile = "<svg xmlns='http://www.w3.org/2000/svg'><script>alert(1)</script></svg>"
    client.post("/choosing/plates/alu5/outline", status=422, kind="svg", text=hostile)


def test_two_plates_in_plain_quantities(client: Client) -> None:
    """Stiffness by the cube of thickness times the modulus: about 70 and 200 GPa."""
    view = client.get("/choosing/plates/alu5/against/steel25")
    ratio = {f["key"]: f["value"] for f in view["rows"]}
    assert ratio["thickness_ratio"] == pytest.approx(5 / 2.5)
    assert ratio["stiffness_ratio"] == pytest.approx(2.0**3 * 70.3 / 200, rel=0.02)
    assert all("%" not in words for words in view["sentences"])


def test_a_weighing_says_what_it_knows(client: Client) -> None:
    item = client.get("/choosing/weighings")["weighings"][0]
    assert item["words"].startswith("The Pressed aluminium pan with its hardware weighs 2.97 kg ±")
    client.post("/choosing/weighings/w1/pairs", with_text="179 lb", without_text="78.3 kg")
    client.post("/choosing/weighings/w1/pairs", status=422, with_text="", without_text="78")
    item = client.get("/choosing/weighings")["weighings"][0]
    assert len(item["pairs"]) == 4
    client.post(f"/choosing/weighings/w1/pairs/{item['pairs'][-1]['key']}/remove")
    client.post("/choosing/weighings/w1/adopt")
    fields = client.get("/choosing/plates/alu5")["groups"][0]["fields"]
    weighed = next(f for f in fields if f["path"].endswith("weighed_mass_kg"))
    # The plate alone: 2.967 kg less its six screws, washers and spacers, which hung with it.
    assert float(weighed["metric"]) == pytest.approx(2.797, abs=0.001)
    client.field("choosing", "weighings.w1.against", "steel25")
    client.post("/choosing/weighings/w1/adopt", status=422)
    words = client.get("/choosing/weighings")["weighings"][0]["words"]
    assert "than the Welded steel tray" in words
    client.field("choosing", "weighings.w1.against", "nothing", status=422)


def test_two_plates_that_cannot_be_told_apart(client: Client) -> None:
    client.post("/choosing/survey/items", where="weighings")
    key = client.get("/choosing/weighings")["weighings"][-1]["key"]
    client.field("choosing", f"weighings.{key}.against", "steel25")
    for with_kg, without_kg in (("80.1", "80.0"), ("80.0", "80.1"), ("80.1", "80.1")):
        client.post(f"/choosing/weighings/{key}/pairs", with_text=with_kg, without_text=without_kg)
    item = client.get("/choosing/weighings")["weighings"][-1]
    assert "cannot tell apart" in item["words"]
    assert item["verdict"] == "not known"
    assert "Would settle it" in item["findings"][0]["text"]


def photo_bytes(kind: str = "PNG") -> bytes:
    out = io.BytesIO()
    Image.new("RGB", (40, 30), (9, 99, 9)).save(out, kind)
    return out.getvalue()


def test_photos_of_what_was_found(client: Client) -> None:
    url = "/api/jobs/choosing/photos"
    sent = client.flask.post(url, data=photo_bytes(), content_type="image/png")
    kept = sent.get_json()["id"]
    client.field("choosing", "strip.s5.photo", kept)
    view = client.get("/choosing/strip")
    assert view["photo_of"] == {"s5": kept}
    assert client.flask.get(f"{url}/{kept}").data.startswith(b"\xff\xd8")
    assert client.flask.get(f"{url}/all.zip").data.startswith(b"PK")
    assert client.flask.get("/api/jobs/choosing/strip/labels.pdf").data.startswith(b"%PDF")
    assert client.flask.get(f"{url}/nothing").status_code == 422
    for data, kind, status in (
        (b"<svg/>", "image/png", 422),
        (photo_bytes(), "image/svg+xml", 422),
        (photo_bytes(), "text/html", 422),
        (bytes(13_000_000), "image/png", 413),
    ):
        refused = client.flask.post(url, data=data, content_type=kind)
        assert refused.status_code == status, kind
    assert (
        client.flask.post(
            url,
            data=photo_bytes(),
            content_type="image/png",
            headers={"Origin": "http://evil.example"},
        ).status_code
        == 403
    )
    elsewhere = client.flask.post(
        "/api/jobs/choosing/survey/items", data=photo_bytes(), content_type="image/png"
    )
    assert elsewhere.status_code == 422, "pictures are taken at their own door only"


def test_the_shelf_between_jobs(client: Client) -> None:
    own = client.flask.post("/api/jobs/choosing/shelf", json={"kind": "bike"}).get_json()
    bike = own["items"][0]
    client.flask.post("/api/jobs/choosing/shelf", json={"kind": "plate", "plate": "alu5"})
    made = start(client, shelf_bike=bike["id"])
    assert client.get(f"/{made['id']}/survey")["low"]["value"] > 200
    plate = next(
        i for i in client.flask.get("/api/shelf").get_json()["items"] if i["kind"] == "plate"
    )
    client.post(f"/{made['id']}/plates/from-shelf", item=plate["id"])
    assert client.get(f"/{made['id']}/plates/alu5")["joints"] == 6
    client.post(f"/{made['id']}/plates/from-shelf", status=422, item=bike["id"])
    gone = client.flask.post(f"/api/shelf/{bike['id']}/remove", json={})
    assert [i["kind"] for i in gone.get_json()["items"]] == ["plate"]


def test_a_pasted_list_joints_on_mounts_and_conditions(client: Client) -> None:
    text = "name;size;length;only if\nbolt;M8;30;bars\ntail bolt;M8;;\nodd;M7;3;\n"
    seen = client.flask.post("/api/jobs/choosing/kit/preview", json={"text": text}).get_json()
    assert (seen["good"], seen["bad"]) == (2, 1)
    client.post("/choosing/kit/import", text=text)
    client.post("/choosing/kit/import", status=422, text="name;size\nodd;M7\n")
    lines = {k["name"]: k for k in client.get("/choosing/kit")["lines"]}
    assert not lines["bolt"]["applies"]
    codes = {f["code"] for f in lines["tail bolt"]["state"]["findings"]}
    assert {"length not known", "head not known"} <= codes
    preset = next(iter(client.get("/choosing/fit-up")["presets"]))
    client.post("/choosing/fit-up/joints", preset=preset, mount="m1", stage="stiff")
    client.post("/choosing/fit-up/joints", status=422, preset=preset, mount="m99", stage="stiff")
    joints = client.get("/choosing/fit-up")["joints"]
    assert joints[-1]["name"].endswith("front tab, left")
    key = joints[-1]["key"]
    client.field("choosing", f"candidates.alu5.joints.{key}.when", "centre stand")
    view = client.get("/choosing/fit-up")
    assert [j["key"] for j in view["not_here"]] == [key]
    client.field("choosing", f"candidates.alu5.joints.{key}.when", "on sundays", status=422)


def test_a_reading_goes_into_a_field_with_its_origin(bench: Client) -> None:
    stands(bench, "calliper", 0.0)
    bench.flask.post("/api/instruments/calliper/put", json={"text": "7,31"})
    stands(bench, "calliper", 7.31)
    taken = bench.flask.post("/api/instruments/calliper/take", json={"unit": "mm"}).get_json()
    assert taken["resolution"] == pytest.approx(0.01)
    body = {k: taken[k] for k in ("instrument", "resolution", "at")}
    bench.field("choosing", "bike.mounts.m1.thread_end_mm", taken["text"], **body)
    mount = bench.get("/choosing/survey")["mounts"][0]
    field = next(f for f in mount["rest"] if f["path"].endswith("thread_end_mm"))
    assert field["note_metric"].startswith("measured, calliper, simulated")
    stands(bench, "calliper", 7.31)
    wrong = bench.flask.post("/api/instruments/calliper/take", json={"unit": "kg"})
    assert wrong.status_code == 422
    assert "reads in mm, this field is in kg" in wrong.get_json()["error"]["message"]
    for key, act in (("spare", "take"), ("spare", "put"), ("nothing", "take")):
        body = {"unit": "kg"} if act == "take" else {"text": "1"}
        assert bench.flask.post(f"/api/instruments/{key}/{act}", json=body).status_code == 422


@pytest.mark.parametrize(
    ("text", "field", "said"),
    [
        ("1000000", "value", "a number from -1000 to 1000"),
        ("80.280.3", "load", "one number and one unit"),
        ("heavy", "load", "a number"),
        ("3 mm", "load", "a value in kg"),
        ("", "load", "a number in kg"),
    ],
)
def test_what_cannot_be_put_on_a_scale_is_said(
    bench: Client, text: str, field: str, said: str
) -> None:
    stands(bench, "scale", 0.0)
    answer = bench.flask.post("/api/instruments/scale/put", json={"text": text})
    assert answer.status_code == 422
    error = answer.get_json()["error"]
    assert (error["field"], error["allowed"]) == (field, said)


def test_a_load_is_put_on_in_any_unit_of_mass(bench: Client) -> None:
    stands(bench, "scale", 0.0)
    assert bench.flask.post("/api/instruments/scale/put", json={"text": "20 lb"}).status_code == 200
    stands(bench, "scale", 20 * 0.45359237)


def test_an_opening_is_asked_for_in_a_riders_words(client: Client) -> None:
    """A round one has one diameter; where it is depends on its panel."""
    view = client.get("/choosing/plates/alu5")
    fields = {c["key"]: {f["name"]: f["label"] for f in c["fields"]} for c in view["cutouts"]}
    drain = fields["drain"]
    assert drain["width_mm"] == "diameter"
    assert "height_mm" not in drain
    assert (drain["u_mm"], drain["v_mm"]) == ("behind the front edge", "right of the middle")
    assert fields["filter"]["v_mm"] == "up from the fold"
    assert "height_mm" in fields["vent-l"]


def test_a_blind_mount_asks_for_the_depth_of_its_hole(client: Client) -> None:
    def fields() -> dict[str, str]:
        mount = client.get("/choosing/survey")["mounts"][0]
        return {f["name"]: f["label"] for f in [*mount["fields"], *mount["rest"]]}

    key = client.get("/choosing/survey")["mounts"][0]["key"]
    path = f"bike.mounts.{key}"
    client.field("choosing", f"{path}.female_kind", "through_tapped")
    assert fields()["overall_height_mm"] == "height of the nut or wall"
    assert "free_space_mm" in fields()
    client.field("choosing", f"{path}.female_kind", "blind_tapped")
    client.field("choosing", f"{path}.thread_end_mm", "14")
    client.field("choosing", f"{path}.overall_height_mm", "16")
    assert fields()["overall_height_mm"] == "depth of the drilled hole"
    assert "free_space_mm" not in fields()
    client.field("choosing", f"{path}.overall_height_mm", "12", status=422)
    sketch = client.get(f"/choosing/survey/sketch/{key}/thread_end_mm")
    assert {d["label"] for d in sketch["drawing"]["dimensions"]} >= {"thread", "hole"}


def test_a_fault_is_noted_where_the_underside_was_tapped(client: Client) -> None:
    below = client.get("/choosing/survey/underside")["below"]
    sump = next(p for p in below["paths"] if p["ref"] == "sump")
    x = sum(p[0] for p in sump["points"]) / len(sump["points"])
    y = sum(p[1] for p in sump["points"]) / len(sump["points"])
    client.post("/choosing/survey/faults/at", x_drawn=x, y_drawn=y)
    client.post("/choosing/survey/faults/at", x_drawn=600.0, y_drawn=20.0)
    view = client.get("/choosing/survey/underside")
    assert view["faults"][-2]["name"].startswith("fault at the ")
    assert view["faults"][-1]["name"] == "fault", "beside every part"
    rings = [c for c in view["below"]["circles"] if c["ref"].startswith("fault:")]
    assert (rings[-2]["cx"], rings[-2]["cy"]) == (round(x, 1), round(y, 1))
    client.post("/choosing/survey/faults/at", x_drawn=5000.0, y_drawn=0.0, status=422)


SHEET = [(100, 100), (940, 100), (940, 1288), (100, 1288)]
"""A4 upright, seen square to it: four pixels a mm."""


def test_mounts_are_placed_from_a_photograph(client: Client) -> None:
    """The sheet is seen from below: a mount 50 mm to the left in the picture is to the right."""
    job = client.get("/choosing/file")["job"]
    first, second = job["bike"]["mounts"][:2]
    sheets = client.get("/choosing/survey/photo")
    assert first["key"] in sheets["mounts"]
    asked = {
        "sheet": "A4, upright",
        "corners": SHEET,
        "known": {"mount": first["key"], "at": (1200, 300)},
        "mounts": [{"mount": second["key"], "at": (1000, 700)}],
        "click_u_px": 1.0,
    }
    answer = client.flask.post("/api/jobs/choosing/survey/photo/mounts", json=asked)
    assert answer.status_code == 200, answer.get_data(as_text=True)
    [place] = answer.get_json()["places"]
    assert place["x"]["value"] == pytest.approx(first["x_mm"] + 100.0)
    assert place["y"]["value"] == pytest.approx(first["y_mm"] + 50.0)
    client.post("/choosing/survey/photo/mounts/take", asked=asked)
    now = next(
        m
        for m in client.get("/choosing/file")["job"]["bike"]["mounts"]
        if m["key"] == second["key"]
    )
    assert (now["x_mm"], now["y_mm"]) == (first["x_mm"] + 100.0, first["y_mm"] + 50.0)
    assert {f["key"]: f["instrument"] for f in now["facts"]}["x_mm"] == "photograph"
    bad = {**asked, "mounts": [{"mount": "nope", "at": (1, 1)}]}
    client.post("/choosing/survey/photo/mounts/take", 422, asked=bad)
    client.post("/choosing/survey/photo/mounts/take", 422, asked={**asked, "mounts": []})


def test_a_piece_of_the_stock_plate_is_taken_over(client: Client) -> None:
    """The stock plate has no side guard of its own until it gets a piece."""
    client.post("/choosing/plates/alu5/pieces/from-stock", 422, item="wing left")
    assert client.get("/choosing/plates/alu5")["reusable"] == {}
    stock = client.get("/choosing/file")["job"]["stock"]["plate"]["key"]
    client.post(f"/choosing/plates/{stock}/pieces")
    [key] = client.get("/choosing/plates/alu5")["reusable"]
    assert client.get(f"/choosing/plates/{stock}")["reusable"] == {}, "not onto itself"
    client.post("/choosing/plates/alu5/pieces/from-stock", item=key)
    [piece] = client.get("/choosing/plates/alu5")["pieces"]
    material = next(f for f in piece["fields"] if f["name"] == "material")
    own = client.get("/choosing/file")["job"]["stock"]["plate"]["material"]
    assert material["metric"] == own
