"""The Scene desk: looking at passes, options in the picture, set-ups by name, renders."""

import pytest
from browser.visitor import until

pytestmark = pytest.mark.browser


def open_scene(visitor, name):
    visitor.open("projects/1/scene")
    visitor.driver.execute_script("localStorage.clear()")
    visitor.open("projects/1/scene")
    until(lambda: scene_row(visitor, name), f"no scene {name}").click()
    until(lambda: visitor.all(f"[role=img][aria-label^='{name}, ']"), "its picture")


def scene_row(visitor, name):
    rows = visitor.all("ul[aria-label='Scenes'] button")
    return next((r for r in rows if r.text.startswith(name)), None)


def section(visitor, title):
    visitor.driver.find_element("xpath", f"//summary[span[normalize-space(.)='{title}']]").click()


def look(visitor):
    """The whole picture on the screen, once one of at least 4 rays is there."""
    until(lambda: int(visitor.one("[data-rays]").get_attribute("data-rays")) >= 4, "a picture at rest", 180)
    return visitor.driver.execute_script(
        "const c = document.querySelector('canvas[data-drawn-level]');"
        "const d = c.getContext('2d').getImageData(0, 0, c.width, c.height).data;"
        "let sum = 0; for (let i = 0; i < d.length; i += 4) sum += d[i] + 2 * d[i + 1] + 3 * d[i + 2];"
        "return sum / d.length;"
    )


def test_every_pass_can_be_looked_at(visitor):
    open_scene(visitor, "waymark")
    beauty = look(visitor)
    visitor.click("Look at depth")
    until(lambda: "pass=depth" in visitor.driver.current_url, "the address holds the pass")
    until(lambda: abs(look(visitor) - beauty) > 1, "the depth is another picture")
    depth = look(visitor)
    visitor.click("Look at normals")
    # the picture before may still stand there for a moment
    until(lambda: abs(look(visitor) - depth) > 1, "the normals are another one")
    caught = visitor.one("[data-pass=composite]")
    assert "needs a plate" in caught.text


def test_an_option_shows_in_the_picture_and_is_undone(visitor):
    open_scene(visitor, "glass_lantern")
    visitor.click("Alpha")  # the view
    clear = look(visitor)
    section(visitor, "Alpha")
    visitor.field("What is behind shows through glass in the alpha").click()
    until(lambda: look(visitor) > clear * 1.1, "glass is opaque in the alpha now", 180)
    visitor.click("Undo")
    until(lambda: abs(look(visitor) - clear) < clear * 0.05, "and is clear again", 180)
    visitor.click("Redo")
    visitor.driver.refresh()
    rung_open = until(lambda: visitor.all("summary"), "the set-up")
    assert rung_open
    visitor.wait_for("glass opaque")


def test_a_set_up_is_kept_by_name(visitor):
    open_scene(visitor, "geese")
    section(visitor, "Quality")
    visitor.set_number("Rays", "3")
    visitor.click("Save")
    visitor.type_into("Name", "Geese, quick look")
    dialog = visitor.one("[role=dialog]")
    dialog.find_element("css selector", "button[type=submit]").click()
    until(lambda: not visitor.all("[role=dialog]"), "it is saved")
    visitor.driver.execute_script("localStorage.clear()")
    visitor.driver.refresh()
    visitor.click("Saved set-up")
    visitor.click("Geese, quick look")
    visitor.wait_for("final, 3 rays a pixel")


