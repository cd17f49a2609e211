"""The pictures of the main views, from the demo's data alone."""

from __future__ import annotations

import sys
import time
from collections.abc import Callable

from application import ROOT, demo_for_a_while
from browser.driver import browser
from browser.hand import Hand, until
from selenium.webdriver.common.action_chains import ActionChains

TARGET = ROOT / "docs" / "screenshots"


def main() -> None:
    wanted = sys.argv[1:] or list(VIEWS)
    TARGET.mkdir(parents=True, exist_ok=True)
    with demo_for_a_while(24) as (address, password):
        with browser() as driver:
            take_light(Hand(driver, address), password, wanted)
        with browser(dark=True) as driver:
            hand = Hand(driver, address)
            hand.sign_in("warden", password)
            comp(hand, "comp-dark")


#: Every picture that is on the page has come, or cannot come.
COMPLETE = "return [...document.images].every((image) => image.complete)"


def save(hand: Hand, name: str) -> None:
    until(lambda: hand.driver.execute_script(COMPLETE), "every picture on the page")
    time.sleep(0.6)
    hand.driver.save_screenshot(str(TARGET / f"{name}.png"))


def comp(hand: Hand, name: str) -> None:
    hand.open("projects/1/comp/1?layer=lantern&frame=20")
    hand.settled()
    until(lambda: hand.all("[aria-label='gamma, slider']"), "the step's controls")
    hand.point_at(hand.one("[role=img]"), 215, 30)
    until(lambda: "–" not in hand.one("section[aria-label^='Values']").text, "values")
    save(hand, name)


def recipe(hand: Hand) -> None:
    """The patch with two sources beside a wipe; a curve under the picture with its instruments."""
    hand.open("projects/1/comp/1?layer=lantern&frame=20")
    hand.settled()
    hand.click("Add a step")
    hand.click("Patch")
    hand.click("second")
    hand.click("plate")
    hand.click("red from B of plate")
    hand.wait_for("red from blue of plate")
    hand.click("Compare two looks (C)")
    hand.click("Side by side")
    hand.settled()
    save(hand, "patch")
    for frame, turn in ((1, "-12"), (24, "-6"), (12, "14")):
        hand.open(f"projects/1/comp/1?layer=kite&frame={frame}")
        hand.settled()
        hand.click("Transform")
        if frame == 1:
            hand.click("Let rotation change: set a first key at this frame")
        hand.set_number("rotation", turn)
        until(lambda: hand.seen("saved, revision") and not hand.seen("saving"), "saved")
    hand.click("Curves")
    hand.click("Wave")
    until(lambda: hand.all("canvas[aria-label^=Waveform]"), "the waveform")
    hand.settled()
    save(hand, "curves")
    while hand.all("button[aria-label^='Undo:']:not(:disabled)"):
        hand.one("button[aria-label^='Undo:']").click()
        time.sleep(0.4)


def mattes(hand: Hand) -> None:
    """A lantern behind the reeds by the plate's luma; threads above the lineup."""
    hand.open("projects/1/comp/2?layer=lantern&frame=20")
    hand.settled()
    hand.click("Matte")
    hand.click("Open")
    hand.settled()
    save(hand, "mattes")


def matte_kinds(hand: Hand) -> None:
    """The channel board, a key, and water in letters, in the demo's comps that wait for a matte."""
    hand.open("projects/1/comp/3?layer=reeds&frame=1")
    hand.settled()
    hand.click("Matte")
    hand.click("Make …")
    hand.click("Channel board")
    hand.drag_over((0.100, 0.90, 0.124, 0.97), (0.520, 0.30, 0.534, 0.36))
    hand.click("what goes")
    hand.drag_over((0.05, 0.03, 0.9, 0.13), (0.905, 0.82, 0.94, 0.9))
    until(lambda: hand.all("[aria-label='Channels, the best first'] li button"), "channels")[0].click()
    hand.settled()
    time.sleep(1)
    save(hand, "channel-board")
    hand.open("projects/1/comp/4?layer=puppet&frame=2")
    hand.settled()
    hand.click("Matte")
    hand.click("Make …")
    hand.click("Key of a green or blue screen")
    hand.drag_over((0.1, 0.3, 0.22, 0.5))
    until(lambda: not hand.all("[data-tool=card]"), "the card's colour")
    hand.set_number("black point", "0.05")
    hand.set_number("white point", "0.98")
    hand.set_number("balance", "0.5")
    hand.click("Add despill")
    hand.click("Kept")
    hand.driver.execute_script("document.querySelector('aside h3').scrollIntoView()")
    hand.settled()
    time.sleep(1)
    save(hand, "key")
    hand.open("projects/1/comp/5?layer=water&frame=1")
    hand.settled()
    knob = hand.named("Matte from caption: drag onto another card")
    chain = ActionChains(hand.driver, duration=50).click_and_hold(knob).move_by_offset(0, -15)
    chain.move_to_element(hand.one("[data-layer='water']")).release().perform()
    hand.click("Matte")
    hand.click("Open")
    hand.click("Channel of part 1")
    hand.click("luma")
    hand.set_number("low", "0.6")
    hand.settled()
    time.sleep(1)
    save(hand, "water")


