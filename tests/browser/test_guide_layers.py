"""The guide's pages on layering, followed from start to end as they are written."""

import re

import numpy as np
import pytest
from browser.test_comp import saved
from browser.visitor import until
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.keys import Keys

pytestmark = pytest.mark.browser

POINTS = [(0.5, 0.3), (0.5, 0.5), (0.45, 0.6), (0.2, 0.2), (0.6, 0.45)]


def opened(visitor, name):
    """One of the demo's comps, by its name."""
    visitor.open("projects/1/comp/1")
    visitor.settled()
    if name == "Boardwalk, dusk":
        return
    visitor.driver.find_element("css selector", "header button[aria-haspopup=menu]").click()
    visitor.click(name)
    until(lambda: visitor.all(f"[aria-label^='Picture of {name}']"), name)
    visitor.settled()


def back_as_it_was(visitor):
    for _ in range(60):
        if not visitor.all("button[aria-label^='Undo:']:not(:disabled)"):
            return
        visitor.one("button[aria-label^='Undo:']").click()
        until(lambda: not visitor.seen("saving"), "undone")


def test_stack_passes(visitor):
    visitor.open("projects/1/scene/1")
    # other tests render too: the card is the demo's own
    card = "article[aria-label='Render lantern']"
    until(lambda: visitor.all(f"{card}[data-state=done]"), "the demo's render", 400)
    visitor.within(card, "Lay into a comp").click()
    visitor.click("A new comp of its size and frames, lantern")
    visitor.click("lantern")
    until(lambda: visitor.all("[aria-label^='Picture of lantern']"), "the new comp")
    visitor.settled()
    visitor.click("Group lantern")
    until(lambda: visitor.seen("a group of"), "its recipe")
    visitor.one("section h3 button").click()
    until(lambda: visitor.seen("the two differ by"), "the difference is measured")
    most = float(re.search(r"differ by ([\d.e-]+) at most", visitor.one("aside").text)[1])
    assert most < 0.03, "the passes add up to the beauty, but for the half floats of a flame's light"
    assert "less than 0.0001 in the mean" in visitor.one("aside").text
    before = [visitor.pixel(*at) for at in POINTS]
    visitor.choose("drawn from", "lighting passes")
    saved(visitor)
    visitor.settled()
    after = [visitor.pixel(*at) for at in POINTS]
    assert np.ptp(before) > 40, "there is something to see"
    assert np.abs(np.array(after) - before).max() <= 2
    stood_in_the_scene(visitor)
    visitor.click("Open lantern")
    until(lambda: visitor.all("[aria-label='Members of lantern, far to near']"), "its members")
    visitor.click("Fold lantern")
    back_as_it_was(visitor)


def stood_in_the_scene(visitor):
    """A picture put on the lantern's post, and turned until it is seen from its side."""
    visitor.click("Add a layer")
    visitor.click("heron_feather.png")
    saved(visitor)
    visitor.settled()
    visitor.click("In scene")
    flat = visitor.pixel(0.42, 0.62)
    visitor.click("Stand it in the scene")
    until(lambda: visitor.seen("Lay it flat"), "it stands")
    saved(visitor)
    visitor.settled()
    assert np.abs(np.array(visitor.pixel(0.42, 0.62)) - flat).max() < 30, "it is seen where it was"
    visitor.click("Put it where I click")
    until(lambda: visitor.all("[data-tool=stand] polygon"), "its outline")
    before = visitor.field("x").get_attribute("value")
    over = visitor.one("[data-tool=stand]")
    ActionChains(visitor.driver).move_to_element_with_offset(over, 8, 150).click().perform()
    until(lambda: visitor.field("x").get_attribute("value") != before, "it went where the pointer was")
    saved(visitor)
    visitor.keys(Keys.ESCAPE)
    until(lambda: not visitor.all("[data-tool=stand]"), "the tool is put away")
    visitor.settled()
    there = visitor.pixel(0.5, 0.8)
    visitor.set_number("turn", "89.9")
    saved(visitor)
    visitor.settled()
    assert visitor.pixel(0.5, 0.8) != there
    visitor.click("Lay it flat")
    saved(visitor)
    assert visitor.seen("It lies flat")


def test_groups_by_hand(visitor):
    opened(visitor, "Boardwalk, dusk")
    before = visitor.pixel(0.7, 0.5)
    visitor.click("Layer lantern")
    ActionChains(visitor.driver).key_down(Keys.CONTROL).click(visitor.named("Layer caption")).key_up(
        Keys.CONTROL
    ).perform()
    visitor.keys("g")
    until(lambda: visitor.seen("a group of 2 layers"), "the group")
    saved(visitor)
    visitor.settled()
    # over is associative; the viewer's picture is a JPEG
    assert np.abs(np.array(visitor.pixel(0.7, 0.5)) - before).max() <= 6
    visitor.one("section h3 button").click()
    visitor.click("Ungroup")
    saved(visitor)
    assert not visitor.seen("a group of")
    back_as_it_was(visitor)


def test_a_crowd_from_one_clip(visitor):
    opened(visitor, "Boardwalk, dusk")
    visitor.click("Layer kite")
    visitor.click("Repeat")
    visitor.click("Repeat it")
    visitor.set_number("copies", "30")
    visitor.set_number("x", "0")
    visitor.set_number("x, chance", "800")
    visitor.set_number("y, chance", "300")
    visitor.set_number("scale, chance", "0.6")
    visitor.set_number("time, chance", "20")
    visitor.click("Larger")
    saved(visitor)
    until(lambda: visitor.seen("×30"), "the card says how many")
    visitor.click("Timing")
    visitor.choose("Beyond the element's frames", "Ping-pong")
    saved(visitor)
    visitor.settled()
    sky = np.array([visitor.pixel(x / 20, y / 20) for x in range(2, 19) for y in range(2, 8)])
    assert (np.abs(sky - np.median(sky, axis=0)).max(axis=1) > 60).sum() > 6, "kites all over the sky"
    back_as_it_was(visitor)


def test_replace_a_sky(visitor):
    """The sky in front, cut by the plate: pulled from card to card."""
    opened(visitor, "Reeds before another sky")
    visitor.click("Layer dawn sky")
    ActionChains(visitor.driver).key_down(Keys.ALT).send_keys(Keys.ARROW_RIGHT).key_up(Keys.ALT).perform()
    saved(visitor)
    visitor.settled()
    covered = visitor.pixel(0.52, 0.4)
    knob = visitor.named("Matte from reeds: drag onto another card")
    chain = ActionChains(visitor.driver, duration=50).click_and_hold(knob).move_by_offset(0, -15)
    chain.move_to_element(visitor.one("[data-layer='dawn-sky']")).release().perform()
    visitor.click("Matte")
    visitor.click("Open")
    visitor.click("Channel of part 1")
    visitor.click("blue")
    visitor.set_number("low", "0.3")
    visitor.set_number("high", "0.5")
    saved(visitor)
    visitor.settled()
    assert visitor.pixel(0.52, 0.4) != covered, "the reeds are there again"
    back_as_it_was(visitor)
