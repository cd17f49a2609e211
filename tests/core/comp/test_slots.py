"""Slots and lists: CSV by RFC 4180, what rows fill, what is wrong with a cell, and the command line."""

import csv
import io

import numpy as np
import pytest
from core.reference.pictures import Arrays
from hypothesis import given
from hypothesis import strategies as st
from neatveil import arrays
from neatveil.cli import main
from neatveil.comp import Comp, Element, Group, Layer
from neatveil.comp.loading import parse_comp
from neatveil.comp.rows import parse_rows, problems_of, row_tokens
from neatveil.comp.slot_place import Slot
from neatveil.comp.slots import columns_of, default_of, filled
from neatveil.errors import DocumentRefused, NameUnknown, ValueRefused
from neatveil.evaluate import Evaluator
from neatveil.tokens import named_by

SLOTS = (
    {"name": "artwork", "layer": "sign", "field": "element"},
    {"name": "light", "layer": "sign", "step": 0, "field": "stops"},
    {"name": "tint", "layer": "sign", "step": 1, "field": "tint"},
    {"name": "artwork", "layer": "mirror", "step": 0, "field": "second"},
)


def comp_of(**fields):
    """A sign and its mirror image in a group, of three grey cards."""
    cards = {n: Element(name=f"{n}.png", file=n, still=True, encoding="linear", reading={"alpha": "none"})
             for n in ("dusk", "dawn", "noon")}  # fmt: skip
    keys = {"stops": {"keys": [{"frame": 1, "value": 3}, {"frame": 9, "value": 5}]}}
    sign = Layer(
        id="sign", name="sign", element="dusk",
        steps=[{"kind": "exposure", "stops": 0.0, "keys": keys}, {"kind": "glow", "gain": 0.0}],
    )  # fmt: skip
    mirror = Layer(
        id="mirror", name="mirror", element="dusk",
        steps=[{"kind": "combine", "second": "dusk", "operation": "add"}],
    )  # fmt: skip
    group = Group(id="board", name="board", layers=(mirror,))
    return Comp(
        width=6, height=4, elements=cards, layers=(sign, group),
        **{"slots": SLOTS, "first": 1, "last": 9, **fields},
    )  # fmt: skip


def pictures(cell):
    known = {"dusk.png": "dusk", "dawn.png": "dawn", "noon.png": "noon"}
    if cell not in known:
        raise NameUnknown(f"There is no element {cell}.", advice="Import it.")
    return known[cell], None


# --- RFC 4180, section 2, the numbered rules ---


@pytest.mark.parametrize(
    ("text", "rows"),
    [
        ("a,b\r\n1,2\r\n", [("1", "2")]),  # 1 and 3: lines end with CRLF, the first names the columns
        ("a,b\r\n1,2", [("1", "2")]),  # 2: the last line may have no end
        ('a,b\r\n"1","2"\r\n', [("1", "2")]),  # 5: fields in quotes
        ('a,b\r\n"1\r\n2","3,4"\r\n', [("1\r\n2", "3,4")]),  # 6: line ends and commas in quotes
        ('a,b\r\n"1""2",3\r\n', [('1"2', "3")]),  # 7: a quote is written twice
        ("a,b\n1,2\n\n", [("1", "2")]),
        ("a\tb\n1\t2,5\n", [("1", "2,5")]),
        ("a;b\n1;2\n", [("1", "2")]),
        ("\ufeffa,b\r\n 1 ,\r\n", [("1", "")]),
        ("a,b\r\n1\r\n", [("1", "")]),
        ("", []),
    ],
)
def test_lists_are_read_by_the_standard(text, rows):
    assert [tuple(r.values()) for r in parse_rows(text)] == rows


cells = st.text(st.characters(codec="utf-8", exclude_characters="\r\x00"), max_size=12).map(str.strip)


@given(st.lists(st.tuples(cells, cells), max_size=6))
def test_what_the_libraries_writer_writes_is_read_back(rows):
    text = io.StringIO(newline="")
    csv.writer(text).writerows([("one", "two"), *rows])
    # spaces beside a cell are taken away, within quotes too
    assert [tuple(r.values()) for r in parse_rows(text.getvalue())] == [r for r in rows if any(r)]


