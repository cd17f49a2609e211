"""Layers dragged in the picture, many cards, many elements: from the hand's move to what is seen."""

from __future__ import annotations

import statistics
import time

from browser.driver import browser
from browser.visitor import Visitor, until
from brush import BARE
from measure import Row, sized
from running import demo_running
from viewer import DRAWN, TRANSPORT, WATCH

MOVES = sized(60, 5)
LAYERS = sized(60, 24)
ELEMENTS = sized(5000, 200)

#: The list of elements as long as it is asked for: rows of the demo again and again.
MANY = """
const real = window.fetch;
window.fetch = async (input, init) => {
  const answer = await real(input, init);
  const url = typeof input === 'string' ? input : input.url;
  if (!/[/]api[/]projects[/][0-9]+[/]elements$/.test(url) || !answer.ok) return answer;
  const rows = await answer.json();
  const many = Array.from({ length: COUNT }, (_, i) => {
    const row = rows[i % rows.length];
    return { ...row, id: 100000 + i, key: 'e' + (100000 + i), name: i + ' ' + row.name };
  });
  return new Response(JSON.stringify(many), { headers: { 'Content-Type': 'application/json' } });
};
"""

#: Where the dragged layer lies, once the page has drawn it.
OUTLINE = """
const done = arguments[0];
const read = () => done(document.querySelector('[data-tool=place] polygon').getAttribute('points'));
requestAnimationFrame(() => requestAnimationFrame(read));
"""

#: Frames of the browser while something is scrolled by a step in each.
SCROLL = """
const [css, axis, done] = arguments;
const list = document.querySelector(css), times = [];
let last = performance.now(), step = 0;
const one = (now) => {
  times.push(now - last); last = now;
  if (++step > 90) return done(times.slice(2));
  list[axis] += step < 45 ? 60 : -60;
  requestAnimationFrame(one);
};
requestAnimationFrame(one);
"""

#: From a press on one card after another to the next frame that shows it.
CHOOSE = """
const done = arguments[0], cards = [...document.querySelectorAll('button[data-layer]')], times = [];
const one = (n) => {
  if (n >= Math.min(20, cards.length)) return done(times.slice(2));
  const from = performance.now();
  cards[n].click();
  requestAnimationFrame(() => setTimeout(() => {
    times.push(performance.now() - from); setTimeout(() => one(n + 1), 60);
  }, 0));
};
one(0);
"""

#: From a letter typed into the search to the frame that shows what is found; and the names' filter alone.
SEARCH = """
const done = arguments[0], field = document.querySelector("[role=search] input"), times = [];
const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set;
const words = ['l', 'la', 'lan', 'lant', 'lan', 'la', 'l', '', 'k', 'ki', 'kite', 'kite 1', 'kite 12', ''];
const one = (n) => {
  if (n >= words.length) return done(times.slice(1));
  const from = performance.now();
  set.call(field, words[n]);
  field.dispatchEvent(new Event('input', { bubbles: true }));
  requestAnimationFrame(() => setTimeout(() => {
    times.push(performance.now() - from); setTimeout(() => one(n + 1), 120);
  }, 0));
};
one(0);
"""


def hands() -> list[Row]:
    with demo_running() as (address, password), browser(1296, 866) as driver:
        visitor = Visitor(driver, address)
        visitor.sign_in("warden", password)
        driver.set_script_timeout(120)
        return [*_dragged(visitor), *_cards(visitor), *_elements(visitor)]


