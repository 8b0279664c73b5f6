"""The whole walk in the real interface by mouse, and what interrupts it."""

from __future__ import annotations

import urllib.request
from pathlib import Path

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from rugged_shield.demo.jobs import DEMO_JOBS
from tests.ui.conftest import Page

SUMP = "bike.parts.sump.z_min_mm"
SPACER = "candidates.alu5.joints.a3.layers.spacer.thickness_mm"


def survey(page: Page) -> None:
    page.see("What is under this bike")
    for words in ("right · throttle side", "left · clutch side", "front", "100 mm"):
        page.see(words)
    page.axe(inks="no")
    page.click("[data-part='sump']")
    outline = "document.querySelectorAll('svg.drawing')[1].querySelector('[data-ref=sump]')"
    before = page.driver.execute_script(f"return {outline}.getAttribute('d')")
    page.type_in(SUMP, "300")
    page.saved(SUMP)
    page.until(
        "the sump drawn lower",
        lambda: page.driver.execute_script(f"return {outline}.getAttribute('d')") != before,
    )
    page.until("the standoff moved", lambda: page.moved("standoff"))
    page.see("sump: underside, z from 310 mm to 300 mm")


def bad_number(page: Page) -> None:
    page.type_in(SUMP, "5 m")
    page.see("5000 mm is too large")
    page.see("Kept: 300 mm")
    page.press("put it back")
    assert page.css(f"input[data-path='{SUMP}']").get_attribute("value") == "300"


def weigh_up(page: Page) -> None:
    page.follow("Weigh-up")
    page.see("How sure")
    page.axe()
    page.follow("Compare")
    page.see("Mass with hardware")
    page.axe(inks="no")
    for key, verdict in (("stock", "mind"), ("steel25", "blocked"), ("hdpe10", "mind")):
        assert verdict in page.css(f"[data-plate='{key}']").text
    page.click("[data-row='mass'] td:nth-of-type(2) button")
    page.see("Why this number")
    page.see("Density")
    page.axe()
    page.press("Close")
    page.gone("[role=dialog]")
    page.press("Pick the Pressed aluminium pan")
    page.see("Against stock: Pressed aluminium pan (picked)")


def kit(page: Page) -> None:
    page.follow("Kit")
    page.see("Pressed aluminium pan: its hardware")
    page.axe(inks="no")
    for _ in range(3):
        page.click("[data-line='k1'] [aria-label^='One more']")
    page.until("extra", lambda: "extra: 1 more" in page.css("[data-line='k1']").text)
    page.click("[data-line='k1'] [aria-label^='One less']")
    page.until("matches", lambda: "matches" in page.css("[data-line='k1']").text)
    page.click(page.by_words("button", "all 1"))
    link = page.by_words("a", "CSV").get_attribute("href")
    assert link is not None
    with urllib.request.urlopen(link, timeout=120) as answer:
        assert answer.read().startswith(b"kind,name,thread")


def fit_up(page: Page) -> None:
    page.follow("Fit-up")
    page.click("[data-joint='a3']")
    page.see("Joint 3, engine boss, left")
    page.axe()
    window = page.css("[data-testid='window'] rect")
    before = window.get_attribute("data-from")
    page.press("Add this layer")
    page.see("too short:")
    after = page.css("[data-testid='window'] rect").get_attribute("data-from")
    assert before is not None
    assert after is not None
    assert float(after) > float(before) + 3
    page.until("the ledger moved", lambda: page.moved("clearance"))
    page.press("Take the 40 mm screw")
    page.see("3.0 mm more than the gap to its mount")
    added = page.css("[data-layer='own']")
    page.click(added.find_element(By.XPATH, ".//button[.='Take this layer out']"))
    page.see("bottoms:")
    page.press("Take the 35 mm screw")
    page.see("Length, thread and room are right.")
    page.click("[data-layer='washer'] [role=switch]")
    page.until("no washer in the grip", lambda: "17.0 mm" in page.css("[data-figure='grip']").text)
    page.click("[data-layer='washer'] [role=switch]")
    page.until("the washer again", lambda: "18.6 mm" in page.css("[data-figure='grip']").text)


def own_joint(page: Page) -> None:
    page.press("Build a joint of your own")
    page.see("A joint of your own")
    page.axe()
    page.press("Build this joint")
    page.see("Nothing was entered")
    inputs = "section[aria-label='New joint'] input:not([type='checkbox'])"
    fields = page.driver.find_elements(By.CSS_SELECTOR, inputs)
    fields[0].send_keys("700")
    fields[1].send_keys("0")
    page.press("Build this joint")
    page.see("7\nthrough nut")
    page.follow("through nut")
    page.see("Joint 7, through nut")


