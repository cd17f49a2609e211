"""The guide's page on colour spaces, followed from start to end."""

import pytest
from browser.visitor import until

pytestmark = pytest.mark.browser


def test_colour_spaces(visitor):
    visitor.open("projects/1/comp/1?frame=2")
    visitor.settled()
    plain = visitor.pixel(0.5, 0.2)
    visitor.click("Exposure, gamma and view")
    visitor.set_number("exposure", "2")
    until(lambda: sum(visitor.pixel(0.5, 0.2)) > sum(plain) + 60, "it is brighter")
    visitor.settled()
    bright = visitor.pixel(0.5, 0.2)
    visitor.named("view").click()
    visitor.click("ACES 1.0 - SDR Video")
    until(lambda: visitor.pixel(0.5, 0.2) != bright, "the view shows it otherwise")
    assert "through=cg" in visitor.driver.current_url
    visitor.click("As it is")
    until(lambda: visitor.pixel(0.5, 0.2) == plain, "as it was")
    visitor.keys("\ue00c")  # Escape closes it
    visitor.open("projects/1/delivery")
    until(lambda: visitor.field("Frames").get_attribute("placeholder") == "1-12", "the comp's own range")
    visitor.one("input[value='exr-half-premultiplied']").click()
    visitor.click("All choices …")
    visitor.named("Colour encoding").click()
    visitor.click("ACEScg")
    visitor.type_into("Frames", "1")
    visitor.type_into("Folder", "guide/acescg")
    visitor.click("Deliver")

    def proved():
        rows = [d for d in visitor.api("GET", "projects/1/deliveries") if d["folder"] == "guide/acescg"]
        return rows and rows[0]["good"] and rows[0]["encoding"] == "cg/ACEScg"

    until(proved, "it is written in ACEScg and proved", 200)
