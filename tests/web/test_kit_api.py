"""Kit over HTTP: two ways in, parts put to joints, debts, the sheet, tools, what is to buy."""

from __future__ import annotations

import csv
import io
from typing import Any

from tests.conftest import Client
from tests.hostile import pdf, png

LIST = "name;size;length;head;class;count\nbelly screw;M8;20;socket cap;8.8;4\nwasher;M8;;;;4\n"


def begun(client: Client, status: int = 200, **more: Any) -> Any:
    body = {"name": "Green single", "layout": "single", "text": LIST, "key": "begin-0001", **more}
    answer = client.flask.post("/api/new-fit", json=body)
    assert answer.status_code == status, answer.get_data(as_text=True)[:300]
    return answer.get_json()


def test_a_name_a_layout_and_a_list_lead_to_joints(client: Client) -> None:
    made = begun(client)
    assert "2 lines taken in; 4 joints proposed" in made["words"]
    short = begun(client, text="name;size;length\nscrew;M8;20\nscrew;M8;long", key="begin-0009")
    assert "1 line taken in, 1 not understood and left out" in short["words"]
    again = begun(client)
    assert again["id"] == made["id"], "asked again after a cut: not doubled"
    kit = client.get(f"/{made['id']}/kit")
    assert [j["proposed"] for j in kit["joints"]] == [True] * 4
    assert {j["verdict"] for j in kit["joints"]} == {"not known"}
    assert [p["line"] for p in kit["joints"][0]["places"]] == ["list-2", "list-3"]
    frame = client.get(f"/{made['id']}")
    assert frame["stations"][0]["settled"] == 0, "everything else is assumed and says so"


def test_what_is_missing_or_wrong_is_named(client: Client) -> None:
    assert begun(client, 422, name=" ")["error"]["field"] == "name"
    assert begun(client, 422, layout="boat")["error"]["field"] == "layout"
    assert begun(client, 422, text="???")["error"]["field"] == "text"
    assert begun(client, 422, thickness="thick")["error"]["field"] == "thickness"
    bare = begun(client, text="", key="begin-0002")
    assert "No list yet" in bare["words"]
    odd = begun(client, text="name;size;count\nbracket;;2", key="begin-0003")
    assert "No joint could be proposed" in odd["words"]


def test_layouts_are_drawn_from_their_own_geometry(client: Client) -> None:
    view = client.flask.get("/api/layouts").get_json()
    drawn = [str(p["picture"]["paths"]) for p in view["pictures"]]
    assert [p["key"] for p in view["pictures"]] == list(view["layouts"])
    assert len(set(drawn)) == len(drawn)


def test_an_example_is_there_to_look_at(client: Client) -> None:
    made = client.flask.post("/api/example", json={}).get_json()
    assert client.get(f"/{made['id']}")["title"] == made["title"]


def test_a_proposal_is_confirmed_and_a_substitute_owed_and_paid(client: Client) -> None:
    job = begun(client)["id"]
    joint = client.get(f"/{job}/kit")["joints"][0]["key"]
    client.post(f"/{job}/kit/confirm", joint=joint)
    client.post(f"/{job}/kit/confirm")
    client.post(f"/{job}/kit/substitutes", joint=joint, part="screw", name="stock", length="10")
    kit = client.get(f"/{job}/kit")
    (debt,) = kit["debts"]
    assert (debt["verdict"], debt["owed"]) == ("blocked", True)
    assert any(b["why"] == "to pay a debt" for b in kit["buy"])
    detail = client.get(f"/{job}/fit-up/joints/{joint}")
    assert detail["length_mm"] == 10.0
    assert detail["stands_in"] == ["stock, instead of M8 × 20 ISO 4762 8.8"]
    assert next(f for f in detail["fields"] if f["name"] == "length_mm")["metric"] == "20"
    paper = client.flask.get(f"/api/jobs/{job}/tighten/steps.pdf")
    assert paper.status_code == 200
    client.post(f"/{job}/kit/substitutes/{debt['key']}/pay")
    assert client.get(f"/{job}/fit-up/joints/{joint}")["length_mm"] == 20.0
    client.post(f"/{job}/kit/substitutes/{debt['key']}/pay", 422)
    client.post(f"/{job}/kit/substitutes/{debt['key']}/remove")
    assert client.get(f"/{job}/kit")["debts"] == []
    client.post(f"/{job}/kit/substitutes", 422, joint=joint, part="wing", name="x")


