"""Tone and grain of a plate given to a layer; measured against noise and filters of NumPy and SciPy."""

import numpy as np
import pytest
import scipy.ndimage as ndi
from core.reference.pictures import Arrays
from hypothesis import given, settings
from hypothesis import strategies as st
from neatveil.comp.loading import parse_comp
from neatveil.errors import ValueRefused
from neatveil.evaluate import Evaluator
from neatveil.picture import Box
from neatveil.steps.tone import ToneStep
from neatveil.view.matching import grain_of, match_grain, match_tone, tone_between

HEIGHT, WIDTH = 96, 128
ALL = Box(0, 0, WIDTH, HEIGHT)
LUMA = np.array([0.2126, 0.7152, 0.0722])  # BT.709-6, item 3.2


def scene(seed, count=4000):
    rng = np.random.default_rng(seed)
    return rng.random((count, 1)) * 0.7 * (0.6 + 0.4 * rng.random((count, 3)))


def toned(pixels, gain, offset, saturation):
    pixels = pixels * gain + offset
    luma = (pixels @ LUMA)[:, None]
    return luma + saturation * (pixels - luma)


def noise(seed, amount, size):
    """White noise through SciPy's Gaussian, scaled to a standard deviation."""
    rows = np.random.default_rng(seed).standard_normal((3, 200, 220))
    if size:
        rows = np.stack([ndi.gaussian_filter(r, size) for r in rows])
    return np.moveaxis(rows / rows.std(axis=(1, 2), keepdims=True) * np.reshape(amount, (3, 1, 1)), 0, -1)


@settings(deadline=None, max_examples=25)
@given(
    st.integers(0, 99), st.tuples(*[st.floats(0.4, 2.0)] * 3), st.tuples(*[st.floats(-0.05, 0.1)] * 3),
    st.sampled_from([0.5, 0.8, 1.0, 1.3]),
)  # fmt: skip
def test_black_white_and_saturation_of_the_plate_come_out(seed, gain, offset, saturation):
    """The same surfaces under another exposure, haze and saturation are found again."""
    own = scene(seed)
    target = toned(own, gain, offset, saturation)
    step = tone_between(own, target)
    got = toned(own, step.gain, step.offset, step.saturation)
    ends = np.percentile(target, [2, 98], axis=0)
    spread = ends[1] - ends[0]
    assert (np.abs(np.percentile(got, [2, 98], axis=0) - ends) <= 0.04 * spread + 1e-3).all()
    assert np.abs(got - target).mean() < 0.03 * spread.mean()


def test_what_needs_nothing_is_left():
    own = scene(3)
    step = tone_between(own, own)
    assert step.gain == pytest.approx((1, 1, 1), abs=0.02)
    assert step.offset == pytest.approx((0, 0, 0), abs=0.005)
    assert step.saturation == pytest.approx(1, abs=0.02)


def test_greys_keep_their_saturation():
    ramp = np.linspace(0.1, 0.6, 500)[:, None] * np.ones(3)
    step = tone_between(ramp, ramp * [1.2, 1.0, 0.8] + 0.05)
    assert step.saturation == 1
    assert step.gain == pytest.approx((1.2, 1.0, 0.8), rel=1e-3)
    assert step.offset == pytest.approx((0.05,) * 3, abs=1e-3)


@pytest.mark.parametrize("size", [0, 0.5, 0.8, 1.2, 2.0, 3.0])
def test_amount_and_size_of_grain_are_measured_on_a_slope(size):
    """Size within a tenth or 0.05 px, amount within 5 %: SciPy's filter of 44,000 deviates."""
    amount = np.array([0.01, 0.02, 0.015])
    y, x = np.mgrid[:200, :220] / 220
    slope = 0.2 + 0.3 * x[..., None] + 0.1 * (y * y)[..., None]
    got, found = grain_of((slope + noise(5, amount, size)).astype(np.float32))
    assert got == pytest.approx(amount, rel=0.05)
    assert found == pytest.approx(size, rel=0.1, abs=0.05 if size else 0.25)


def comp(**layer):
    files = {"plate": PLATE, "cg": CG}
    reading = {"reading": {"alpha": "premultiplied"}, "encoding": "linear", "still": True}
    elements = {n: {"file": n, **reading} for n in files}
    layers = [
        {"id": "plate", "name": "plate", "element": "plate"},
        {"id": "cg", "name": "cg", "element": "cg", **layer},
    ]
    size = {"width": WIDTH, "height": HEIGHT, "first": 1, "last": 3}
    return parse_comp({"neatveil": 3, **size, "elements": elements, "layers": layers})


