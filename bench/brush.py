"""How long a brush stroke takes from the pointer's move to being seen in the browser."""

from __future__ import annotations

import statistics

from browser.driver import browser
from browser.visitor import Visitor, until
from measure import Row, sized
from running import demo_running

MOVES = sized(80, 12)

WATCH = """
window.times = [];
let begun = null;
window.addEventListener('pointermove', () => { begun ??= performance.now(); }, true);
new PerformanceObserver((list) => {
  for (const mark of list.getEntriesByName('stroke-drawn')) {
    if (begun === null) continue;
    const from = begun; begun = null;
    // seen with the next frame that the browser shows
    requestAnimationFrame(() => setTimeout(() => window.times.push(performance.now() - from), 0));
  }
}).observe({ entryTypes: ['mark'] });
"""
BARE = """
const done = arguments[0]; const times = [];
const one = (n) => {
  if (n === 0) return done(times);
  const from = performance.now();
  requestAnimationFrame(() => setTimeout(() => { times.push(performance.now() - from); one(n - 1); }, 0));
};
one(40);
"""


def brush() -> list[Row]:
    with demo_running() as (address, password), browser(1296, 866) as driver:
        times, bare = _strokes(Visitor(driver, address), password)
    median, alone = statistics.median(times), statistics.median(bare)
    return [
        Row("brush, from move to drawn, median", f"{median:.0f} ms", f"a frame of the browser {alone:.0f} ms",
            median / alone, "< 40 ms", median < 40, f"{len(times)} moves")
    ]  # fmt: skip


def _strokes(visitor: Visitor, password: str) -> tuple[list[float], list[float]]:
    driver = visitor.driver
    visitor.sign_in("warden", password)
    visitor.open("projects/1/comp/1?layer=plate&frame=6")
    visitor.settled()
    visitor.click("Matte")
    visitor.click("Make …")
    visitor.click("Paint")
    over = until(lambda: visitor.all("[data-tool=paint]"), "the brush")[0].rect
    x, y = over["x"] + 200, over["y"] + 200

    driver.execute_script(WATCH)
    driver.set_script_timeout(30)
    visitor.mouse("mousePressed", x, y)
    for n in range(MOVES):
        visitor.mouse("mouseMoved", x + 4 * n, y + 60 + 50 * (n % 9) / 9)
    until(lambda: driver.execute_script("return window.times.length") > MOVES / 2, "strokes are drawn")
    times = driver.execute_script("return window.times")
    visitor.mouse("mouseReleased", x + 4 * MOVES, y + 60)
    visitor.settled()
    return times, driver.execute_async_script(BARE)
