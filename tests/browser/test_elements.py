"""Importing, facts, readings."""

import numpy as np
import pytest
from browser.hand import until
from core.pictures import premultiplied, save_png, soft_disc
from selenium.webdriver.common.action_chains import ActionChains

pytestmark = pytest.mark.browser


@pytest.fixture
def new_project(hand):
    hand.click("New project")
    hand.type_into("Name", "Reed cutting, a long name for a short film about the winter work in the marsh")
    hand.click("Create")
    hand.wait_for("No elements yet")
    return int(hand.driver.current_url.split("/projects/")[1].split("/")[0])


def choose(hand, name):
    hand.wait_for(name.split("####")[0])
    hand.one(f"ul[aria-label='Elements'] span[title='{name}']").click()
    until(lambda: f"Picture of {name}" in labels(hand) or hand.seen("pairs of edge"), f"{name} is shown")


def labels(hand):
    return [r.get_attribute("aria-label") for r in hand.all("[role=img]")]


def draw(hand, dx, dy, *, start=(0, 0)):
    viewer = hand.one("[role=img][aria-label^='Picture of']")
    chain = ActionChains(hand.driver, duration=0).move_to_element_with_offset(viewer, *start).click_and_hold()
    for _ in range(4):
        chain = chain.move_by_offset(dx // 4, dy // 4)
    chain.release().perform()


def test_demo_elements_with_their_facts(hand):
    hand.open("projects/1/elements")
    choose(hand, "lantern_beauty.####.exr")
    for fact in ("1920 × 1080", "premultiplied (OpenEXR: alpha is premultiplied)", "25 fps"):
        assert hand.seen(fact), fact
    hand.click("All facts")
    for fact in ("data window", "half, data"):
        hand.wait_for(fact)
    assert hand.seen("data: depth.Z")
    choose(hand, "paper_kite.mov")
    hand.wait_for("The pixels say otherwise")
    for fact in ("prores", "25 fps", "there and used", "nothing"):
        assert hand.seen(fact), fact


def test_readings_on_trial_and_one_key_takes_one(hand):
    hand.open("projects/1/elements")
    choose(hand, "reserve_title.####.png")
    hand.wait_for("The pixels say otherwise")
    hand.click("See the readings side by side")
    hand.wait_for("The pixels say premultiplied.")
    hand.wait_for("over a strong colour")
    cells = until(lambda: hand.all("td [role=img]"), "the sheet")
    assert len(cells) >= 3 * 4, "readings by backgrounds"
    sizes = {(c.size["width"], c.size["height"]) for c in cells}
    assert len(sizes) == 1
    hand.keys("1")
    hand.wait_for("Taken")
    hand.click("Picture")
    hand.wait_for("premultiplied over #f5f0e0 in encoded values")
    assert not hand.seen("The pixels say otherwise")
    hand.click("Take back")
    hand.wait_for("The pixels say otherwise")


def test_a_line_across_an_edge_a_box_and_a_wipe(hand):
    hand.open("projects/1/elements")
    choose(hand, "paper_kite.mov")
    hand.settled()
    hand.wait_for("Whole frame")
    until(lambda: hand.all("svg[aria-label='Histogram'] polyline"), "the histogram of the frame")
    hand.click("Draw a line: the edge's profile")
    draw(hand, 120, 40)
    hand.wait_for("Along the line")
    until(lambda: hand.all("svg[aria-label='Profile along the line'] polyline"), "the profile")
    hand.click("Draw a box: mean, standard deviation, histogram")
    draw(hand, 60, 40)
    hand.wait_for("In the box")
    hand.click("Clear the box")
    hand.wait_for("Whole frame")
    hand.click("Wipe")
    line = hand.one("[role=slider][aria-label='Wipe']")
    hand.settled()
    before = int(line.get_attribute("aria-valuenow"))
    hand.drag(line, 80)
    until(lambda: int(line.get_attribute("aria-valuenow")) > before, "the line moves")
    hand.click("Difference")
    hand.click("Compared with")
    hand.click("premultiplied over black")
    hand.settled()
    until(lambda: max(hand.pixel(0.2, 0.2)) > 60, "the matte colour that one of the readings leaves")


def test_frames_side_by_side_and_their_flicker(hand):
    hand.open("projects/1/elements")
    choose(hand, "reserve_title.####.png")
    hand.click("Frames")
    hand.wait_for("no frame stands out")
    assert len(hand.all("section[aria-label='Contact strip'] li")) == 12


def test_colour_and_alpha_that_came_apart_are_joined(hand):
    hand.open("projects/1/elements")
    hand.wait_for("1 pair of RGB and alpha match by name.")
    hand.click("Look and join …")
    hand.wait_for("alpha from feather_alpha.####.png")
    hand.click("Join 1 pair")
    until(lambda: not hand.seen("match by name"), "joined")
    choose(hand, "feather_rgb.####.png")
    hand.wait_for("alpha from feather_alpha.####.png")
    hand.click("Alpha")
    hand.settled()
    assert max(hand.pixel(0.5, 0.1)) < 3, "nothing is there"
    hand.click("Carry A no longer")
    hand.wait_for("1 pair of RGB and alpha match by name.")


def test_a_folder_on_disk_is_registered_and_watched(hand, new_project, application):
    shelf = application.var / "library" / "winter"
    for n in (1, 2):
        save_png(shelf / f"ice.{n:04d}.png", soft_disc())
    hand.click("Libraries")
    hand.wait_for("Register a folder")
    hand.click("library")
    hand.click("winter")
    until(lambda: hand.field("Folder on the server").get_attribute("value").endswith("winter"), "chosen")
    hand.click("Register")
    hand.wait_for("1 element")
    hand.wait_for("ice.####.png")
    hand.wait_for("2 (1 to 2)")
    save_png(shelf / "ice.0003.png", soft_disc())
    hand.wait_for("3 (1 to 3)")


def test_an_element_is_rewritten_and_checked(hand, new_project, tmp_path):
    files = [save_png(tmp_path / f"reeds.{n:04d}.png", soft_disc()) for n in (1, 2, 3)]
    hand.one("input[type=file]").send_keys("\n".join(map(str, files)))
    hand.wait_for("Its files give no rate. Which one was meant?")
    hand.type_into("rate is", "24000/1001")
    hand.click("Set")
    hand.wait_for("24000/1001 (23.976) fps")
    hand.click("Transcode to")
    hand.click("FFV1 movie")
    hand.click("Transcode")
    hand.wait_for("written and checked")
    assert hand.seen("3 of 3 frames")
    hand.wait_for("2 elements")


def test_what_broke_off_goes_on_with_the_same_files(hand, new_project, tmp_path):
    """The page was closed while files came: the list says so, and the same files go on."""
    path = save_png(tmp_path / "moss.png", soft_disc(200, 300))
    hand.driver.execute_async_script(
        """
        const [project, size, done] = arguments;
        const token = /csrftoken=([^;]+)/.exec(document.cookie)[1];
        const headers = { 'Content-Type': 'application/json', 'X-CSRFToken': token };
        const body = JSON.stringify({ files: [{ name: 'moss.png', bytes: size }] });
        fetch(`/api/projects/${project}/arrivals`, { method: 'POST', headers, body })
          .then((r) => r.json())
          .then((a) => fetch(`/api/arrivals/${a.id}/files?name=moss.png&last=false`,
            { method: 'PUT', headers, body: new Uint8Array([137, 80, 78, 71, 13]) }))
          .then(() => done());
        """,
        new_project,
        path.stat().st_size,
    )
    hand.open(f"projects/{new_project}/elements")
    hand.wait_for("broke off: 0 of 1 files, 5 bytes")
    hand.one("input[type=file]").send_keys(str(path))
    hand.wait_for("300 × 200")
    assert not hand.seen("broke off")


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
    assert hand.seen("1 of 5 frames are missing: 4.")
    hand.click("Hold")
    hand.click("One frame on")
    hand.settled()
    assert not hand.all("[role=alert]"), "the frame before stands in"
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
    offset, share = left_of(viewer, 400, 300)
    hand.point_at(viewer, offset, 0)
    until(
        lambda: "1.0000" in hand.one("section[aria-label='Values under the pointer']").text,
        "the stored green",
    )
    ActionChains(hand.driver, duration=0).move_to_element_with_offset(viewer, offset, 0).click().perform()
    hand.wait_for("premultiplied over #00ff00")
    hand.click("In encoded values")
    hand.wait_for("premultiplied over #00ff00 in encoded values")
    hand.settled()
    until(lambda: max(hand.pixel(share, 0.5)) < 3, "the green is gone")
    hand.click("Take back")
    hand.click("Take back")
    until(lambda: hand.pixel(share, 0.5)[1] > 250 or max(hand.pixel(share, 0.5)) < 3, "taken back")
    assert not hand.seen("#00ff00 in encoded values")


def left_of(viewer, width, height):
    """A point just inside the fitted picture's left edge: from the viewer's middle, and as a share."""
    room = viewer.size
    zoom = min(room["width"] / width, room["height"] / height)
    offset = int(-zoom * width / 2 + 12)
    return offset, 0.5 + offset / room["width"]
