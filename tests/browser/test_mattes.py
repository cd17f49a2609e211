"""Mattes on the comp desk: by a thread from card to card, from the menu, crushed, inverted, of a step."""

import pytest
from browser.test_comp import demo, saved
from browser.test_recipe import add_step
from browser.visitor import until
from core.pictures import save_ranks
from selenium.webdriver.common.action_chains import ActionChains

pytestmark = pytest.mark.browser

__all__ = ["demo"]


def words(visitor):
    """What the matte's section says."""
    sections = visitor.all("aside[aria-label='Recipe'] section h3 button")
    return next(r.text.partition("\n")[2] for r in sections if r.text.startswith("Matte"))


def threads(visitor):
    found = visitor.all("svg[aria-label*=' cuts ']")
    return found[0].get_attribute("aria-label") if found else ""


def test_a_thread_from_card_to_card_cuts_a_layer(demo):
    demo.click("Layer plate")
    demo.settled()
    before = demo.pixel(0.85, 0.9)
    knob = demo.named("Matte from kite: drag onto another card")
    target = demo.all("[data-layer='plate']")[0]
    ActionChains(demo.driver, duration=50).click_and_hold(knob).move_by_offset(0, -15).move_to_element(
        target
    ).release().perform()
    until(lambda: words(demo) == "alpha of kite", "the rung says so")
    assert threads(demo) == "alpha of kite cuts plate"
    saved(demo)
    demo.settled()
    assert demo.pixel(0.85, 0.9) != before, "away from the kite the plate is gone"
    demo.click("Matte")
    demo.click("Invert this part")
    until(lambda: words(demo) == "alpha of kite, inverted", "inverted in one click")
    saved(demo)
    demo.settled()
    assert demo.pixel(0.85, 0.9) == before
    demo.click("Take this part out")
    until(lambda: words(demo) == "none: all of it is kept", "taken out")
    assert threads(demo) == ""
    demo.undo()
    until(lambda: words(demo) == "alpha of kite, inverted", "and back")
    demo.click("Take this part out")
    saved(demo)


def test_the_luma_of_the_layer_itself_from_the_menu_crushed(demo):
    demo.click("Layer plate")
    demo.click("Matte")
    demo.click("Take a channel of …")
    demo.click("plate itself")
    until(lambda: words(demo) == "luma of itself", "luma is proposed for the layer itself")
    demo.set_number("low", "0.9")
    saved(demo)
    demo.choose("How much of the comp", "Layer")
    demo.named("Alpha").click()
    demo.settled()
    assert sum(demo.pixel(0.5, 0.95)) < 30, "the dark water is black in the matte"
    demo.choose("How much of the comp", "Comp")
    demo.named("Colour").click()
    demo.click("Take this part out")
    saved(demo)


def test_a_step_acts_through_a_matte(demo):
    demo.click("Layer plate")
    add_step(demo, "Exposure")
    demo.set_number("stops", "3")
    saved(demo)
    demo.settled()
    bright = demo.pixel(0.5, 0.95)
    demo.click("Where Exposure acts")
    demo.click("Through a matte")
    demo.click("Take a channel of …")
    demo.click("plate itself")
    demo.set_number("low", "0.9")
    saved(demo)
    demo.settled()
    assert sum(demo.pixel(0.5, 0.95)) < sum(bright) - 60, "the water is dark again, the sky stays bright"
    demo.click("Grey")
    demo.settled()
    r, g, b = demo.pixel(0.5, 0.95)
    assert r == g == b < 40, "the step's whole matte alone: it removes the water"
    demo.click("Picture")
    demo.settled()
    assert len(set(demo.pixel(0.5, 0.95))) > 1, "the comp again"
    demo.named("Take this step out").click()
    saved(demo)


def test_objects_are_chosen_by_their_names(visitor, tmp_path):
    """A file with ID ranks, from the folder to the picture: names from its list, and what they cover."""
    visitor.click("New project")
    visitor.type_into("Name", "Signs of the marsh")
    visitor.click("Create")
    visitor.wait_for("No elements yet")
    visitor.one("input[type=file]").send_keys(str(save_ranks(tmp_path / "sign.exr")))
    visitor.wait_for("64")
    visitor.click("Comp")
    visitor.click("New comp")
    visitor.type_into("Name", "sign")
    visitor.type_into("Frame rate (fps)", "25")
    visitor.click("Create")
    visitor.wait_for("Nothing lies here yet")
    visitor.click("Add a layer")
    visitor.click("sign.exr")
    visitor.settled()
    visitor.look_at("Black")
    visitor.click("Matte")
    visitor.click("Make …")
    visitor.click("Objects by their names")
    listed = "[aria-label='Objects in the file'] button"
    until(lambda: [b.text for b in visitor.all(listed)] == ["board", "post"], "the file's names")
    visitor.click("post")
    until(lambda: words(visitor) == "post of itself", "the rung says so")
    saved(visitor)
    visitor.settled()
    # half grey, a quarter of it: 0.125 of light is code 99 by IEC 61966-2-1, all of three quarters 165
    assert visitor.pixel(0.5, 0.5) == (99, 99, 99)
    visitor.type_into("Name of an object for part 1", "boa")
    visitor.click("Take this object in")
    until(lambda: words(visitor) == "post and 1 more of itself", "found by a part of its name")
    saved(visitor)
    visitor.settled()
    assert visitor.pixel(0.5, 0.5) == (165, 165, 165)
    visitor.click("Take post out")
    until(lambda: words(visitor) == "board of itself", "taken out again")
    visitor.type_into("Name of an object for part 1", "bolt")
    visitor.click("Take this object in")
    until(lambda: words(visitor) == "board and 1 more of itself", "a name that is not listed, typed")
    saved(visitor)
