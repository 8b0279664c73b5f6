"""What practitioners have in hand goes in through the screen and stands in the export."""

from __future__ import annotations

import json
import urllib.request
from typing import Any

import pytest
from selenium.webdriver.common.by import By

from tests.ui.conftest import Page

MM = {"metric": 1.0, "us": 25.4}
JOINT = "candidates.alu5.joints.a4"


def unfold(page: Page) -> None:
    page.without("Fetching")
    page.driver.execute_script(
        "document.querySelectorAll('button[aria-expanded=false]:not([aria-haspopup])')"
        ".forEach((button) => button.click())"
    )


def put(page: Page, fields: dict[str, str]) -> None:
    for path, text in fields.items():
        page.type_in(path, text)
        page.saved(path)


def bike(page: Page, size: Any) -> None:
    page.open("/jobs/choosing/survey")
    page.see("Parts and mounts")
    unfold(page)
    put(
        page,
        {"bike.model": "440 S", "bike.front_tyre": "345 mm", "bike.front_travel_mm": size(210)},
    )
    page.click(page.switch("upper crash bars"))
    page.see("has upper crash bars from no to yes")
    page.press("Type many mounts")
    page.css("section[aria-label='Type many mounts'] textarea").send_keys(
        "name; x; y; z; thread; kind\n"
        f"bar tab, left; {size(700)}; {size(-150)}; {size(330)}; 5/16-18 UNC; crash bar"
    )
    page.see("1 understood")
    page.press("Take in 1 mount")
    page.see("1 mount added")
    page.open("/jobs/choosing/survey?part=mount")
    page.press("Mirror left/right")
    page.see("bar tab, left mirrored")


def joint(page: Page, size: Any) -> None:
    page.open("/jobs/choosing/fit-up/a4")
    page.see("Joint 4")
    unfold(page)
    at = f"{JOINT}.layers.spacer"
    put(
        page,
        {
            f"{at}.outer_mm": size(19),
            f"{at}.hole_mm": size(8.6),
            f"{at}.tol_mm": size(0.05),
            f"{at}.when": "side stand",
            f"{JOINT}.second_drive": "six-lobe T40",
        },
    )
    page.listed("nut", "ISO 7042")
    page.see("nut from nothing to ISO 7042")
    page.listed("turned", "nut")
    page.see("turned from head to nut")
    put(page, {f"{JOINT}.female.free_space_mm": size(21)})
    page.listed("head", "DIN 603")
    page.see("head from ISO 4762 to DIN 603")
    page.listed("where", "under the head")
    page.press("Add this layer")
    page.see("added at joint 4")


def plate(page: Page, size: Any) -> None:
    page.open("/jobs/choosing/survey/plates/alu5")
    page.see("What it requires")
    unfold(page)
    put(page, {"candidates.alu5.plate.needs.model": "440 S or 440 R"})
    page.listed("mounting", "frame and engine")
    page.see("frame and engine")
    page.press("Type many")
    page.css("section[aria-label='Type many openings'] textarea").send_keys(
        f"drain; {size(210)}; {size(10)}; {size(42)}"
    )
    page.see("1 understood")
    page.press("Take in 1 opening")
    page.see("1 opening added")
    guard(page, size)
    page.open("/jobs/choosing/weigh-up/compare")
    page.see("Riding and limits")
    page.press("Riding and limits")
    put(page, {"currency": "florins"})


def guard(page: Page, size: Any) -> None:
    """A further piece of another material, its left edge bent up and its rear edge down."""
    page.press("Add a piece")
    page.see("fitted first after the main one")
    unfold(page)
    at = "candidates.alu5.plate.pieces.piece"
    last = "(//label[normalize-space(.)='material'])[last()]/following-sibling::*[1]"
    page.click(page.until("its material", lambda: page.driver.find_element(By.XPATH, last)))
    page.click(page.by_words("*[@role='option']", "HDPE"))
    put(page, {f"{at}.left_bend_mm": size(45), f"{at}.rear_bend_mm": size(30)})
    put(page, {f"{at}.rear_bend_angle_deg": "-20"})


def test_each_named_thing_goes_in_and_comes_out(page: Page) -> None:
    """In either system; which text means what in which is the server's (``test_quantity``)."""
    page.open("/")
    for part, system in ((bike, "us"), (joint, "metric"), (plate, "us")):
        page.driver.execute_script(f"localStorage.setItem('shield-units', '{system}')")
        part(page, lambda mm, one=MM[system]: f"{mm / one:.6g}")
    url = f"{page.server.base}/api/jobs/choosing/file"
    with urllib.request.urlopen(url, timeout=120) as answer:
        job = json.load(answer)["job"]
    own = job["bike"]
    assert (own["model"], own["has_upper_bars"]) == ("440 S", True)
    assert own["front_wheel_radius_mm"] == 345.0
    near = pytest.approx
    assert own["front_travel_mm"] == near(210, abs=0.01)
    left, right = own["mounts"][-2:]
    assert (left["thread"], left["kind"]) == ("5/16-18 UNC", "crash-bar tab")
    assert (left["x_mm"], left["y_mm"], left["z_mm"]) == near((700, -150, 330), abs=0.01)
    assert (right["name"], right["y_mm"]) == ("bar tab, right", near(150, abs=0.01))
    alu = next(c for c in job["candidates"] if c["plate"]["key"] == "alu5")
    screw = next(j for j in alu["joints"] if j["key"] == "a4")
    spacer = next(x for x in screw["layers"] if x["key"] == "spacer")
    assert (spacer["outer_mm"], spacer["hole_mm"]) == near((19, 8.6), abs=0.01)
    assert spacer["tol_mm"] == near(0.05, abs=0.001)
    assert spacer["when"] == "side stand"
    assert screw["layers"][0]["kind"] == "spacer"
    assert screw["layers"][0]["thickness_mm"] == near(3.0, abs=0.02)
    assert (screw["nut"], screw["turned"], screw["head"]) == ("ISO 7042", "nut", "DIN 603")
    assert screw["second_drive"] == "six-lobe T40"
    assert screw["female"]["free_space_mm"] == near(21, abs=0.01)
    assert (alu["plate"]["mounting"], job["currency"]) == ("frame and engine", "florins")
    assert alu["plate"]["needs"]["model"] == "440 S or 440 R"
    [piece] = alu["plate"]["pieces"]
    assert (piece["material"], piece["left_bend_angle_deg"]) == ("HDPE", 90.0)
    assert (piece["left_bend_mm"], piece["rear_bend_mm"]) == near((45, 30), abs=0.01)
    assert piece["rear_bend_angle_deg"] == -20.0
    drain = alu["plate"]["cutouts"][-1]
    assert (drain["shape"], drain["width_mm"]) == ("round", near(42, abs=0.01))
