"""The guide's pages on data passes, followed from start to end as they are written."""

import numpy as np
import pytest
from browser.test_comp import saved
from browser.test_guide_layers import back_as_it_was
from browser.test_recipe import add_step
from browser.visitor import until

pytestmark = pytest.mark.browser


def rendered(visitor, name):
    """A short render of the waymark with what is needed, laid into a comp of its own."""
    scenes = visitor.api("GET", "projects/1/scenes")
    scene = next(s["id"] for s in scenes if s["name"] == "waymark")
    setup = next(s for s in visitor.api("GET", f"scenes/{scene}/setups") if "changing its board" in s["name"])
    small = {"width": 480, "height": 270, "samples": 8, "last": 1, "indirect": False}
    order = {"name": name, "document": {**setup["document"], **small}}
    render = visitor.api("POST", f"scenes/{scene}/renders", order)["id"]
    until(lambda: visitor.api("GET", f"renders/{render}")["job"]["state"] == "done", "it is rendered", 400)
    return visitor.api("POST", f"renders/{render}/lay-in", {})["comp"]


def choose(visitor, field, value):
    visitor.named(field).click()
    visitor.click(value)
    saved(visitor)


def test_put_a_picture_on_a_surface(visitor):
    comp = rendered(visitor, "signpost")
    visitor.open(f"projects/1/comp/{comp}")
    visitor.settled()
    board, beside = (0.5, 0.38), (0.367, 0.7)
    before, post = visitor.pixel(*board), visitor.pixel(*beside)
    visitor.click("Add a layer")
    # the comp bears the name too
    rows = until(lambda: [r for r in visitor.all("[role=menuitem]") if r.text == "signpost"], "its row")
    rows[-1].click()
    saved(visitor)
    add_step(visitor, "UV map")
    choose(visitor, "second", "dawn_sky.png")
    choose(visitor, "covers", "mask.1")
    visitor.settled()
    sky = visitor.pixel(*board)
    assert sky[2] > sky[1] + 20 > before[2], "the dawn's violet is on the board"
    # the bar above has another row now: the picture is a little smaller
    assert np.abs(np.array(visitor.pixel(*beside)) - post).max() < 25, "the post is as it was"
    visitor.field("flip v").click()
    saved(visitor)
    visitor.settled()
    assert visitor.pixel(*board) != sky
    choose(visitor, "u from", "depth.Z")
    assert not visitor.complaints()
    back_as_it_was(visitor)