@pytest.mark.parametrize(
    ("text", "told"),
    [
        ("a,b\n1,2,3\n", "Line 2 has 3 cells"),
        ('a,b\n"1,2\n', "cannot be read"),
        ("a,a\n1,2\n", "column a is there twice"),
        ("a\n" + "1\n" * 10_001, "more than 10,000 rows"),
    ],
)
def test_what_is_no_list_is_told_with_its_line(text, told):
    with pytest.raises(ValueRefused, match=told):
        parse_rows(text)


# --- what a row fills ---


def test_columns_are_the_slots_with_their_kinds_and_defaults():
    comp = comp_of()
    assert columns_of(comp) == {"artwork": "picture", "light": "number", "tint": "colour"}
    assert [default_of(comp, s) for s in comp.slots] == ["dusk", "0", "1 1 1", "dusk"]
    assert parse_comp(comp.model_dump(mode="json")) == comp


def test_a_row_fills_every_place_of_its_slots_and_leaves_the_rest():
    row = {"artwork": "dawn.png", "light": "-1.5", "tint": "#ff8000"}
    got = filled(comp_of(), row, pictures)
    sign, board = got.layers
    assert sign.element == "dawn"
    assert board.layers[0].steps[0].second == "dawn"
    assert sign.steps[0].stops == -1.5
    assert not sign.steps[0].keys, "a row's number stands for all frames"
    code = np.array([1.0, 128 / 255, 0.0])
    np.testing.assert_allclose(sign.steps[1].tint, arrays.decode(code.astype(np.float32), "srgb"), atol=1e-6)
    assert filled(comp_of(), {"artwork": " ", "light": ""}, pictures) == comp_of()


def caption(**made):
    layer = {"id": "title", "name": "title", "kind": "made", "made": {"kind": "text", "text": "Dusk", **made}}
    names = ("text", "size", "colour", "font")
    slots = [{"name": n, "layer": "title", "field": n} for n in names]
    return parse_comp({"width": 60, "height": 30, "first": 1, "last": 9, "layers": [layer], "slots": slots})


def test_a_made_layers_text_number_and_colour_are_slots():
    comp = caption(keys={"size": {"keys": [{"frame": 1, "value": 8}]}})
    assert columns_of(comp) == {"text": "text", "size": "number", "colour": "colour", "font": "text"}
    assert [default_of(comp, s) for s in comp.slots] == ["Dusk", "100", "1 1 1", "sans"]
    row = {"text": "Dawn\\nat the ford", "size": "12", "colour": "1 0 0", "font": "serif"}
    assert list(parse_rows("text,size\nDawn\\nat the ford,12\n")[0].values()) == ["Dawn\\nat the ford", "12"]
    got = filled(comp, row, pictures)
    made = got.layers[0].made
    assert (made.text, made.size, made.colour, made.font) == ("Dawn\nat the ford", 12, (1, 0, 0), "serif")
    assert not made.keys, "a row's number stands for all frames"
    by_hand = caption(text="Dawn\nat the ford", size=12, colour=(1, 0, 0), font="serif")
    np.testing.assert_array_equal(*(Evaluator(Arrays({})).picture(c, 3).rgba() for c in (got, by_hand)))


def test_a_cell_that_the_text_does_not_take_is_named():
    found = problems_of(caption(), [{"font": "script", "size": "-3"}], pictures)
    assert [(p.row, p.column) for p in found] == [(1, "size"), (1, "font")]
    with pytest.raises(DocumentRefused, match="glow"):
        columns_of(caption().model_copy(update={"slots": (Slot(name="glow", layer="title", field="glow"),)}))


def test_a_filled_comp_is_the_comp_made_by_hand():
    stored = {
        n: [np.full((4, 6, 4), v, np.float32)] for n, v in (("dusk", 0.1), ("dawn", 0.3), ("noon", 0.6))
    }
    got = Evaluator(Arrays(stored)).picture(
        filled(comp_of(), {"artwork": "noon.png", "light": "1"}, pictures), 4
    )
    sign, board = comp_of().layers
    exposure = sign.steps[0].model_copy(update={"stops": 1.0, "keys": {}})
    sign = sign.model_copy(update={"element": "noon", "steps": (exposure, sign.steps[1])})
    step = board.layers[0].steps[0].model_copy(update={"second": "noon"})
    board = board.model_copy(update={"layers": (board.layers[0].model_copy(update={"steps": (step,)}),)})
    by_hand = comp_of().model_copy(update={"layers": (sign, board)})
    np.testing.assert_array_equal(got.rgba(), Evaluator(Arrays(stored)).picture(by_hand, 4).rgba())


