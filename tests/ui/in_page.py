"""What a driven test asks in the page itself: one question instead of many."""

from __future__ import annotations

FIRST_SHOWN = """
const [how, what, then, patienceMs] = arguments;
const look = () => {
  if (how === "words" || how === "no words") {
    return document.body.innerText.includes(what) === (how === "words") || null;
  }
  const all = [];
  if (how === "css") all.push(...document.querySelectorAll(what));
  else {
    const found = document.evaluate(what, document, null, 7, null);
    for (let i = 0; i < found.snapshotLength; i++) all.push(found.snapshotItem(i));
  }
  const seen = {opacityProperty: true, visibilityProperty: true};
  const one = all.find((e) => e.checkVisibility(seen) && e.getClientRects().length) ?? null;
  if (then === "centre") {
    // A person does not press what does not take it: it is waited for.
    if (!one || one.matches(":disabled, [aria-disabled=true]")) return null;
    one.scrollIntoView({block: "center"});
  }
  return then === "read" ? one?.innerText : one;
};
const first = look();
if (first) return first;
return new Promise((done) => {
  let soon = 0;
  const stop = (found) => {
    changes.disconnect();
    for (const timer of [soon, beat, end]) clearTimeout(timer);
    done(found);
  };
  const again = () => {
    soon = 0;
    const found = look();
    if (found) stop(found);
  };
  const changes = new MutationObserver(() => { soon ||= setTimeout(again, 20); });
  const every = {subtree: true, childList: true, attributes: true, characterData: true};
  changes.observe(document, every);
  const beat = setInterval(again, 200);
  const end = setTimeout(() => stop(null), patienceMs);
});
"""
"""One question to the browser instead of one for each element that could be meant, and for each
look: it is answered as soon as the page shows what is asked for, or has not for a while."""
PATIENCE_MS = 1000
CHANGED = """
return new Promise((done) => {
  const stop = () => { changes.disconnect(); clearTimeout(end); setTimeout(done, 20); };
  const changes = new MutationObserver(stop);
  const end = setTimeout(stop, arguments[0]);
  const every = {subtree: true, childList: true, attributes: true, characterData: true};
  changes.observe(document, every);
});
"""
"""Answered when something on the page has changed, or after a while without."""
UNCHANGED_MS = 250
JUMPED = """
return new Promise((done) => {
  const seen = (list) => done(list.reduce((sum, e) => sum + e.value, 0));
  new PerformanceObserver((list) => seen(list.getEntries()))
    .observe({type: "layout-shift", buffered: true});
  setTimeout(() => seen([]), 50);
});
"""
"""How much of the page has moved by itself since it was opened (Layout Instability, a W3C draft):
shares of the screen times of its height or width. Nothing is told where nothing moved."""
SAYS = """
const says = (e) => (e === document.body ? "" : [
  e.ariaLabel || "", e.labels?.[0]?.textContent || "", (e.textContent || "").slice(0, 200)
].join(" ")).replace(/\\s+/g, " ").trim();
"""
TABS_AHEAD = f"""
{SAYS}
const [how, what, backwards] = arguments;
const is = (e) => (how === "path" ? e.dataset.path === what : says(e).includes(what));
const at = document.activeElement;
if (is(at)) return 0;
const all = [...document.querySelectorAll("a[href], button, input, select, textarea, [tabindex]")]
  .filter((e) => e.tabIndex >= 0 && !e.disabled && !e.closest("[inert]") && e.checkVisibility());
if (backwards) all.reverse();
const from = all.indexOf(at) + 1;
const away = [...all.slice(from), ...all.slice(0, from)].findIndex(is) + 1;
return Math.max(1, Math.floor(away / 2));
"""
"""Half of how many presses of Tab it seems to be from the focus: what is pressed over is gone by,
and is not to be gone past. 0 where the focus is there."""
