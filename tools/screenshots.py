"""The pictures of the main views, from the demo's data alone."""

from __future__ import annotations

import sys
import time
from collections.abc import Callable

from application import ROOT, demo_for_a_while
from browser.driver import browser
from browser.visitor import Visitor, until

TARGET = ROOT / "docs" / "screenshots"


def main() -> None:
    wanted = sys.argv[1:] or list(VIEWS)
    TARGET.mkdir(parents=True, exist_ok=True)
    with demo_for_a_while(24) as (address, password):
        with browser() as driver:
            take_light(Visitor(driver, address), password, wanted)
        with browser(dark=True) as driver:
            visitor = Visitor(driver, address)
            visitor.sign_in("warden", password)
            comp(visitor, "comp-dark")


#: Every picture that is in sight has come, or cannot come; others are fetched when they are.
COMPLETE = """
  const seen = (e) => ((r) => r.bottom > 0 && r.top < innerHeight)(e.getBoundingClientRect());
  return [...document.images].filter(seen).every((image) => image.complete);
"""


def save(visitor: Visitor, name: str) -> None:
    until(lambda: visitor.driver.execute_script(COMPLETE), "every picture on the page")
    time.sleep(0.6)
    visitor.driver.save_screenshot(str(TARGET / f"{name}.png"))


def comp(visitor: Visitor, name: str) -> None:
    visitor.open("projects/1/comp/1?layer=lantern&frame=20")
    visitor.settled()
    until(lambda: visitor.all("[aria-label='gamma, slider']"), "the step's controls")
    visitor.point_at(visitor.one("[role=img]"), 215, 30)
    until(lambda: "–" not in visitor.one("section[aria-label^='Values']").text, "values")
    save(visitor, name)


def recipe(visitor: Visitor) -> None:
    """The patch with two sources beside a wipe; a curve under the picture with its instruments."""
    visitor.open("projects/1/comp/1?layer=lantern&frame=20")
    visitor.settled()
    visitor.click("Add a step")
    visitor.click("Patch")
    visitor.click("second")
    visitor.click("plate")
    visitor.click("red from B of plate")
    visitor.wait_for("red from blue of plate")
    visitor.click("Compare two looks (C)")
    visitor.click("Side by side")
    visitor.settled()
    save(visitor, "patch")
    for frame, turn in ((1, "-12"), (24, "-6"), (12, "14")):
        visitor.open(f"projects/1/comp/1?layer=kite&frame={frame}")
        visitor.settled()
        visitor.click("Transform")
        if frame == 1:
            visitor.click("Let rotation change: set a first key at this frame")
        visitor.set_number("rotation", turn)
        until(lambda: visitor.seen("saved, revision") and not visitor.seen("saving"), "saved")
    visitor.click("Curves")
    visitor.click("Wave")
    until(lambda: visitor.all("canvas[aria-label^=Waveform]"), "the waveform")
    visitor.settled()
    save(visitor, "curves")
    while visitor.all("button[aria-label^='Undo:']:not(:disabled)"):
        visitor.one("button[aria-label^='Undo:']").click()
        time.sleep(0.4)


def mattes(visitor: Visitor) -> None:
    """A lantern behind the reeds by the plate's luma; threads above the lineup."""
    visitor.open("projects/1/comp/2?layer=lantern&frame=20")
    visitor.settled()
    visitor.click("Matte")
    visitor.click("Open")
    visitor.settled()
    save(visitor, "mattes")


def matte_kinds(visitor: Visitor) -> None:
    """The channel board and a key, in the demo's comps that wait for a matte."""
    visitor.open("projects/1/comp/3?layer=reeds&frame=1")
    visitor.settled()
    visitor.click("Matte")
    visitor.click("Make …")
    visitor.click("Channel board")
    visitor.drag_over((0.100, 0.90, 0.124, 0.97), (0.520, 0.30, 0.534, 0.36))
    visitor.click("what goes")
    visitor.drag_over((0.05, 0.03, 0.9, 0.13), (0.905, 0.82, 0.94, 0.9))
    until(lambda: visitor.all("[aria-label='Channels, the best first'] li button"), "channels")[0].click()
    visitor.settled()
    time.sleep(1)
    save(visitor, "channel-board")
    visitor.open("projects/1/comp/4?layer=puppet&frame=2")
    visitor.settled()
    visitor.click("Matte")
    visitor.click("Make …")
    visitor.click("Key of a green or blue screen")
    visitor.drag_over((0.1, 0.3, 0.22, 0.5))
    until(lambda: not visitor.all("[data-tool=screen]"), "the card's colour")
    visitor.set_number("black point", "0.05")
    visitor.set_number("white point", "0.98")
    visitor.set_number("balance", "0.5")
    visitor.click("Add despill")
    visitor.click("Kept")
    visitor.driver.execute_script("document.querySelector('aside h3').scrollIntoView()")
    visitor.settled()
    time.sleep(1)
    save(visitor, "key")


def layers(visitor: Visitor) -> None:
    """A group that is graded inside one member's alpha."""
    visitor.open("projects/1/comp/6?layer=lantern&frame=20")
    visitor.settled()
    visitor.click("Open lantern, graded")
    visitor.click("Group")
    visitor.settled()
    save(visitor, "groups")


