"""Mattes of layers and steps in a comp: where they are read, how they lie, what hidden ones leave alone."""

import numpy as np
import pytest
from core.evaluate.test_references import comp, deep, drawn, files
from neatveil.comp.loading import parse_comp
from neatveil.errors import DocumentRefused, NeatVeilError
from neatveil.evaluate import Evaluator
from neatveil.io import LocalDecoder

__all__ = ["deep", "files"]

DISC = {"source": "layer:front"}


def with_matte(document, layer, *parts, **matte):
    data = document.model_dump(mode="json")
    for row in data["layers"]:
        if row["id"] == layer:
            row["matte"] = {"parts": list(parts), **matte}
        elif layer == "back":
            row["shown"] = False
    return parse_comp(data)


def alpha_of(document, only="front", **how):
    return drawn(document, only=only, **how)["A"]


def test_a_hidden_layers_alpha_cuts_another(files):
    document = comp(files)
    cut = drawn(with_matte(document, "back", DISC))
    disc, plate = alpha_of(document), drawn(document)
    for n in "RGB":
        np.testing.assert_allclose(cut[n], plate[n] * disc, atol=1e-6)
    np.testing.assert_allclose(cut["A"], disc, atol=1e-6)


def test_a_matte_and_its_inverse_add_up_to_the_picture(files):
    document = comp(files)
    halves = [drawn(with_matte(document, "back", {**DISC, "inverted": i})) for i in (False, True)]
    whole = drawn(document)
    for n in "RGBA":
        np.testing.assert_allclose(halves[0][n] + halves[1][n], whole[n], atol=1e-6)


def test_a_matte_source_that_is_hidden_changes_nothing_but_its_effect(files):
    document = with_matte(comp(files), "back", DISC)
    assert not document.layers[1].shown
    whole = Evaluator(LocalDecoder()).picture(document, 1)
    np.testing.assert_array_equal(whole["G"], drawn(document)["G"])


@pytest.mark.parametrize(("read", "expected"), [("source", 1.0), ("steps", 0.5), ("placed", 0.5)])
def test_before_or_after_the_sources_own_steps(files, read, expected):
    half = [{"kind": "levels", "channels": "a", "out_white": 0.5}]
    document = with_matte(comp(files, disc=half), "back", {**DISC, "read": read})
    assert drawn(document)["A"].max() == pytest.approx(expected, abs=1e-4)


def test_as_it_lies_in_the_comp_follows_both_places(files):
    """The source moved right by 7 and the cut layer down by 5: the hole is where both lie."""
    moved = comp(files, transform={"x": 7})
    data = with_matte(moved, "back", {**DISC, "read": "placed"}).model_dump(mode="json")
    data["layers"][0]["transform"] = {"y": 5}
    got = drawn(parse_comp(data))["A"]
    disc = alpha_of(moved)
    np.testing.assert_allclose(got[5:], disc[5:], atol=1e-5)
    held = with_matte(moved, "back", {**DISC, "read": "steps"})
    np.testing.assert_allclose(drawn(held)["A"], alpha_of(comp(files)), atol=1e-6)


def test_as_it_lies_turned_and_smaller_is_the_same_resampling(files):
    turned = comp(files, transform={"x": 4.5, "rotation": 20, "scale": 0.8, "filter": "linear"})
    document = with_matte(turned, "back", {**DISC, "read": "placed"})
    np.testing.assert_allclose(drawn(document)["A"], alpha_of(turned), atol=2e-3)


def test_at_a_level_the_matte_is_that_of_the_level(files):
    document = with_matte(comp(files), "back", DISC, grow=2)
    full, half = drawn(document)["A"], drawn(document, level=1)["A"]
    small = full.reshape(24, 2, 32, 2).mean((1, 3))
    assert np.abs(half - small).mean() < 0.01


