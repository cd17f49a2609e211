"""The front door."""

import pytest
from browser.driver import forget_cookies
from browser.visitor import Visitor, until

pytestmark = pytest.mark.browser


def test_wrong_password_says_so_and_the_right_one_opens(chromium, application, password):
    forget_cookies(chromium)
    visitor = Visitor(chromium, application.address)
    visitor.open("projects/1/comp")
    visitor.type_into("Name", "warden")
    visitor.type_into("Password", "not the password")
    visitor.click("Sign in")
    visitor.wait_for("The name or the password is wrong.")
    visitor.type_into("Password", password)
    visitor.click("Sign in")
    until(lambda: visitor.all("[aria-label^='Layer ']"), "the asked page, not another one")


def test_signing_out_closes_every_page(visitor):
    visitor.click("Sign out warden")
    visitor.wait_for("Passes, graphics and plates")
    visitor.open("projects/1/elements")
    visitor.wait_for("Password")


def test_the_way_in_is_the_demo(visitor):
    visitor.open("projects/1/comp/1")  # a project opens with the comp that was used last
    visitor.settled()
    visitor.open()
    visitor.one("main ul a").click()
    visitor.settled()
    assert [c.get_attribute("aria-label") for c in visitor.all("[data-layer]")] == [
        "Layer plate", "Layer kite", "Layer lantern", "Layer caption",
    ]  # fmt: skip
