"""Importing, facts, readings."""

import numpy as np
import pytest
import tifffile
from browser.visitor import until
from core.pictures import premultiplied, save_png, soft_disc
from selenium.webdriver.common.action_chains import ActionChains

pytestmark = pytest.mark.browser


@pytest.fixture
def new_project(visitor):
    visitor.click("New project")
    visitor.type_into("Name", "Reed cutting, a long name for a short film about the winter work in the marsh")
    visitor.click("Create")
    visitor.wait_for("No elements yet")
    return int(visitor.driver.current_url.split("/projects/")[1].split("/")[0])


def choose(visitor, name):
    visitor.wait_for(name.split("####")[0])
    visitor.one(f"ul[aria-label='Elements'] span[title='{name}']").click()
    until(
        lambda: f"Picture of {name}" in labels(visitor) or visitor.seen("pairs of edge"), f"{name} is shown"
    )


def labels(visitor):
    return [r.get_attribute("aria-label") for r in visitor.all("[role=img]")]


def draw(visitor, dx, dy, *, start=(0, 0)):
    viewer = visitor.one("[role=img][aria-label^='Picture of']")
    chain = (
        ActionChains(visitor.driver, duration=0).move_to_element_with_offset(viewer, *start).click_and_hold()
    )
    for _ in range(4):
        chain = chain.move_by_offset(dx // 4, dy // 4)
    chain.release().perform()


def test_demo_elements_with_their_facts(visitor):
    visitor.open("projects/1/elements")
    choose(visitor, "lantern_beauty.####.exr")
    for fact in ("1920 × 1080", "premultiplied (OpenEXR: alpha is premultiplied)", "25 fps"):
        assert visitor.seen(fact), fact
    visitor.click("All facts")
    for fact in ("data window", "half, data"):
        visitor.wait_for(fact)
    assert visitor.seen("data: depth.Z")
    choose(visitor, "paper_kite.mov")
    visitor.wait_for("The pixels say otherwise", 180)  # found by a job, of all elements of the demo
    for fact in ("prores", "25 fps", "there and used", "nothing"):
        assert visitor.seen(fact), fact


def test_readings_on_trial_and_one_key_takes_one(visitor):
    visitor.open("projects/1/elements")
    choose(visitor, "reserve_title.####.png")
    visitor.wait_for("The pixels say otherwise")
    visitor.click("See the readings side by side")
    visitor.wait_for("The pixels say premultiplied.")
    visitor.wait_for("over a strong colour")
    cells = until(lambda: visitor.all("td [role=img]"), "the sheet")
    assert len(cells) >= 3 * 4, "readings by backgrounds"
    sizes = {(c.size["width"], c.size["height"]) for c in cells}
    assert len(sizes) == 1
    visitor.keys("2")
    visitor.wait_for("Taken")
    visitor.undo()
    until(lambda: not visitor.seen("Taken"), "taken back where it was taken")
    visitor.keys("1")
    visitor.wait_for("Taken")
    visitor.click("Picture")
    visitor.wait_for("premultiplied over #f5f0e0 in encoded values")
    assert not visitor.seen("The pixels say otherwise")
    visitor.click("Take back")
    visitor.wait_for("The pixels say otherwise")


def test_a_line_across_an_edge_a_box_and_a_wipe(visitor):
    visitor.open("projects/1/elements")
    choose(visitor, "paper_kite.mov")
    visitor.settled()
    visitor.wait_for("Whole frame")
    until(lambda: visitor.all("svg[aria-label='Histogram'] polyline"), "the histogram of the frame")
    visitor.click("Draw a line: the edge's profile")
    draw(visitor, 120, 40)
    visitor.wait_for("Along the line")
    until(lambda: visitor.all("svg[aria-label='Profile along the line'] polyline"), "the profile")
    visitor.click("Draw a box: mean, standard deviation, histogram")
    draw(visitor, 60, 40)
    visitor.wait_for("In the box")
    visitor.click("Clear the box")
    visitor.wait_for("Whole frame")
    visitor.click("Wipe")
    line = visitor.one("[role=slider][aria-label='Wipe']")
    visitor.settled()
    before = int(line.get_attribute("aria-valuenow"))
    visitor.drag(line, 80)
    until(lambda: int(line.get_attribute("aria-valuenow")) > before, "the line moves")
    visitor.click("Difference")
    visitor.click("Compared with")
    visitor.click("premultiplied over black")
    visitor.settled()
    until(lambda: max(visitor.pixel(0.2, 0.2)) > 60, "the matte colour that one of the readings leaves")


def test_frames_side_by_side_and_their_flicker(visitor):
    visitor.open("projects/1/elements")
    choose(visitor, "reserve_title.####.png")
    visitor.click("Frames")
    visitor.wait_for("no frame stands out")
    assert len(visitor.all("section[aria-label='Contact strip'] li")) == 12


def test_colour_and_alpha_that_came_apart_are_joined(visitor):
    visitor.open("projects/1/elements")
    visitor.wait_for("1 pair of elements to join, by their names.")
    visitor.click("Look and join …")
    visitor.wait_for("alpha from feather_alpha.####.png")
    visitor.click("Join 1 pair")
    until(lambda: not visitor.seen("elements to join"), "joined")
    choose(visitor, "feather_rgb.####.png")
    visitor.wait_for("alpha from feather_alpha.####.png")
    visitor.click("Alpha")
    visitor.settled()
    assert max(visitor.pixel(0.5, 0.1)) < 3, "nothing is there"
    visitor.click("Detach A")
    visitor.wait_for("1 pair of elements to join, by their names.")


def test_a_folder_on_disk_is_registered_and_watched(visitor, new_project, application):
    shelf = application.var / "library" / "winter"
    for n in (1, 2):
        save_png(shelf / f"ice.{n:04d}.png", soft_disc())
    visitor.click("Libraries")
    visitor.wait_for("Register a folder")
    visitor.click("library")
    visitor.click("winter")
    until(lambda: visitor.field("Folder on the server").get_attribute("value").endswith("winter"), "chosen")
    visitor.click("Register")
    visitor.wait_for("1 element")
    visitor.wait_for("ice.####.png")
    visitor.wait_for("2 (1 to 2)")
    save_png(shelf / "ice.0003.png", soft_disc())
    visitor.wait_for("3 (1 to 3)")


def test_an_element_is_rewritten_and_checked(visitor, new_project, tmp_path):
    files = [save_png(tmp_path / f"reeds.{n:04d}.png", soft_disc()) for n in (1, 2, 3)]
    visitor.one("input[type=file]").send_keys("\n".join(map(str, files)))
    visitor.wait_for("Its files give no rate. Which one was meant?")
    visitor.type_into("rate is", "24000/1001")
    visitor.click("Set")
    visitor.wait_for("24000/1001 (23.976) fps")
    visitor.click("Transcode to")
    visitor.click("FFV1 movie")
    visitor.click("Transcode")
    visitor.wait_for("written and checked")
    assert visitor.seen("3 of 3 frames")
    visitor.wait_for("2 elements")


def test_what_broke_off_goes_on_with_the_same_files(visitor, new_project, tmp_path):
    """The page was closed while files came: the list says so, and the same files go on."""
    path = save_png(tmp_path / "moss.png", soft_disc(200, 300))
    visitor.driver.execute_async_script(
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
    visitor.open(f"projects/{new_project}/elements")
    visitor.wait_for("broke off: 0 of 1 files, 5 bytes")
    visitor.one("input[type=file]").send_keys(str(path))
    visitor.wait_for("300 × 200")
    assert not visitor.seen("broke off")


def test_many_files_at_once_become_elements(visitor, new_project, tmp_path):
    files = [save_png(tmp_path / f"reeds.{n:04d}.png", soft_disc()) for n in (1, 2, 3, 5)]
    files += [
        save_png(
            tmp_path / "a very long name of a still that has to fit somewhere on the page.png", soft_disc()
        )
    ]
    (tmp_path / "broken.exr").write_text("not a picture")
    files += [tmp_path / "broken.exr"]
    visitor.one("input[type=file]").send_keys("\n".join(map(str, files)))
    visitor.wait_for("3 elements")
    until(lambda: not visitor.seen("looking at it"), "facts arrive")
    visitor.wait_for("refused: see why")
    visitor.one("ul[aria-label='Elements'] li:nth-child(2) button").click()
    visitor.wait_for("broken.exr cannot be read as OpenEXR")
    visitor.one("ul[aria-label='Elements'] li:nth-child(3) button").click()
    visitor.wait_for("4 (1 to 5)")
    assert visitor.seen("1 of 5 frames are missing: 4.")
    visitor.click("Hold")
    visitor.click("One frame on")
    visitor.settled()
    assert not visitor.all("[role=alert]"), "the frame before stands in"
    overflow = "return document.documentElement.scrollWidth > window.innerWidth"
    assert not visitor.driver.execute_script(overflow), "long names fit"


def test_dropping_a_file_on_the_page(visitor, new_project, tmp_path):
    picture = save_png(tmp_path / "dropped.png", premultiplied(soft_disc(16, 16, (1, 1, 1))))
    visitor.drop_file(visitor.one("#root > div"), "dropped.png", picture.read_bytes())
    visitor.wait_for("dropped.png")
    visitor.wait_for("16 × 16")


def test_reading_is_set_by_picking_the_matte_colour_and_taken_back(visitor, new_project, tmp_path):
    straight = soft_disc(300, 400, (1, 1, 1))
    a = straight[..., 3:]
    green = premultiplied(straight)
    green[..., :3] += np.array([0, 1, 0], np.float32) * (1 - a)
    visitor.one("input[type=file]").send_keys(str(save_png(tmp_path / "over_green.png", green)))
    visitor.wait_for("over_green.png")
    visitor.wait_for("300")
    visitor.settled()
    visitor.click("RGB")
    visitor.settled()
    visitor.click("Premultiplied")
    visitor.named("Matte colour").find_element("xpath", ".//button[.='Colour']").click()
    visitor.click("Pick")
    visitor.wait_for("Click in the picture")
    viewer = visitor.one("[role=img]")
    offset, share = left_of(viewer, 400, 300)
    visitor.point_at(viewer, offset, 0)
    until(
        lambda: "1.0000" in visitor.one("section[aria-label='Values under the pointer']").text,
        "the stored green",
    )
    ActionChains(visitor.driver, duration=0).move_to_element_with_offset(viewer, offset, 0).click().perform()
    visitor.wait_for("premultiplied over #00ff00")
    visitor.click("In encoded values")
    visitor.wait_for("premultiplied over #00ff00 in encoded values")
    visitor.settled()
    until(lambda: max(visitor.pixel(share, 0.5)) < 3, "the green is gone")
    visitor.click("Take back")
    visitor.click("Take back")
    until(lambda: visitor.pixel(share, 0.5)[1] > 250 or max(visitor.pixel(share, 0.5)) < 3, "taken back")
    assert not visitor.seen("#00ff00 in encoded values")


def left_of(viewer, width, height):
    """A point just inside the fitted picture's left edge: from the viewer's middle, and as a share."""
    room = viewer.size
    zoom = min(room["width"] / width, room["height"] / height)
    offset = int(-zoom * width / 2 + 12)
    return offset, 0.5 + offset / room["width"]


def test_passes_in_files_of_their_own_are_data_and_are_joined_by_name(visitor, new_project, tmp_path):
    y, x = np.mgrid[:96, :128].astype(np.float32)
    coarse = np.dstack([x / 1280, y / 960, x * 0])
    files = [
        save_png(tmp_path / "sign_beauty.png", soft_disc(96, 128)),
        save_png(tmp_path / "sign_uv.png", coarse),
    ]
    tifffile.imwrite(tmp_path / "sign_depth.tif", np.hypot(x, y) + 2)
    visitor.one("input[type=file]").send_keys("\n".join(map(str, [*files, tmp_path / "sign_depth.tif"])))
    visitor.wait_for("2 pairs of elements to join, by their names.")
    choose(visitor, "sign_uv.png")
    visitor.wait_for("It holds UV in 8 bits; 16 or more are needed.")
    visitor.wait_for("falls into blocks about")
    until(lambda: visitor.one("figure img").get_property("naturalWidth") > 0, "the picture of the blocks")
    assert not visitor.seen("Reading")
    visitor.click("Look and join …")
    visitor.click("Join 2 pairs")
    until(lambda: not visitor.seen("elements to join"), "joined")
    choose(visitor, "sign_beauty.png")
    visitor.wait_for("depth.Z")
    visitor.wait_for("uv.V")
    assert visitor.complaints() == []


def test_elements_are_found_by_name_kept_by_kind_and_ordered(visitor):
    def listed():
        return [e.get_attribute("title") for e in visitor.all("ul[aria-label='Elements'] span.font-medium")]

    def pick(name, option):
        visitor.one(f"[role=combobox][aria-label='{name}']").click()
        visitor.named(option).click()

    visitor.open("projects/1/elements")
    visitor.wait_for("paper_kite.mov")
    whole = visitor.one("h1").text
    visitor.type_into("Find by name", "RGB feather")
    until(lambda: listed() == ["feather_rgb.####.png"], "one is found")
    assert visitor.one("h1").text == f"1 of {whole.split()[0]}"
    visitor.type_into("Find by name", "no such picture")
    visitor.wait_for("None of the elements is like that.")
    visitor.click("Show all")
    until(lambda: visitor.one("h1").text == whole, "all are there again")
    pick("Kind of element", "Movies")
    until(lambda: listed() and all(n.endswith((".mov", ".webm")) for n in listed()), "movies alone")
    pick("Kind of element", "With alpha")
    until(lambda: len(listed()) > 3, "those with alpha")
    pick("Order of the list", "Newest first")
    newest = listed()[0]
    pick("Order of the list", "As imported")
    until(lambda: listed() and listed()[0] != newest, "the first that came")
