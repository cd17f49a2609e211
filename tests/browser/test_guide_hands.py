"""The guide's page on working in the picture, followed from start to end."""

import pytest
from browser.test_by_hand import place, strip
from browser.test_comp import saved
from browser.visitor import until
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.keys import Keys

pytestmark = pytest.mark.browser


def press(visitor, key, held):
    ActionChains(visitor.driver).key_down(held).send_keys(key).key_up(held).perform()


def names(visitor, comp):
    return [x["name"] for x in visitor.api("GET", f"comps/{comp}")["document"]["layers"]]


def test_working_in_the_picture(visitor):
    layers = [strip("red", -100, [1, 0, 0]), strip("green", 60, [0, 1, 0])]
    body = {"name": "by hand", "width": 400, "height": 200, "last": 5, "layers": layers}
    comp = visitor.api("POST", "projects/1/comps", body)["id"]
    other = visitor.api("POST", "projects/1/comps", {**body, "name": "another", "layers": []})["id"]
    visitor.open(f"projects/1/comp/{comp}?layer=red")
    visitor.settled()
    visitor.one("[data-layer=red]").click()
    visitor.keys("v")
    over = until(lambda: visitor.one("[data-tool='place']"), "it is laid by hand")
    zoom = min(over.rect["width"] / 400, over.rect["height"] / 200)

    def drag(x, y, dx, dy):
        start = round((x - 200) * zoom), round((y - 100) * zoom)
        chain = ActionChains(visitor.driver).move_to_element_with_offset(over, *start).click_and_hold()
        chain.move_by_offset(round(dx * zoom), round(dy * zoom)).release().perform()
        saved(visitor)

    drag(100, 100, 99, 1)  # near the middle of the frame
    assert (place(visitor, comp, "red")["x"], place(visitor, comp, "red")["y"]) == (0, 0)
    for key, held, x in ((Keys.ARROW_LEFT, None, -1), (Keys.ARROW_LEFT, Keys.SHIFT, -11)):
        press(visitor, key, held) if held else over.send_keys(key)
        saved(visitor)
        assert place(visitor, comp, "red")["x"] == x
    visitor.keys("v")
    until(lambda: not visitor.all("[data-tool='place']"), "ended")

    press(visitor, "h", Keys.SHIFT)
    visitor.wait_for("1 alone")
    visitor.settled()
    assert visitor.pixel(0.75, 0.5)[1] < 140, "green is not seen"
    press(visitor, "h", Keys.SHIFT)
    until(lambda: visitor.pixel(0.65, 0.5)[1] > 240, "it is again")

    for key in "cx":
        press(visitor, key, Keys.CONTROL)
    until(lambda: names(visitor, comp) == ["green"], "cut")
    visitor.open(f"projects/1/comp/{other}")
    visitor.wait_for("Nothing lies here yet")
    press(visitor, "v", Keys.CONTROL)
    until(lambda: names(visitor, other) == ["red"], "pasted into another comp")
    (layer,) = visitor.api("GET", f"comps/{other}")["document"]["layers"]
    assert (layer["name"], layer["transform"]["x"]) == ("red", -11)
    assert not visitor.complaints()
