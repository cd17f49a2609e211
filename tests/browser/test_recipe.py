"""The comp desk's recipe: steps, the patch, keys and curves; comparing and playing."""

import time

import numpy as np
import pytest
from browser.test_comp import demo, revision, saved
from browser.visitor import until
from core.pictures import save_png
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

pytestmark = pytest.mark.browser

__all__ = ["demo"]


def add_step(visitor, title):
    visitor.click("Add a step")
    visitor.click(title)
    until(lambda: title in [t.split(", ")[1] for t in step_names(visitor)], f"{title} is in the recipe")
    saved(visitor)


def step_names(visitor):
    return [s.get_attribute("aria-label") for s in visitor.all("section[aria-label^='Step ']")]


def kinds(visitor):
    return [n.partition(", ")[2] for n in step_names(visitor)]


def test_what_a_layer_shows_is_exchanged_with_all_else_kept(demo):
    def layers():
        return {x["id"]: x for x in demo.api("GET", "comps/1")["document"]["layers"]}

    before = layers()
    demo.click("Layer kite")
    demo.one("aside button[aria-label^='Shows ']").click()
    until(lambda: demo.all("[role=menu]"), "the list")
    ActionChains(demo.driver).send_keys("feather alp", Keys.ENTER).perform()
    demo.wait_for("Everything else of the layer is kept.")
    saved(demo)
    demo.settled()
    after = layers()
    assert after == {**before, "kite": {**before["kite"], "element": after["kite"]["element"]}}
    assert after["kite"]["element"] != before["kite"]["element"]
    demo.undo_all(1)
    until(lambda: layers() == before, "taken back")


def test_an_adjustment_changes_all_beneath_it(demo):
    """Half of the light: with the plate and all before it, but not what is laid over the adjustment."""
    demo.settled()
    whole = demo.picture().astype(int)
    demo.click("Add a layer")
    demo.click("Adjustment")
    saved(demo)
    demo.settled()
    np.testing.assert_array_equal(demo.picture(), whole, "without steps it changes nothing")
    add_step(demo, "Exposure")
    demo.set_number("stops", "-1")
    until(lambda: demo.picture().mean() < 0.8 * whole.mean(), "all of it is darker")
    demo.settled()
    dark = demo.picture().astype(int)
    demo.click("Show it alone (Shift H)")
    time.sleep(0.5)
    demo.settled()
    np.testing.assert_array_equal(demo.picture(), dark, "it is shown on what it changes")
    demo.click("Show all layers again (Shift H)")
    demo.undo_all(1)
    until(lambda: np.array_equal(demo.picture(), whole), "taken back")


def test_layers_are_shown_alone_and_all_again(demo):
    demo.click("Layer kite")
    demo.settled()
    whole = demo.picture().astype(int)
    before = demo.api("GET", "comps/1")["revision"]
    demo.click("Show it alone (Shift H)")
    until(lambda: np.abs(demo.picture().astype(int) - whole).max() > 40, "the others are gone")
    demo.settled()
    kite = demo.picture().astype(int)
    ActionChains(demo.driver).key_down(Keys.CONTROL).click(demo.named("Layer lantern")).key_up(
        Keys.CONTROL
    ).perform()
    ActionChains(demo.driver).key_down(Keys.SHIFT).send_keys("h").key_up(Keys.SHIFT).perform()
    demo.wait_for("2 alone")
    until(lambda: np.abs(demo.picture().astype(int) - kite).max() > 40, "both are seen")
    demo.click("2 alone")
    until(lambda: np.array_equal(demo.picture(), whole), "all of it again")
    assert demo.api("GET", "comps/1")["revision"] == before, "nothing was changed"