def _dragged(visitor: Visitor) -> list[Row]:
    """The kite of the demo's largest comp: 8 layers, 20 steps, 3 mattes."""
    driver = visitor.driver
    visitor.open("projects/1/comp/2?layer=kite&frame=6")
    visitor.settled()
    visitor.keys("v")
    over = until(lambda: visitor.all("[data-tool=place]"), "laid by hand")[0].rect
    # the kite lies left of the middle and above it
    x, y = over["x"] + over["width"] * 0.31, over["y"] + over["height"] * 0.34
    visitor.mouse("mousePressed", x, y)
    for warm in range(1, 6):
        visitor.mouse("mouseMoved", x + 2 * warm, y)
    visitor.settled()
    driver.execute_script(WATCH)
    outline, seen = driver.execute_async_script(OUTLINE), 0
    for n in range(MOVES):
        visitor.mouse("mouseMoved", x + 12 + (n * 7) % 60, y + (n * 3) % 20)
        before, outline = outline, driver.execute_async_script(OUTLINE)
        if outline == before:  # it snapped to where it lay: there is nothing new to see
            driver.execute_script("window.begun = null")
            continue
        driver.execute_async_script(DRAWN, seen)
        seen += 1
        time.sleep(0.05)
    visitor.mouse("mouseReleased", x + 10, y)
    times = driver.execute_script("return window.times")
    visitor.settled()
    visitor.keys("v")
    alone = statistics.median(driver.execute_async_script(TRANSPORT, 2))
    median, high = statistics.median(times), sorted(times)[int(len(times) * 0.95)]
    return [
        Row(f"a layer dragged, {name}", f"{value:.0f} ms", f"picture again {alone:.0f} ms", value / alone,
            f"< {most} ms", value < most, "8 layers, 20 steps, 3 mattes")
        for name, value, most in (("median", median, 45), ("95 in 100", high, 100))
    ]  # fmt: skip


def _cards(visitor: Visitor) -> list[Row]:
    strip = {"kind": "shape", "shape": "rectangle", "width": 20, "height": 10, "colour": [0.2, 0.4, 0.1]}
    layers = [
        {"kind": "made", "id": f"l{i}", "name": f"strip {i}", "made": strip, "transform": {"x": 4 * i - 100}}
        for i in range(LAYERS)
    ]
    body = {"name": "many cards", "width": 320, "height": 180, "last": 4, "layers": layers}
    comp = visitor.api("POST", "projects/1/comps", body)["id"]
    driver = visitor.driver
    visitor.open(f"projects/1/comp/{comp}")
    visitor.settled()
    visitor.keys("k")  # large cards, which are scrolled
    until(lambda: visitor.one("[data-layer=l0]").rect["height"] > 60, "large cards")
    time.sleep(2)
    frame = statistics.median(driver.execute_async_script(BARE))
    lineup = "ol[aria-label='Lineup, far to near']"
    scrolled = driver.execute_async_script(SCROLL, lineup, "scrollLeft")
    chosen = driver.execute_async_script(CHOOSE)
    visitor.api("DELETE", f"comps/{comp}")
    return [
        Row(f"{LAYERS} cards {name}", f"{value:.0f} ms", f"a frame {frame:.0f} ms", value / frame,
            "< 25 ms", value < 25, note)
        for name, value, note in (
            ("scrolled, longest frame", max(scrolled), f"{len(scrolled)} frames"),
            ("chosen, median", statistics.median(chosen), f"{len(chosen)} cards"),
        )
    ]  # fmt: skip


def _elements(visitor: Visitor) -> list[Row]:
    driver = visitor.driver
    script = {"source": MANY.replace("COUNT", str(ELEMENTS))}
    added = driver.execute_cdp_cmd("Page.addScriptToEvaluateOnNewDocument", script)
    visitor.open("projects/1/elements")
    until(
        lambda: visitor.seen(f"{ELEMENTS} elements") or visitor.seen(f"{ELEMENTS:,} elements"), "all of them"
    )
    time.sleep(1)
    frame = statistics.median(driver.execute_async_script(BARE))
    searched = statistics.median(driver.execute_async_script(SEARCH))
    driver.execute_cdp_cmd("Page.removeScriptToEvaluateOnNewDocument", {"identifier": added["identifier"]})
    return [
        Row(f"{ELEMENTS:,} elements searched, median", f"{searched:.0f} ms", f"a frame {frame:.0f} ms",
            searched / frame, "< 50 ms", searched < 50, "a letter typed, to the frame that shows it")
    ]  # fmt: skip
