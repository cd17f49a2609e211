"""Nothing leaves its panel: at the usual widths, with the longest words there are."""

import time
from pathlib import Path

import pytest
from browser.driver import resize
from browser.test_comp import demo, saved
from browser.visitor import until
from neatveil.steps import STEPS
from selenium.webdriver.common.by import By

pytestmark = pytest.mark.browser

__all__ = ["demo"]

WIDTHS = (1280, 1366)

OUTSIDE = (Path(__file__).parent / "outside.js").read_text()


def outside(visitor):
    return visitor.driver.execute_script(OUTSIDE)


def all_in(visitor, what):
    for width in WIDTHS:
        resize(visitor.driver, width, 800)
        time.sleep(0.15)  # what follows the width has followed
        assert outside(visitor) == [], f"{what} at {width}"
    resize(visitor.driver, 1280, 800)


def test_every_rung_of_a_recipe_keeps_its_controls_inside(demo):
    demo.click("Layer kite")
    demo.settled()
    for rung in ("Reading", "Matte", "Transform", "Blend", "Timing", "Steps"):
        if demo.named(rung).get_attribute("aria-expanded") != "true":
            demo.click(rung)
        all_in(demo, rung)


def test_every_step_keeps_its_controls_inside(demo):
    """All of them on one layer, off: nothing is drawn by them, and each is opened in its turn."""
    comp = demo.api("GET", "comps/1")
    kite = next(layer for layer in comp["document"]["layers"] if layer["id"] == "kite")
    kite["steps"] = [{**step.fresh, "kind": kind, "on": False} for kind, step in sorted(STEPS.items())]
    assert len(kite["steps"]) >= 20
    demo.api("PUT", "comps/1", {"base": comp["revision"], "what": "steps", "document": comp["document"]})
    demo.open("projects/1/comp/1?layer=kite")
    demo.settled()
    if demo.named("Steps").get_attribute("aria-expanded") != "true":
        demo.click("Steps")
    cards = until(lambda: demo.all("section[aria-label^='Step '] button[aria-expanded]"), "the steps")
    assert len(cards) == len(kite["steps"])
    for card in cards:
        card.click()
        all_in(demo, card.text)
        card.click()


def test_every_kind_of_part_of_a_matte_keeps_its_controls_inside(demo):
    demo.click("Layer kite")
    demo.settled()
    demo.click("Matte")
    kinds = ("Difference from a clean plate", "Ellipse", "Free form", "Paint", "Objects by their names")
    for kind in kinds:
        demo.click("Make …")
        demo.click(kind)
        saved(demo)
        all_in(demo, kind)
        demo.click("Take this part out")
        saved(demo)


@pytest.mark.parametrize("desk", ["elements", "delivery", "scene"])
def test_every_desk_keeps_its_controls_inside(demo, desk):
    demo.open(f"projects/1/{desk}")
    until(lambda: demo.all("header"), "the desk")
    time.sleep(1)
    all_in(demo, desk)


def test_the_picture_keeps_its_size_whatever_is_looked_at(demo):
    def size():
        demo.settled()
        picture = demo.one("canvas[data-drawn-level]").rect
        return {n: round(picture[n]) for n in ("x", "y", "width", "height")}

    with_no_layer = size()
    demo.click("Layer kite")
    demo.wait_for("Before steps")  # the bar with all that a layer brings
    before = size()
    assert before == with_no_layer
    for part, look in (("Layer", "Alpha"), ("Layer", "Matte tint"), ("Comp", "Colour")):
        demo.choose("How much of the comp", part)
        demo.look_at(look)
        assert size() == before, (part, look)


def test_what_an_operator_does_is_a_sentence_of_its_own(demo):
    demo.click("Layer kite")
    demo.click("Blend")
    control = demo.one("[aria-label='Blend mode']")

    def sentences():
        return control.find_element(By.XPATH, "following::p[1]").text.split(". ")

    until(lambda: len(sentences()) == 2, "what the operator does, and how the next is tried")
    assert all(s[0].isupper() or s[0] == "↑" for s in sentences()), sentences()


def test_another_comp_stays_chosen_after_stepping_and_choosing_a_layer(demo):
    """The address of the old one is written a moment later: it must not bring it back."""
    demo.click("Layer kite")
    demo.driver.find_element(By.TAG_NAME, "body").send_keys("\ue014")
    before = demo.driver.current_url.split("?")[0]
    demo.driver.find_element(By.CSS_SELECTOR, "header button[aria-haspopup=menu]").click()
    others = [e for e in demo.all("[role=menuitem]") if "/comp/" in (e.get_attribute("href") or "")]
    other = next(e for e in others if e.get_attribute("href") != before)
    wanted = other.get_attribute("href")
    other.click()
    for _ in range(10):
        time.sleep(0.1)
        assert demo.driver.current_url.split("?")[0] == wanted
    demo.open("projects/1/comp")
    until(lambda: demo.driver.current_url.split("?")[0] == wanted, "the comp used last opens")
