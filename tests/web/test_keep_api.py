"""Keep over HTTP on the demo job that is in service, and on one that is not fitted yet."""

from __future__ import annotations

import io
from datetime import UTC, date, datetime
from typing import Any

import pytest
from icalendar import Calendar
from PIL import Image
from pypdfium2 import PdfDocument

from tests.conftest import Client

JOB = "in-service"


def keep(client: Client, job: str = JOB) -> dict[str, Any]:
    found: dict[str, Any] = client.get(f"/{job}/keep")
    return found


def due(client: Client, key: str) -> dict[str, Any]:
    return next(d for d in keep(client)["dues"] if d["key"].startswith(key))


def test_a_hard_blow_is_due_until_somebody_looked(client: Client) -> None:
    first = keep(client)["dues"][0]
    assert first["key"].startswith("blow:")
    assert first["state"] == "now"
    client.post(f"/{JOB}/keep/snooze", 422, due=first["key"], until="2099-01-01", reason="later")
    client.post(f"/{JOB}/keep/look", looked=["brackets and bosses", "leaks"], found="")
    assert due(client, "blow:")["state"] == "now", "half of it was looked at"
    client.post(f"/{JOB}/keep/look", looked=["chafe", "heads"], found="a boss is cracked")
    assert due(client, "blow:")["state"] == "now", "and something was found"
    client.post(f"/{JOB}/keep/look", looked=keep(client)["after_blow"], found="")
    assert not any(d["key"].startswith("blow:") for d in keep(client)["dues"])
    assert due(client, "wash and look")["state"] == "later"


def test_a_dent_that_took_the_room_stays_until_the_plate_is_mended(client: Client) -> None:
    body = {"felt": "not felt", "dent": "40", "note": "", "system": "metric"}
    client.post(f"/{JOB}/keep/strike", x_drawn=60.0, y_drawn=610.0, **body)
    found = keep(client)
    assert found["due"]["verdict"] == "blocked"
    assert found["blows"][-1]["verdict"] == "blocked"
    client.post(f"/{JOB}/keep/look", looked=found["after_blow"], found="")
    client.post(f"/{JOB}/keep/part", what="isolator", done="replaced", cost="")
    assert due(client, "blow:")["verdict"] == "blocked", "a look mends nothing"
    client.post(f"/{JOB}/keep/part", what="plate", done="straightened", cost="")
    assert not any(d["key"].startswith("blow:") for d in keep(client)["dues"])
    assert keep(client)["blows"][-1]["verdict"] == "mind", "old metal that was bent back"
    assert "straightened" in keep(client)["blows"][-1]["act"]


def test_rides_count_up_to_what_is_due(client: Client) -> None:
    before = keep(client)
    client.post(f"/{JOB}/keep/ride", km="80", hours="", system="metric")
    client.post(f"/{JOB}/keep/ride", km="50", hours="1.5", system="us")
    after = keep(client)
    assert after["km"]["value"] - before["km"]["value"] == pytest.approx(80 + 50 * 1.609344)
    assert [m["kind"] for m in after["moments"][-2:]] == ["ridden", "ridden"]
    client.post(f"/{JOB}/keep/ride", status=422, km="", hours="", system="metric")
    client.post(f"/{JOB}/keep/ride", status=422, km="-3", hours="", system="metric")
    client.post(f"/{JOB}/keep/km", status=422, text="42000", system="metric")


def test_a_blow_is_noted_where_the_plate_was_tapped(client: Client) -> None:
    count = len(keep(client)["blows"])
    body = {"felt": "thrown stone", "dent": "2", "note": "gravel", "system": "metric"}
    client.post(f"/{JOB}/keep/strike", x_drawn=20.0, y_drawn=600.0, **body)
    blow = keep(client)["blows"][-1]
    assert blow["number"] == count + 1
    assert blow["dent"]["value"] == 2.0
    assert blow["left"]["value"] == pytest.approx(blow["room"]["value"] - 2.0)
    rings = [c for c in keep(client)["struck"]["circles"] if c["ref"].startswith("blow:")]
    assert len(rings) == count + 1
    beside = client.post(f"/{JOB}/keep/strike", 422, x_drawn=900.0, y_drawn=600.0, **body)
    assert "not there" in beside["error"]["message"]
    wrong = client.post(
        f"/{JOB}/keep/strike", 422, x_drawn=20.0, y_drawn=600.0, **{**body, "felt": "a log"}
    )
    assert wrong["error"]["field"] == "felt"


