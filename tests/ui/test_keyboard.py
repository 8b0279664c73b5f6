"""The whole walk in the real interface without a mouse."""

from __future__ import annotations

from selenium.webdriver.common.keys import Keys

from tests.ui.conftest import Page


def test_the_walk_by_keyboard_alone(page: Page) -> None:
    page.open("/")
    page.see("choosing a plate")
    page.tab_to("Autumn forest rally")
    page.keys(Keys.ENTER)
    page.see("Which plate?")
    page.keys("1")
    page.see("What is under this bike")
    page.tab_to("Bsump")
    page.keys(Keys.ENTER)
    page.tab_to("underside, z")
    page.driver.switch_to.active_element.send_keys(Keys.CONTROL, "a")
    page.keys("305", Keys.ENTER)
    page.see("z from 310 mm to 305 mm")
    page.tab_to("Rugged Shield, work list", backwards=True)
    page.keys("2")
    page.see("How sure")
    page.tab_to("Side by side")
    page.keys(Keys.ENTER)
    page.see("Mass with hardware")
    page.tab_to("Pick the Pressed aluminium pan")
    page.keys(Keys.ENTER)
    page.see("(picked)")
    page.see("It may stay empty")
    page.keys("nothing under it is bare", Keys.ENTER)
    page.saved("pick_reason")
    page.keys(Keys.ESCAPE)
    page.keys("3")
    page.see("its hardware on the bench")
    page.tab_to("One more flanged button screw")
    page.keys(Keys.ENTER, Keys.ENTER)
    page.until("counted", lambda: "matches" in page.css("[data-line='k1']").text)
    page.keys("4")
    page.tab_to("3engine boss, left")
    page.keys(Keys.ENTER)
    page.see("Joint 3, engine boss, left")
    page.tab_to("Add this layer")
    page.keys(Keys.ENTER)
    page.see("too short:")
    page.tab_to("Take the 40 mm screw", backwards=True)
    page.keys(Keys.ENTER)
    page.see("3.0 mm more than the gap to its mount")
    page.tab_to("Grip", backwards=False)
    page.keys(Keys.ENTER)
    page.see("Why this number")
    page.keys(Keys.ESCAPE)
    page.gone("[role=dialog]")
    garage_by_keyboard(page)
    readings_by_keyboard(page)


def garage_by_keyboard(page: Page) -> None:
    page.keys("5")
    page.see("Order of the final torques")
    page.keys("u")
    page.see("ft·lb")
    page.keys("u")
    page.keys("?")
    page.see("go to a station")
    page.axe()
    page.keys(Keys.ESCAPE)
    page.gone("[role=dialog]")
    page.keys("g")
    page.see("Support the bike")
    for title in (
        "Take off the stock plate",
        "Clean and look underneath",
        "Loosen the foot peg bracket",
        "Hang the plate",
    ):
        page.keys(Keys.ENTER)
        page.see(title)
    page.keys(Keys.ARROW_LEFT)
    page.see("Loosen the foot peg bracket")
    page.keys(Keys.ARROW_RIGHT, Keys.ENTER)
    page.see("Start joint 1 by hand")
    page.keys(Keys.ESCAPE)
    page.see("Order of the final torques")
    page.keys("6")
    page.see("Nothing is due")
    page.quiet_console()


def readings_by_keyboard(page: Page) -> None:
    """The half fitted job to its end, and the first re-check, without the mouse."""
    page.open("/jobs/half-fitted/garage")
    page.see("Draw joint 5 to half")
    for torque in ("6.8", "6.8", "18", "18"):
        while "Torque joint" not in page.text():
            title = page.css("h1").text
            page.keys(Keys.ENTER)
            page.until("the next step", lambda was=title: page.css("h1").text != was)
        title = page.css("h1").text
        page.tab_to("reading, band")
        page.keys(torque, Keys.ENTER)
        page.until("the next step", lambda was=title: page.css("h1").text != was)
    page.keys(Keys.ESCAPE)
    page.see("6 of 6 torqued")
    page.tab_to("Enter what was ticked on paper")
    page.keys(Keys.ENTER)
    for _ in range(9):
        page.keys(Keys.TAB)
        page.keys(Keys.SPACE)
    page.tab_to("Keep 9 of")
    page.keys(Keys.ENTER)
    page.see("9 of 9 kept.")
    page.keys("6")
    page.see("Locker: the locker of joint")
    page.tab_to("Joints")
    page.keys(Keys.ENTER)
    page.tab_to("found on joint 2")
    page.keys("19", Keys.ENTER)
    page.until("the record", lambda: "holds" in page.css("[data-recheck='a2']").text)
    page.quiet_console()
