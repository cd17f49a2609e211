"""A comp as a layer of another: the same picture as by itself, conformed in size, rate and frames."""

import json

import numpy as np
import pytest
from core.evaluate.test_group_layers import FILES, SIZE, comp, drawn, group, layer
from core.reference.documents import documents
from core.reference.pictures import Arrays
from core.reference.test_reference import EXTRA, PICTURES
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from neatveil.comp import Comp, load_comp
from neatveil.comp.loading import parse_comp
from neatveil.errors import DocumentRefused, FrameMissing, NameUnknown
from neatveil.evaluate import Evaluator


def holding(inner, *layers, **fields):
    """A comp whose layers may show another one by the key ``inner``."""
    return comp(*layers, comps={"inner": json.loads(inner.model_dump_json())}, **fields)


@settings(deadline=None, max_examples=40, suppress_health_check=list(HealthCheck))
@given(documents, st.integers(1, 6), st.integers(0, 2))
def test_any_comp_at_rest_in_another_is_what_it_is_by_itself(data, frame, level):
    inner = parse_comp(data)
    outer = Comp(
        width=inner.width, height=inner.height, first=inner.first, last=inner.last, comps={"x": inner},
        layers=({"id": "x", "name": "x", "element": "x"},),
    )  # fmt: skip
    evaluator = Evaluator(Arrays(PICTURES, EXTRA))
    alone = evaluator.picture(inner, frame, level=level).rgba()
    np.testing.assert_array_equal(evaluator.picture(outer, frame, level=level).rgba(), alone)


def test_it_blends_as_one_picture():
    """Half of it over the plate: not each of its layers by half."""
    inner = comp(layer("plate"), layer("one"))
    whole = drawn(inner)
    got = drawn(holding(inner, layer("two"), layer("inner", opacity=0.5)))
    two = drawn(comp(layer("two")))
    assert got == pytest.approx(0.5 * (whole + two * (1 - whole[..., 3:])) + 0.5 * two, abs=1e-6)


def test_frames_and_rate_are_conformed_by_time():
    """50 a second in a comp of 25: its first frame on the first, then every second one."""
    inner = comp(layer("moving"), rate="50", first=1, last=6)
    outer = holding(inner, layer("inner", beyond="hold"))
    got = [float(drawn(outer, n)[0, 0, 0]) for n in range(1, 6)]
    assert got == pytest.approx([0.1, 0.3, 0.5, 0.6, 0.6])
    half = holding(inner, layer("inner", speed=0.25, between="blend"))
    assert drawn(half, 2)[0, 0, 0] == pytest.approx(0.15)


def test_another_size_lies_on_the_centre():
    inner = comp(layer("plate"), width=SIZE[1] // 2, height=SIZE[0] // 2)
    got = drawn(holding(inner, layer("inner")))[..., 3]
    assert got.sum() == pytest.approx(SIZE[0] * SIZE[1] / 4)
    assert got[SIZE[0] // 4 : -SIZE[0] // 4, SIZE[1] // 4 : -SIZE[1] // 4].min() == 1


def test_mattes_steps_and_groups_take_it():
    inner = comp(layer("one"))
    cut = {"parts": [{"kind": "channel", "source": "inner", "channel": "alpha"}]}
    document = holding(inner, group(layer("plate", matte=cut), layer("inner", shown=False)))
    assert drawn(document)[..., 3] == pytest.approx(drawn(inner)[..., 3], abs=1e-6)


def test_what_fails_in_it_is_named_every_time_and_the_rest_shows():
    class OneGone(Arrays):
        def read(self, source, frame, planes=None):
            if source == "two":
                raise FrameMissing("It is not there.")
            return super().read(source, frame, planes)

    inner = comp(layer("one"), layer("two"), name="kites")
    evaluator = Evaluator(OneGone(FILES))
    outer = holding(inner, layer("plate"), layer("inner", steps=[{"kind": "blur", "size": 1}]))
    for _ in range(3):
        failed = []
        got = evaluator.picture(outer, 1, failed=failed).rgba()
        assert [e.message for e in failed] == ["Layer two of comp kites: It is not there."]
        assert np.abs(got - drawn(comp(layer("plate")))).max() > 0.05, "what can be read is there"


def test_it_has_no_further_channels_and_says_so():
    inner = comp(layer("one"), name="kites")
    part = {"kind": "channel", "source": "inner", "channel": "depth.Z"}
    with pytest.raises(NameUnknown, match=r"Layer plate: Nothing that is shown there has a channel depth.Z"):
        drawn(holding(inner, layer("plate", matte={"parts": [part]})))


def test_too_many_in_one_another_are_refused():
    found = comp(layer("one"))
    for _ in range(15):
        found = holding(found, layer("inner"))
    drawn(found)
    with pytest.raises(DocumentRefused, match="more than 16 deep"):
        holding(found, layer("inner"))


def test_a_key_means_one_thing():
    with pytest.raises(DocumentRefused, match="one is the key of an element and of a comp"):
        comp(layer("one"), comps={"one": {"neatveil": 3}})


def test_a_file_holds_it_with_files_seen_from_its_place(tmp_path):
    elements = {"plate": {"file": "shots/a.png", "still": True}}
    inner = {"neatveil": 2, "name": "inner", "elements": elements, "layers": [layer("plate")]}
    outer = {"neatveil": 3, "comps": {"inner": inner}, "layers": [layer("inner")]}
    (tmp_path / "outer.json").write_text(json.dumps(outer))
    found = load_comp(tmp_path / "outer.json")
    assert found.comps["inner"].elements["plate"].file == str(tmp_path / "shots" / "a.png")
    inner["layers"] = [layer("gone")]
    (tmp_path / "outer.json").write_text(json.dumps(outer))
    with pytest.raises(DocumentRefused, match="does not list: gone"):
        load_comp(tmp_path / "outer.json")
