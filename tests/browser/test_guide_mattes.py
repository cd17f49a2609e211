"""The guide's pages on mattes, followed from start to end as they are written."""

import pytest
from browser.test_comp import saved
from browser.test_mattes import words
from browser.visitor import until
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.keys import Keys

pytestmark = pytest.mark.browser


@pytest.fixture
def walk(visitor):
    """Opens one of the demo's comps by its name, and puts it back as it was afterwards."""

    def begin(name):
        visitor.open("projects/1/comp/1")
        visitor.settled()
        visitor.driver.find_element("css selector", "header button[aria-haspopup=menu]").click()
        visitor.click(name)
        until(lambda: visitor.all(f"[aria-label^='Picture of {name}']"), name)
        visitor.settled()
        return visitor

    yield begin
    visitor.driver.refresh()
    visitor.settled()
    for _ in range(60):
        if not visitor.all("button[aria-label^='Undo:']:not(:disabled)"):
            break
        visitor.one("button[aria-label^='Undo:']").click()
        until(lambda: not visitor.seen("saving"), "undone")


def shares(visitor):
    """What the instrument says of the matte: kept, in part, removed, in per cent."""
    rows = until(lambda: [d.text for d in visitor.all("aside[aria-label='Recipe'] dl dd")], "figures")
    return [float(r.split(" ")[0]) for r in rows]


def channels(visitor):
    """Of the channel board, the best first, once some reeds and some sky are marked."""
    visitor.click("Matte")
    visitor.click("Make …")
    visitor.click("Channel board")
    visitor.wait_for("Drag over some of what stays")
    visitor.drag_over((0.100, 0.90, 0.124, 0.97), (0.520, 0.30, 0.534, 0.36))
    visitor.click("what goes")
    visitor.drag_over((0.05, 0.03, 0.9, 0.13), (0.905, 0.82, 0.94, 0.9))
    return until(lambda: visitor.all("[aria-label='Channels, the best first'] li button"), "the channels")


def test_cut_a_sky(walk):
    visitor = walk("Reeds before another sky")
    visitor.click("Layer reeds")
    visitor.settled()
    dull = visitor.pixel(0.5, 0.05)
    rows = channels(visitor)
    best = rows[0].get_attribute("aria-label").removeprefix("Take ")
    rows[0].click()
    until(lambda: words(visitor).startswith(f"{best} of itself"), "the best channel is the matte")
    saved(visitor)
    kept, part, removed = shares(visitor)
    assert 8 < kept + part < 50, "reeds are a part of the picture"
    assert removed > 45
    visitor.click("Two gentle")
    saved(visitor)
    visitor.click("Close the board")
    visitor.click("Picture")
    visitor.click("Edge colour")
    visitor.click("From inside")
    saved(visitor)
    visitor.settled()
    assert visitor.pixel(0.5, 0.05) != dull, "another sky"


def test_cut_what_no_channel_can_cut(walk):
    visitor = walk("Reeds before another sky")
    visitor.click("Layer reeds")
    visitor.settled()
    channels(visitor)[0].click()
    until(lambda: "of itself" in words(visitor), "the best channel is the matte")
    visitor.click("Close the board")
    saved(visitor)
    visitor.settled()
    kept, part, _ = shares(visitor)
    visitor.click("Edge")
    visitor.click("Found in the picture")
    visitor.wait_for("the layer’s own picture decides")
    saved(visitor)
    visitor.settled()
    until(lambda: shares(visitor)[:2] != [kept, part], "another matte")
    visitor.set_number("band", "2")
    visitor.click("Picture")
    visitor.click("Edge colour")
    visitor.click("Freed of what lay behind")
    saved(visitor)
    visitor.settled()
    visitor.wait_for("Freed of what lay behind")
    # one frame: in full size each takes a worker many seconds
    last = visitor.one("input[aria-label='Found ahead to frame']")
    last.send_keys(Keys.CONTROL, "a")
    last.send_keys("1\n")
    visitor.click("Find ahead")
    visitor.wait_for("Found in frame 1.", 150)
    visitor.set_number("band", "2.5")
    saved(visitor)
    visitor.wait_for("The layer has changed since")


def test_key_a_green_card(walk):
    visitor = walk("Puppet on the boardwalk")
    visitor.click("Layer puppet")
    visitor.settled()
    green = visitor.pixel(0.1, 0.3)
    visitor.click("Matte")
    visitor.click("Make …")
    visitor.click("Key of a green or blue screen")
    until(lambda: visitor.all("[data-tool=screen]"), "the picture takes a drag")
    visitor.drag_over((0.45, 0.7, 0.55, 0.9))
    visitor.wait_for("neither green nor blue")
    visitor.drag_over((0.1, 0.3, 0.22, 0.5))
    until(lambda: not visitor.all("[data-tool=screen]"), "the colour is taken")
    visitor.click("Grey")
    visitor.set_number("black point", "0.05")
    visitor.set_number("white point", "0.98")
    saved(visitor)
    visitor.settled()
    assert sum(visitor.pixel(0.1, 0.3)) < 12, "the card is black in the matte"
    assert sum(visitor.pixel(0.5, 0.8)) > 740, "the coat is white"
    kept, _, removed = shares(visitor)
    assert 8 < kept < 30
    assert removed > 60
    visitor.click("Picture")
    visitor.set_number("balance", "0.5")
    visitor.click("Add despill")
    saved(visitor)
    visitor.settled()
    assert visitor.pixel(0.1, 0.3) != green
    visitor.click("Garbage matte")
    until(lambda: words(visitor).endswith("subtract free form"), "the sentence says it")


def test_matte_a_moving_texture_through_a_caption(walk):
    visitor = walk("Water in letters")
    visitor.click("Layer water")
    visitor.settled()
    knob = visitor.named("Matte from caption: drag onto another card")
    target = visitor.one("[data-layer='water']")
    chain = ActionChains(visitor.driver, duration=50).click_and_hold(knob).move_by_offset(0, -15)
    chain.move_to_element(target).release().perform()
    until(lambda: visitor.all("svg[aria-label='alpha of caption cuts water']"), "the thread")
    saved(visitor)
    visitor.settled()
    above = visitor.pixel(0.5, 0.3)
    visitor.click("Matte")
    visitor.click("Open")
    visitor.click("Channel of part 1")
    visitor.click("luma")
    visitor.set_number("low", "0.6")
    assert visitor.named("Where the channel is read").text == "as it lies in the comp", "it is proposed"
    saved(visitor)
    until(lambda: words(visitor) == "luma of caption", "by its luma")
    visitor.settled()
    assert visitor.pixel(0.5, 0.3) == above, "away from the letters nothing of it is seen"
    visitor.click("Kept")
    kept, part, _ = shares(visitor)
    assert 0.3 < kept + part < 12, "letters are a small part of the picture"
    visitor.click("Layer caption, hidden")
    visitor.keys("h")
    saved(visitor)
    visitor.drag(visitor.one("[data-layer=caption]"), -180)
    until(
        lambda: [c.get_attribute("data-layer") for c in visitor.all("[data-layer]")]
        == ["plate", "caption", "water"], "behind the water",
    )  # fmt: skip
    saved(visitor)
