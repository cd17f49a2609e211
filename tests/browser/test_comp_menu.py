"""A comp as a whole: its name, size, rate and frames, a copy of it, its end, and its return."""

import pytest
from browser.test_comp import saved
from browser.visitor import until

pytestmark = pytest.mark.browser

LAYER = {
    "id": "s", "name": "strip", "kind": "made", "transform": {"x": 20},
    "made": {"kind": "shape", "shape": "rectangle", "width": 40, "height": 20},
}  # fmt: skip


def menu(visitor, item):
    visitor.driver.find_element("css selector", "header button[aria-haspopup=menu]").click()
    visitor.click(item)


def test_settings_are_changed_and_undone_a_copy_is_made_and_deleted(visitor):
    body = {"name": "small", "width": 200, "height": 100, "last": 9, "layers": [LAYER]}
    comp = visitor.api("POST", "projects/1/comps", body)["id"]
    visitor.open(f"projects/1/comp/{comp}")
    visitor.settled()
    menu(visitor, "Name, size, rate, frames …")
    visitor.type_into("Width, pixels", "0")
    visitor.wait_for("Width and height are whole numbers from 1 to 16384.")
    for label, typed in (("Width, pixels", "400"), ("Last frame", "5"), ("Name", "wide")):
        visitor.type_into(label, typed)
    visitor.wait_for("Layers keep their size, and their distance from the centre of the frame.")
    visitor.click("Change")
    saved(visitor)
    visitor.settled()
    document = visitor.api("GET", f"comps/{comp}")["document"]
    assert [document[n] for n in ("name", "width", "height", "last")] == ["wide", 400, 100, 5]
    # 20 px right of the centre as before, in a frame twice as wide
    assert visitor.pixel(220 / 400, 0.5) == (255, 255, 255)
    until(lambda: visitor.seen("wide"), "its name above")
    menu(visitor, "Duplicate")
    until(lambda: visitor.seen("wide, copy"), "the copy")
    visitor.settled()
    copies = [c for c in visitor.api("GET", "projects/1/comps") if c["name"] == "wide, copy"]
    assert len(copies) == 1
    copied = visitor.api("GET", f"comps/{copies[0]['id']}")["document"]
    assert copied == {**document, "name": "wide, copy"}
    menu(visitor, "Delete …")
    visitor.wait_for("It can be brought back for thirty days")
    visitor.click("Delete it")
    until(lambda: not visitor.seen("wide, copy"), "it is gone")
    assert all(c["name"] != "wide, copy" for c in visitor.api("GET", "projects/1/comps"))
    visitor.settled()
    menu(visitor, "Deleted comps")
    visitor.wait_for("deleted just now")
    visitor.click("Bring wide, copy back")
    until(lambda: visitor.driver.current_url.endswith(f"/comp/{copies[0]['id']}"), "it is opened")
    visitor.settled()
    assert visitor.api("GET", f"comps/{copies[0]['id']}")["document"] == copied
    visitor.api("DELETE", f"comps/{copies[0]['id']}")
    visitor.open(f"projects/1/comp/{comp}")
    visitor.settled()
    visitor.undo()
    saved(visitor)
    assert visitor.api("GET", f"comps/{comp}")["document"]["width"] == 200
    assert not visitor.complaints()
