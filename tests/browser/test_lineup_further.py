"""Locks, small cards, copies in another project, a vector mark, notes, frames side by side, labels."""

import pytest
from browser.test_by_hand import place, strip
from browser.test_comp import saved
from browser.visitor import until
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.keys import Keys

pytestmark = pytest.mark.browser

MARK = (
    b'<svg xmlns="http://www.w3.org/2000/svg" width="20" height="20">'
    b'<path d="M0 0H20V10H0Z" fill="#f00"/><path d="M0 10H20V20H0Z" fill="#00f"/></svg>'
)


def ctrl(visitor, key):
    ActionChains(visitor.driver).key_down(Keys.CONTROL).send_keys(key).key_up(Keys.CONTROL).perform()


def layers(visitor, comp):
    return visitor.api("GET", f"comps/{comp}")["document"]["layers"]


def opened(visitor, step):
    """The card of a step, open."""
    card = f"section[data-row='{step}'] button[aria-expanded]"
    if visitor.one(card).get_attribute("aria-expanded") == "false":
        visitor.one(card).click()


def comp_of(visitor, name, rows, project=1, **more):
    body = {"name": name, "width": 400, "height": 200, "first": 1, "last": 6, "layers": rows, **more}
    return visitor.api("POST", f"projects/{project}/comps", body)["id"]


def test_a_locked_layer_stays_as_it_is_until_it_is_unlocked(visitor):
    comp = comp_of(visitor, "locked", [strip("red", -100, [1, 0, 0]), strip("green", 60, [0, 1, 0])])
    visitor.open(f"projects/1/comp/{comp}?layer=red")
    visitor.settled()
    visitor.keys("l")
    saved(visitor)
    assert [x["locked"] for x in layers(visitor, comp)] == [True, False]
    visitor.keys(Keys.DELETE)
    visitor.wait_for("red is locked: it was not changed.")
    assert len(layers(visitor, comp)) == 2
    # a click in the picture passes it over
    visitor.one("[data-layer=green]").click()
    visitor.keys("v")
    over = until(lambda: visitor.one("[data-tool='place']"), "it is laid by hand")
    ActionChains(visitor.driver).move_to_element_with_offset(over, 0, 0).perform()
    visitor.one("[data-layer=red]").click()
    visitor.keys(Keys.DELETE)
    visitor.click("Unlock it")
    saved(visitor)
    visitor.keys(Keys.DELETE)
    until(lambda: [x["name"] for x in layers(visitor, comp)] == ["green"], "unlocked, it is taken out")


def test_forty_layers_are_seen_at_once_and_put_in_order_by_keys(visitor):
    rows = [strip(f"strip {i}", 0, [0.1, 0.1, i / 40]) | {"id": f"s{i}"} for i in range(40)]
    comp = comp_of(visitor, "forty", rows)
    visitor.open(f"projects/1/comp/{comp}?layer=s3")
    visitor.settled()
    cards = visitor.all("button[data-layer]")
    assert len(cards) == 40
    row = visitor.one("ol[aria-label]")
    inside = [c for c in cards if c.rect["y"] + c.rect["height"] <= row.rect["y"] + row.rect["height"] + 1]
    assert len(inside) == 40, "all are in view"
    third = visitor.one("[data-layer=s3]")
    third.send_keys(Keys.ALT, Keys.ARROW_RIGHT)
    saved(visitor)
    assert [x["id"] for x in layers(visitor, comp)][2:5] == ["s2", "s4", "s3"]
    # dragged to the row below
    target = visitor.one("[data-layer=s30]")
    chain = ActionChains(visitor.driver).click_and_hold(visitor.one("[data-layer=s0]"))
    chain.move_to_element_with_offset(target, 30, 0).release().perform()
    saved(visitor)
    ids = [x["id"] for x in layers(visitor, comp)]
    assert ids.index("s0") == ids.index("s30") + 1
    visitor.keys("k")
    until(lambda: visitor.one("[data-layer=s3]").rect["height"] > 60, "large cards")
    visitor.keys("k")
    until(lambda: visitor.one("[data-layer=s3]").rect["height"] < 40, "small ones again")
    visitor.driver.execute_script("localStorage.removeItem('neatveil.smallCards')")


