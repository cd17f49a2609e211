"""Bringing in, facts, readings."""

import numpy as np
import pytest
from browser.hand import until
from core.pictures import premultiplied, save_png, soft_disc

pytestmark = pytest.mark.browser


@pytest.fixture
def new_project(hand):
    hand.click("New project")
    hand.type_into("Name", "Reed cutting, a long name for a short film about the winter work in the marsh")
    hand.click("Make it")
    hand.wait_for("No elements yet")
    return int(hand.driver.current_url.split("/projects/")[1].split("/")[0])


def test_demo_elements_with_their_facts(hand):
    hand.open("projects/1/elements")
    hand.wait_for("dusk_sky.exr")
    hand.one("ul[aria-label='Elements'] li:nth-child(2) button").click()
    hand.wait_for("depth.Z (data)")
    for fact in ("1920 × 1080", "premultiplied (OpenEXR: alpha is premultiplied)", "linear", "data window"):
        assert hand.seen(fact), fact
    hand.one("ul[aria-label='Elements'] li:nth-child(3) button").click()
    hand.wait_for("The file does not say how its alpha is meant")
    for fact in ("prores", "25 fps", "there and used", "nothing"):
        assert hand.seen(fact), fact


def test_many_files_at_once_become_elements(hand, new_project, tmp_path):
    files = [save_png(tmp_path / f"reeds.{n:04d}.png", soft_disc()) for n in (1, 2, 3, 5)]
    files += [
        save_png(
            tmp_path / "a very long name of a still that has to fit somewhere on the page.png", soft_disc()
        )
    ]
    (tmp_path / "broken.exr").write_text("not a picture")
    files += [tmp_path / "broken.exr"]
    hand.one("input[type=file]").send_keys("\n".join(map(str, files)))
    hand.wait_for("3 elements")
    until(lambda: not hand.seen("looking at it"), "facts arrive")
    hand.wait_for("refused: see why")
    hand.one("ul[aria-label='Elements'] li:nth-child(2) button").click()
    hand.wait_for("broken.exr cannot be read as OpenEXR")
    hand.one("ul[aria-label='Elements'] li:nth-child(3) button").click()
    hand.wait_for("4 (1 to 5)")
    assert hand.seen("1 of 5 frames are missing.")
    overflow = "return document.documentElement.scrollWidth > window.innerWidth"
    assert not hand.driver.execute_script(overflow), "long names fit"


def test_dropping_a_file_on_the_page(hand, new_project):
    hand.driver.execute_script(
        """
        const c = document.createElement('canvas'); c.width = c.height = 16;
        c.getContext('2d').fillRect(0, 0, 8, 16);
        c.toBlob((blob) => {
          const data = new DataTransfer();
          data.items.add(new File([blob], 'dropped.png', { type: 'image/png' }));
          const target = document.querySelector('#root > div');
          for (const kind of ['dragover', 'drop'])
            target.dispatchEvent(
              new DragEvent(kind, { bubbles: true, cancelable: true, dataTransfer: data }));
        });
        """
    )
    hand.wait_for("dropped.png")
    hand.wait_for("16 × 16")


def test_reading_is_set_by_picking_the_matte_colour_and_taken_back(hand, new_project, tmp_path):
    straight = soft_disc(300, 400, (1, 1, 1))
    a = straight[..., 3:]
    green = premultiplied(straight)
    green[..., :3] += np.array([0, 1, 0], np.float32) * (1 - a)
    hand.one("input[type=file]").send_keys(str(save_png(tmp_path / "over_green.png", green)))
    hand.wait_for("over_green.png")
    hand.wait_for("300")
    hand.settled()
    hand.click("RGB")
    hand.settled()
    hand.click("Premultiplied")
    hand.named("Matte colour").find_element("xpath", ".//button[.='Colour']").click()
    hand.click("Pick")
    hand.wait_for("Click in the picture")
    viewer = hand.one("[role=img]")
    hand.point_at(viewer, -viewer.size["width"] // 2 + 12, 0)
    until(
        lambda: "1.0000" in hand.one("section[aria-label='Values under the pointer']").text,
        "the stored green",
    )
    viewer_click(hand, viewer)
    hand.wait_for("premultiplied over #00ff00")
    hand.click("After encoding")
    hand.wait_for("premultiplied over #00ff00, after encoding")
    hand.settled()
    until(lambda: max(hand.pixel(0.02, 0.5)) < 3, "the green is gone")
    hand.click("Take back")
    hand.click("Take back")
    until(lambda: hand.pixel(0.02, 0.5)[1] > 250 or max(hand.pixel(0.02, 0.5)) < 3, "taken back")
    assert not hand.seen("#00ff00, after encoding")


def viewer_click(hand, viewer):
    from selenium.webdriver.common.action_chains import ActionChains

    offset = -viewer.size["width"] // 2 + 12
    ActionChains(hand.driver, duration=0).move_to_element_with_offset(viewer, offset, 0).click().perform()
