"""Delivering, watching, proving."""

import pytest
from browser.visitor import until

pytestmark = pytest.mark.browser


def order(visitor, delivery_format, place, last="4"):
    visitor.open("projects/1/delivery")
    until(lambda: visitor.field("Frames").get_attribute("placeholder") == "1-12", "the comp's own range")
    visitor.one(f"input[value='{delivery_format}']").click()
    visitor.type_into("Frames", f"1-{last}")
    visitor.type_into("Folder", place)
    visitor.click("Deliver")


def card(visitor, place):
    """The card of the delivery that was just ordered; others may be on the list."""
    cards = "section[aria-label='Deliveries'] li"
    return until(
        lambda: next((c for c in visitor.all(cards) if f"{place}/" in c.text), None), f"no card of {place}"
    )


@pytest.mark.parametrize(
    ("delivery_format", "sign"),
    [
        ("png16-straight", "(frames carry no rate)"),
        ("exr-half-premultiplied", "1 to 4"),
        ("prores4444-straight", "25 found, 25 meant"),
    ],
)
def test_deliver_and_see_the_proof(visitor, delivery_format, sign):
    place = f"browser/{delivery_format}"
    order(visitor, delivery_format, place)
    until(lambda: card(visitor, place).get_attribute("data-state") == "done", "it is done", 600)
    visitor.wait_for("proved")
    text = card(visitor, place).text
    assert "4 of 4, none missing" in text
    assert sign in text
    assert "alpha range" in text
    card(visitor, place).find_element("css selector", "button[aria-expanded]").click()
    links = until(lambda: card(visitor, place).find_elements("css selector", "ul a"), "the files are listed")
    assert {link.text.rsplit(".")[-1] for link in links} >= {"json", "xxh64", "otio"}


def test_into_a_folder_of_the_server(visitor, application):
    visitor.open("projects/1/delivery")
    until(lambda: visitor.field("Frames").get_attribute("placeholder") == "1-12", "the comp's own range")
    visitor.type_into("Frames", "1-2")
    visitor.type_into("Folder", "browser/outside")
    out = application.var / "out"
    visitor.one("[role=combobox][aria-label=into]").click()
    next(o for o in visitor.all("[role=option]") if str(out) in o.text).click()
    visitor.click("Deliver")
    until(lambda: card(visitor, "browser/outside").get_attribute("data-state") == "done", "it is done", 240)
    assert [p.relative_to(out).parts[1:3] for p in out.rglob("*.0002.png")] == [("browser", "outside")]
    card(visitor, "browser/outside").find_element("css selector", "button[aria-expanded]").click()
    until(lambda: str(out) in card(visitor, "browser/outside").text, "where it lies")


def test_the_proof_is_a_page_with_pictures_of_the_files(visitor):
    order(visitor, "png16-straight", "browser/page")
    visitor.wait_for("proved", 240)
    until(lambda: card(visitor, "browser/page").get_attribute("data-state") == "done", "it is done", 240)
    card(visitor, "browser/page").find_element("link text", "Proof as a page").click()
    visitor.wait_for("Proof of Boardwalk, dusk")
    visitor.wait_for("every file holds what was meant")

    def drawn():
        loaded = "return [...document.images].map((i) => i.complete && i.naturalWidth > 0)"
        found = visitor.driver.execute_script(loaded)
        return len(found) >= 3 and all(found)

    until(drawn, "the pictures of the files and of the difference")
    visitor.click("Deliveries")
    visitor.wait_for("What goes out")


def test_an_impossible_order_says_why_where_it_stands(visitor):
    order(visitor, "png16-straight", "browser/range", last="99")
    visitor.wait_for("the comp has 1 to 12")
    visitor.type_into("Frames", "1-2")
    visitor.type_into("Folder", "../outside")
    visitor.click("Deliver")
    visitor.wait_for("cannot be a folder for a delivery")


def test_what_is_lost_is_said_before_and_mended_by_a_click(visitor):
    """A layer alone, in a format without alpha: advice, its repair, the names, and a preset kept of it."""
    visitor.open("projects/1/delivery")
    until(lambda: visitor.field("Frames").get_attribute("placeholder") == "1-12", "the comp's own range")
    visitor.choose("of it", "One alone")
    visitor.one("input[value='h264-viewing']").click()
    visitor.type_into("Frames", "1,3-4")
    visitor.type_into("Folder", "advice/{version}")
    visitor.type_into("File name", "{layer}")
    visitor.wait_for("The alpha is not in the file")
    visitor.wait_for("advice/v001/")
    visitor.choose("How it will look", "Alpha ignored")
    until(lambda: visitor.all("img[alt='The middle frame as it will be written']"), "how it will look")
    visitor.click("RGB and alpha apart")
    visitor.wait_for("2 deliveries:")
    until(lambda: not visitor.seen("The alpha is not in the file"), "nothing is lost any more")
    visitor.click("Keep as a preset …")
    visitor.type_into("Name", "Caption, apart")
    visitor.choose("What it is for", "For viewing")
    visitor.click("Keep")
    visitor.wait_for("Caption, apart")
    visitor.one("input[value='png16-straight']").click()
    until(lambda: visitor.seen("carry no rate"), "another format")
    visitor.driver.find_element("xpath", "//label[contains(., 'Caption, apart')]//input").click()
    visitor.wait_for("2 deliveries:")
    visitor.click("Deliver")

    def proved():
        rows = [d for d in visitor.api("GET", "projects/1/deliveries") if d["folder"] == "advice/v001"]
        return len(rows) == 2 and all(d["good"] for d in rows)

    until(proved, "both are written and proved", 300)
    visitor.wait_for("3 frames of 1 to 4")
    visitor.click("Remove the preset Caption, apart")
    until(lambda: not visitor.seen("Caption, apart"), "it is gone")


def test_a_delivery_is_paused_and_cancelled_and_goes_on(visitor):
    place = "browser/cancelled"
    order(visitor, "exr-half-premultiplied", place, last="12")

    def state():
        return card(visitor, place).get_attribute("data-state")

    state()
    visitor.click("Pause")
    until(lambda: state() == "paused", "it pauses", 240)
    visitor.wait_for("paused, written")
    visitor.click("Resume")
    until(lambda: state() != "paused", "it goes on")
    visitor.click("Cancel")
    until(lambda: state() == "cancelled", "it stops", 240)
    visitor.click("Resume")
    until(lambda: state() == "done", "the rest is written", 600)
    visitor.wait_for("12 of 12, none missing")
