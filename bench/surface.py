"""In the browser: focus dragged in the picture, and a new artwork for the sign, to the picture drawn."""

from __future__ import annotations

import statistics
import time
from typing import Any

import cv2
import numpy as np
from browser.driver import browser
from browser.visitor import Visitor, until
from measure import Row, sized
from running import demo_running
from viewer import DRAWN, TRANSPORT, WATCH

MOVES = sized(40, 4)
#: Seconds in which frames are filled in, so that nothing else is asked of the server.
FILLING = sized(5, 0)
COMP = "Waymark, twelve boards"
STEP = {"kind": "depth_blur", "focus": 5.0, "size": 6.0}


def surface() -> list[Row]:
    with demo_running() as (address, password), browser(1296, 866) as driver:
        visitor = Visitor(driver, address)
        visitor.sign_in("warden", password)
        comp = next(c["id"] for c in visitor.api("GET", "projects/1/comps") if c["name"] == COMP)
        before = visitor.api("GET", f"comps/{comp}")
        visitor.open(f"projects/1/comp/{comp}?layer=board&frame=4")
        visitor.settled()
        artwork = _artwork(visitor)
        _with_depth_blur(visitor, comp)
        visitor.open(f"projects/1/comp/{comp}?layer=sign&frame=4")
        focus = _focus(visitor)
        driver.set_script_timeout(120)
        again = statistics.median(driver.execute_async_script(TRANSPORT, comp))
        visitor.undo_all(comp, before["can_undo"])
    return [
        _row("focus dragged, median", statistics.median(focus), again, 80, len(focus)),
        _row("dropped artwork, first picture, median", statistics.median(artwork), again, 500, len(artwork)),
    ]  # fmt: skip


def _row(name: str, value: float, again: float, most: float, count: int) -> Row:
    return Row(f"{name}, 960 x 540", f"{value:.0f} ms", f"same picture again {again:.0f} ms", value / again,
               f"< {most} ms", value < most, f"{count} times")  # fmt: skip


def _with_depth_blur(visitor: Visitor, comp: int) -> None:
    now = visitor.api("GET", f"comps/{comp}")
    document: dict[str, Any] = now["document"]
    sign = next(x for x in document["layers"] if x["id"] == "sign")
    sign["steps"] = [*sign["steps"], STEP]
    visitor.api("PUT", f"comps/{comp}", {"base": now["revision"], "document": document})


def _artwork(visitor: Visitor) -> list[float]:
    """Each a file let go over the UV map's source; from there to the picture, the import within."""
    visitor.driver.execute_script(WATCH.replace("pointermove", "drop"))
    visitor.driver.set_script_timeout(20)
    step = visitor.named("UV map")
    if step.get_attribute("aria-expanded") == "false":
        step.click()
    for n in range(max(1, MOVES // 5)):
        visitor.drop_file(visitor.named("second"), f"new artwork {n}.png", _board(n))
        visitor.driver.execute_async_script(DRAWN, n)
        until(lambda n=n: visitor.named("second").text == f"new artwork {n}.png", "the new one is there")
        visitor.settled()
        time.sleep(FILLING)
    found: list[float] = visitor.driver.execute_script("return window.times")
    return found


def _board(seed: int) -> bytes:
    """A PNG of a board's size that no one has seen before."""
    rng = np.random.default_rng([seed, time.time_ns()])
    art = np.kron(rng.integers(0, 256, (12, 24, 3), np.uint8), np.ones((32, 32, 1), np.uint8))
    return bytes(cv2.imencode(".png", art)[1])


def _focus(visitor: Visitor) -> list[float]:
    visitor.settled()
    visitor.click("Pick in the picture")
    box = until(lambda: visitor.one("[data-tool='distance']"), "the tool").rect
    x, y = box["x"] + box["width"] * 0.45, box["y"] + box["height"] * 0.4
    visitor.mouse("mousePressed", x, y)
    for warm in range(1, 4):
        visitor.mouse("mouseMoved", x + warm, y)
    visitor.settled()
    visitor.driver.execute_script(WATCH)
    visitor.driver.set_script_timeout(20)
    for n in range(MOVES):
        visitor.mouse("mouseMoved", x + 4 + (n * 7) % 60, y)
        visitor.driver.execute_async_script(DRAWN, n)
        time.sleep(0.05)  # a hand's pause, as in the slider's case
    times: list[float] = visitor.driver.execute_script("return window.times")
    visitor.mouse("mouseReleased", x + 10, y)
    visitor.settled()
    return times
