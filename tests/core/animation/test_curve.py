"""Curves in time against SciPy's splines; keys on parameters; what lies beyond the keys."""

import numpy as np
import pytest
import scipy.interpolate
from neatveil.animation import Curve, Key
from neatveil.comp import Layer, Transform
from neatveil.steps import STEPS
from pydantic import ValidationError

FRAMES, VALUES = [1, 4, 9, 10, 20], [0.0, 2.0, 1.5, 1.5, -3.0]


def curve(way="smooth", beyond="hold"):
    keys = tuple(Key(frame=f, value=v, way=way) for f, v in zip(FRAMES, VALUES, strict=True))
    return Curve(keys=keys, beyond=beyond)


def test_smooth_is_scipys_monotone_cubic():
    spline = scipy.interpolate.PchipInterpolator(FRAMES, VALUES)
    where = np.linspace(1, 20, 191)
    np.testing.assert_allclose([curve().at(f) for f in where], spline(where), atol=1e-12)


def test_eased_is_scipys_hermite_spline_that_rests_at_every_key():
    spline = scipy.interpolate.CubicHermiteSpline(FRAMES, VALUES, np.zeros(len(FRAMES)))
    where = np.linspace(1, 20, 191)
    np.testing.assert_allclose([curve("eased").at(f) for f in where], spline(where), atol=1e-12)


def test_linear_is_numpys_interp():
    where = np.linspace(-3, 25, 113)
    np.testing.assert_allclose(
        [curve("linear").at(f) for f in where], np.interp(where, FRAMES, VALUES), atol=1e-12
    )


def test_hold_keeps_a_value_until_the_next_key():
    assert [curve("hold").at(f) for f in (0, 1, 3.99, 4, 8, 9, 30)] == [0, 0, 0, 2, 2, 1.5, -3]


@pytest.mark.parametrize(("beyond", "frame", "same"), [
    ("loop", 21, 2), ("loop", 0, 19), ("loop", 58.5, 1.5), ("ping-pong", 21, 19), ("ping-pong", 38.5, 1.5),
    ("ping-pong", 0, 2), ("ping-pong", 58, 20 - 0),
])  # fmt: skip
def test_beyond_the_keys(beyond, frame, same):
    assert curve("linear", beyond).at(frame) == pytest.approx(curve("linear").at(same))


def test_one_key_is_a_number():
    one = Curve(keys=(Key(frame=5, value=3),), beyond="loop")
    assert [one.at(f) for f in (-9, 5, 99)] == [3, 3, 3]


def test_keys_out_of_order_are_refused():
    with pytest.raises(ValidationError, match="does not come after"):
        Curve(keys=(Key(frame=5, value=3), Key(frame=5, value=4)))


def ramp(low, high):
    return {"keys": [{"frame": 1, "value": low, "way": "linear"}, {"frame": 11, "value": high}]}


def test_every_number_of_a_layer_can_change():
    steps = [
        {"kind": "levels", "keys": {"gamma": ramp(1, 2)}},
        {"kind": "tone", "keys": {"gain.1": ramp(1, 3)}},
        {"kind": "blur", "through": {"by": "ellipse", "keys": {"x": ramp(0, 50)}}},
    ]
    layer = Layer(id="a", name="a", element="e", steps=steps, transform={"keys": {"rotation": ramp(0, 90)}},
                  keys={"opacity": ramp(0, 1)})  # fmt: skip
    now = layer.at(6)
    assert (now.opacity, now.transform.rotation, now.steps[0].gamma) == (0.5, 45, 1.5)
    assert now.steps[1].gain == (1, 2, 1)
    assert now.steps[2].through.x == 25
    assert [now.keys, now.transform.keys, now.steps[0].keys] == [{}, {}, {}]


def test_without_keys_it_is_the_same_object():
    layer = Layer(id="a", name="a", element="e", steps=[{"kind": "levels"}])
    assert layer.at(7) is layer


def test_values_stay_within_what_the_parameter_allows():
    layer = Layer(id="a", name="a", element="e", keys={"opacity": ramp(-1, 4)})
    assert [layer.at(f).opacity for f in (1, 11)] == [0, 1]


def test_whole_numbers_stay_whole():
    tile = STEPS["tile"](keys={"columns": ramp(1, 4)})
    assert tile.at(5).columns == 2


@pytest.mark.parametrize("path", ["kind", "on", "colour", "gain.3", "gain", "gain.x", "keys", "mix.0"])
def test_only_numbers_can_be_animated(path):
    with pytest.raises(ValidationError, match="no number that can be animated"):
        STEPS["tone"](keys={path: ramp(0, 1)})


def test_a_place_names_what_it_does_not_know():
    with pytest.raises(ValidationError, match="skew is no number"):
        Transform(keys={"skew": ramp(0, 1)})