def test_what_a_blow_did_to_the_mounts_is_solved_on_the_shell(client: Client) -> None:
    blow = keep(client)["blows"][0]
    said = client.post(f"/{JOB}/keep/blow", seq=blow["seq"])
    shares = [m["share"]["value"] or 0.0 for m in said["mounts"]]
    assert shares == sorted(shares, reverse=True)
    assert len(shares) >= 3
    client.post(f"/{JOB}/keep/blow", 422, seq=1)


def test_wear_is_told_by_two_readings(client: Client) -> None:
    (worn,) = keep(client)["worn"]
    assert len(worn["points"]) == 2
    low, likely, _ = worn["end_km"]
    assert worn["points"][-1]["km"] < low < likely
    client.post(f"/{JOB}/keep/wear", place="slider edge", text="7.5", system="metric")
    other = next(w for w in keep(client)["worn"] if w["place"] == "slider edge")
    assert other["end_km"] == [None, None, None]
    assert due(client, "wear:slider edge")["state"] == "unread"
    client.post("/half-fitted/keep/wear", 422, place="x", text="3", system="metric")
    refused = client.post("/holes-off/keep/wear", 422, place="belly", text="3", system="metric")
    assert "counter" in refused["error"]["message"]


def test_found_torque_stands_over_time_with_what_it_was_tightened_to(client: Client) -> None:
    joint = keep(client)["joints"][0]["recheck"]["joint"]["key"]
    client.post(f"/{JOB}/keep/found", joint=joint, text="9", tightened="14", system="metric")
    row = keep(client)["joints"][0]
    assert [p["what"] for p in row["points"][-2:]] == ["found", "tightened"]
    assert row["recheck"]["verdict"] == "mind"
    assert "Tightened to" in row["recheck"]["words"]
    client.post(f"/{JOB}/keep/found", joint=joint, held=True)
    row = keep(client)["joints"][0]
    assert row["points"][-1]["what"] == "held"
    assert row["recheck"]["verdict"] == "sound"
    client.post(f"/{JOB}/keep/found", 422, joint="nobody", held=True)


def test_a_line_is_voided_with_its_reason_and_stays(client: Client) -> None:
    client.post(f"/{JOB}/keep/note", text="rattles at idle")
    line = keep(client)["moments"][-1]
    client.post(f"/{JOB}/keep/void", 422, seq=line["seq"], reason="x")
    client.post(f"/{JOB}/keep/void", seq=line["seq"], reason="it was the stand")
    again = keep(client)["moments"][-1]
    assert (again["voided"], again["may_void"]) == ("it was the stand", False)
    client.post(f"/{JOB}/keep/void", 422, seq=line["seq"], reason="once more")
    torque = client.get(f"/{JOB}/tighten")["cards"][0]["history"][0]["seq"]
    client.post(f"/{JOB}/keep/void", 422, seq=torque, reason="readings are taken back in Tighten")


def test_what_is_put_off_is_urged_again_when_its_day_has_come(client: Client) -> None:
    key = due(client, "re-check")["key"]
    client.post(f"/{JOB}/keep/snooze", 422, due=key, reason="no wrench with me")
    client.post(f"/{JOB}/keep/snooze", 422, due=key, until="tomorrow", reason="no wrench")
    client.post(f"/{JOB}/keep/snooze", 422, due="nothing", until="2099-01-01", reason="no wrench")
    client.post(f"/{JOB}/keep/snooze", due=key, until="2099-01-01", reason="no wrench with me")
    off = due(client, "re-check")
    assert (off["state"], off["verdict"], off["put_off"]) == (
        "put off",
        "mind",
        "no wrench with me",
    )
    client.post(f"/{JOB}/keep/snooze", due=key, until="2020-01-01", reason="a day that is over")
    assert due(client, "re-check")["state"] == "now"


