"""The guide's pages on data passes, followed from start to end as they are written."""

import numpy as np
import pytest
from browser.test_comp import saved
from browser.test_guide_layers import back_as_it_was
from browser.test_recipe import add_step
from browser.visitor import until
from selenium.webdriver.common.action_chains import ActionChains

pytestmark = pytest.mark.browser


def rendered(visitor, name):
    """A short render of the waymark with what is needed, laid into a comp of its own."""
    scenes = visitor.api("GET", "projects/1/scenes")
    scene = next(s["id"] for s in scenes if s["name"] == "waymark")
    setup = next(s for s in visitor.api("GET", f"scenes/{scene}/setups") if "changing its board" in s["name"])
    small = {"width": 480, "height": 270, "samples": 8, "last": 1, "indirect": False}
    order = {"name": name, "document": {**setup["document"], **small}}
    render = visitor.api("POST", f"scenes/{scene}/renders", order)["id"]
    until(lambda: visitor.api("GET", f"renders/{render}")["job"]["state"] == "done", "it is rendered", 400)
    return visitor.api("POST", f"renders/{render}/lay-in", {})["comp"]


def choose(visitor, field, value):
    visitor.named(field).click()
    visitor.click(value)
    saved(visitor)


def test_put_a_picture_on_a_surface(visitor):
    comp = rendered(visitor, "signpost")
    visitor.open(f"projects/1/comp/{comp}")
    visitor.settled()
    board, beside = (0.5, 0.38), (0.367, 0.7)
    before, post = visitor.pixel(*board), visitor.pixel(*beside)
    visitor.click("Add a layer")
    # the comp bears the name too
    rows = until(lambda: [r for r in visitor.all("[role=menuitem]") if r.text == "signpost"], "its row")
    rows[-1].click()
    saved(visitor)
    add_step(visitor, "UV map")
    choose(visitor, "second", "dawn_sky.png")
    choose(visitor, "covers", "mask.1")
    visitor.settled()
    sky = visitor.pixel(*board)
    assert sky[2] > sky[1] + 20 > before[2], "the dawn's violet is on the board"
    # the bar above has another row now: the picture is a little smaller
    assert np.abs(np.array(visitor.pixel(*beside)) - post).max() < 25, "the post is as it was"
    visitor.field("flip v").click()
    saved(visitor)
    visitor.settled()
    assert visitor.pixel(*board) != sky
    choose(visitor, "u from", "depth.Z")
    assert not visitor.complaints()
    back_as_it_was(visitor)


def focus_of(visitor, comp):
    return visitor.api("GET", f"comps/{comp}")["document"]["layers"][-1]["steps"][-1]["focus"]


def test_motion_and_focus_afterwards(visitor):
    comp = rendered(visitor, "focused signpost")
    group = visitor.api("GET", f"comps/{comp}")["document"]["layers"][-1]["id"]
    visitor.open(f"projects/1/comp/{comp}?layer={group}")
    visitor.settled()
    add_step(visitor, "Motion blur")
    saved(visitor)
    visitor.settled()
    visitor.choose("show", "Arrows")
    saved(visitor)
    visitor.choose("show", "Result")
    saved(visitor)
    choose(visitor, "depth", "depth.Z")
    add_step(visitor, "Depth blur")
    saved(visitor)
    visitor.click("Pick in the picture")
    over = visitor.one("[data-tool='distance']")
    focus = []
    for dx, dy in ((0, -60), (-125, 98)):  # the board, then the post
        before = focus_of(visitor, comp)
        ActionChains(visitor.driver).move_to_element_with_offset(over, dx, dy).click().perform()
        # the distance is asked for first: nothing is being saved until it is there
        until(lambda old=before: focus_of(visitor, comp) != old, "the distance is taken")
        focus.append(focus_of(visitor, comp))
    assert all(3 < f < 7 for f in focus), "both stand some five units away"
    assert focus[0] != focus[1]
    visitor.choose("show", "Circles")
    saved(visitor)
    assert not visitor.complaints()
    back_as_it_was(visitor)


def test_one_comp_many_pictures(visitor):
    comps = visitor.api("GET", "projects/1/comps")
    comp = next(c["id"] for c in comps if c["name"] == "Waymark, twelve boards")
    before = visitor.api("GET", f"comps/{comp}")["can_undo"]
    visitor.open(f"projects/1/comp/{comp}?layer=board")
    visitor.settled()
    visitor.click("List")
    until(lambda: visitor.seen("12 rows"), "the list")
    visitor.click("Add a row")
    until(lambda: visitor.seen("13 rows"), "one more")
    visitor.type_into("board of row 13", "gone.png")
    visitor.field("board of row 13").send_keys("\n")
    visitor.wait_for("The project has no element or comp gone.png.")
    visitor.type_into("board of row 13", "dawn_sky.png")
    visitor.field("board of row 13").send_keys("\n")
    until(lambda: not visitor.seen("gone.png"), "it is mended")
    until(lambda: picture_is_there(visitor, 13), "its picture")
    visitor.click("Paste or open a table")
    table = "board,light\nboard_reed_path.png,0.2 0.2 0.3\nboard_kite_field.png,\n"
    visitor.one("[aria-label='Table']").send_keys(table)
    visitor.click("Replace the rows")
    until(lambda: visitor.seen("2 rows"), "the pasted ones")
    visitor.click("Put row 1 in the comp")
    saved(visitor)
    document = visitor.api("GET", f"comps/{comp}")["document"]
    assert document["layers"][1]["layers"][0]["steps"][1]["gain"] == [0.2, 0.2, 0.3]
    visitor.click("List")
    visitor.click("Deliver rows …")
    visitor.wait_for("2 deliveries, named after their rows.")
    visitor.type_into("Frames", "1")
    visitor.type_into("File name", "sign_{board}")
    visitor.click("Deliver")
    done = until(lambda: delivered(visitor, "Waymark, twelve boards, row"), "both are delivered", 200)
    assert sorted(d["file"] for d in done) == [
        "sign_board_kite_field.####.png", "sign_board_reed_path.####.png",
    ]  # fmt: skip
    assert all(d["good"] for d in done)
    visitor.undo_all(comp, before)


def picture_is_there(visitor, row):
    script = "return document.querySelector(arguments[0])?.naturalWidth > 0"
    return visitor.driver.execute_script(script, f"img[alt='Picture of row {row}']")


def delivered(visitor, name):
    rows = [d for d in visitor.api("GET", "projects/1/deliveries") if d["comp_name"].startswith(name)]
    return rows if rows and all(d["job"]["state"] == "done" for d in rows) else None
