"""The comp document: its schema, what it refuses, time."""

import json
from pathlib import Path

import pytest
from neatveil.comp import Comp, Element, Layer, document_schema, element_frame, layer_shows, load_comp
from neatveil.comp.loading import parse_comp
from neatveil.errors import DocumentRefused, FileMissing
from pydantic import ValidationError

ROOT = Path(__file__).parents[3]


def test_published_schema_is_the_one_in_use():
    published = json.loads((ROOT / "docs/schema/comp.schema.json").read_text())
    assert published == json.loads(json.dumps(document_schema()))


def test_document_survives_json():
    comp = Comp(
        rate="24000/1001", first=1001, last=1048, elements={"k": Element(file="kite.mov")},
        layers=(Layer(id="a", name="kite", element="k", steps=[{"kind": "levels", "gamma": 1.5}]),),
    )  # fmt: skip
    assert Comp.model_validate_json(comp.model_dump_json()) == comp
    assert '"24000/1001"' in comp.model_dump_json()


LAYER = {"id": "a", "name": "n", "element": "k"}


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"layers": [{"id": "a", "name": "n", "element": "k", "operator": "ovr"}]}, "over"),
        ({"last": 0, "first": 5}, "before first frame"),
        ({"rate": "fast"}, "24000/1001"),
        ({"layers": [{"id": "a", "name": "n", "element": "k"}] * 2}, "used twice"),
        ({"colour": 1}, "colour"),
        ({"width": 0}, "width"),
        ({"layers": [LAYER | {"steps": [{"kind": "levels", "gama": 2}]}]}, "steps.0.*gama"),
        ({"layers": [LAYER | {"steps": [{"gamma": 2}]}]}, "steps.0.*kind"),
        ({"neatveil": 9}, "version 9"),
    ],
)
def test_refusals_name_the_field(change, words):
    with pytest.raises(DocumentRefused, match=words):
        parse_comp({"width": 10, **change})


def test_loading_says_which_element_is_not_listed(tmp_path):
    (tmp_path / "c.json").write_text('{"layers": [{"id": "a", "name": "n", "element": "nope"}]}')
    with pytest.raises(DocumentRefused, match="nope"):
        load_comp(tmp_path / "c.json")
    with pytest.raises(FileMissing):
        load_comp(tmp_path / "d.json")
    (tmp_path / "e.json").write_text("{")
    with pytest.raises(DocumentRefused, match="not JSON"):
        load_comp(tmp_path / "e.json")


def frames(ends="hold", offset=0, rate=None):
    comp = Comp(rate="25", first=1, last=9)
    element = Element(file="a.####.png", first=10, last=13, rate=rate)
    layer = Layer(id="a", name="a", element="e", beyond=ends, offset=offset)
    return [element_frame(comp, layer, element, f) for f in range(1, 10)]


def test_beyond_an_elements_frames():
    assert frames("hold") == [10, 11, 12, 13, 13, 13, 13, 13, 13]
    assert frames("loop") == [10, 11, 12, 13, 10, 11, 12, 13, 10]
    assert frames("blank", offset=2) == [None, None, 10, 11, 12, 13, None, None, None]


def test_other_rates_are_conformed_by_time():
    assert frames("hold", rate="12.5") == [10, 10, 11, 11, 12, 12, 13, 13, 13]


def paced(**how):
    comp = Comp(rate="25", first=1, last=9)
    element = Element(file="a.####.png", first=10, last=13)
    layer = Layer(id="a", name="a", element="e", **how)
    return [element_frame(comp, layer, element, f) for f in range(1, 10)]


def test_speed_backwards_and_there_and_back():
    assert paced(speed=2) == [10, 12, 13, 13, 13, 13, 13, 13, 13]
    assert paced(speed=0.5) == [10, 10, 11, 11, 12, 12, 13, 13, 13]
    assert paced(reverse=True) == [13, 12, 11, 10, 10, 10, 10, 10, 10]
    assert paced(beyond="ping-pong") == [10, 11, 12, 13, 12, 11, 10, 11, 12]
    assert paced(beyond="loop", reverse=True) == [13, 12, 11, 10, 13, 12, 11, 10, 13]


def test_of_a_layer_itself_only_opacity_and_its_own_frame_have_keys():
    keys = {"offset": {"keys": [{"frame": 1, "value": 2}]}}
    with pytest.raises(ValidationError, match="only opacity and own_frame have keys"):
        Layer(id="a", name="a", element="e", keys=keys)


def test_in_and_out_frames_are_inclusive():
    comp = Comp(first=1, last=9)
    layer = Layer(id="a", name="a", element="e", first=3, last=4)
    assert [f for f in range(1, 10) if layer_shows(comp, layer, f)] == [3, 4]


def test_a_step_that_is_not_known_is_kept_as_it_came():
    step = {"kind": "gloww", "curl": [1, {"a": 2}], "mix": "much", "on": False}
    document = parse_comp({"layers": [LAYER | {"steps": [step, {"kind": "levels", "gamma": 2}]}]})
    kept = json.loads(document.model_dump_json())["layers"][0]["steps"][0]
    assert {n: kept[n] for n in step} == step
    assert parse_comp(json.loads(document.model_dump_json())) == document


def test_a_newer_document_is_read_as_far_as_it_is_known():
    newer = {"neatveil": 99, "mood": 1, "width": 640, "layers": [LAYER | {"weather": 2, "opacity": 0.5}]}
    document = parse_comp(newer, lenient=True)
    assert (document.width, document.layers[0].opacity) == (640, 0.5)
    wrong = {"layers": [LAYER | {"steps": [{"kind": "levels", "gama": 2}]}]}
    assert parse_comp(wrong, lenient=True).layers[0].steps[0].words() == "not known here"
