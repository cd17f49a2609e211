"""Guide pages followed by the keyboard alone: what is pressed was reached by Tab, or is a key of its own."""

import pytest
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
    raise AssertionError(f"no {words!r} in the menu")


def typed(visitor, name, text, **how):
    reach(visitor, name, tags=("input", "textarea"), **how)
    ActionChains(visitor.driver).key_down(Keys.CONTROL).send_keys("a").key_up(Keys.CONTROL).perform()
    visitor.keys(text, Keys.ENTER)


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