def test_every_wrong_cell_is_named_by_row_and_column():
    rows = [
        {"artwork": "dawn.png", "light": "1"},
        {"artwork": "gone.png", "light": "bright", "tint": "1 2"},
        {"light": "5000", "colour": "red"},
    ]
    found = [(p.row, p.column, p.message) for p in problems_of(comp_of(), rows, pictures)]
    assert [(r, c) for r, c, _ in found] == [
        (0, "colour"), (2, "artwork"), (2, "light"), (2, "tint"), (3, "light"),
    ]  # fmt: skip
    assert found[1][2] == "There is no element gone.png."
    assert "'bright' is no number" in found[2][2]


@pytest.mark.parametrize(
    "slot",
    [
        {"name": "x", "layer": "gone", "field": "element"},
        {"name": "x", "layer": "board", "field": "element"},
        {"name": "x", "layer": "sign", "step": 7, "field": "stops"},
        {"name": "x", "layer": "sign", "step": 0, "field": "gone"},
        {"name": "x", "layer": "sign", "step": 0, "field": "on"},
        {"name": "artwork", "layer": "sign", "step": 0, "field": "stops"},
    ],
)
def test_a_slot_without_its_place_is_refused_by_name(slot):
    with pytest.raises(DocumentRefused, match=slot["name"]):
        columns_of(comp_of(slots=(*SLOTS, slot)))


def test_files_are_named_after_rows():
    row = {"artwork": "art/dusk, wide.v2.png", "tint": "#ff0000"}
    name = named_by("{row}_{artwork}.{frame}.png", row_tokens(row, 7, 120))
    assert name == "007_dusk_wide.v2.####.png"
    for token in ("{gone}", "{light}"):
        with pytest.raises(ValueRefused, match=f"{token} has no value here"):
            named_by(f"{token}.mov", row_tokens({"light": ""}, 2, 2))


# --- the command line ---


@pytest.fixture
def folder(tmp_path):
    """A comp of one picture with a slot, three pictures, and a list of them."""
    for name, value in (("one", 0.25), ("two", 0.5), ("three", 0.75)):
        arrays.write_picture(
            tmp_path / f"{name}.png", np.full((4, 6, 4), (value, value, value, 1), np.float32)
        )
    comp = Comp(
        name="sign", width=6, height=4, elements={"e": Element(name="one.png", file="one.png", still=True)},
        layers=(Layer(id="a", name="a", element="e"),),
        slots=({"name": "picture", "layer": "a", "field": "element"},),
    )  # fmt: skip
    (tmp_path / "sign.json").write_text(comp.model_dump_json())
    (tmp_path / "list.csv").write_text("picture\r\none.png\r\ntwo.png\r\nthree.png\r\n")
    return tmp_path


def render(folder, *more, to="{row}_{picture}.####.png"):
    return main(["render", str(folder / "sign.json"), "--to", str(folder / "out" / to), *more])


def test_every_row_is_rendered_under_its_name(folder):
    (folder / "out").mkdir()
    assert render(folder, "--list", str(folder / "list.csv")) == 0
    names = sorted(p.name for p in (folder / "out").iterdir())
    assert names == ["1_one.0001.png", "2_two.0001.png", "3_three.0001.png"]
    for name, original in zip(names, ("one", "two", "three"), strict=True):
        np.testing.assert_allclose(
            arrays.read_picture(folder / "out" / name),
            arrays.read_picture(folder / f"{original}.png"),
            atol=1e-3,
        )


def test_chosen_rows_alone(folder):
    (folder / "out").mkdir()
    assert render(folder, "--list", str(folder / "list.csv"), "--rows", "1,3") == 0
    assert len(list((folder / "out").iterdir())) == 2


def test_nothing_is_written_where_a_cell_is_wrong_or_names_meet(folder, capsys):
    (folder / "out").mkdir()
    (folder / "list.csv").write_text("picture\none.png\ngone.png\nlist.csv\n")
    assert render(folder, "--list", str(folder / "list.csv")) == 1
    told = capsys.readouterr().err
    assert "row 2, picture: gone.png is neither" in told
    assert "row 3, picture:" in told
    (folder / "list.csv").write_text("picture\none.png\ntwo.png\n")
    assert render(folder, "--list", str(folder / "list.csv"), to="same.####.png") == 1
    assert "over each other" in capsys.readouterr().err
    assert not list((folder / "out").iterdir())