def test_what_was_put_off_ends_when_it_is_done(client: Client) -> None:
    """Put off for years, then done: the next time it comes round it is urged again."""
    client.post(f"/{JOB}/keep/snooze", due="wash and look", until="2099-01-01", reason="no water")
    client.post(f"/{JOB}/keep/look", looked=["leaks"], found="")
    client.post(f"/{JOB}/keep/ride", km="2000", hours="", system="metric")
    assert due(client, "wash and look")["state"] == "now"


def test_oil_parts_and_warmth_show_what_became_of_the_choice(client: Client) -> None:
    client.post(f"/{JOB}/keep/oil", minutes="45", came_off="two rear screws")
    client.post(f"/{JOB}/keep/part", what="isolator", done="replaced", cost="18")
    became = {row["key"]: row for row in keep(client)["became"]}
    assert "over 3" in became["oil"]["now"]
    assert became["fitting"]["now"] == "67 min told; 4 of 4 joints held"
    assert became["money"]["now"].startswith("18 ")
    assert became["warm"]["verdict"] == "mind"
    client.post(f"/{JOB}/keep/part", what="bracket", done="straightened", cost="")
    assert {r["key"]: r for r in keep(client)["became"]}["money"]["verdict"] == "not known"
    client.post(f"/{JOB}/keep/part", 422, what="bracket", done="polished", cost="")
    body = {"with_plate": True, "air": "14", "running": "88", "fan": "3", "ride": "quarry loop"}
    client.post(f"/{JOB}/keep/warmth", **body, system="metric")
    assert {r["key"]: r for r in keep(client)["became"]}["warm"]["verdict"] == "sound"


def test_before_it_is_fitted_nothing_is_green(client: Client) -> None:
    found = keep(client, "kit-open")
    assert not found["fitted"]
    assert found["dues"] == []
    assert found["due"]["verdict"] == "not known"
    assert {row["verdict"] for row in found["became"]} == {"not known"}


def test_the_way_back_ends_with_the_joint_that_carries_it(client: Client) -> None:
    back = keep(client)["back"]
    loosened = [s for s in back["steps"] if s["title"].startswith("Joint")]
    assert len(loosened) == len(keep(client)["joints"])
    assert "Hold the plate" in loosened[-1]["text"]
    assert "fingers" in loosened[-1]["caution"]
    assert all(not s["caution"] for s in loosened[:-1])
    assert {f["label"] for f in back["gives_back"]} == {"Mass", "Clearance", "Breakover"}
    assert back["gives_back"][0]["value"] < 0.0, "the stock guard is lighter"


def calendar(client: Client) -> dict[str, Any]:
    answer = client.flask.get(f"/api/jobs/{JOB}/keep/due.ics")
    assert answer.mimetype == "text/calendar"
    assert b"\r\n" in answer.data
    events = Calendar.from_ical(answer.data).walk("VEVENT")
    return {str(e["uid"]): e for e in events}


def test_the_calendar_is_updated_and_not_doubled(client: Client) -> None:
    first = calendar(client)
    today = datetime.now(UTC).date()
    look = next(e for uid, e in first.items() if "wash-and-look" in uid)
    assert look.decoded("dtstart") == today
    assert look.walk("VALARM")
    assert all(isinstance(e.decoded("dtstart"), date) for e in first.values())
    client.post(f"/{JOB}/keep/look", looked=["leaks"], found="")
    again = calendar(client)
    later = next(e for uid, e in again.items() if "wash-and-look" in uid)
    assert later["uid"] == look["uid"]
    assert later["sequence"] > look["sequence"]
    assert later.decoded("dtstart") > today