def scene(hand: Hand) -> None:
    """The lantern once it is rendered, and the stool with its passes and its light."""
    hand.open("projects/1/scene/1?frame=8")
    until(lambda: hand.all("article[data-state=done]"), "the demo's render", 400)
    rays(hand, 16)
    save(hand, "scene")
    hand.open("projects/1/scene/4?pass=occlusion")
    until(lambda: hand.all("summary"), "the set-up's rungs")
    hand.driver.find_element("xpath", "//summary[span[normalize-space(.)='Light']]").click()
    rays(hand, 16)
    time.sleep(8)  # the passes in small come one after another
    save(hand, "scene-passes")


def rays(hand: Hand, count: int) -> None:
    found = "[data-rays]"
    until(lambda: int(hand.one(found).get_attribute("data-rays") or 0) >= count, "a fine picture", 200)


def elements(hand: Hand) -> None:
    """The lantern with its facts, the kite's edge in two readings, a title on trial, frames in a row."""
    hand.open("projects/1/elements?element=2")
    hand.settled()
    until(lambda: hand.all("svg[aria-label='Histogram'] polyline"), "the histogram")
    save(hand, "elements")
    hand.open("projects/1/elements?element=3")
    hand.settled()
    hand.click("Wipe")
    hand.click("Compared with")
    hand.click("premultiplied over black")
    hand.click("Draw a line: the edge's profile")
    viewer = hand.one("[role=img][aria-label^='Picture of']")
    chain = ActionChains(hand.driver, duration=0).move_to_element_with_offset(viewer, -60, -78)
    chain.click_and_hold().move_by_offset(50, 10).move_by_offset(50, 10).release().perform()
    until(lambda: hand.all("svg[aria-label='Profile along the line'] polyline"), "the profile")
    hand.settled()
    save(hand, "edge-profile")
    hand.open("projects/1/elements?element=5&view=trial")
    hand.wait_for("over a strong colour")
    time.sleep(2)
    save(hand, "readings-on-trial")
    hand.open("projects/1/elements?element=2&view=frames")
    hand.wait_for("frame stands out", 120)
    time.sleep(2)
    save(hand, "frames")


def pixels(hand: Hand) -> None:
    hand.open("projects/1/comp/1?layer=kite&frame=20&view=6,560,330&over=black&extent=layer")
    hand.settled()
    hand.click("Transform")
    hand.point_at(hand.one("[role=img]"), -120, 20)
    until(lambda: "x " in hand.one("section[aria-label^='Values']").text, "values")
    save(hand, "pixels")


def delivery(hand: Hand) -> None:
    hand.open("projects/1/delivery")
    until(lambda: hand.field("Last frame").get_attribute("value") != "1", "the comp's range")
    hand.one("input[value='exr-half-premultiplied']").click()
    hand.type_into("Last frame", "6")
    hand.click("Deliver")
    done = "section[aria-label='Deliveries'] li[data-state=done]"
    until(lambda: hand.all(done), "delivered and proved", 180)
    hand.one("input[value='png16-straight']").click()
    hand.type_into("Last frame", "20")
    hand.type_into("Folder", "boardwalk_dusk/v2")
    hand.click("Deliver")
    until(lambda: hand.all("li[data-state=writing]") and hand.seen("left"), "the next one is under way", 120)
    save(hand, "delivery")


#: What can be asked for by name; without a name all are taken.
VIEWS: dict[str, Callable[[Hand], None]] = {
    "comp": lambda hand: comp(hand, "comp"), "pixels": pixels, "recipe": recipe, "scene": scene,
    "elements": elements, "delivery": delivery, "mattes": mattes, "matte_kinds": matte_kinds,
}  # fmt: skip


def take_light(hand: Hand, password: str, wanted: list[str]) -> None:
    hand.open()
    hand.wait_for("Password")
    save(hand, "sign-in")
    hand.sign_in("warden", password)
    save(hand, "projects")
    for name in wanted:
        VIEWS[name](hand)


if __name__ == "__main__":
    main()
