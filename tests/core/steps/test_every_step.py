"""What holds for every step, whatever it does: windows, channels, mixes, levels, numbers that are none."""

import numpy as np
import pytest
from core.pictures import premultiplied, soft_disc
from core.steps.stepping import done, step, windowed
from neatveil.picture import Box, PremultipliedPicture, cut, whole_frame
from neatveil.steps import STEPS
from neatveil.steps.apply import apply_steps
from neatveil.steps.base import FieldStep

#: Each kind far enough from rest to change the picture.
MOVED = {
    "levels": {"in_black": 0.05, "gamma": 1.4},
    "curve": {"points": ((0, 0), (0.4, 0.55), (1, 1))},
    "tone": {"contrast": 1.2, "saturation": 0.7},
    "exposure": {"stops": 0.6},
    "hue": {"rotation": 35},
    "clamp": {"low": 0.1, "high": 0.6},
    "invert": {},
    "despill": {"amount": 1.0},
    "blur": {"size": 2.0},
    "sharpen": {"size": 1.5, "amount": 0.8},
    "grow_shrink": {"size": 1.5},
    "extend": {},
    "median": {"size": 2},
    "grain": {"amount": (0.1, 0.1, 0.1)},
    "transform": {"x": 3.25, "y": -2.5, "rotation": 12, "scale": 0.9},
    "corner_pin": {"top_left": (3.0, 2.0)},
    "flip": {},
    "tile": {},
    "crop": {"left": 7},
    "falloff": {"width": 30, "height": 24, "soft": 6},
    "glow": {"size": 3.0, "threshold": 0.1, "gain": 0.5},
    "patch": {"routes": {"R": {"channel": "G"}}},
    "combine": {},
    "uv_map": {"laid": "alone"},  # alone: with a picture it is in test_uv_map.py
    "motion_blur": {},  # alone: with vectors it is in test_motion_blur.py
    "depth_blur": {},  # alone: with a depth it is in test_depth_blur.py
    "fog": {},  # these alone: with data they are in test_distance_steps.py
    "relight": {},
    "light_wrap": {},  # alone: what it does with a plate is in test_light_wrap.py
}
KINDS = sorted(k for k in STEPS if k in MOVED)
DISC = premultiplied(soft_disc(colour=(0.7, 0.35, 0.2)))


def moved(kind, **more):
    known = STEPS[kind].model_fields
    return step(kind, **{k: v for k, v in {**MOVED[kind], **more}.items() if k in known})


def changes(one):
    return not np.array_equal(done(DISC, one), DISC)


def test_no_kind_is_left_out():
    assert set(STEPS) == set(MOVED)


@pytest.mark.parametrize("kind", KINDS)
def test_a_step_survives_json_and_says_what_it_does(kind):
    one = moved(kind)
    again = STEPS[kind].model_validate_json(one.model_dump_json())
    assert again == one
    assert one.words()
    assert STEPS[kind].title
    np.testing.assert_array_equal(done(DISC, again), done(DISC, one))


@pytest.mark.parametrize("kind", KINDS)
def test_the_picture_that_is_given_is_not_written_to(kind):
    picture = PremultipliedPicture.from_rgba(DISC)
    before = {n: p.tobytes() for n, p in picture.planes.items()}
    apply_steps(picture, [moved(kind)], 0, 1)
    assert {n: p.tobytes() for n, p in picture.planes.items()} == before


@pytest.mark.parametrize("kind", KINDS)
def test_what_is_cut_close_is_the_same_as_the_whole_frame(kind):
    """A picture carried without its empty border: pixels beyond its window are 0, and stay what they were."""
    y, x = np.nonzero(DISC[..., 3])
    window = Box(int(x.min()), int(y.min()), int(x.max()) + 1, int(y.max()) + 1)
    part = windowed(DISC[window.y0 : window.y1, window.x0 : window.x1], (window.x0, window.y0), (64, 48))
    got = whole_frame(apply_steps(part, [moved(kind)], 0, 1)).rgba()
    np.testing.assert_allclose(got, done(DISC, moved(kind)), atol=1e-4)