def test_a_dropped_file_is_used_where_it_is_let_go(visitor, tmp_path):
    comp = next(c["id"] for c in visitor.api("GET", "projects/1/comps") if "twelve boards" in c["name"])
    before = visitor.api("GET", f"comps/{comp}")["document"]
    visitor.open(f"projects/1/comp/{comp}?layer=board&frame=4")
    visitor.settled()
    was, among = visitor.picture(), len(visitor.api("GET", "projects/1/elements"))
    step = visitor.named("UV map")
    if step.get_attribute("aria-expanded") == "false":
        step.click()
    violet = save_png(tmp_path / "violet.png", np.tile(np.float32([0.6, 0.1, 0.8, 1]), (32, 64, 1)))
    visitor.drop_file(visitor.named("second"), "violet board.png", violet.read_bytes())
    until(lambda: visitor.named("second").text == "violet board.png", "used")
    saved(visitor)
    visitor.settled()
    changed = np.abs(visitor.picture().astype(int) - was).max(-1) > 20
    assert 0.01 < changed.mean() < 0.5, "another picture on the board, and nowhere else"

    visitor.drop_file(visitor.named("second"), "torn.png", violet.read_bytes()[:60])
    visitor.wait_for("torn.png breaks off or is damaged")
    assert visitor.named("second").text == "violet board.png", "what was there stays"

    visitor.drop_file(visitor.named("Add a layer"), "laid over.png", violet.read_bytes())
    visitor.named("Layer laid over")
    saved(visitor)
    shows = until(lambda: visitor.one("aside button[aria-label^='Shows laid over.png']"), "the new layer")
    visitor.drop_file(shows, "exchanged.png", violet.read_bytes())
    until(lambda: visitor.one("aside button[aria-label^='Shows exchanged.png']"), "the layer's element")
    saved(visitor)
    after = visitor.api("GET", f"comps/{comp}")["document"]
    assert [x["name"] for x in after["layers"]] == [*(x["name"] for x in before["layers"]), "laid over"]
    visitor.undo_all(comp)
    assert visitor.api("GET", f"comps/{comp}")["document"] == before
    left = visitor.api("GET", "projects/1/elements")[:]
    for element in left:
        if element["name"] in {"violet board.png", "torn.png", "laid over.png", "exchanged.png"}:
            visitor.api("DELETE", f"elements/{element['id']}")
    assert len(visitor.api("GET", "projects/1/elements")) == among


def test_steps_are_added_mixed_moved_copied_and_taken_out(demo):
    demo.click("Layer kite")
    demo.settled()
    first = demo.pixel(0.3, 0.3)
    add_step(demo, "Exposure")
    demo.set_number("stops", "2")
    saved(demo)
    demo.settled()
    bright = demo.pixel(0.3, 0.3)
    assert sum(bright) > sum(first) + 40
    demo.set_number("mix", "0")
    saved(demo)
    demo.settled()
    assert demo.pixel(0.3, 0.3) == first
    add_step(demo, "Blur")
    assert kinds(demo) == ["Exposure", "Blur"]
    grip = demo.named("Move Blur: drag, or arrow up and down")
    grip.send_keys(Keys.ARROW_UP)
    until(lambda: kinds(demo) == ["Blur", "Exposure"], "moved by the keyboard")
    for title in ("Blur", "Exposure"):  # folded, both are near each other
        demo.click(title)
    grip = demo.named("Move Exposure: drag, or arrow up and down")
    chain = ActionChains(demo.driver, duration=0).click_and_hold(grip).move_by_offset(0, -20)
    chain.move_by_offset(0, -36).release().perform()
    until(lambda: kinds(demo) == ["Exposure", "Blur"], "moved by dragging")
    demo.click("Copy all steps")
    demo.click("Layer caption")
    demo.click("Put 2 copied steps here")
    until(lambda: kinds(demo) == ["Exposure", "Blur"], "on the other layer")
    demo.named("Take this step out").click()
    until(lambda: kinds(demo) == ["Blur"], "the first is taken out")
    saved(demo)


def test_a_set_of_steps_is_kept_for_the_project(demo):
    demo.click("Layer kite")
    add_step(demo, "Median")
    demo.click("Sets")
    demo.click("Keep these steps as a set …")
    demo.type_into("Name", "Clean up")
    demo.click("Keep it")
    until(lambda: not demo.seen("Keep these steps as a set"), "kept")
    demo.click("Layer plate")
    demo.click("Sets")
    demo.click("Clean up")
    until(lambda: kinds(demo) == ["Median"], "laid on another layer")
    demo.click("Sets")
    demo.click("Forget the set Clean up")
    demo.keys(Keys.ESCAPE)
    saved(demo)


def test_the_patch_says_what_it_does(demo):
    demo.click("Layer lantern")
    demo.settled()
    add_step(demo, "Patch")
    assert demo.seen("Everything stays as it was.")
    demo.click("second")
    demo.click("kite")
    demo.click("alpha from R of kite")
    demo.wait_for("alpha from red of kite")
    demo.field("inverted").click()
    demo.wait_for("alpha from red of kite, inverted")
    demo.set_number("gain", "0.5")
    demo.wait_for("times 0.5")
    saved(demo)
    demo.click("alpha from R of kite")
    demo.wait_for("Everything stays as it was.")
    saved(demo)


