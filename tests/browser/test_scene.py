"""The Scene desk: looking at passes, options in the picture, set-ups by name, renders."""

import pytest
from browser.hand import until

pytestmark = pytest.mark.browser


def open_scene(hand, name):
    hand.open("projects/1/scene")
    hand.driver.execute_script("localStorage.clear()")
    hand.open("projects/1/scene")
    until(lambda: scene_row(hand, name), f"no scene {name}").click()
    until(lambda: hand.all(f"[role=img][aria-label^='{name}, ']"), "its picture")


def scene_row(hand, name):
    rows = hand.all("ul[aria-label='Scenes'] button")
    return next((r for r in rows if r.text.startswith(name)), None)


def rung(hand, title):
    hand.driver.find_element("xpath", f"//summary[span[normalize-space(.)='{title}']]").click()


def look(hand):
    """The whole picture on the screen, once one of at least 4 rays is there."""
    until(lambda: int(hand.one("[data-rays]").get_attribute("data-rays")) >= 4, "a picture at rest", 180)
    return hand.driver.execute_script(
        "const c = document.querySelector('canvas[data-drawn-level]');"
        "const d = c.getContext('2d').getImageData(0, 0, c.width, c.height).data;"
        "let sum = 0; for (let i = 0; i < d.length; i += 4) sum += d[i] + 2 * d[i + 1] + 3 * d[i + 2];"
        "return sum / d.length;"
    )


def test_every_pass_can_be_looked_at(hand):
    open_scene(hand, "waymark")
    beauty = look(hand)
    hand.click("Look at depth")
    until(lambda: "pass=depth" in hand.driver.current_url, "the address holds the pass")
    depth = look(hand)
    assert abs(depth - beauty) > 1
    hand.click("Look at normals")
    assert abs(look(hand) - depth) > 1
    caught = hand.one("[data-pass=composite]")
    assert "needs a plate" in caught.text


def test_an_option_shows_in_the_picture_and_is_undone(hand):
    open_scene(hand, "glass_lantern")
    hand.click("Alpha")  # the view
    clear = look(hand)
    rung(hand, "Alpha")
    hand.field("What is behind shows through glass in the alpha").click()
    until(lambda: look(hand) > clear * 1.1, "glass is opaque in the alpha now", 180)
    hand.click("Undo")
    until(lambda: abs(look(hand) - clear) < clear * 0.05, "and is clear again", 180)
    hand.click("Redo")
    hand.driver.refresh()
    rung_open = until(lambda: hand.all("summary"), "the set-up")
    assert rung_open
    hand.wait_for("glass opaque")


def test_a_set_up_is_kept_by_name(hand):
    open_scene(hand, "geese")
    rung(hand, "Quality")
    hand.set_number("Rays", "3")
    hand.click("Save")
    hand.type_into("Name", "Geese, quick look")
    dialog = hand.one("[role=dialog]")
    dialog.find_element("css selector", "button[type=submit]").click()
    until(lambda: not hand.all("[role=dialog]"), "it is saved")
    hand.driver.execute_script("localStorage.clear()")
    hand.driver.refresh()
    hand.click("Kept set-up")
    hand.click("Geese, quick look")
    hand.wait_for("final, 3 rays a pixel")


def test_render_find_the_elements_and_lay_them_into_a_comp(hand):
    open_scene(hand, "geese")
    hand.click("Kept set-up")
    hand.click("Geese, one layer each")
    rung(hand, "Frames")
    for label, number in (("Last", "2"), ("Width", "96"), ("Height", "54")):
        hand.set_number(label, number)
    rung(hand, "Quality")
    hand.set_number("Rays", "2")
    hand.type_into("Name of the render", "three geese")
    hand.click("Render")
    card = "article[aria-label='Render three geese']"
    until(lambda: hand.one(card).get_attribute("data-state") == "done", "it is rendered", 300)
    assert "3 elements" in hand.one(card).text
    hand.one(f"{card} button").click()  # lay into a comp
    hand.click("Boardwalk, dusk")
    hand.wait_for("It can be undone there")
    hand.open("projects/1/comp/1")
    hand.wait_for("three geese goose 1")
    names = [n for n in ("goose 2", "goose 1", "goose 3") if hand.seen(f"three geese {n}")]
    assert names == ["goose 2", "goose 1", "goose 3"]
    hand.settled()
    hand.undo()
    until(lambda: not hand.seen("three geese"), "the comp is as it was")
    hand.open("projects/1/elements")
    hand.wait_for("three geese goose 3")


def test_a_render_is_cancelled_and_goes_on(hand):
    open_scene(hand, "waymark")
    rung(hand, "Frames")
    hand.set_number("Last", "16")
    rung(hand, "Quality")
    hand.set_number("Rays", "24")
    hand.type_into("Name of the render", "slow sign")
    hand.click("Render")
    card = "article[aria-label='Render slow sign']"
    until(lambda: hand.all(f"{card} img"), "the newest frame is shown as it arrives", 300)
    button(hand, card, "Cancel").click()
    until(lambda: hand.one(card).get_attribute("data-state") == "cancelled", "it is cancelled", 120)
    button(hand, card, "Go on").click()
    until(lambda: hand.one(card).get_attribute("data-state") in {"queued", "rendering"}, "it goes on")
    button(hand, card, "Cancel").click()
    until(lambda: hand.one(card).get_attribute("data-state") == "cancelled", "it is cancelled again", 120)


def button(hand, card, text):
    def find():
        rows = hand.all(f"{card} button")
        return next((b for b in rows if b.text == text and b.is_enabled()), None)

    return until(find, f"no button {text}")


def test_what_cannot_be_rendered_says_why(hand):
    open_scene(hand, "waymark")
    hand.type_into("Name of the render", "...")
    hand.click("Render")
    hand.wait_for("cannot be the name of a render")


def test_a_broken_scene_says_what_is_wrong(hand, tmp_path):
    broken = tmp_path / "shipwreck with a name that is long enough to need more than one line.glb"
    broken.write_bytes(b"glTF" + b"\x02" * 60)
    hand.open("projects/1/scene")
    until(lambda: hand.all("input[type=file]"), "the way in")[0].send_keys(str(broken))
    row = until(lambda: scene_row(hand, "shipwreck"), "it is on the list")
    until(lambda: "refused" in scene_row(hand, "shipwreck").text, "it is refused", 120)
    row = scene_row(hand, "shipwreck")
    row.click()
    hand.wait_for("shipwreck with a name")
    until(lambda: hand.all("[role=alert]"), "why")


def test_the_numbers_under_the_pointer(hand):
    open_scene(hand, "waymark")
    hand.click("Look at depth")
    look(hand)
    hand.point_at(hand.one("[role=img]"), -115, 60)  # on the post
    line = "[aria-label='Values under the pointer']"
    depth = until(lambda: hand.one(line).text.partition("depth.Z ")[2], "the depth there")
    assert 3 < float(depth) < 6