@pytest.mark.parametrize("letter", "rgba")
@pytest.mark.parametrize("kind", KINDS)
def test_channels_that_are_off_keep_every_bit(kind, letter):
    if "channels" not in STEPS[kind].model_fields:
        pytest.skip("it has no channels")
    if kind == "patch":
        pytest.skip("its routes say what comes out")
    try:
        one = moved(kind, channels=letter)
    except ValueError:
        pytest.skip("it does not act on that channel")
    got = done(DISC, one)
    if letter == "a":  # under another alpha the same surface is other numbers
        inside = (DISC[..., 3] > 0.99) & (got[..., 3] > 0.99)
        np.testing.assert_allclose(got[inside][:, :3] / got[inside][:, 3:], DISC[inside][:, :3], atol=0.02)
        return
    for i, other in enumerate("rgba"):
        if other != letter:
            np.testing.assert_array_equal(got[..., i], DISC[..., i], err_msg=other)


@pytest.mark.parametrize("kind", KINDS)
def test_no_mix_and_off_are_the_picture_itself(kind):
    np.testing.assert_array_equal(done(DISC, moved(kind, mix=0.0)), DISC)
    off = [s for s in (moved(kind, on=False),) if s.on]
    np.testing.assert_array_equal(done(DISC, *off), DISC)


@pytest.mark.parametrize("kind", KINDS)
def test_half_the_mix_lies_half_way(kind):
    full, half = done(DISC, moved(kind)), done(DISC, moved(kind, mix=0.5))
    np.testing.assert_allclose(half, (DISC + full) / 2, atol=1e-5)


@pytest.mark.parametrize("kind", KINDS)
def test_a_shape_keeps_the_rest_as_it_was(kind):
    inside = {"by": "rectangle", "x": -16.0, "width": 32.0, "height": 200.0, "soft": 0.0}
    got, full = done(DISC, moved(kind, through=inside)), done(DISC, moved(kind))
    np.testing.assert_allclose(got[:, 34:], DISC[:, 34:], atol=1e-6)
    np.testing.assert_allclose(got[:, 2:30], full[:, 2:30], atol=1e-5)


@pytest.mark.parametrize("kind", sorted(k for k in KINDS if issubclass(STEPS[k], FieldStep)))
def test_what_is_no_number_does_not_spread(kind):
    """NaN and infinity count as 0 for a step that looks around: no other pixel becomes one."""
    bad = DISC.copy()
    bad[20, 30] = (np.nan, np.inf, -np.inf, 1.0)
    got = done(bad, moved(kind))
    assert (~np.isfinite(got)).any(axis=-1).sum() <= 1


@pytest.mark.parametrize("kind", KINDS)
def test_nothing_stays_nothing_where_nothing_is(kind):
    """A clear picture has neither surface nor light to be changed."""
    if kind == "invert":
        assert not done(np.zeros((8, 9, 4), np.float32), moved(kind)).any()
        return
    assert not done(np.zeros((20, 30, 4), np.float32), moved(kind)).any()


@pytest.mark.parametrize("kind", [k for k in KINDS if k not in {"grain", "median"}])
def test_at_half_the_size_it_is_the_same_step(kind):
    """Lengths go with the level: the half of the result is near the result of the half."""
    smooth = premultiplied(soft_disc(96, 128, colour=(0.7, 0.35, 0.2)))
    for _ in range(2):  # softer than a step could tell by single pixels
        smooth = done(smooth, step("blur", size=3.0))
    halved = smooth.reshape(48, 2, 64, 2, 4).mean((1, 3))
    full = done(smooth, moved(kind))
    expected = full.reshape(48, 2, 64, 2, 4).mean((1, 3))
    got = done(halved, moved(kind), level=1)
    assert np.abs(got - expected)[4:-4, 4:-4].mean() < 0.01
    assert np.abs(got - expected)[4:-4, 4:-4].max() < 0.12


@pytest.mark.parametrize("kind", KINDS)
def test_a_part_of_the_result_is_the_same_part(kind):
    """Cutting a result does not change it: windows are honest about where values lie."""
    result = apply_steps(PremultipliedPicture.from_rgba(DISC), [moved(kind)], 0, 1)
    area = Box(10, 5, 40, 30)
    whole = whole_frame(result).rgba()
    np.testing.assert_array_equal(cut(result, area).rgba(), whole[area.y0 : area.y1, area.x0 : area.x1])
