"""A layout, two plates, joints at one tap: nothing plain green until a calliper was there."""

from __future__ import annotations

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.ui.conftest import Page
from tests.ui.test_survey import exported, job_of, put, take

LIST = "name;size;length;head;class;count\nbelly screw;M8;20;socket cap;8.8;4\nwasher;M8;;;;4\n"
BY_CALLIPER = ("thread_start_mm", "thread_end_mm", "overall_height_mm")
BY_TAPE = ("z_mm", "free_space_mm")


def begun(page: Page) -> str:
    """A plate to fit on a layout, its list spread over the mounts; a second plate beside it."""
    page.open("/new/fit")
    page.entry("what you call the bike", "Green single")
    page.click(page.by_words("*[@role='radio']", "Single in a cradle frame"))
    page.driver.find_element(By.TAG_NAME, "textarea").send_keys(LIST)
    page.see("2 understood")
    page.press("Lay the kit out")
    page.see("4 joints proposed from the list")
    page.press("All 4 proposed ones are right")
    job = job_of(page)
    page.open(f"/jobs/{job}/survey/plates")
    page.entry("a new plate, by its name", "second pan")
    page.keys(Keys.ENTER)
    page.until("the second plate", lambda: page.driver.current_url.endswith("/own-2"))
    return job


def marks(page: Page, within: str) -> list[str]:
    """The verdicts that stand in a part of the page, in words."""
    shown: list[str] = page.driver.execute_script(
        "return [...document.querySelectorAll(arguments[0] + ' [data-verdict]')]"
        ".map((e) => e.dataset.verdict)",
        within,
    )
    return shown


def measure(page: Page, job: str, mount: str) -> None:
    """Three readings by the calliper, what a tape tells beside them, as they were assumed."""
    page.open(f"/jobs/{job}/survey")
    page.click(f"[data-part='{mount}']")
    page.press("Lay out the instruments")
    fold = "button[aria-expanded='false']"

    def unfolded() -> bool:
        for button in page.driver.find_elements(By.CSS_SELECTOR, fold):
            if button.text.startswith("Thread, depths"):
                page.click(button)
        shown = f"input[data-path='bike.mounts.{mount}.{BY_CALLIPER[0]}']"
        return bool(page.driver.find_elements(By.CSS_SELECTOR, shown))

    page.until("the thread's fields", unfolded)

    def known(name: str) -> bool:
        own = next(m for m in exported(page)["bike"]["mounts"] if m["key"] == mount)  # type: ignore[index]
        return any(f["key"] == name and f["known"] == "measured" for f in own["facts"])

    for name in BY_CALLIPER:
        field = f"input[data-path='bike.mounts.{mount}.{name}']"
        put(page, "calliper", str(page.css(field).get_attribute("value")).split()[0])
        page.click(field)
        take(page, "calliper", lambda name=name: known(name))
    for name in BY_TAPE:
        path = f"//input[@data-path='bike.mounts.{mount}.{name}']"
        how = "button[starts-with(@aria-label, 'How')]"
        page.click(page.driver.find_element(By.XPATH, f"{path}/ancestor::*[.//{how}][1]//{how}"))
        page.click(page.by_words("*[@role='option']", "measured"))
        page.until(f"{name} measured", lambda name=name: known(name))


def test_nothing_is_green_until_it_is_measured(page: Page) -> None:
    page.size(1280, 800)
    job = begun(page)
    page.open(f"/jobs/{job}/weigh-up")
    page.see("How sure")
    assert "sound" not in marks(page, "main"), "the answer neither"
    page.open(f"/jobs/{job}/weigh-up/compare")
    page.until("two plates beside stock", lambda: len(marks(page, "th[data-plate]")) == 3)
    assert "sound" not in marks(page, "th[data-plate]"), "no plate side by side is plain green"
    page.click("[data-plate='own'] button[aria-label^='Show in ledger']")
    page.until("the first plate in hand", lambda: exported(page)["weighing"] == "own")
    page.open(f"/jobs/{job}/fit-up")
    page.until("four joints judged", lambda: len(marks(page, "nav[aria-label='Joints']")) == 4)
    shown = marks(page, "body")
    assert len(shown) > 4
    assert "sound" not in shown, "neither joint nor station, no length that fits"
    measure(page, job, "m1")
    page.open(f"/jobs/{job}/fit-up")
    page.until(
        "the measured joint alone is sound",
        lambda: marks(page, "nav[aria-label='Joints']").count("sound") == 1,
    )