def tighten(page: Page) -> None:
    page.follow("Tighten")
    page.see("Order of the final torques")
    page.axe(inks="no")
    assert len(page.driver.find_elements(By.CSS_SELECTOR, "svg [data-mark]")) >= 7
    page.click("[data-card='a3']")
    page.see("Joint 3, engine boss, left")
    page.see("Bike manual 18.0 N·m")
    page.see("Plate sheet 24.0 N·m")
    page.see("Manual and sheet differ by 6.0 N·m.")
    page.type_in("wrench.extension_mm", "90")
    page.see("with 90 mm of extension")
    page.see("13.5 N·m")
    page.type_in("wrench.extension_mm", "0")
    page.see("no extension: set the target itself")


def garage(page: Page) -> None:
    page.follow("Open garage mode")
    page.see("Support the bike")
    page.axe(inks="no")
    for _ in range(5):
        page.step("Done")
    page.see("Open on the bike: 1")
    page.see("Start joint 1 by hand")
    while "Torque joint 1" not in page.text():
        page.step("Next")
    page.see("are not started")
    page.axe()
    page.css("section[aria-label='Reading'] input:last-of-type")
    entries = page.driver.find_elements(By.CSS_SELECTOR, "section[aria-label='Reading'] input")
    entries[-1].send_keys("20")
    page.press("Record reading")
    page.see("Start the missing joints, or say why you go on without them.")


def start_and_torque(page: Page) -> None:
    page.open("/jobs/choosing/garage")
    page.see("Start joint 1 by hand")
    for _ in range(7):
        page.step("Started by hand")
    page.see("Draw joint 1 to half")
    page.step("Done")
    page.step("Done")
    page.see("Torque joint 1")
    reading = "section[aria-label='Reading'] input"
    page.css(reading).send_keys("20")
    page.press("Record reading")
    page.see("torque it again")
    assert "Torque joint 1" in page.text(), "a reading below its band does not lead on"
    page.css(reading).send_keys("40")
    page.press("Record reading")
    page.see("Stop: do not go on with this joint as it is.")
    page.axe()
    page.press("A new screw is in: torque it anew")
    page.until("the stop is gone", lambda: "Stop:" not in page.text())
    page.css(reading).send_keys("21")
    page.press("Record reading")
    page.see("Torque joint 2")


def keep(page: Page) -> None:
    page.open("/jobs/half-fitted/garage")
    for torque in ("6.8", "6.8", "18", "18"):
        page.until("a step", lambda: "Draw" in page.text() or "Torque joint" in page.text())
        while "Torque joint" not in page.text():
            page.step("Done")
        page.css("section[aria-label='Reading'] input").send_keys(torque)
        page.step("Record reading")
    from_paper(page)
    page.open("/jobs/half-fitted/keep")
    page.see("Locker: the locker of joint")
    page.see("First re-check")
    page.axe(inks="no")
    page.follow("Joints")
    page.entry("found on joint 1", "12")
    page.click(page.by_words("button", "Record"))
    page.see("less than 80 %")


def from_paper(page: Page) -> None:
    """What is left of the plan was ticked on the printed sheet: entered in one go."""
    page.open("/jobs/half-fitted/tighten")
    page.click(page.by_words("summary", "Enter what was ticked on paper"))
    boxes = page.driver.find_elements(By.CSS_SELECTOR, "details input[type=checkbox]")
    for box in boxes:
        page.click(box)
    page.press(f"Keep {len(boxes)} of")
    page.see(f"{len(boxes)} of {len(boxes)} kept.")


def test_the_walk_by_mouse(page: Page) -> None:
    page.open("/")
    page.see("choosing a plate")
    page.axe(inks="no")
    page.follow("Autumn forest rally")
    page.follow("Survey")
    survey(page)
    page.quiet_console()
    bad_number(page)
    page.driver.get_log("browser")  # the refused number above is logged by the browser itself
    weigh_up(page)
    kit(page)
    fit_up(page)
    page.quiet_console()
    own_joint(page)
    tighten(page)
    page.driver.get_log("browser")
    garage(page)
    page.driver.get_log("browser")
    start_and_torque(page)
    keep(page)
    page.quiet_console()
    step = "Torque joint 2"
    page.server.stop()
    page.server.start()
    page.open("/jobs/choosing/garage")
    page.see(step)
    page.open("/jobs/half-fitted/keep/joints")
    page.see("found")
    page.see("less than 80 %")
    page.quiet_console()


