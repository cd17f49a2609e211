"""The guide's pages on mattes, followed from start to end as they are written."""

import pytest
from browser.hand import until
from browser.test_comp import saved
from browser.test_mattes import words
from selenium.webdriver.common.action_chains import ActionChains

pytestmark = pytest.mark.browser


@pytest.fixture
def walk(hand):
    """Opens one of the demo's comps by its name, and puts it back as it was afterwards."""

    def begin(name):
        hand.open("projects/1/comp/1")
        hand.settled()
        hand.driver.find_element("css selector", "header button[aria-haspopup=menu]").click()
        hand.click(name)
        until(lambda: hand.all(f"[aria-label^='Picture of {name}']"), name)
        hand.settled()
        return hand

    yield begin
    hand.driver.refresh()
    hand.settled()
    for _ in range(60):
        if not hand.all("button[aria-label^='Undo:']:not(:disabled)"):
            break
        hand.one("button[aria-label^='Undo:']").click()
        until(lambda: not hand.seen("saving"), "undone")


def shares(hand):
    """What the instrument says of the matte: kept, in part, removed, in per cent."""
    rows = until(lambda: [d.text for d in hand.all("aside[aria-label='Recipe'] dl dd")], "figures")
    return [float(r.split(" ")[0]) for r in rows]


def test_cut_a_sky(walk):
    hand = walk("Reeds before another sky")
    hand.click("Layer reeds")
    hand.settled()
    dull = hand.pixel(0.5, 0.05)
    hand.click("Matte")
    hand.click("Make …")
    hand.click("Channel board")
    hand.wait_for("Drag over some of what stays")
    hand.drag_over((0.100, 0.90, 0.124, 0.97), (0.520, 0.30, 0.534, 0.36))
    hand.click("what goes")
    hand.drag_over((0.05, 0.03, 0.9, 0.13), (0.905, 0.82, 0.94, 0.9))
    rows = until(lambda: hand.all("[aria-label='Channels, the best first'] li button"), "the channels")
    best = rows[0].get_attribute("aria-label").removeprefix("Take ")
    rows[0].click()
    until(lambda: words(hand).startswith(f"{best} of itself"), "the best channel is the matte")
    saved(hand)
    kept, part, removed = shares(hand)
    assert 8 < kept + part < 50, "reeds are a part of the picture"
    assert removed > 45
    hand.click("Two gentle")
    saved(hand)
    hand.click("Close the board")
    hand.click("Picture")
    hand.click("Edge colour")
    hand.click("From inside")
    saved(hand)
    hand.settled()
    assert hand.pixel(0.5, 0.05) != dull, "another sky"


def test_key_a_green_card(walk):
    hand = walk("Puppet on the boardwalk")
    hand.click("Layer puppet")
    hand.settled()
    green = hand.pixel(0.1, 0.3)
    hand.click("Matte")
    hand.click("Make …")
    hand.click("Key of a green or blue screen")
    until(lambda: hand.all("[data-tool=card]"), "the picture takes a drag")
    hand.drag_over((0.45, 0.7, 0.55, 0.9))
    hand.wait_for("neither green nor blue")
    hand.drag_over((0.1, 0.3, 0.22, 0.5))
    until(lambda: not hand.all("[data-tool=card]"), "the colour is taken")
    hand.click("Grey")
    hand.set_number("black point", "0.05")
    hand.set_number("white point", "0.98")
    saved(hand)
    hand.settled()
    assert sum(hand.pixel(0.1, 0.3)) < 12, "the card is black in the matte"
    assert sum(hand.pixel(0.5, 0.8)) > 740, "the coat is white"
    kept, _, removed = shares(hand)
    assert 8 < kept < 30
    assert removed > 60
    hand.click("Picture")
    hand.set_number("balance", "0.5")
    hand.click("Add despill")
    saved(hand)
    hand.settled()
    assert hand.pixel(0.1, 0.3) != green
    hand.click("Garbage matte")
    until(lambda: words(hand).endswith("subtract free form"), "the sentence says it")


def test_matte_a_moving_texture_through_a_caption(walk):
    hand = walk("Water in letters")
    hand.click("Layer water")
    hand.settled()
    knob = hand.named("Matte from caption: drag onto another card")
    target = hand.one("[data-layer='water']")
    chain = ActionChains(hand.driver, duration=50).click_and_hold(knob).move_by_offset(0, -15)
    chain.move_to_element(target).release().perform()
    until(lambda: hand.all("svg[aria-label='alpha of caption cuts water']"), "the thread")
    saved(hand)
    hand.settled()
    above = hand.pixel(0.5, 0.3)
    hand.click("Matte")
    hand.click("Open")
    hand.click("Channel of part 1")
    hand.click("luma")
    hand.set_number("low", "0.6")
    assert hand.named("Where the channel is read").text == "as it lies in the comp", "it is proposed"
    saved(hand)
    until(lambda: words(hand) == "luma of caption", "by its luma")
    hand.settled()
    assert hand.pixel(0.5, 0.3) == above, "away from the letters nothing of it is seen"
    hand.click("Kept")
    kept, part, _ = shares(hand)
    assert 0.3 < kept + part < 12, "letters are a small part of the picture"
    hand.click("Layer caption, hidden")
    hand.keys("h")
    saved(hand)
    hand.drag(hand.one("[data-layer=caption]"), -180)
    until(
        lambda: [c.get_attribute("data-layer") for c in hand.all("[data-layer]")]
        == ["plate", "caption", "water"], "behind the water",
    )  # fmt: skip
    saved(hand)
