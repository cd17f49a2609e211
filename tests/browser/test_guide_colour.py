"""The guide's page on colour spaces, followed from start to end."""

import numpy as np
import pytest
from browser.test_elements import new_project
from browser.visitor import until
from core.colour.made_configurations import SPACE, archive
from core.pictures import premultiplied, save_png, soft_disc

pytestmark = pytest.mark.browser

__all__ = ["new_project"]


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
    visitor.click("Change …")
    visitor.named("Working space").click()
    visitor.click("ACEScg (linear, AP1)")
    visitor.wait_for("looks different: levels, curves, multiply")
    visitor.click("Change")
    visitor.wait_for("ACEScg (linear, AP1)")
    visitor.settled()
    assert np.abs(np.subtract(visitor.pixel(0.5, 0.2), plain)).max() <= 1, "layers lie over as before"
    visitor.undo_all(1)
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


def test_a_configuration_of_ones_own(visitor, new_project, tmp_path):
    def brought(name):
        picture = save_png(tmp_path / name, premultiplied(soft_disc(64, 96, (0.5, 0.5, 0.5))))
        visitor.one("input[aria-label='Files to import']").send_keys(str(picture))
        visitor.wait_for(name)

    brought("sky_marsh.png")
    archived = archive(tmp_path)
    visitor.click("Colour configurations …")
    (tmp_path / "torn.ocioz").write_bytes(archived.read_bytes()[:300])
    visitor.one("input[aria-label='Configuration to add']").send_keys(str(tmp_path / "torn.ocioz"))
    visitor.wait_for("torn.ocioz is no configuration of OpenColorIO")
    visitor.one("input[aria-label='Configuration to add']").send_keys(str(archived))
    visitor.wait_for("2 colour spaces, 1 view; brought by the project")
    visitor.click("Close")
    # what is imported from now on is read by its file rules
    brought("wide_marsh.png")
    row = "ul[aria-label='Elements'] li button"
    until(lambda: next(r for r in visitor.all(row) if "wide_marsh" in r.text), "its row").click()
    until(lambda: visitor.named("Colour encoding").text == SPACE, "in its space")
    visitor.click("Exposure, gamma and view")
    visitor.named("view").click()
    visitor.click("squared")
    # a half of the space's codes, by its view the same again: 128 of 255, where sRGB shows its light as 137
    until(lambda: abs(visitor.pixel(0.5, 0.5)[1] - 128) <= 1, "seen through its view")
    visitor.click("As it is")
    until(lambda: abs(visitor.pixel(0.5, 0.5)[1] - 137) <= 1, "seen as sRGB")
