"""Delivering, watching, proving."""

import pytest
from browser.hand import until

pytestmark = pytest.mark.browser


def order(hand, form, place, last="4"):
    hand.open("projects/1/delivery")
    until(lambda: hand.field("Last frame").get_attribute("value") == "12", "the comp's own range")
    hand.one(f"input[value='{form}']").click()
    hand.type_into("Last frame", last)
    hand.type_into("Folder", place)
    hand.click("Deliver")


def card(hand, place):
    """The card of the delivery that was just ordered; others may be on the list."""
    cards = "section[aria-label='Deliveries'] li"
    return until(
        lambda: next((c for c in hand.all(cards) if f"{place}/" in c.text), None), f"no card of {place}"
    )


@pytest.mark.parametrize(
    ("form", "sign"),
    [
        ("png16-straight", "(frames hold none)"),
        ("exr-half-premultiplied", "1 to 4"),
        ("prores4444-straight", "25 found, 25 meant"),
    ],
)
def test_deliver_and_see_the_proof(hand, form, sign):
    place = f"browser/{form}"
    order(hand, form, place)
    until(lambda: card(hand, place).get_attribute("data-state") == "done", "it is done", 600)
    hand.wait_for("proved")
    text = card(hand, place).text
    assert "4 of 4, none missing" in text
    assert sign in text
    assert "alpha range" in text
    card(hand, place).find_element("css selector", "button[aria-expanded]").click()
    links = until(lambda: card(hand, place).find_elements("css selector", "ul a"), "the files are listed")
    assert links[-1].text.endswith(".xxh64")


def test_an_impossible_order_says_why_where_it_stands(hand):
    order(hand, "png16-straight", "browser/range", last="99")
    hand.wait_for("the comp has 1 to 12")
    hand.type_into("Last frame", "2")
    hand.type_into("Folder", "../outside")
    hand.click("Deliver")
    hand.wait_for("cannot be a folder for a delivery")


def test_a_delivery_is_cancelled_and_goes_on(hand):
    place = "browser/cancelled"
    order(hand, "exr-half-premultiplied", place, last="12")
    card(hand, place)
    hand.click("Cancel")
    until(lambda: card(hand, place).get_attribute("data-state") == "cancelled", "it stops", 240)
    hand.click("Go on")
    until(lambda: card(hand, place).get_attribute("data-state") == "done", "the rest is written", 600)
    hand.wait_for("12 of 12, none missing")
