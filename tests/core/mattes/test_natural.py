"""Edges found in the picture: against Levin's formula written out, a closed form, and known alphas."""

from __future__ import annotations

import cv2
import numpy as np
import pytest
from core.reference.mattes import laplacian
from neatveil.arrays import matte as matte_of
from neatveil.errors import ValueRefused
from neatveil.mattes import KeyPart, natural
from neatveil.mattes.natural import EPSILON, colour_in_front, edge_found, sketch_of
from neatveil.mattes.scores import matte_errors
from pymatting import estimate_alpha_cf

from .shots import CARD, keyed, shots


def planes_of(light):
    return {n: np.ascontiguousarray(light[..., i], np.float32) for i, n in enumerate("RGB")} | {
        "A": np.ones(light.shape[:2], np.float32)
    }


def blurred_disc(height, width, blur=2.0):
    y, x = np.mgrid[:height, :width]
    disc = (np.hypot(x - width / 2, y - height / 2) < height / 3).astype(np.float32)
    return cv2.GaussianBlur(disc, (0, 0), blur)


@pytest.mark.parametrize("trust", [0.0001, 0.01, 0.5])
def test_it_solves_levins_system(trust):
    rng = np.random.default_rng(3)
    rough = blurred_disc(18, 21, 0.8)
    light = np.clip(rough[..., None] * [0.7, 0.4, 0.2] + (1 - rough[..., None]) * [0.1, 0.3, 0.5], 0, 1)
    light = (light + rng.normal(0, 0.03, light.shape)).clip(0.01, 1).astype(np.float32)
    rough = np.clip(rough + rng.normal(0, 0.02, rough.shape), 0, 1).astype(np.float32)
    core, unknown = (p.reshape(-1) for p in sketch_of(rough, 1.0))
    system = laplacian(light.astype(np.float64)) + trust * np.eye(core.size)
    known = np.where(unknown, 0, core).astype(float)
    wanted = (trust * rough.reshape(-1) - system @ known)[unknown]
    expected = known.copy()
    expected[unknown] = np.clip(np.linalg.solve(system[np.ix_(unknown, unknown)], wanted), 0, 1)
    got = edge_found(planes_of(light), rough, 1.0, trust)
    np.testing.assert_allclose(got.reshape(-1), expected, atol=2e-3)


def test_two_plain_colours_give_back_the_alpha():
    """Where both colours are constant the alpha is linear in the picture: found exactly, from any band."""
    true = blurred_disc(60, 80, 2.0)
    light = true[..., None] * np.array([0.8, 0.3, 0.1]) + (1 - true[..., None]) * np.array([0.1, 0.2, 0.6])
    crushed = np.clip((true - 0.45) * 10, 0, 1).astype(np.float32)
    got = edge_found(planes_of(light), crushed, 8.0, 0.0)
    assert np.abs(crushed - true).max() > 0.4
    assert np.abs(got - true).max() < 0.02


def test_it_is_the_librarys_own_answer():
    """PyMatting's `estimate_alpha_cf`, by three tones."""
    rng = np.random.default_rng(8)
    true = blurred_disc(50, 60, 3.0)
    light = true[..., None] * np.array([0.6, 0.5, 0.1]) + (1 - true[..., None]) * np.array([0.2, 0.2, 0.7])
    light = (light + 0.05 * cv2.GaussianBlur(rng.normal(0, 1, light.shape), (0, 0), 2)).clip(0, 1)
    rough = np.clip((true - 0.4) * 5, 0, 1).astype(np.float32)
    core, unknown = sketch_of(rough, 3.0)
    tones = np.where(unknown, 0.5, core.astype(float))
    expected = estimate_alpha_cf(light.astype(np.float32).astype(float), tones,
                                 laplacian_kwargs={"epsilon": EPSILON})  # fmt: skip
    got = edge_found(planes_of(light), rough, 3.0, 0.0)
    assert np.abs(got - expected).mean() < 2e-3
    assert np.abs(got - expected).max() < 0.05


def test_hair_is_nearer_than_the_key_that_it_begins_with():
    """The four errors of Rhemann and others 2009, on a shot whose alpha is known."""
    shot = next(s for s in shots() if s.name == "grey, hair")
    colour = tuple(float(v) for v in CARD)
    key = keyed(shot.planes, KeyPart(screen_colour=colour, black=0.3, white=0.7))
    before = matte_errors(key, shot.alpha)
    after = matte_errors(edge_found(shot.planes, key, 12.0, 0.001), shot.alpha)
    assert after.sad < 0.7 * before.sad
    assert after.mse < 0.7 * before.mse