def test_a_step_acts_through_a_matte_inverted_in_one_field(files):
    """Levels on the sky alone through an alpha made for it; the common-practice example, 255 to 200, 1.5."""
    through = {"by": "matte", "matte": {"parts": [DISC]}}
    levels = {"kind": "levels", "space": "codes", "in_white": 200 / 255, "gamma": 1.5}
    plain, all_over = drawn(comp(files)), drawn(comp(files, plate=[levels]))
    disc = alpha_of(comp(files))
    for inverted, share in ((False, disc), (True, 1 - disc)):
        got = drawn(comp(files, plate=[{**levels, "through": {**through, "inverted": inverted}}]))
        expected = plain["G"] + share * (all_over["G"] - plain["G"])
        np.testing.assert_allclose(got["G"], expected, atol=2e-6)
    blur = {"kind": "blur", "size": 2}
    soft, part = (drawn(comp(files, plate=[{**blur, **t}])) for t in ({}, {"through": through}))
    np.testing.assert_allclose(part["R"], plain["R"] + disc * (soft["R"] - plain["R"]), atol=2e-6)


def test_luma_of_the_layer_itself_after_its_steps(files):
    """Reeds against a sky: the picture's own brightness, inverted, crushed."""
    own = {"source": "", "channel": "luma", "space": "light", "low": 0.3, "high": 0.6, "inverted": True}
    plain = drawn(comp(files))
    luma = 0.2126 * plain["R"] + 0.7152 * plain["G"] + 0.0722 * plain["B"]
    got = drawn(with_matte(comp(files), "back", own))
    np.testing.assert_allclose(got["A"], 1 - np.clip((luma - 0.3) / 0.3, 0, 1), atol=2e-5)
    brighter = comp(files, plate=[{"kind": "exposure", "stops": 1}])
    got = drawn(with_matte(brighter, "back", own))
    np.testing.assert_allclose(got["A"], 1 - np.clip((2 * luma - 0.3) / 0.3, 0, 1), atol=5e-5)


def test_a_soft_range_of_the_depth_in_the_file(deep):
    planes, _, folder = deep
    part = {"source": "", "channel": "depth.Z", "shape": "range", "low": 3, "high": 5, "soft": 1}
    element = {"name": "deep", "file": str(folder / "deep.exr"), "still": True, "encoding": "linear",
               "reading": {"alpha": "premultiplied"}}  # fmt: skip
    layer = {"id": "back", "name": "deep", "element": "x", "matte": {"parts": [part]}}
    got = drawn(parse_comp({"width": 64, "height": 48, "elements": {"x": element}, "layers": [layer]}))
    away = np.maximum(3 - planes["depth.Z"], planes["depth.Z"] - 5)
    np.testing.assert_allclose(got["A"], np.clip(1 - away, 0, 1), atol=1e-5)


def test_a_circle_of_mattes_is_refused_with_the_loop(files):
    document = with_matte(comp(files), "back", DISC).model_dump(mode="json")
    document["layers"][1]["matte"] = {"parts": [{"source": "layer:back"}]}
    with pytest.raises(DocumentRefused, match="plate takes disc takes plate"):
        parse_comp(document)


def test_a_matte_that_is_gone_is_named_and_the_rest_shows(files):
    document = with_matte(comp(files), "front", {"source": "layer:nobody"})
    failed = []
    got = Evaluator(LocalDecoder()).picture(document, 1, failed=failed)
    np.testing.assert_array_equal(got["R"], drawn(comp(files))["R"])
    assert [e.where for e in failed] == ["disc"]
    with pytest.raises(NeatVeilError, match="any more"):
        drawn(document, only="front")


def test_what_takes_a_layer_that_cannot_be_drawn_is_named_with_it(files):
    document = with_matte(comp(files, disc=[{"kind": "gloww"}]), "back", DISC)
    failed = []
    Evaluator(LocalDecoder()).picture(document, 1, failed=failed)
    (problem,) = failed
    assert problem.where == "plate"
    assert problem.message.startswith("Layer plate: ")
    assert "gloww" in problem.message


def test_an_animated_matte_changes_with_the_frame(files):
    keys = {"high": {"keys": [{"frame": 1, "value": 1, "way": "linear"}, {"frame": 3, "value": 2}]}}
    document = with_matte(comp(files), "back", {"source": "", "keys": keys})
    assert drawn(document, 1)["A"].max() == pytest.approx(1)
    assert drawn(document, 2)["A"].max() == pytest.approx(1 / 1.5, abs=1e-5)