def test_a_line_is_put_to_a_place_or_added(client: Client) -> None:
    job = begun(client)["id"]
    client.post(f"/{job}/kit/lines", kind="spacer", name="spacer", thread="M8", length="6")
    kit = client.get(f"/{job}/kit")
    spacer = next(k["key"] for k in kit["lines"] if k["kind"] == "spacer")
    joint = kit["joints"][1]["key"]
    client.post(f"/{job}/kit/put", line=spacer, joint=joint, part="new")
    places = client.get(f"/{job}/kit")["joints"][1]["places"]
    assert [p["kind"] for p in places] == ["screw", "washer", "spacer"]
    assert places[2]["line"] == spacer
    client.post(f"/{job}/kit/put", 422, line=spacer, joint=joint, part="screw")


def test_counting_all_and_what_is_to_buy(client: Client) -> None:
    job = begun(client)["id"]
    client.post(f"/{job}/kit/count-all", lines=["list-2"])
    assert client.get(f"/{job}/kit")["uncounted"] == 1
    client.post(f"/{job}/kit/count", line="list-3", text="3")
    table = list(csv.reader(io.StringIO(client.flask.get(f"/api/jobs/{job}/kit/to-buy.csv").text)))
    assert table[0] == ["count", "what", "kind", "or_else", "for_joints", "why"]
    assert ["1", "washer M8"] in [row[:2] for row in table[1:]]
    slip = client.flask.get(f"/api/jobs/{job}/kit/to-buy.pdf")
    assert slip.data.startswith(b"%PDF")
    assert "attachment" not in slip.headers["Content-Disposition"]


def test_a_revised_sheet_says_what_it_alters_and_takes_what_is_chosen(client: Client) -> None:
    job = begun(client)["id"]
    text = LIST.replace("20;socket", "25;socket").replace("washer;M8;;;;4", "washer;M8;;;;6")
    seen = client.flask.post(f"/api/jobs/{job}/kit/revision/preview", json={"text": text})
    changes = {c["key"]: c for c in seen.get_json()["changes"]}
    assert set(changes) == {"changed:list-2", "changed:list-3"}
    assert changes["changed:list-2"]["joints"] == [1, 2, 3, 4]
    client.post(f"/{job}/kit/revision", text=text, take=["changed:list-3"])
    lines = {k["key"]: k for k in client.get(f"/{job}/kit")["lines"]}
    assert (lines["list-2"]["size"], lines["list-3"]["count"]) == ("M8 × 20", 6)
    client.post(f"/{job}/kit/revision", 422, text=text, take=[])


def test_pages_of_the_sheet_are_pictures_whatever_they_came_as(client: Client) -> None:
    kept = client.flask.post(
        "/api/jobs/choosing/kit/pdf", data=pdf(2), content_type="application/pdf"
    )
    ids = kept.get_json()["ids"]
    assert len(ids) == 2
    for page in ids:
        client.post("/choosing/kit/pages", photo=page)
    assert client.get("/choosing/kit")["sheet"]["pages"] == ids
    shown = client.flask.get(f"/api/jobs/choosing/photos/{ids[0]}")
    assert shown.mimetype == "image/jpeg"
    client.post("/choosing/kit/pages/remove", photo=ids[0])
    assert client.get("/choosing/kit")["sheet"]["pages"] == ids[1:]
    client.post("/choosing/kit/pages", 422, photo="0" * 20)
    bad = client.flask.post(
        "/api/jobs/choosing/kit/pdf", data=png(4, 4), content_type="application/pdf"
    )
    assert bad.status_code == 422


