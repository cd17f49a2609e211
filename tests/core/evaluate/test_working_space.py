"""What a working space changes of a comp, and what it does not. Random documents: `tests/core/reference`."""

import numpy as np
import pytest
from core.evaluate.test_group_layers import FILES, comp, drawn, layer
from core.reference.pictures import Arrays
from core.reference.working import matrix
from neatveil.evaluate import Evaluator
from neatveil.picture import Box
from neatveil.view.boards import region_colour

AP1 = "linear@ap1"
RED = {"id": "red", "name": "red", "kind": "made", "made": {"kind": "solid", "colour": [0.8, 0.1, 0.05]}}
LEVELS = {"kind": "levels", "space": "light", "gamma": 2.0}


def straight(rgba):
    return rgba[..., :3] / rgba[..., 3:]


def test_laying_over_is_the_same_in_any():
    layers = (
        layer("plate"),
        layer("one", opacity=0.6, transform={"x": 3.5, "rotation": 20.0, "filter": "linear"}),
        layer("two"),
    )
    np.testing.assert_allclose(drawn(comp(*layers, working=AP1)), drawn(comp(*layers)), atol=3e-6)


def test_a_curve_sees_the_channels_of_the_working_space():
    """Its gamma on AP1's red, green and blue; by hand with colour-science's matrix."""
    there = matrix("linear", AP1)
    got = straight(drawn(comp({**RED, "steps": [LEVELS]}, working=AP1)))[0, 0]
    by_hand = np.linalg.solve(there, np.sqrt(there @ [0.8, 0.1, 0.05]))
    np.testing.assert_allclose(got, by_hand, atol=2e-4)
    assert np.abs(got - np.sqrt([0.8, 0.1, 0.05])).max() > 0.05


def test_multiply_is_that_of_the_working_space():
    green = {**RED, "id": "green", "made": {"kind": "solid", "colour": [0.2, 0.7, 0.1]}}
    got = straight(drawn(comp(RED, {**green, "operator": "multiply"}, working=AP1)))[0, 0]
    there = matrix("linear", AP1)
    by_hand = np.linalg.solve(there, (there @ [0.8, 0.1, 0.05]) * (there @ [0.2, 0.7, 0.1]))
    np.testing.assert_allclose(got, by_hand, atol=2e-4)


def test_a_chosen_colour_is_the_one_that_is_seen():
    """A key takes out the colour that was picked, in any working space; a solid keeps its own."""
    screen = {**RED, "made": {"kind": "solid", "colour": [0.05, 0.6, 0.1]}}
    for working in ("linear", AP1):
        whole = comp(screen, working=working)
        evaluator = Evaluator(Arrays(FILES))
        picked = region_colour(evaluator, whole, 1, "red", "", Box(2, 2, 8, 8))
        assert picked == pytest.approx((0.05, 0.6, 0.1), abs=1e-5)
        key = {"parts": [{"kind": "key", "screen_colour": picked}]}
        assert drawn(comp({**screen, "matte": key}, working=working)).max() < 1e-4


def test_strips_and_parts_are_as_the_whole():
    whole = comp(layer("plate", steps=[LEVELS]), layer("one"), working=AP1)
    evaluator, expected = Evaluator(Arrays(FILES)), drawn(whole)
    rows = np.zeros_like(expected)

    def sink(y0, y1, planes):
        rows[y0:y1] = np.dstack([planes[n] for n in "RGBA"])

    evaluator.draw(whole, 1, sink)
    np.testing.assert_array_equal(rows, expected)
    part = Box(3, 2, 9, 7)
    got = evaluator.picture(whole, 1, region=part).rgba()
    np.testing.assert_allclose(got, expected[2:7, 3:9], atol=1e-6)
    again = evaluator.picture(whole, 1).rgba()  # from what is kept
    np.testing.assert_array_equal(again, expected)


def test_data_alone_keeps_its_numbers():
    places = layer("plate")
    whole = comp(places, working=AP1)
    data = dict.fromkeys("RGB", "data")
    element = whole.elements["plate"].model_copy(update={"kinds": data, "encoding": "linear"})
    whole = whole.with_elements({**whole.elements, "plate": element})
    plain = whole.model_copy(update={"working": "linear"})
    np.testing.assert_array_equal(drawn(whole), drawn(plain))


def test_a_comp_inside_another_works_in_its_own():
    inner = comp({**RED, "steps": [LEVELS]}, working=AP1)
    outer = comp(layer("inner"), comps={"inner": inner.model_dump(mode="json")})
    np.testing.assert_allclose(drawn(outer), drawn(inner), atol=1e-6)
    other = comp(layer("inner"), comps={"inner": inner.model_dump(mode="json")}, working="linear@bt2020")
    np.testing.assert_allclose(drawn(other), drawn(inner), atol=3e-6)
