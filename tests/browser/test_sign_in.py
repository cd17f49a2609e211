"""The front door."""

import pytest
from browser.hand import Hand, until

pytestmark = pytest.mark.browser


def test_wrong_password_says_so_and_the_right_one_opens(chromium, application, password):
    chromium.delete_all_cookies()
    hand = Hand(chromium, application.address)
    hand.open("projects/1/comp")
    hand.type_into("Name", "warden")
    hand.type_into("Password", "not the password")
    hand.click("Sign in")
    hand.wait_for("The name or the password is wrong.")
    hand.type_into("Password", password)
    hand.click("Sign in")
    until(lambda: hand.all("[aria-label^='Layer ']"), "the asked page, not another one")


def test_signing_out_closes_every_page(hand):
    hand.click("Sign out warden")
    hand.wait_for("Passes, graphics and plates")
    hand.open("projects/1/elements")
    hand.wait_for("Password")


def test_the_way_in_is_the_demo(hand):
    hand.open("projects/1/comp/1")  # a project opens with the comp that was used last
    hand.settled()
    hand.open()
    hand.one("main ul a").click()
    hand.settled()
    assert [c.get_attribute("aria-label") for c in hand.all("[data-layer]")] == [
        "Layer plate", "Layer kite", "Layer lantern", "Layer caption",
    ]  # fmt: skip
