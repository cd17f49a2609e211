"""Guide pages followed by the keyboard alone: what is pressed was reached by Tab, or is a key of its own."""

import pytest
from browser.test_by_hand import place, strip
from browser.test_comp import saved
from browser.test_lineup_further import layers
from browser.visitor import until
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.keys import Keys

pytestmark = pytest.mark.browser

#: Presses of Tab after which a control counts as out of reach.
MOST = 250


def reach(visitor, name, back=False, tags=("button", "input", "textarea", "a")):
    """Go by Tab to the control with that accessible name; it has the focus then."""
    seen = []
    for _ in range(MOST):
        focus = visitor.driver.switch_to.active_element
        own = focus.accessible_name
        same = own == name or (name.endswith("…") and own.startswith(name[:-1]))
        if same and focus.tag_name in tags:
            return focus
        seen.append(own)
        chain = ActionChains(visitor.driver, duration=0)
        if back:
            chain.key_down(Keys.SHIFT).send_keys(Keys.TAB).key_up(Keys.SHIFT).perform()
        else:
            chain.send_keys(Keys.TAB).perform()
    raise AssertionError(f"no {name!r} by Tab; last were {seen[-40:]}")


def press(visitor, name, **how):
    reach(visitor, name, **how)
    visitor.keys(Keys.ENTER)


def item(visitor, words):
    """Of an open menu, by the arrow keys."""
    offered = "[role=menuitem], [role=option]"
    until(lambda: any(row.text.startswith(words) for row in visitor.all(offered)), f"{words!r} is offered")
    # it opens at its first item or, of a choice, at what is chosen
    inside = {"menu", "menuitem", "listbox", "option"}
    until(lambda: visitor.driver.switch_to.active_element.get_attribute("role") in inside, "it is open")
    visitor.keys(Keys.HOME)
    for _ in range(60):
        focus = visitor.driver.switch_to.active_element
        if focus.get_attribute("role") in {"menuitem", "option"} and focus.text.startswith(words):
            visitor.keys(Keys.ENTER)
            return
        visitor.keys(Keys.ARROW_DOWN)
        # the menu follows a moment later: what is read before is the item that is left
        until(lambda f=focus: visitor.driver.switch_to.active_element != f, "the next item")
    raise AssertionError(f"no {words!r} in the menu")


def typed(visitor, name, text, **how):
    reach(visitor, name, tags=("input", "textarea"), **how)
    ActionChains(visitor.driver).key_down(Keys.CONTROL).send_keys("a").key_up(Keys.CONTROL).perform()
    visitor.keys(text, Keys.ENTER)


def held(visitor, key, *with_keys):
    chain = ActionChains(visitor.driver, duration=0)
    for k in with_keys:
        chain.key_down(k)
    chain.send_keys(key)
    for k in with_keys:
        chain.key_up(k)
    chain.perform()


def point(visitor, dx, dy):
    """The pointer that keys move goes by so many pixels of the screen."""
    for by, (less, more) in (
        (dx, (Keys.ARROW_LEFT, Keys.ARROW_RIGHT)),
        (dy, (Keys.ARROW_UP, Keys.ARROW_DOWN)),
    ):
        tens, ones = divmod(abs(round(by)), 10)
        key = more if by > 0 else less
        for _ in range(tens):
            held(visitor, key, Keys.SHIFT)
        for _ in range(ones):
            held(visitor, key)


def empty(visitor, name, **more):
    body = {"name": name, "width": 640, "height": 360, "last": 3, **more}
    number = visitor.api("POST", "projects/1/comps", body)["id"]
    visitor.open(f"projects/1/comp/{number}")
    visitor.wait_for("fitted")
    return number


def test_a_caption_from_nothing_by_keys(visitor):
    comp = empty(visitor, "caption by keys")
    press(visitor, "Add a layer")
    item(visitor, "Text")
    saved(visitor)
    visitor.settled()
    reach(visitor, "text")
    ActionChains(visitor.driver).key_down(Keys.CONTROL).send_keys("a").key_up(Keys.CONTROL).perform()
    visitor.keys("Reeds at dusk")
    typed(visitor, "size", "70")
    typed(visitor, "weight", "700")
    saved(visitor)
    reach(visitor, "font", back=True)
    visitor.keys(Keys.ENTER)
    item(visitor, "Serif")
    saved(visitor)
    made = layers(visitor, comp)[0]["made"]
    assert (made["text"], made["size"], made["weight"], made["font"]) == ("Reeds at dusk", 70, 700, "serif")
    # a strip behind it, moved there and grouped with it
    press(visitor, "Add a layer", back=True)
    item(visitor, "Shape")
    saved(visitor)
    typed(visitor, "width", "500")
    saved(visitor)
    reach(visitor, "Layer Shape", back=True)
    ActionChains(visitor.driver).key_down(Keys.ALT).send_keys(Keys.ARROW_LEFT).key_up(Keys.ALT).perform()
    saved(visitor)
    until(lambda: [x["name"] for x in layers(visitor, comp)] == ["Shape", "Text"], "it lies behind")
    reach(visitor, "Layer Text")
    ActionChains(visitor.driver).key_down(Keys.CONTROL).send_keys(Keys.ENTER).key_up(Keys.CONTROL).perform()
    visitor.keys("g")
    until(lambda: [x["kind"] for x in layers(visitor, comp)] == ["group"], "grouped")
    saved(visitor)
    assert [x["name"] for x in layers(visitor, comp)[0]["layers"]] == ["Shape", "Text"]


