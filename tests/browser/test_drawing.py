"""Drawing on the picture: strokes that follow the hand, forms point by point, groups in the lineup."""

import pytest
from browser.test_comp import demo, saved
from browser.test_mattes import words
from browser.visitor import until
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.keys import Keys

pytestmark = pytest.mark.browser

__all__ = ["demo"]


def press(visitor, *points):
    """Clicks on the picture, by shares of it."""
    over = visitor.one("[data-tool]")
    room = over.rect
    for x, y in points:
        dx, dy = round((x - 0.5) * room["width"]), round((y - 0.5) * room["height"])
        ActionChains(visitor.driver, duration=20).move_to_element_with_offset(over, dx, dy).click().perform()


def test_a_stroke_is_painted_moved_in_time_erased_and_undone(demo):
    demo.click("Layer plate")
    demo.settled()
    sky = demo.pixel(0.2, 0.2)
    demo.click("Matte")
    demo.click("Make …")
    demo.click("Rectangle")
    demo.set_number("width", "4000")
    demo.set_number("height", "3000")
    demo.click("Make …")
    demo.click("Paint")
    demo.click("Remove")
    demo.set_number("size", "200")
    demo.drag_over((0.15, 0.2, 0.3, 0.2))
    until(lambda: words(demo) == "rectangle, paint, 1 stroke", "the stroke is a part of the matte")
    saved(demo)
    demo.settled()
    assert demo.pixel(0.2, 0.2) != sky, "nothing is left there"
    demo.click("One frame on")
    demo.wait_for("0 of 1 strokes are seen at frame 2")
    demo.click("One frame back")
    demo.wait_for("removes, 200 px, frame 1")
    demo.click("Erase")
    demo.drag_over((0.15, 0.2, 0.3, 0.2))
    until(lambda: words(demo) == "rectangle, paint, 2 strokes", "the eraser is a stroke too")
    saved(demo)
    demo.settled()
    assert sum(abs(a - b) for a, b in zip(demo.pixel(0.2, 0.2), sky, strict=True)) < 12
    demo.click("Done painting")
    demo.undo()
    until(lambda: words(demo) == "rectangle, paint, 1 stroke", "undone")


def test_a_free_form_is_drawn_point_by_point_and_one_is_taken_out(demo):
    demo.click("Layer plate")
    demo.settled()
    demo.click("Matte")
    demo.click("Make …")
    demo.click("Free form")
    demo.wait_for("0 of at least 3 points")
    press(demo, (0.3, 0.3), (0.6, 0.3), (0.6, 0.6), (0.3, 0.6))
    demo.wait_for("4 points.")
    saved(demo)
    demo.settled()
    assert demo.pixel(0.1, 0.1) != demo.pixel(0.45, 0.45)
    demo.click("Grey")
    demo.settled()
    assert sum(demo.pixel(0.45, 0.45)) > 750
    assert sum(demo.pixel(0.1, 0.1)) < 12
    press(demo, (0.6, 0.6))
    demo.one("[data-tool=shape]").send_keys(Keys.DELETE)
    demo.wait_for("3 points.")
    demo.click("Picture")
    demo.click("Done in the picture")
    saved(demo)


def test_a_layer_is_grouped_and_ungrouped_by_a_key(demo):
    demo.click("Layer lantern")
    demo.keys("g")
    saved(demo)
    until(lambda: demo.all("[aria-label='Group group 1']"), "the group has a name")
    demo.keys("G")
    saved(demo)
    assert not demo.all("[aria-label='Group group 1']")
