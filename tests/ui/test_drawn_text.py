"""No text lies on another in any drawing of the demo, on the bench and on the phone."""

from __future__ import annotations

import pytest

from tests.ui.conftest import Page

SHEETS = (
    ("choosing", "survey", "Lay out the instruments"),
    ("choosing", "survey/underside", "Underside and scars"),
    ("choosing", "survey/space", "Round to its left"),
    ("choosing", "survey/plates", "Enter a plate"),
    ("choosing", "weigh-up/coverage", "Shielded, barest first"),
    ("choosing", "fit-up/a3", "From the head on"),
    ("choosing", "fit-up/a5", "From the head on"),
    ("holes-off", "fit-up/holes", "Drawing home"),
    ("wing-in-the-way", "fit-up/neighbours", "Drawing home"),
    ("half-fitted", "tighten", "The order, and why"),
    ("in-service", "keep/plate", "Blows"),
)
OVERLAPS = """
const found = [];
for (const drawing of document.querySelectorAll("svg.drawing")) {
  const texts = [...drawing.querySelectorAll("text")]
    .filter((t) => t.textContent.trim())
    .map((t) => [t.textContent, t.getBoundingClientRect()])
    .filter(([, box]) => box.width > 0);
  texts.forEach(([a, one], i) => {
    for (const [b, other] of texts.slice(i + 1)) {
      const wide = Math.min(one.right, other.right) - Math.max(one.left, other.left);
      const high = Math.min(one.bottom, other.bottom) - Math.max(one.top, other.top);
      if (wide > 2 && high > 3) found.push(`${drawing.getAttribute("aria-label")}: ${a} / ${b}`);
    }
  });
}
return [document.querySelectorAll("svg.drawing text").length, found];
"""


@pytest.mark.parametrize("size", [(1280, 800), (390, 844)], ids=["bench", "phone"])
def test_no_text_lies_on_another(page: Page, size: tuple[int, int]) -> None:
    page.size(*size)
    seen = 0
    for job, sheet, words in SHEETS:
        page.open(f"/jobs/{job}/{sheet}")
        page.see(words)
        page.until("a drawing", lambda: page.driver.execute_script(OVERLAPS)[0])
        count, overlaps = page.driver.execute_script(OVERLAPS)
        assert overlaps == [], f"{sheet} at {size[0]}"
        seen += count
    assert seen > 60, "there was text to look at"