def test_a_number_is_animated_and_its_curve_dragged(demo):
    last = demo.one("[aria-label=Time]").get_attribute("aria-valuemax")
    demo.click("Layer caption")
    demo.click("Transform")
    demo.driver.execute_script("document.activeElement.blur()")
    demo.keys(Keys.HOME)
    demo.click("Let position x change: set a first key at this frame")
    saved(demo)
    demo.driver.execute_script("document.activeElement.blur()")
    demo.keys(Keys.END)
    demo.set_number("position x", "300")
    saved(demo)
    demo.driver.execute_script("document.activeElement.blur()")
    demo.keys(Keys.HOME)
    until(lambda: demo.field("position x").get_attribute("value") == "0", "as it was at the first key")
    demo.click("Curves")
    keys = until(lambda: demo.all("[aria-label^='Key at frame']"), "keys of the curve")
    end = f"Key at frame {last}, 300"
    assert [k.get_attribute("aria-label") for k in keys] == ["Key at frame 1, 0", end]
    keys[1].click()
    until(lambda: demo.field("position x").get_attribute("value") == "300", "the frame goes to the key")
    ActionChains(demo.driver, duration=0).click_and_hold(keys[1]).move_by_offset(-100, 20).release().perform()
    saved(demo)
    moved = demo.all("[aria-label^='Key at frame']")[1].get_attribute("aria-label")
    assert moved != end
    demo.click("Remove the whole curve")
    demo.wait_for("Nothing of this layer changes yet.")
    saved(demo)
    demo.click("Close the curves")


def test_two_looks_are_compared_and_a_state_gone_back_to(demo):
    demo.click("Layer lantern")
    demo.click("Compare two looks (C)")
    demo.click("Name this state …")
    demo.type_into("Name", "dusk, first")
    demo.click("Keep it")
    until(lambda: not demo.all("[role=dialog]"), "named")
    demo.click("Compared with")
    demo.click("dusk, first")
    demo.settled()
    plain = demo.pixel(0.75, 0.6)
    demo.driver.execute_script("document.activeElement.blur()")
    demo.keys("h")
    until(lambda: demo.all("[aria-label='Layer lantern, hidden']"), "hidden")
    saved(demo)
    demo.settled()
    assert demo.pixel(0.75, 0.6) == plain, "right of the line is the named state"
    assert demo.all("[role=slider][aria-label=Wipe]")
    demo.click("Difference")
    demo.settled()
    glass = [(x / 100, y / 100) for x in range(62, 80, 3) for y in range(45, 80, 5)]
    until(lambda: max(sum(demo.pixel(*p)) for p in glass) > 40, "where the lantern was they differ")
    assert sum(demo.pixel(0.3, 0.9)) < 6, "elsewhere they do not"
    demo.click("Go back to dusk, first")
    until(lambda: demo.all("[aria-label='Layer lantern']"), "shown again")
    saved(demo)
    demo.click("Forget the name dusk, first")
    demo.click("End comparing")


def test_an_edge_is_measured_along_a_line(demo):
    demo.click("Layer kite")
    demo.settled()
    demo.click("Draw a line: the edge’s profile")
    canvas = demo.one("canvas[data-drawn-level]")
    chain = ActionChains(demo.driver, duration=0).move_to_element_with_offset(canvas, -200, -60)
    chain.click_and_hold().move_by_offset(60, 20).move_by_offset(40, 10).release().perform()
    until(lambda: demo.all("[aria-label='Profile along the line']"), "the profile")
    demo.click("Histogram")
    until(lambda: demo.all("[aria-label='Histogram'][role=img]"), "the histogram")
    rows = until(lambda: demo.all("section[aria-label=Instruments] tbody tr"), "its numbers")
    assert [r.find_element(By.TAG_NAME, "th").text for r in rows][:4] == ["R", "G", "B", "A"]
    demo.click("Wave")
    until(lambda: demo.all("canvas[aria-label='Waveform of R, G and B']"), "the waveform")
    demo.click("Values")
    demo.click("Pan")


def test_frames_are_filled_in_and_played(demo):
    demo.settled()
    last = demo.one("[aria-label=Time]").get_attribute("aria-valuemax")
    until(lambda: f"{last} of {last} ready" in demo.one("footer").text, "all frames are ready")
    before = revision(demo)
    demo.click("Play")
    until(lambda: demo.all("[aria-label=Pause]"), "it plays")
    frames = set()
    for _ in range(40):
        frames.add(demo.one("[aria-label=Time]").get_attribute("aria-valuenow"))
    demo.click("Pause")
    assert len(frames) > 3
    assert revision(demo) == before


def test_single_pixels_show_their_codes(demo):
    demo.open("projects/1/comp/1?frame=20&view=50,560,330")
    demo.settled()
    seen = {demo.pixel(0.4 + x / 940, 0.4 + y / 490) for x in range(0, 50, 3) for y in range(0, 50, 3)}
    assert len(seen) > 3, "digits and a grid lie in what is nearly one colour"
    assert demo.all("[aria-label^='Seen: ']")
