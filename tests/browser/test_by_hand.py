"""Layers laid in the picture with the hands."""

import time

import pytest
from browser.test_comp import saved
from browser.visitor import until
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.keys import Keys

pytestmark = pytest.mark.browser


def strip(name, x, colour):
    made = {"kind": "shape", "shape": "rectangle", "width": 80, "height": 44, "colour": colour}
    canvas = {"canvas_width": 80, "canvas_height": 44}
    return {"id": name, "name": name, "kind": "made", "made": {**made, **canvas}, "transform": {"x": x}}


def place(visitor, comp, name):
    layers = visitor.api("GET", f"comps/{comp}")["document"]["layers"]
    return next(x for x in layers if x["id"] == name)["transform"]


#: Counts the pictures that are asked for on the line and by HTTP while something is dragged.
COUNT = """
window.asked = { line: 0, http: 0 };
const send = WebSocket.prototype.send, real = window.fetch;
WebSocket.prototype.send = function (m) { window.asked.line += 1; return send.call(this, m); };
window.fetch = (input, init) => {
  if (String(init?.body).includes('"passing":true')) window.asked.http += 1;
  return real(input, init);
};
"""
#: As a proxy that lets no WebSocket through.
WITHOUT = "window.WebSocket = class { constructor() { setTimeout(() => this.onclose?.()); } };"


@pytest.mark.parametrize("line", [True, False])
def test_what_is_dragged_is_seen_on_the_line_or_by_http(visitor, line):
    body = {
        "name": "dragged",
        "width": 400,
        "height": 200,
        "last": 5,
        "layers": [strip("red", -100, [1, 0, 0])],
    }
    comp = visitor.api("POST", "projects/1/comps", body)["id"]
    driver = visitor.driver
    script = {"source": COUNT if line else COUNT + WITHOUT}
    added = driver.execute_cdp_cmd("Page.addScriptToEvaluateOnNewDocument", script)
    visitor.open(f"projects/1/comp/{comp}?layer=red")
    driver.execute_cdp_cmd("Page.removeScriptToEvaluateOnNewDocument", {"identifier": added["identifier"]})
    visitor.settled()
    visitor.keys("v")
    box = visitor.one("[data-tool='place']").rect
    zoom = min(box["width"] / 400, box["height"] / 200)
    x, y = box["x"] + box["width"] / 2 - 100 * zoom, box["y"] + box["height"] / 2
    visitor.mouse("mousePressed", x, y)
    for step in range(1, 12):
        visitor.mouse("mouseMoved", x + 12 * step, y + 7 * step)
        time.sleep(0.06)
    asked = driver.execute_script("return window.asked")
    visitor.mouse("mouseReleased", x + 132, y + 77)
    saved(visitor)
    visitor.settled()
    assert place(visitor, comp, "red")["x"] > -95
    assert (asked["line"] > 3) == line, asked
    # the first may be asked for before the line is open
    assert asked["http"] < 3 if line else asked["http"] > 3, asked
    assert not visitor.complaints()


def test_a_layer_is_moved_scaled_turned_nudged_picked_and_arranged(visitor):
    layers = [strip("red", -100, [1, 0, 0]), strip("green", 60, [0, 1, 0])]
    body = {"name": "hands", "width": 400, "height": 200, "last": 5, "layers": layers}
    comp = visitor.api("POST", "projects/1/comps", body)["id"]
    visitor.open(f"projects/1/comp/{comp}?layer=red")
    visitor.settled()
    visitor.click("Transform")
    visitor.click("In the picture")
    over = visitor.one("[data-tool='place']")
    box = over.rect
    zoom = min(box["width"] / 400, box["height"] / 200)

    def at(x, y):
        return round((x - 200) * zoom), round((y - 100) * zoom)

    def drag(start, end, *held):
        steps = ActionChains(visitor.driver)
        for key in held:
            steps.key_down(key)
        steps.move_to_element_with_offset(over, *at(*start)).click_and_hold()
        steps.move_by_offset(round((end[0] - start[0]) * zoom), round((end[1] - start[1]) * zoom)).release()
        for key in held:
            steps.key_up(key)
        steps.perform()
        saved(visitor)

    drag((100, 100), (130, 90), Keys.CONTROL)  # without lines
    now = place(visitor, comp, "red")
    assert (now["x"], now["y"]) == (pytest.approx(-70, abs=1), pytest.approx(-10, abs=1))
    assert now["x"] == int(now["x"]), "whole pixels: it is not resampled"
    drag((130, 90), (131, 98))  # near the middle: drawn to it
    assert place(visitor, comp, "red")["y"] == 0
    x = place(visitor, comp, "red")["x"] + 200
    drag((x + 40, 122), (x + 80, 144))  # a corner, twice as far
    assert place(visitor, comp, "red")["scale"] == pytest.approx(2, abs=0.05)
    over.send_keys(Keys.ARROW_RIGHT)
    saved(visitor)
    assert place(visitor, comp, "red")["x"] == x - 200 + 1
    drag((x + 1, 56 - 22 / zoom), (x + 60, 100), Keys.SHIFT)  # the rotation, in steps of 15 degrees
    assert place(visitor, comp, "red")["rotation"] == 90
    # a click chooses what lies there, and goes on by hand
    ActionChains(visitor.driver).move_to_element_with_offset(over, *at(285, 100)).click().perform()
    until(lambda: visitor.one("[data-layer=green]").get_attribute("aria-pressed") == "true", "it is chosen")
    visitor.click("Left")
    saved(visitor)
    assert place(visitor, comp, "green")["x"] == -160
    visitor.within("aside", "Fit").click()
    saved(visitor)
    assert place(visitor, comp, "green")["scale"] == pytest.approx(200 / 44, abs=1e-3)
    for _ in range(7):
        visitor.undo()
        saved(visitor)
    assert place(visitor, comp, "red")["x"] == -100
    assert not visitor.complaints()
