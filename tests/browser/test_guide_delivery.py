"""The guide's pages on delivery, followed from start to end; the files are read by other libraries."""

from urllib.request import Request, urlopen

import numpy as np
import OpenEXR
import pytest
import tifffile
from browser.test_delivery import card
from browser.visitor import until

pytestmark = pytest.mark.browser


@pytest.fixture
def desk(visitor):
    visitor.open("projects/1/delivery")
    until(lambda: visitor.field("Frames").get_attribute("placeholder") == "1-12", "the comp's own range")
    return visitor


def in_full(visitor, codec):
    visitor.click("All choices …")
    visitor.named("File format").click()
    visitor.click(codec)


def fetched(visitor, file, into):
    """A file of the newest delivery under its name, as the browser fetches it."""
    row = next(d for d in visitor.api("GET", "projects/1/deliveries") if d["file"] == file)
    name = file.replace("####", "0001")
    cookies = "; ".join(f"{c['name']}={c['value']}" for c in visitor.driver.get_cookies())
    address = f"{visitor.address}api/deliveries/{row['id']}/files/{name}"
    with urlopen(Request(address, headers={"Cookie": cookies}), timeout=60) as answer:
        (into / name).write_bytes(answer.read())
    return into / name


def done(visitor, place, count=1):
    def all_done():
        cards = [c for c in visitor.all("section[aria-label='Deliveries'] li") if f"{place}/" in c.text]
        return len(cards) == count and all(c.get_attribute("data-state") == "done" for c in cards)

    until(all_done, "they are done", 300)


def test_to_an_editor(desk, tmp_path):
    in_full(desk, "TIFF frames, 16 bits")
    desk.choose("contents", "Apart")
    desk.wait_for("_rgb.0001.tif")
    desk.wait_for("_alpha.0001.tif")
    desk.type_into("Frames", "1-2")
    desk.type_into("Folder", "guide/editor")
    desk.type_into("File name", "dusk")
    desk.click("Deliver")
    done(desk, "guide/editor", 2)
    desk.wait_for("proved")
    alpha = tifffile.imread(fetched(desk, "dusk_alpha.####.tif", tmp_path))
    colour = tifffile.imread(fetched(desk, "dusk_rgb.####.tif", tmp_path))
    assert (alpha.ndim, colour.shape) == (2, (*alpha.shape, 3))
    assert alpha.max() == 65535


def test_to_another_compositor(desk, tmp_path):
    desk.one("input[value='exr-half-premultiplied']").click()
    in_full(desk, "OpenEXR frames, 32-bit float")
    desk.choose("alpha", "Straight")
    desk.wait_for("OpenEXR means premultiplied alpha")
    desk.choose("alpha", "Premultiplied")
    desk.one("details summary").click()
    for layer in ("kite", "caption"):
        tick = f"//details[@open]//label[normalize-space(.)='{layer}']"
        desk.driver.find_element("xpath", tick).click()
    desk.wait_for("2 layers")
    desk.type_into("Frames", "1")
    desk.type_into("Folder", "guide/compositor")
    desk.type_into("File name", "dusk")
    desk.click("Deliver")
    done(desk, "guide/compositor")
    assert "proved" in card(desk, "guide/compositor").text
    with OpenEXR.File(str(fetched(desk, "dusk.####.exr", tmp_path)), separate_channels=True) as file:
        channels = {n: c.pixels for n, c in file.channels().items()}
    assert set(channels) == {*"RGBA", *(f"{layer}.{c}" for layer in ("kite", "caption") for c in "RGBA")}
    assert channels["kite.A"].max() == pytest.approx(1, abs=1e-3)
    assert "with 2 layers beside it" in card(desk, "guide/compositor").text
    assert {c.dtype for c in channels.values()} == {np.dtype(np.float32)}