def test_done_is_within_reach_of_the_thumb(page: Page) -> None:
    page.size(390, 844)
    page.open("/jobs/half-fitted/garage")
    done = page.by_words("button", "Done")
    assert done.size["height"] >= 44
    assert done.location["y"] + done.size["height"] <= 844, "within reach of the thumb"
    page.click(done)
    page.see("Draw joint 6 to half")
    page.quiet_console()


def test_lost_links_and_two_windows(page: Page) -> None:
    """A server that is gone is said on the field and retried; a second window is told."""
    path = SPACER
    page.open("/jobs/choosing/fit-up/a3")
    page.css(f"input[data-path='{path}']")
    page.server.stop()
    page.type_in(path, "14")
    page.see("Not saved yet: no answer. Trying again")
    page.server.start()
    page.saved(path)
    page.until("saved", lambda: "from 12 mm to 14 mm" in page.text())
    first = page.driver.current_window_handle
    page.css(f"input[data-path='{path}']").send_keys(Keys.CONTROL, "a")
    page.css(f"input[data-path='{path}']").send_keys(Keys.BACKSPACE)
    page.driver.switch_to.new_window("tab")
    page.size(1280, 800)
    page.open("/jobs/choosing/fit-up/a3")
    page.type_in(path, "16")
    page.see("from 14 mm to 16 mm")
    page.driver.close()
    page.driver.switch_to.window(first)
    page.see("from 14 mm to 16 mm")
    page.type_in(path, "18")
    page.see("Changed in another window meanwhile. There: 16. Here: 18.")
    page.press("Put mine")
    page.see("from 16 mm to 18 mm")
    page.driver.get_log("browser")


def test_undo_by_button_and_by_key(page: Page) -> None:
    page.open("/jobs/choosing/fit-up/a3")
    page.type_in(SPACER, "15")
    page.see("from 12 mm to 15 mm")
    page.click("[data-turn='undo']")
    page.see("undone: joint 3, spacer: thickness from 12 mm to 15 mm")
    page.until("12 again", lambda: field_value(page) == "12")
    page.driver.refresh()
    page.until("the frame", lambda: page.css("[data-turn='redo']").is_enabled())
    page.keys("y")
    page.until("15 again", lambda: field_value(page) == "15")
    page.keys("z")
    page.until("12 once more", lambda: field_value(page) == "12")
    page.quiet_console()


def field_value(page: Page) -> str | None:
    return page.css(f"input[data-path='{SPACER}']").get_attribute("value")


def test_an_unsent_entry_outlives_a_reload(page: Page) -> None:
    page.open("/jobs/choosing/fit-up/a3")
    page.css(f"input[data-path='{SPACER}']")
    page.server.stop()
    page.type_in(SPACER, "14")
    page.see("Not saved yet: no answer. Trying again")
    page.server.start()
    page.driver.refresh()
    page.until("what was typed", lambda: field_value(page) == "14")
    page.see("from 12 mm to 14 mm")
    left = "return Object.keys(localStorage).filter(k => k.startsWith('shield-unsent')).length"
    page.until("sent", lambda: page.driver.execute_script(left) == 0)
    page.driver.get_log("browser")


def test_a_job_file_comes_in_by_the_screen(page: Page, tmp_path: Path) -> None:
    page.open("/jobs/half-fitted/keep/back")
    link = page.by_words("a", "Save the job as a file").get_attribute("href")
    assert link is not None
    with urllib.request.urlopen(link, timeout=120) as answer:
        data = answer.read()
    (tmp_path / "job.json").write_bytes(data)
    whole = page.by_words("a", "with its photos").get_attribute("href")
    assert whole is not None
    with urllib.request.urlopen(whole, timeout=120) as answer:
        (tmp_path / "job.zip").write_bytes(answer.read())
    (tmp_path / "bad.json").write_bytes(data.replace(b'"wheelbase_mm": 1480', b'"wheelbase_mm": 1'))
    page.open("/")
    page.see("Bring in a job file")
    entry = page.driver.find_element(By.CSS_SELECTOR, "input[type=file]")
    entry.send_keys(str(tmp_path / "bad.json"))
    page.see("wheelbase_mm")
    page.driver.find_element(By.CSS_SELECTOR, "input[type=file]").send_keys(
        str(tmp_path / "job.json")
    )
    page.see("What is under this bike")
    page.open("/")
    page.see("Bring in a job file")
    page.driver.find_element(By.CSS_SELECTOR, "input[type=file]").send_keys(
        str(tmp_path / "job.zip")
    )
    page.see("What is under this bike")
    page.open("/")
    several = len(DEMO_JOBS) + 2
    page.until("two jobs more", lambda: page.text().count("Stands:") == several)
    page.driver.get_log("browser")
