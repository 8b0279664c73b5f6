"""A part put on with its joints, from the first tap to its place in the order of work."""

from __future__ import annotations

from tests.ui.conftest import Page
from tests.ui.test_kit_on_phone import over

JOB = "/jobs/choosing/fit-up/pieces"


def test_guards_are_put_on_hang_with_the_plate_and_come_first_on_the_bench(page: Page) -> None:
    """Five taps for two guards with their four screws, no number typed; undone by one."""
    page.size(1280, 800)
    page.open(JOB)
    page.press("Put a part on, with its joints")
    page.listed("what it is", "side guard")
    page.press("Put it on")
    page.see("side guard left and right with 4 joints put on at the bench")
    page.see("Put the side guard, left into its stack")
    page.axe()
    page.open("/jobs/choosing/tighten")
    page.see("On the bench")
    page.open(JOB)
    page.press("Undo")
    page.see("This plate is one sheet.")


def test_a_sub_plate_goes_on_its_mounts_by_thumb(page: Page) -> None:
    page.size(390, 844)
    page.open(JOB)
    page.press("Put a part on, with its joints")
    assert over(page) <= 0, "no sideways scroll"
    page.press("Put it on")
    page.see("A sub-plate hangs on three mounts")
    for mount in ("m1", "m2", "m3", "m4"):
        page.click(f"[data-mount='{mount}']")
    page.entry("how thick; empty: I do not know", "6")
    page.press("Put it on")
    page.see("Screws through two sheets")
    page.see("from below: Pressed aluminium pan, then sub-plate")
    page.open("/jobs/choosing/fit-up")
    page.see("sub-plate, engine boss, left")
    page.press("Build a joint of your own")
    page.listed("what it holds", "the sub-plate to the plate")
    page.see("It holds nothing to the bike.")
    page.press("Build this joint")
    page.see("sub-plate to the plate")
