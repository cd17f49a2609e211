"""Light of the plate over an edge: against SciPy's Gaussian, and wherever the layer lies."""

import numpy as np
import pytest
import scipy.ndimage as ndi
from core.pictures import premultiplied, soft_disc
from core.reference.pictures import Arrays
from neatveil.comp.loading import parse_comp
from neatveil.evaluate import Evaluator

SIZE = HEIGHT, WIDTH = 48, 64
DISC = premultiplied(soft_disc(colour=(0.1, 0.1, 0.1))).astype(np.float32)
PLATE = np.ones((*SIZE, 4), np.float32) * np.float32([0.8, 0.5, 0.2, 1])
PLATE[:, :20, :3] = 0


def wrapped(plate=PLATE, disc=DISC, transform=None, **step):
    files = {"plate": [plate], "disc": [disc]}
    how = {"reading": {"alpha": "premultiplied"}, "encoding": "linear", "still": True}
    step = {"kind": "light_wrap", "second": "layer:plate", **step}
    layers = [
        {"id": "plate", "name": "plate", "element": "plate"},
        {"id": "disc", "name": "disc", "element": "disc", "steps": [step], "transform": transform or {}},
    ]
    document = parse_comp(
        {
            "neatveil": 3, "width": WIDTH, "height": HEIGHT, "layers": layers,
            "elements": {n: {"file": n, **how} for n in files},
        }
    )  # fmt: skip
    return Evaluator(Arrays(files)).picture(document, 1, only="disc").rgba()


def expected(disc, plate, size, gain):
    """The formula, with SciPy's Gaussian cut at 4 deviations, its edges repeated."""
    beside = plate[..., :3].astype(float) * (1 - disc[..., 3:])
    light = ndi.gaussian_filter(beside, (size, size, 0), mode="nearest", truncate=4)
    out = disc.astype(float).copy()
    out[..., :3] += gain * disc[..., 3:] * light
    return out


@pytest.mark.parametrize("size", [1.0, 3.0, 6.5])
def test_the_plate_beside_the_layer_spreads_into_it(size):
    got = wrapped(size=size, gain=0.7)
    np.testing.assert_allclose(got, expected(DISC, PLATE, size, 0.7), atol=1.5e-3)
    assert (got[..., :3] - DISC[..., :3])[24, 32].max() < (got[..., :3] - DISC[..., :3])[24, 45].max()


def test_alpha_stays_and_nothing_appears_beside_it():
    got = wrapped(size=6.0, gain=1.0)
    np.testing.assert_array_equal(got[..., 3], DISC[..., 3])
    assert not got[DISC[..., 3] == 0].any()


def test_where_the_plate_is_dark_there_is_no_light():
    assert wrapped(plate=PLATE * np.float32([0, 0, 0, 1])) == pytest.approx(DISC)


def test_a_layer_that_is_moved_takes_the_light_of_where_it_lies():
    """Moved by whole pixels: the same as the formula on the moved disc."""
    moved = np.roll(DISC, (0, -12), (0, 1))
    got = wrapped(transform={"x": -12}, size=2.0, gain=0.7)
    inside = np.zeros(SIZE, bool)
    inside[:, 4:40] = True  # the layer's own frame ends at its right
    np.testing.assert_allclose(got[inside], expected(moved, PLATE, 2.0, 0.7)[inside], atol=2e-3)
    centred = wrapped(transform={"x": -12}, size=2.0, gain=0.7, fit="centre")
    assert np.abs(centred - got).max() > 0.05, "the check can fail"


def test_screened_it_never_passes_white():
    bright = DISC * np.float32([9.5, 9.5, 9.5, 1])
    assert wrapped(disc=bright, size=3.0, gain=1.0, blend="screen")[..., :3].max() <= 1
    assert wrapped(disc=bright, size=3.0, gain=1.0)[..., :3].max() > 1


def test_numbers_that_are_none_in_the_plate_do_not_spread():
    broken = PLATE.copy()
    broken[20, 50] = np.nan
    got = wrapped(plate=broken, size=3.0)
    assert np.isfinite(got).all()
    assert np.abs(got - wrapped(size=3.0)).max() < 0.05
