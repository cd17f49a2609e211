"""Numbers under the pointer: what is seen, the surface's colour, its codes, and what the file holds."""

import numpy as np
import pytest
from core.pictures import premultiplied, save_png, soft_disc
from neatveil.comp.loading import parse_comp
from neatveil.errors import DocumentRefused
from neatveil.evaluate import Evaluator
from neatveil.io import LocalDecoder
from neatveil.view import sample, sample_element
from neatveil.view.values import with_straight


@pytest.fixture
def disc(tmp_path):
    """A comp of 64 x 48 with a straight soft disc in 8 bits, alone; and the disc's codes."""
    save_png(tmp_path / "disc.png", soft_disc())
    document = parse_comp({
        "width": 64, "height": 48, "first": 1, "last": 2,
        "elements": {"d": {"file": str(tmp_path / "disc.png"), "still": True, "encoding": "srgb",
                           "reading": {"alpha": "straight"}}},
        "layers": [{"id": "a", "name": "disc", "element": "d"}],
    })  # fmt: skip
    return document, np.rint(soft_disc() * 255) / 255


def light(code):
    """IEC 61966-2-1."""
    return np.where(code <= 0.04045, code / 12.92, ((code + 0.055) / 1.055) ** 2.4)


@pytest.mark.parametrize(("x", "y"), [(32, 24), (20, 24), (45, 30), (18, 20)])
def test_all_of_one_pixel(disc, x, y):
    document, codes = disc
    got = sample(Evaluator(LocalDecoder()), document, 1, x, y, "a")
    r, g, b, a = codes[y, x]
    straight = [*light(np.array([r, g, b])), a]
    np.testing.assert_allclose(got.stored, (r, g, b, a), atol=1e-6)
    np.testing.assert_allclose(got.result, [*(v * a for v in straight[:3]), a], atol=1e-5)
    if a > 0:
        np.testing.assert_allclose(got.straight, straight, atol=1e-5)
        np.testing.assert_allclose(got.code[:3], np.array([r, g, b]) * 255, atol=0.02)
    else:
        assert got.straight is None
    assert got.code[3] == pytest.approx(a * 255, abs=1e-3)


def test_a_moved_layer_is_asked_where_it_lies(disc):
    document, codes = disc
    layer = document.layers[0]
    moved = layer.model_copy(update={"transform": layer.transform.model_copy(update={"x": 10.0, "y": -6.0})})
    there = document.model_copy(update={"layers": (moved,)})
    evaluator = Evaluator(LocalDecoder())
    got = sample(evaluator, there, 1, 42, 18, "a")
    np.testing.assert_allclose(got.stored, codes[24, 32], atol=1e-6)
    assert sample(evaluator, there, 1, 3, 47, "a").stored is None, "beside the layer"


def test_without_a_layer_nothing_is_asked_of_a_file(disc):
    document, _ = disc
    evaluator = Evaluator(LocalDecoder())
    got = sample(evaluator, document, 1, 32, 24)
    assert got.stored is None
    assert got.result == sample(evaluator, document, 1, 32, 24, "a").result


def test_one_layer_alone_and_the_pile_up_to_it(disc):
    document, _ = disc
    red = document.layers[0].model_copy(update={"id": "b", "name": "again", "operator": "screen"})
    both = document.model_copy(update={"layers": (*document.layers, red)})
    evaluator = Evaluator(LocalDecoder())
    whole, upto, alone = (
        sample(evaluator, both, 1, 32, 24, "a", extent=extent).result for extent in ("comp", "upto", "layer")
    )
    assert upto == alone
    assert whole[0] > alone[0]


def test_an_element_by_itself_as_read_and_as_stored(disc):
    document, codes = disc
    got = sample_element(Evaluator(LocalDecoder()), document.elements["d"], 0, 20, 24)
    np.testing.assert_allclose(got.stored, codes[24, 20], atol=1e-6)
    np.testing.assert_allclose(got.result[3], codes[24, 20, 3], atol=1e-6)


def test_light_where_alpha_is_0_has_no_straight_colour_and_keeps_its_code():
    got = with_straight((0.5, 0.25, 0.0, 0.0), None)
    assert got.straight is None
    # IEC 61966-2-1: light 0.5 is code 187.5 of 255
    assert got.code[0] == pytest.approx(187.516, abs=0.01)


def test_above_white_is_a_code_above_255():
    got = with_straight((4.0, 1.0, 0.0, 1.0), None)
    assert got.code[0] > 255
    assert got.code[1] == pytest.approx(255, abs=1e-3)


def test_a_layer_that_is_not_there_is_refused_by_name(disc):
    document, _ = disc
    with pytest.raises(DocumentRefused, match="has no layer 'gone'"):
        sample(Evaluator(LocalDecoder()), document, 1, 3, 3, "gone")


def test_premultiplied_numbers_are_those_of_the_whole_picture(disc):
    document, codes = disc
    evaluator = Evaluator(LocalDecoder())
    whole = evaluator.picture(document, 1).rgba()
    straight = np.dstack([light(codes[..., :3]), codes[..., 3]])
    np.testing.assert_allclose(whole, premultiplied(straight.astype(np.float32)), atol=1e-5)
    for x, y in ((0, 0), (31, 10), (63, 47)):
        np.testing.assert_array_equal(sample(evaluator, document, 1, x, y).result, whole[y, x])