def test_render_find_the_elements_and_lay_them_into_a_comp(visitor):
    open_scene(visitor, "geese")
    visitor.click("Saved set-up")
    visitor.click("Geese, one layer each")
    section(visitor, "Frames")
    for label, number in (("Last", "2"), ("Width", "96"), ("Height", "54")):
        visitor.set_number(label, number)
    section(visitor, "Quality")
    visitor.set_number("Rays", "2")
    visitor.type_into("Name of the render", "three geese")
    visitor.click("Render")
    card = "article[aria-label='Render three geese']"
    until(lambda: visitor.one(card).get_attribute("data-state") == "done", "it is rendered", 300)
    assert "3 elements" in visitor.one(card).text
    visitor.within(card, "Lay into a comp").click()
    visitor.click("Boardwalk, dusk")
    visitor.wait_for("It can be undone there")
    visitor.open("projects/1/comp/1")
    visitor.click("Open three geese")
    members = "[aria-label='Members of three geese, far to near'] button[data-layer]"
    until(lambda: len(visitor.all(members)) == 3, "its render layers")
    names = [m.get_attribute("aria-label") for m in visitor.all(members)]
    assert names == ["Group goose 2", "Group goose 1", "Group goose 3"]
    visitor.settled()
    visitor.undo()
    until(lambda: not visitor.seen("three geese"), "the comp is as it was")
    visitor.open("projects/1/elements")
    visitor.wait_for("three geese goose 3")


def test_a_camera_is_placed_by_hand_in_the_picture(visitor):
    open_scene(visitor, "waymark")
    section(visitor, "Camera")
    visitor.click("Placed by hand")
    azimuth = float(visitor.field("azimuth").get_attribute("value"))
    picture = visitor.one("[aria-label^='Move the camera']")
    visitor.drag(picture, 100)
    until(lambda: visitor.field("azimuth").get_attribute("value") == f"{azimuth - 35:g}", "it went around")
    visitor.click("Undo")
    until(lambda: visitor.field("azimuth").get_attribute("value") == f"{azimuth:g}", "it is back")
    visitor.click("Of the scene")
    until(lambda: not visitor.all("[aria-label^='Move the camera']"), "the scene's own again")


def test_a_render_is_cancelled_and_goes_on(visitor):
    open_scene(visitor, "waymark")
    section(visitor, "Frames")
    visitor.set_number("Last", "16")
    section(visitor, "Quality")
    visitor.set_number("Rays", "24")
    visitor.type_into("Name of the render", "slow sign")
    visitor.click("Render")
    card = "article[aria-label='Render slow sign']"
    until(lambda: visitor.all(f"{card} img"), "the newest frame is shown as it arrives", 300)
    visitor.within(card, "Cancel").click()
    until(lambda: visitor.one(card).get_attribute("data-state") == "cancelled", "it is cancelled", 120)
    visitor.within(card, "Resume").click()
    until(lambda: visitor.one(card).get_attribute("data-state") in {"queued", "running"}, "it goes on")
    visitor.within(card, "Cancel").click()
    until(lambda: visitor.one(card).get_attribute("data-state") == "cancelled", "it is cancelled again", 120)


def test_what_cannot_be_rendered_says_why(visitor):
    open_scene(visitor, "waymark")
    visitor.type_into("Name of the render", "...")
    visitor.click("Render")
    visitor.wait_for("cannot be the name of a render")


def test_a_broken_scene_says_what_is_wrong(visitor, tmp_path):
    broken = tmp_path / "shipwreck with a name that is long enough to need more than one line.glb"
    broken.write_bytes(b"glTF" + b"\x02" * 60)
    visitor.open("projects/1/scene")
    until(lambda: visitor.all("input[type=file]"), "the way in")[0].send_keys(str(broken))
    row = until(lambda: scene_row(visitor, "shipwreck"), "it is on the list")
    until(lambda: "refused" in scene_row(visitor, "shipwreck").text, "it is refused", 120)
    row = scene_row(visitor, "shipwreck")
    row.click()
    visitor.wait_for("shipwreck with a name")
    until(lambda: visitor.all("[role=alert]"), "why")


def test_the_numbers_under_the_pointer(visitor):
    open_scene(visitor, "waymark")
    visitor.click("Look at depth")
    look(visitor)
    visitor.point_at(visitor.one("[role=img]"), -115, 60)  # on the post
    line = "[aria-label='Values under the pointer']"
    depth = until(lambda: visitor.one(line).text.partition("depth.Z ")[2], "the depth there")
    assert 3 < float(depth) < 6