def test_a_vector_mark_is_imported_enlarged_and_copied_into_another_project(visitor):
    visitor.open("projects/1/elements")
    visitor.wait_for("elements")
    visitor.drop_file(visitor.one("#root > div"), "mark.svg", MARK)
    found = until(
        lambda: next(
            (e for e in visitor.api("GET", "projects/1/elements")
             if e["name"] == "mark.svg" and e["state"] == "ready"), None),
        "it is read",
    )  # fmt: skip
    rows = [{"id": "mark", "name": "mark", "element": found["key"], "transform": {"scale": 10}}]
    comp = comp_of(visitor, "mark", rows)
    visitor.open(f"projects/1/comp/{comp}?layer=mark")
    visitor.settled()
    # the line between its halves is as sharp as it was drawn: no pixel beside it is of both
    picture = visitor.picture()
    column = picture[:, picture.shape[1] // 2].astype(int)
    mixed = [(r, b) for r, _, b in column if 20 < r < 235 and 20 < b < 235]
    assert len(mixed) <= 1, mixed
    ctrl(visitor, "c")
    other = visitor.api("POST", "projects", {"name": "Another film"})["id"]
    empty = comp_of(visitor, "there", [], project=other)
    visitor.open(f"projects/{other}/comp/{empty}")
    visitor.wait_for("Nothing lies here yet")
    ctrl(visitor, "v")
    (pasted,) = until(lambda: layers(visitor, empty), "pasted with its element")
    (element,) = visitor.api("GET", f"projects/{other}/elements")
    assert (pasted["element"], element["name"]) == (element["key"], "mark.svg")
    visitor.settled()
    assert visitor.pixel(0.5, 0.3)[0] > 200, "it is seen there"


def test_a_step_s_shape_and_a_crop_are_moved_in_the_picture(visitor):
    through = {"by": "ellipse", "width": 100, "height": 80, "soft": 0}
    steps = [{"kind": "exposure", "stops": -3, "through": through}, {"kind": "crop", "left": 20}]
    comp = comp_of(visitor, "shapes", [{**strip("red", 0, [1, 0, 0]), "steps": steps}])
    visitor.open(f"projects/1/comp/{comp}?layer=red")
    visitor.settled()
    opened(visitor, 0)
    visitor.within("section[data-row='0']", "Move it on the picture").click()
    grip = until(lambda: visitor.one("[data-grip='Width of the shape']"), "its grips")
    grip.send_keys(Keys.SHIFT, Keys.ARROW_RIGHT)
    saved(visitor)
    assert layers(visitor, comp)[0]["steps"][0]["through"]["width"] == 120
    visitor.keys(Keys.ESCAPE)
    opened(visitor, 1)
    visitor.within("section[data-row='1']", "Move it on the picture").click()
    grip = until(lambda: visitor.one("[data-grip='Point: left']"), "the sides")
    ActionChains(visitor.driver).click_and_hold(grip).move_by_offset(30, 0).release().perform()
    saved(visitor)
    assert layers(visitor, comp)[0]["steps"][1]["left"] > 25
    visitor.keys(Keys.ESCAPE)


def test_a_colour_is_taken_from_the_picture(visitor):
    rows = [strip("red", -100, [0.8, 0.1, 0.05]), strip("green", 60, [0, 1, 0])]
    comp = comp_of(visitor, "taken", rows)
    visitor.open(f"projects/1/comp/{comp}?layer=green")
    visitor.settled()
    visitor.click("Made here")
    until(lambda: visitor.all("button[aria-label^='Take the']"), "its colours")[0].click()
    over = until(lambda: visitor.one("[data-tool='pick']"), "the picture takes a click")
    zoom = min(over.rect["width"] / 400, over.rect["height"] / 200)
    chain = ActionChains(visitor.driver).move_to_element_with_offset(over, round(-100 * zoom), 0)
    chain.click().perform()
    until(lambda: layers(visitor, comp)[1]["made"]["colour"] == pytest.approx([0.8, 0.1, 0.05], abs=1e-3),
          "green is red's colour")  # fmt: skip


def test_notes_and_the_frames_side_by_side(visitor):
    moving = {"keys": {"x": {"keys": [{"frame": 1, "value": -300}, {"frame": 6, "value": 0}]}}}
    red = {**strip("red", 0, [1, 0, 0]), "transform": moving}
    comp = comp_of(visitor, "told", [red])
    visitor.open(f"projects/1/comp/{comp}?frame=2")
    visitor.settled()
    visitor.keys("m")
    over = until(lambda: visitor.one("[data-tool='note']"), "the picture takes a click")
    ActionChains(visitor.driver).move_to_element_with_offset(over, 0, 0).click().perform()
    visitor.field("What is to be done here").send_keys("too early", Keys.ENTER)
    saved(visitor)
    (note,) = visitor.api("GET", f"comps/{comp}")["document"]["notes"]
    assert (note["text"], note["frame"]) == ("too early", 2)
    assert (note["x"], note["y"]) == pytest.approx((200, 100), abs=3)
    visitor.undo()
    until(lambda: not visitor.api("GET", f"comps/{comp}")["document"]["notes"], "undone")
    visitor.keys("t")
    until(lambda: len(visitor.all("[aria-label='Contact strip'] button")) == 6, "a picture a frame")
    until(lambda: visitor.seen("no frame stands out") or visitor.seen("stands out: frame"), "measured")
    visitor.one("[aria-label='Frame 5']").click()
    until(lambda: "frame=5" in visitor.driver.current_url, "it leads there")


def test_a_label_is_given_by_keys_and_filters(visitor):
    visitor.open("projects/1/elements")
    visitor.wait_for("elements")
    field = visitor.field("Label")
    field.send_keys("dusk things", Keys.ENTER)
    chip = until(
        lambda: next((b for b in visitor.all("[aria-label='Labels'] button") if "dusk" in b.text), None),
        "its chip",
    )
    chip.send_keys(Keys.ENTER)
    visitor.wait_for("1 of")
    chip.send_keys(Keys.ENTER)
    field = visitor.field("Label")
    field.send_keys(Keys.CONTROL, "a")
    field.send_keys(Keys.BACKSPACE, Keys.ENTER)
    until(lambda: not any("dusk" in b.text for b in visitor.all("[aria-label='Labels'] button")), "none")


def test_laid_by_keys_alone(visitor):
    """Chosen, moved, duplicated, hidden, locked, grouped and taken back without a mouse."""
    comp = comp_of(visitor, "keys", [strip("red", -100, [1, 0, 0]), strip("green", 60, [0, 1, 0])])
    visitor.open(f"projects/1/comp/{comp}")
    visitor.settled()
    visitor.keys("]")
    visitor.keys("v")
    over = until(lambda: visitor.one("[data-tool='place']"), "laid by hand")
    name = visitor.one("button[data-layer][aria-pressed='true']").get_attribute("data-layer")
    before = place(visitor, comp, name)["x"]
    over.send_keys(Keys.ARROW_RIGHT)
    saved(visitor)
    assert place(visitor, comp, name)["x"] == before + 1
    visitor.keys(Keys.ESCAPE)
    visitor.keys("h")
    until(lambda: sum(x["shown"] for x in layers(visitor, comp)) == 1, "hidden")
    visitor.keys("h")
    until(lambda: sum(x["shown"] for x in layers(visitor, comp)) == 2, "shown")
    visitor.keys("g")
    until(lambda: any(x["kind"] == "group" for x in layers(visitor, comp)), "grouped")
    for _ in range(4):
        visitor.undo()
        saved(visitor)
    assert [x["kind"] for x in layers(visitor, comp)] == ["made", "made"]
    assert place(visitor, comp, name)["x"] == before