def test_large_edges_are_solved_at_half_size(monkeypatch):
    true = blurred_disc(120, 160, 2.0)
    light = true[..., None] * np.array([0.8, 0.3, 0.1]) + (1 - true[..., None]) * np.array([0.1, 0.2, 0.6])
    rough = np.clip((true - 0.45) * 10, 0, 1).astype(np.float32)
    whole = edge_found(planes_of(light), rough, 8.0, 0.001)
    monkeypatch.setattr(natural, "MOST_UNKNOWN", 2000)
    halved = edge_found(planes_of(light), rough, 8.0, 0.001)
    assert 0 < np.abs(halved - whole).mean() < 0.01


@pytest.mark.parametrize(("rough", "said"), [
    (np.full((30, 30), 0.5, np.float32), "nothing is kept"),
    (blurred_disc(30, 30, 6.0), "nothing is kept"),
    (np.maximum(blurred_disc(30, 30), 0.3), "nothing is removed"),
])  # fmt: skip
def test_a_sketch_without_core_or_garbage_is_refused(rough, said):
    planes = planes_of(np.full((30, 30, 3), 0.2, np.float32))
    with pytest.raises(ValueRefused, match=said):
        edge_found(planes, rough, 3.0, 0.001)


def test_a_band_that_leaves_no_core_is_halved_until_one_is_left():
    true = blurred_disc(40, 50, 1.0)
    light = true[..., None] * np.array([0.8, 0.3, 0.1]) + (1 - true[..., None]) * np.array([0.1, 0.2, 0.6])
    wide, narrow = (edge_found(planes_of(light), true, band, 0.001) for band in (24.0, 6.0))
    np.testing.assert_array_equal(wide, narrow)
    assert np.abs(wide - true).max() < 0.02


def test_nothing_to_find_is_left_as_it_is():
    planes = planes_of(np.full((9, 9, 3), 0.2, np.float32))
    for value in (0.0, 1.0):
        got = edge_found(planes, np.full((9, 9), value, np.float32), 3.0, 0.001)
        assert (got == value).all()


def test_light_above_white_counts_like_other_light():
    true = blurred_disc(60, 80, 2.0)
    light = true[..., None] * np.array([0.8, 0.3, 0.1]) + (1 - true[..., None]) * np.array([0.1, 0.2, 0.6])
    rough = np.clip((true - 0.45) * 10, 0, 1).astype(np.float32)
    got = edge_found(planes_of(light * 40), rough, 8.0, 0.0)
    assert np.abs(got - true).max() < 0.02


@pytest.mark.parametrize("most", [1.0, 30.0])
def test_the_colour_in_front_is_freed_of_what_lay_behind(most):
    true = blurred_disc(60, 80, 3.0)
    front, back = np.array([0.8, 0.3, 0.1]) * most, np.array([0.1, 0.2, 0.6]) * most
    light = (true[..., None] * front + (1 - true[..., None]) * back).astype(np.float32)
    got = colour_in_front(light, true)
    edge = (true > 0.1) & (true < 0.9)
    assert np.abs(got[edge] - front).mean() < 0.02 * most
    assert np.abs(light[edge] - front).mean() > 0.15 * most


def test_arrays_and_the_editor_find_the_same():
    true = blurred_disc(60, 80, 2.0)
    light = true[..., None] * np.array([0.8, 0.3, 0.1]) + (1 - true[..., None]) * np.array([0.1, 0.2, 0.6])
    rgba = np.concatenate([light, np.ones_like(light[..., :1])], -1).astype(np.float32)
    part = {"kind": "channel", "channel": "red", "space": "light", "low": 0.4, "high": 0.5}
    got = matte_of(rgba, [part], edge="natural", band=8.0, trust=0.0)
    assert np.abs(got - true).max() < 0.02


def test_one_spot_of_endless_light_leaves_the_rest_as_it_is():
    """A sun in the frame, and values that are no numbers: PyMatting divided by zero there."""
    true = blurred_disc(60, 80, 2.0)
    light = true[..., None] * np.array([0.8, 0.3, 0.1]) + (1 - true[..., None]) * np.array([0.1, 0.2, 0.6])
    rough = np.clip((true - 0.45) * 10, 0, 1).astype(np.float32)
    expected = edge_found(planes_of(light), rough, 8.0, 0.001)
    for spot in (1e6, -1e6, np.inf, np.nan):
        hot = light.copy()
        hot[9:12, 40:43] = spot
        got = edge_found(planes_of(hot), rough, 8.0, 0.001)
        assert np.isfinite(got).all()
        away = np.ones_like(true, bool)
        away[3:18, 34:49] = False
        assert np.abs(got - expected)[away].max() < 0.02