def test_tools_of_both_sides_and_which_gets_in(client: Client) -> None:
    job = begun(client)["id"]
    joint = client.get(f"/{job}/kit")["joints"][0]["key"]
    view = client.get(f"/{job}/kit/tools")
    assert view["lacking"] == view["roll_lacks"] == ["6 mm hex key"]
    (spare,) = view["spares"]
    assert (spare["count"], spare["joints"]) == (1, [1, 2, 3, 4])
    assert spare["what"].startswith("M8 × ")
    assert spare["drawing"]
    client.post(f"/{job}/kit/tools", tool="6 mm hex key", place="trail roll")
    view = client.get(f"/{job}/kit/tools")
    assert view["lacking"] == view["roll_lacks"] == []
    client.post(f"/{job}/kit/tools", 422, tool="6 mm hex key", place="trail roll")
    client.field(job, f"candidates.own.joints.{joint}.room_mm", "5")
    first = client.get(f"/{job}/kit/tools")["by_joint"][0]["turned"]
    assert first["fits"] == []
    assert "stays out" in first["words"]


def test_a_job_shows_its_bike_and_its_next_act(client: Client) -> None:
    job = begun(client)["id"]
    line = next(j for j in client.jobs().values() if j["id"] == job)
    assert (line["due"], line["act_at"]) == ("look at 4 joints proposed from the list", "kit")
    picture = client.get(f"/{job}/picture")
    assert picture["paths"]
    assert not picture["marks"]


def test_a_kit_of_a_hundred_lines_is_answered(client: Client) -> None:
    rows = "\n".join(f"screw {i};M8;{20 + i % 5 * 5};socket cap;8.8;2" for i in range(100))
    text = f"name;size;length;head;class;count\n{rows}"
    job = begun(client, text=text)["id"]
    view = client.get(f"/{job}/kit")
    assert len(view["lines"]) == 100
    assert all(line["drawing"] for line in view["lines"])


def test_the_trail_roll_is_edited_on_the_shelf(client: Client) -> None:
    client.post("/choosing/shelf", kind="bike")
    line = next(
        i for i in client.flask.get("/api/shelf").get_json()["items"] if i["kind"] == "bike"
    )

    def at(path: str, body: Any, status: int = 200) -> Any:
        answer = client.flask.post(f"/api/shelf/{line['id']}/{path}", json=body)
        assert answer.status_code == status, answer.get_data(as_text=True)[:200]
        return answer.get_json()

    view = at("roll", {"tool": " 13 mm  spanner "})
    line = next(i for i in view["items"] if i["kind"] == "bike")
    assert "13 mm spanner" in line["roll"].values()
    at("roll", {"tool": "13 mm spanner"}, 422)
    at("roll", {"tool": " "}, 422)
    key = next(k for k, v in line["roll"].items() if v == "13 mm spanner")
    view = at(f"roll/{key}/remove", {})
    line = next(i for i in view["items"] if i["kind"] == "bike")
    assert "13 mm spanner" not in line["roll"].values()
    at(f"roll/{key}/remove", {}, 422)


def test_a_far_nut_is_built_shown_and_stands_in_every_list(client: Client) -> None:
    """Through the interface from adding it to its step, its torque on the card, its tools."""
    client.post("/choosing/fit-up/joints/a5/far")
    detail = client.get("/choosing/fit-up/joints/a5")
    assert [far["name"] for far in detail["far"]] == ["far nut"]
    keys = {figure["key"] for figure in detail["far"][0]["figures"]}
    assert {"held", "torque"} <= keys
    at = next(f["path"] for f in detail["far"][0]["fields"] if f["path"].endswith("treatment"))
    client.field("choosing", at, "anti-seize")
    step = next(
        s
        for s in client.get("/choosing/tighten")["steps"]
        if s["step"]["key"].startswith("far:a5:")
    )
    assert step["setting"]["value"] > 0
    tools = client.get("/choosing/kit/tools")
    named = [t for t in tools["by_joint"] if t["name"].endswith("far nut")]
    assert len(named) == 1
    assert named[0]["fields"] == []
    far = detail["far"][0]["key"]
    client.post(f"/choosing/fit-up/joints/a5/far/{far}/remove")
    assert client.get("/choosing/fit-up/joints/a5")["far"] == []