def words_of(client: Client, name: str) -> tuple[str, tuple[float, float]]:
    answer = client.flask.get(f"/api/jobs/{JOB}/keep/{name}")
    assert answer.mimetype == "application/pdf"
    with PdfDocument(io.BytesIO(answer.data)) as pdf:
        words = "\n".join(page.get_textpage().get_text_range() for page in pdf)
        return words, pdf[0].get_size()


def test_the_sheet_to_hand_over_says_it_all(client: Client) -> None:
    client.field(JOB, "customer", "shed number four")
    words, _ = words_of(client, "sheet.pdf")
    flat = " ".join(words.split())
    for expected in ("shed number four", "14.0 N·m", "Owed", "What is due next", "ledge"):
        assert expected in flat, expected


def test_the_trail_roll_fits_a_pocket(client: Client) -> None:
    words, (wide, high) = words_of(client, "roll.pdf")
    assert "Trail roll" in words
    assert "M8 × 35" in words
    assert (round(wide / 72 * 25.4), round(high / 72 * 25.4)) == (105, 148)


def test_wear_without_a_counter_is_not_known(client: Client) -> None:
    """Both readings stand, but nobody knows how far it went since: no distance is made up."""
    client.field(JOB, "odometer_km", "")
    for moment in keep(client)["moments"]:
        if moment["kind"] == "counter":
            client.post(f"/{JOB}/keep/void", seq=moment["seq"], reason="the other bike's")
    assert keep(client)["km"]["value"] is None
    assert due(client, "wear:")["state"] == "unread"
    assert due(client, "wear:")["verdict"] == "not known"


def test_a_note_with_a_picture_at_its_step(client: Client) -> None:
    """Kept with the step, shown there and on the time line; a picture that is not there is not."""
    url = "/api/jobs/in-service/photos"
    out = io.BytesIO()
    Image.new("RGB", (40, 30), (9, 99, 9)).save(out, "PNG")
    kept = client.flask.post(url, data=out.getvalue(), content_type="image/png").get_json()["id"]
    client.post("/in-service/keep/note", text="", photo=kept, step="sweep")
    notes = client.get("/in-service/tighten")["notes"]
    assert [(n["step"], n["text"], n["photo"]) for n in notes] == [("sweep", "picture", kept)]
    moment = next(m for m in client.get("/in-service/keep")["moments"] if m["photo"])
    assert moment["photo"] == kept
    refused = client.post("/in-service/keep/note", 422, text="look", photo="nowhere")
    assert refused["error"]["field"] == "photo"
    client.post("/in-service/keep/void", seq=moment["seq"], reason="wrong picture")
    assert client.get("/in-service/tighten")["notes"] == []


def test_mass_over_the_years_adds_up_in_the_order_of_its_dates(client: Client) -> None:
    """By hand: each line's mass onto the sum of those before it; the budget's total at the end."""
    client.post(f"/{JOB}/survey/items", where="bike.added")
    added = client.get(f"/{JOB}/survey/underside")["added"][-1]
    at = f"bike.added.{added['key']}"
    client.field(JOB, f"{at}.name", "pannier rack")
    client.field(JOB, f"{at}.mass_kg", "6.5")
    client.field(JOB, f"{at}.since", "1999-05")
    rows = keep(client)["mass_years"]
    total = 0.0
    for row in rows:
        total += row["mass"]["value"]
        assert row["total"]["value"] == pytest.approx(total)
    dates = [row["at"] for row in rows if row["at"][0].isdigit()]
    assert dates == sorted(dates)
    assert dates[0] == "1999-05"
    budget = client.get(f"/{JOB}/survey/underside")["budget"]
    assert total == pytest.approx(budget["total"]["value"])
    refused = client.field(JOB, f"{at}.since", "last spring", 422)
    assert "2024-05" in refused["error"]["allowed"]