def test_cut_what_no_channel_can_cut_by_keys(visitor):
    element = next(e for e in visitor.api("GET", "projects/1/elements") if "reeds" in e["name"])
    layer = {"id": "r", "name": "reeds", "element": element["key"], "transform": {"scale": 0.3}}
    comp = empty(visitor, "cut by keys", layers=[layer])
    visitor.settled()
    press(visitor, "Layer reeds")
    press(visitor, "Matte …")
    press(visitor, "Make …")
    item(visitor, "Rectangle")
    saved(visitor)
    visitor.keys(Keys.ESCAPE)
    reach(visitor, "Edge")
    visitor.keys(Keys.ENTER)
    item(visitor, "Found in the picture")
    saved(visitor)
    typed(visitor, "band", "4")
    saved(visitor)
    matte = layers(visitor, comp)[0]["matte"]
    assert (matte["edge"], matte["band"]) == ("natural", 4)
    typed(visitor, "Found ahead to frame", "1")
    press(visitor, "Find ahead")
    visitor.wait_for("Found in frame 1.", 150)
    reach(visitor, "Edge colour")
    visitor.keys(Keys.ENTER)
    item(visitor, "Freed of what lay behind")
    saved(visitor)
    assert layers(visitor, comp)[0]["matte"]["edge_colour"] == "front"


def test_working_in_the_picture_by_keys(visitor):
    boxes = [strip("red", -100, [1, 0, 0]), strip("green", 60, [0, 1, 0])]
    body = {"width": 400, "height": 200, "last": 5, "layers": boxes}
    comp = empty(visitor, "hands by keys", **body)
    visitor.settled()
    room = visitor.one("[data-viewer]").rect
    zoom = min(room["width"] / 400, room["height"] / 200)
    press(visitor, "Layer red")

    # laid by hand: nudged, and dragged by the pointer of the keys, without lines that draw it
    visitor.keys("v")
    until(lambda: visitor.all("[data-tool='place']"), "it is laid by hand")
    reach(visitor, "red: drag it…", tags=("div",))
    held(visitor, Keys.ARROW_RIGHT, Keys.SHIFT)
    saved(visitor)
    assert place(visitor, comp, "red")["x"] == -90
    visitor.keys("j")
    point(visitor, -90 * zoom, 0)
    visitor.keys(" ")
    point(visitor, 33 * zoom, 31 * zoom)
    visitor.keys(Keys.ENTER)
    saved(visitor)
    now = place(visitor, comp, "red")
    assert (now["x"], now["y"]) == (pytest.approx(-57, abs=2), pytest.approx(31, abs=2))
    # a click on the other chooses it
    point(visitor, (60 + 57) * zoom, -31 * zoom)
    visitor.keys(Keys.ENTER)
    until(lambda: visitor.one("[data-layer=green]").get_attribute("aria-pressed") == "true", "it is chosen")
    visitor.keys(Keys.ESCAPE, "v")
    until(lambda: not visitor.all("[data-tool='place']"), "ended")

    # a note pinned where the pointer is
    visitor.keys("m", "j")
    until(lambda: visitor.all("[data-tool='note']"), "a place is asked for")
    visitor.keys(Keys.ENTER)
    until(lambda: visitor.driver.switch_to.active_element.tag_name == "input", "what is to be done")
    visitor.keys("softer edge", Keys.ENTER)
    saved(visitor)
    (note,) = visitor.api("GET", f"comps/{comp}")["document"]["notes"]
    assert (note["text"], note["x"], note["y"]) == (
        "softer edge", pytest.approx(200, abs=2), pytest.approx(100, abs=2),
    )  # fmt: skip

    # a colour taken from the picture: the green one's own for the red one
    press(visitor, "Layer red")
    press(visitor, "Made here…")
    reach(visitor, "Take the…")
    visitor.keys(Keys.ENTER)
    until(lambda: visitor.all("[data-tool='pick']"), "a colour is asked for")
    visitor.keys("j")
    point(visitor, 60 * zoom, 0)
    visitor.keys(Keys.ENTER)
    until(lambda: layers(visitor, comp)[0]["made"]["colour"] == [0, 1, 0], "it is green")
    assert not visitor.complaints()