def lineup(visitor: Visitor) -> None:
    """The end title forty layers deep: small cards, its frames side by side, a note."""
    comps = visitor.api("GET", "projects/1/comps")
    title = next(c["id"] for c in comps if c["name"] == "End title")
    document = visitor.api("GET", f"comps/{title}")["document"]
    plate, *over = document["layers"]
    names = ("reflection", "sparkle", "grain pass", "vignette", "edge light", "haze", "mark's shadow")
    copies = [
        {**over[i % len(over)], "id": f"l{i}", "name": f"{names[i % len(names)]} {i + 1}", "opacity": 0.04,
         "operator": "screen" if i % 3 else "over", "locked": i % 11 == 4}
        for i in range(34)
    ]  # fmt: skip
    note = {"id": "n1", "text": "The sun may be a little darker", "frame": 12, "x": 1010, "y": 390}
    body = {
        **{n: document[n] for n in ("width", "height", "rate", "first", "last")},
        "name": "End title, finished",
        "layers": [plate, *copies, *over], "notes": [note],
    }  # fmt: skip
    comp = visitor.api("POST", "projects/1/comps", body)["id"]
    visitor.open(f"projects/1/comp/{comp}?frame=12")
    visitor.settled()
    visitor.keys("t")
    until(lambda: visitor.seen("frame stands out") or visitor.seen("stands out: frame"), "measured", 300)
    visitor.one("[aria-label^='Note:']").click()
    save(visitor, "lineup")


def scene(visitor: Visitor) -> None:
    """The lantern once it is rendered, and the stool with its passes and its light."""
    visitor.open("projects/1/scene/1?frame=8")
    until(lambda: visitor.all("article[data-state=done]"), "the demo's render", 400)
    rays(visitor, 16)
    save(visitor, "scene")
    visitor.open("projects/1/scene/4?pass=occlusion")
    until(lambda: visitor.all("summary"), "the set-up's rungs")
    visitor.driver.find_element("xpath", "//summary[span[normalize-space(.)='Light']]").click()
    rays(visitor, 16)
    time.sleep(8)  # the passes in small come one after another
    save(visitor, "scene-passes")


def rays(visitor: Visitor, count: int) -> None:
    found = "[data-rays]"
    until(lambda: int(visitor.one(found).get_attribute("data-rays") or 0) >= count, "a fine picture", 200)


def elements(visitor: Visitor) -> None:
    """The lantern with its facts, a title on trial, frames in a row."""
    visitor.open("projects/1/elements?element=2")
    visitor.settled()
    until(lambda: visitor.all("svg[aria-label='Histogram'] polyline"), "the histogram")
    save(visitor, "elements")
    visitor.open("projects/1/elements?element=5&view=trial")
    visitor.wait_for("over a strong colour")
    time.sleep(2)
    save(visitor, "readings-on-trial")
    visitor.open("projects/1/elements?element=2&view=frames")
    visitor.wait_for("frame stands out", 120)
    time.sleep(2)
    save(visitor, "frames")


def pixels(visitor: Visitor) -> None:
    visitor.open("projects/1/comp/1?layer=kite&frame=20&view=6,560,330&over=black&extent=layer")
    visitor.settled()
    visitor.click("Transform")
    visitor.point_at(visitor.one("[role=img]"), -120, 20)
    until(lambda: "x " in visitor.one("section[aria-label^='Values']").text, "values")
    save(visitor, "pixels")


DRAWN = "return [...document.images].filter((i) => i.complete && i.naturalWidth > 0)"


def delivery(visitor: Visitor) -> None:
    """One that is proved, its proof as a page, and the next one under way."""
    visitor.open("projects/1/delivery")
    until(lambda: "-" in (visitor.field("Frames").get_attribute("placeholder") or ""), "the comp's range")
    visitor.one("input[value='exr-half-premultiplied']").click()
    visitor.type_into("Frames", "1-6")
    visitor.click("Deliver")
    done = "section[aria-label='Deliveries'] li[data-state=done]"
    until(lambda: visitor.all(done), "delivered and proved", 180)
    visitor.driver.find_element("link text", "Proof as a page").click()
    until(lambda: len(visitor.driver.execute_script(DRAWN)) >= 5, "the pictures of the files", 120)
    save(visitor, "proof")
    visitor.click("Deliveries")
    until(lambda: "-" in (visitor.field("Frames").get_attribute("placeholder") or ""), "the comp's range")
    visitor.one("input[value='png16-straight']").click()
    visitor.type_into("Frames", "1-20")
    visitor.type_into("Folder", "boardwalk_dusk/v2")
    visitor.click("Deliver")
    until(
        lambda: visitor.all("li[data-state=running]") and visitor.seen("left"),
        "the next one is under way",
        120,
    )
    save(visitor, "delivery")


def a_list(visitor: Visitor) -> None:
    """Twelve boards on one sign."""
    comps = visitor.api("GET", "projects/1/comps")
    comp = next(c["id"] for c in comps if c["name"] == "Waymark, twelve boards")
    visitor.open(f"projects/1/comp/{comp}?layer=board")
    visitor.settled()
    visitor.click("List")
    visitor.wait_for("12 rows")
    save(visitor, "list")


#: What can be asked for by name; without a name all are taken.
VIEWS: dict[str, Callable[[Visitor], None]] = {
    "comp": lambda visitor: comp(visitor, "comp"), "pixels": pixels, "recipe": recipe, "scene": scene,
    "elements": elements, "delivery": delivery, "mattes": mattes, "matte_kinds": matte_kinds,
    "layers": layers, "list": a_list, "lineup": lineup,
}  # fmt: skip


def take_light(visitor: Visitor, password: str, wanted: list[str]) -> None:
    visitor.sign_in("warden", password)
    loaded = "return document.images.length > 0 && [...document.images].every((i) => i.naturalWidth > 0)"
    until(lambda: visitor.driver.execute_script(loaded), "the pictures")
    save(visitor, "projects")
    for name in wanted:
        VIEWS[name](visitor)


if __name__ == "__main__":
    main()