def opaque(rgb):
    return [np.concatenate([rgb, np.ones((*rgb.shape[:2], 1))], -1).astype(np.float32)]


PLATE = opaque(0.3 + noise(2, [0.02] * 3, 1.0)[:HEIGHT, :WIDTH])
CG = opaque(np.full((HEIGHT, WIDTH, 3), 0.3))


def drawn_with(document, step):
    steps = [*document.layer("cg").steps, step]
    document = document.with_layer("cg", {"steps": tuple(steps)})
    return Evaluator(Arrays({"plate": PLATE, "cg": CG})).picture(document, 1).rgba()[..., :3]


def test_a_clean_layer_gets_the_grain_of_its_plate():
    evaluator = Evaluator(Arrays({"plate": PLATE, "cg": CG}))
    step = match_grain(evaluator, comp(), 1, "cg", ALL, "plate", ALL)
    have, want = (grain_of(p) for p in (drawn_with(comp(), step), PLATE[0][..., :3]))
    assert have[0] == pytest.approx(want[0], rel=0.08)
    assert have[1] == pytest.approx(want[1], rel=0.1)


def test_of_the_grain_that_is_there_only_the_rest_is_added():
    evaluator = Evaluator(Arrays({"plate": PLATE, "cg": CG}))
    some = {"kind": "grain", "amount": (0.012,) * 3, "size": 1.0, "tone": 0.0, "seed": 8}
    step = match_grain(evaluator, comp(steps=[some]), 1, "cg", ALL, "plate", ALL)
    assert step.amount == pytest.approx((0.016,) * 3, rel=0.1)
    more = {**some, "amount": (0.05,) * 3}
    with pytest.raises(ValueRefused, match="as much grain there as the plate already"):
        match_grain(evaluator, comp(steps=[more]), 1, "cg", ALL, "plate", ALL)


def test_regions_lie_where_they_are_seen():
    """Half of the plate is brighter; the layer is moved: both boxes are the comp's."""
    bright = PLATE[0].copy()
    bright[:, WIDTH // 2 :, :3] = scene(1, HEIGHT * WIDTH // 2).reshape(HEIGHT, WIDTH // 2, 3)
    own = CG[0].copy()
    own[:, : WIDTH // 2, :3] = scene(1, HEIGHT * WIDTH // 2).reshape(HEIGHT, WIDTH // 2, 3) / 2
    files = {"plate": [bright], "cg": [own]}
    document = comp(transform={"x": 20})
    here, there = Box(20, 0, 20 + WIDTH // 2, HEIGHT), Box(WIDTH // 2, 0, WIDTH, HEIGHT)
    step = match_tone(Evaluator(Arrays(files)), document, 1, "cg", here, "plate", there)
    assert step.gain == pytest.approx((2, 2, 2), rel=0.02)
    assert isinstance(step, ToneStep)


@pytest.mark.parametrize(
    ("own", "there", "says"),
    [
        (Box(500, 0, 520, 9), ALL, "Nothing of the layer is marked"),
        (ALL, Box(-90, 0, -20, 9), "Nothing of the plate is marked"),
        (ALL, ALL, "one tone only"),
    ],
)
def test_regions_that_say_nothing_are_refused(own, there, says):
    files = {"plate": opaque(np.full((HEIGHT, WIDTH, 3), 0.4)), "cg": CG}
    with pytest.raises(ValueRefused, match=says):
        match_tone(Evaluator(Arrays(files)), comp(), 1, "cg", own, "plate", there)


def test_grain_needs_a_flat_piece_of_some_size():
    evaluator = Evaluator(Arrays({"plate": PLATE, "cg": CG}))
    with pytest.raises(ValueRefused, match="9 x 9 pixels: too small"):
        match_grain(evaluator, comp(), 1, "cg", ALL, "plate", Box(3, 3, 12, 12))
    half = comp(transform={"scale": 0.5})
    with pytest.raises(ValueRefused, match="does not cover all"):
        match_grain(
            Evaluator(Arrays({"plate": PLATE, "cg": [CG[0] * np.float32(0.5)]})),
            half,
            1,
            "cg",
            ALL,
            "plate",
            ALL,
        )
