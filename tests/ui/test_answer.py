"""The answer page: the question answered in one look, taken with one press, at both sizes."""

from __future__ import annotations

from tests.ui.conftest import Page

FIRST_VIEW = """
const main = document.querySelector("main").getBoundingClientRect();
const high = Math.min(main.bottom, innerHeight);
const within = (r) => r.height > 0 && r.top < high && r.bottom > main.top;
const walk = document.createTreeWalker(document.querySelector("main"), NodeFilter.SHOW_TEXT);
let words = 0;
for (let at = walk.nextNode(); at; at = walk.nextNode()) {
  const range = document.createRange();
  range.selectNodeContents(at);
  if ([...range.getClientRects()].some(within))
    words += at.textContent.split(/\\s+/).filter((w) => /[\\p{L}\\p{N}]/u.test(w)).length;
}
const seen = [...document.querySelectorAll("main :is(a, button, input, select, textarea)")];
return [words, seen.filter((e) => within(e.getBoundingClientRect())).length];
"""
MOST_WORDS, MOST_CONTROLS = 150, 25
JOB = "/jobs/kit-open/weigh-up"


def in_first_view(page: Page) -> tuple[int, int]:
    words, controls = page.driver.execute_script(FIRST_VIEW)
    return words, controls


def test_one_look_answers_at_both_sizes(page: Page) -> None:
    for width, height in ((1280, 800), (390, 844)):
        page.size(width, height)
        page.open(JOB)
        page.see("How sure")
        page.without("Trying every number")
        for heading in ("What it costs", "What stays bare", "Against it", "How sure"):
            assert heading in page.text(), heading
        words, controls = in_first_view(page)
        assert 20 < words <= MOST_WORDS, (width, words)
        assert 3 < controls <= MOST_CONTROLS, (width, controls)
        page.axe()


def test_it_is_taken_and_goes_on_to_its_hardware(page: Page) -> None:
    page.size(1280, 800)
    page.open(JOB)
    page.see("Taken: Bar-hung aluminium plate")
    page.press("Take it: Welded aluminium tray")
    page.see("Taken.")
    page.follow("Next: its hardware")
    page.see("Welded aluminium tray: its hardware")
    page.open(JOB)
    page.press("Take it back")
    page.see("In hand: Welded aluminium tray (weighing)")
    page.follow("Compare")
    page.see("Against stock: Welded aluminium tray (weighing)")
    page.css("[data-row='mass']")


def test_what_is_folded_opens_and_the_number_is_a_tap_away(page: Page) -> None:
    page.size(390, 844)
    page.open(JOB)
    page.press("3 blocked")
    page.see("Thick HDPE slider: ")
    page.press("3 of every plate")
    page.see("Suspension linkage is 67 % bare from below")
    page.without("Trying every number")
    page.follow("Enter it")
    page.until("its field", lambda: "/survey" in page.driver.current_url)
