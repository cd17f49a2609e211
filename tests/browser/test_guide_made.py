"""The guide's page on what is made here, followed from start to end as it is written."""

import pytest
from browser.test_comp import saved
from browser.visitor import until
from core.drawn.made_fonts import HEBREW, save_font
from selenium.webdriver.common.keys import Keys

pytestmark = pytest.mark.browser


@pytest.fixture
def card(visitor):
    """An empty comp."""
    body = {"name": "card", "width": 640, "height": 360, "last": 9}
    return visitor.api("POST", "projects/1/comps", body)["id"]


def written(visitor, text):
    field = visitor.one("textarea[aria-label='text']")
    field.send_keys(Keys.CONTROL, "a")
    field.send_keys(text)
    return field


def chosen(visitor, control, label):
    visitor.one(f"[role=combobox][aria-label='{control}'], button[aria-label='{control}']").click()
    visitor.click(label)


def test_a_caption_from_nothing(visitor, card):
    visitor.open(f"projects/1/comp/{card}")
    visitor.click("Add a layer")
    visitor.click("Text")
    saved(visitor)
    visitor.settled()
    field = written(visitor, "Reeds")
    # the picture follows while it is typed: nothing was kept yet
    until(lambda: visitor.seen("Reeds"), "the card says it")
    assert visitor.api("GET", f"comps/{card}")["document"]["layers"][0]["made"]["text"] == "Text"
    field.send_keys("\n沼")
    visitor.field("size").click()
    visitor.wait_for("The font Sans has no letters for 沼 (U+6CBC).")
    written(visitor, "Reeds\nat dusk")
    visitor.set_number("size", "80")
    visitor.set_number("weight", "800")
    saved(visitor)
    visitor.settled()
    made = visitor.api("GET", f"comps/{card}")["document"]["layers"][0]["made"]
    assert (made["text"], made["size"], made["weight"]) == ("Reeds\nat dusk", 80, 800)
    strip_behind(visitor)
    visitor.click("Add a layer")
    visitor.click("Solid")
    saved(visitor)
    code = visitor.one("input[aria-label='Code of colour of Solid']")
    code.send_keys(Keys.CONTROL, "a")
    code.send_keys("#ff0000\n")
    saved(visitor)
    visitor.settled()
    assert visitor.pixel(0.05, 0.05) == (255, 0, 0)
    layers = visitor.api("GET", f"comps/{card}")["document"]["layers"]
    assert [x["name"] for x in layers] == ["Shape", "Text", "Solid"]
    assert layers[2]["made"]["colour"] == [1, 0, 0]
    in_a_list(visitor, card)


def test_a_font_of_ones_own(visitor, card, tmp_path):
    visitor.open(f"projects/1/comp/{card}")
    visitor.click("Add a layer")
    visitor.click("Text")
    saved(visitor)
    visitor.settled()
    written(visitor, "沼地 שלום")
    visitor.field("size").click()
    visitor.wait_for("The font Sans has no letters for 沼 (U+6CBC)")
    visitor.one("button[aria-label='Font files']").click()
    field = "input[aria-label='Font file to add']"
    (tmp_path / "torn.ttf").write_bytes(HEBREW.read_bytes()[:500])
    visitor.one(field).send_keys(str(tmp_path / "torn.ttf"))
    visitor.wait_for("torn.ttf is no font that text can be set in.")
    save_font(tmp_path / "marsh.ttf", letters="沼地 שלום", name="Marsh Display With A Rather Long Name")
    visitor.one(field).send_keys(str(tmp_path / "marsh.ttf"))
    visitor.wait_for("Marsh Display With A Rather Long Name Regular: 7 letters, one weight")
    visitor.click("Close")
    saved(visitor)
    visitor.settled()
    assert not visitor.seen("has no letters")
    made = visitor.api("GET", f"comps/{card}")["document"]["layers"][0]["made"]
    (font,) = (row for row in visitor.api("GET", "projects/1/fonts") if row["name"] == "marsh.ttf")
    assert made["font"] == font["key"]
    # squares of white, half a size wide, to both sides of the space
    assert visitor.pixel(0.32, 0.5) == visitor.pixel(0.6, 0.5) == (255, 255, 255)
    assert visitor.pixel(0.4, 0.5) != (255, 255, 255)
    visitor.one("button[aria-label='Font files']").click()
    visitor.one("button[aria-label='Take marsh.ttf out of the project']").click()
    visitor.wait_for("marsh.ttf is in use by card.")
    visitor.click("Close")
    chosen(visitor, "font", "Sans")
    saved(visitor)
    visitor.one("button[aria-label='Font files']").click()
    visitor.one("button[aria-label='Take marsh.ttf out of the project']").click()
    until(lambda: visitor.api("GET", "projects/1/fonts") == [], "it is taken out")
    save_font(tmp_path / "reed.ttf", letters="reed", name="Reed Text")
    visitor.one(field).send_keys(str(tmp_path / "reed.ttf"))
    visitor.wait_for("Reed Text Regular: 3 letters")
    visitor.click("Close")
    chosen(visitor, "font", "Sans")
    saved(visitor)
    visitor.one("button[aria-label='Font files']").click()
    visitor.wait_for("Reed Text Regular: 3 letters")
    # somebody else takes it out: this page hears of it
    (font,) = visitor.api("GET", "projects/1/fonts")
    visitor.api("DELETE", f"projects/1/fonts/{font['key']}")
    until(lambda: not visitor.seen("Reed Text"), "it is gone from the list")
    visitor.click("Close")


def test_text_that_does_not_fit_says_so(visitor, card):
    visitor.open(f"projects/1/comp/{card}")
    visitor.click("Add a layer")
    visitor.click("Text")
    saved(visitor)
    visitor.settled()
    assert not visitor.seen("beyond its canvas")
    visitor.set_number("size", "200")
    written(visitor, "HHHHHHHHH")
    visitor.field("size").click()
    visitor.wait_for("It reaches beyond its canvas of 640 × 360 px")
    (button,) = (b for b in visitor.all("aside button") if b.text.startswith("Canvas of "))
    button.click()
    saved(visitor)
    until(lambda: not visitor.seen("beyond its canvas"), "it fits")


def strip_behind(visitor):
    visitor.click("Add a layer")
    visitor.click("Shape")
    saved(visitor)
    chosen(visitor, "shape", "Rectangle")
    for name, value in (("width", "600"), ("height", "300"), ("corner radius", "40"), ("fill alpha", "50")):
        visitor.set_number(name, value)
    saved(visitor)
    visitor.one("[data-layer][aria-label='Layer Shape']").send_keys(Keys.ALT, Keys.ARROW_LEFT)
    saved(visitor)
    visitor.settled()
    # half a white strip over black checks, and nothing in its rounded corner
    inside, corner = visitor.pixel(0.5, 0.12), visitor.pixel(0.036, 0.09)
    assert min(inside) > max(corner)


def in_a_list(visitor, card):
    """The text as a slot: two rows, each with its own."""
    visitor.click("Layer Text")
    visitor.click("List")
    visitor.click("its text")
    until(lambda: visitor.all("[aria-label='Name of slot Text']"), "the slot")
    visitor.click("Paste or open a table")
    visitor.one("[aria-label='Table']").send_keys("Text\nHeron hide\nReed path\n")
    visitor.click("Replace the rows")
    until(lambda: visitor.seen("2 rows"), "the rows")
    visitor.click("Put row 2 in the comp")
    saved(visitor)
    document = visitor.api("GET", f"comps/{card}")["document"]
    assert document["layers"][1]["made"]["text"] == "Reed path"
