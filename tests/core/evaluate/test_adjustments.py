"""Steps on all that lies beneath: as if those layers were a group with these steps; through a matte, in part.

Random documents with adjustments among everything else: `tests/core/reference`.
"""

import numpy as np
import pytest
from core.evaluate.test_group_layers import FILES, comp, drawn, group, layer
from core.reference.pictures import Arrays
from neatveil.errors import DocumentRefused
from neatveil.evaluate import Evaluator
from neatveil.picture import Box
from neatveil.view.picking import layer_under

LEVELS = {"kind": "levels", "space": "light", "gamma": 2.0}
BLUR = {"kind": "blur", "size": 2.0}
LEFT = {"parts": [{"kind": "shape", "shape": "rectangle", "x": -8, "width": 16, "height": 100}]}
SOFT = layer("one"), layer("two", opacity=0.7)


def adjustment(**fields):
    return {"kind": "made", "id": "adj", "name": "adj", "made": {"kind": "beneath"}, **fields}


@pytest.mark.parametrize("steps", [[LEVELS], [BLUR], [BLUR, LEVELS]], ids=["points", "pixels", "both"])
@pytest.mark.parametrize("level", [0, 1])
def test_it_is_what_a_group_of_them_with_the_steps_is(steps, level):
    top = layer("three", transform={"x": 4.5})
    got = drawn(comp(*SOFT, adjustment(steps=steps), top), level=level)
    np.testing.assert_allclose(got, drawn(comp(group(*SOFT, steps=steps), top), level=level), atol=1e-6)


def test_a_matte_and_opacity_mix_it_with_what_was_there():
    """Alpha that is half stays half: laid over itself it would become three quarters."""
    plain, changed = drawn(comp(*SOFT)), drawn(comp(group(*SOFT, steps=[LEVELS])))
    half = drawn(comp(*SOFT, adjustment(steps=[LEVELS], opacity=0.5)))
    np.testing.assert_allclose(half, (plain + changed) / 2, atol=1e-6)
    left = drawn(comp(*SOFT, adjustment(steps=[LEVELS], matte=LEFT)))
    np.testing.assert_allclose(left[:, :15], changed[:, :15], atol=1e-6)
    np.testing.assert_allclose(left[:, 17:], plain[:, 17:], atol=1e-6)
    assert np.abs(changed - plain)[:, 17:].max() > 0.05
    np.testing.assert_allclose(drawn(comp(*SOFT, adjustment())), plain, atol=1e-6)


def test_in_a_group_it_leaves_what_lies_behind():
    inside = group(layer("one"), adjustment(steps=[LEVELS]))
    expected = drawn(comp(layer("plate"), layer("one", steps=[LEVELS])))
    np.testing.assert_allclose(drawn(comp(layer("plate"), inside)), expected, atol=1e-6)


def test_inside_an_alpha_that_a_member_gives_passes_do_not_compound():
    """As in a stack: 0.5 stays 0.5 when two passes are added and their sum is changed."""
    shine = layer("shine", operator="add")
    stack = group(
        layer("diffuse"), shine, adjustment(steps=[LEVELS]), alpha={"by": "member", "member": "diffuse"}
    )
    got = drawn(comp(stack))[3, 3]
    light = (np.array([0.2, 0.1, 0.05]) + 0.1) / 0.5
    np.testing.assert_allclose(got, [*(np.sqrt(light) * 0.5), 0.5], atol=1e-5)


def test_moved_or_blended_it_is_a_copy():
    """A reflection: all of it once more, lower, at a third, with the original as it was."""
    low = adjustment(transform={"y": 6}, opacity=0.3)
    plain = drawn(comp(*SOFT))
    got = drawn(comp(*SOFT, low))
    copy = np.zeros_like(plain)
    copy[6:] = plain[:-6]
    over = copy + plain * (1 - copy[..., 3:])
    np.testing.assert_allclose(got, plain + (over - plain) * 0.3, atol=2e-6)
    screened = drawn(comp(layer("plate"), adjustment(operator="screen")))
    np.testing.assert_allclose(screened[0, 0], [0.84, 0.84, 0.84, 1], atol=1e-6)


def test_a_part_is_as_in_the_whole_and_one_below_that_changes_is_seen():
    evaluator = Evaluator(Arrays(FILES))
    whole = comp(*SOFT, adjustment(steps=[BLUR], matte=LEFT), layer("three"))
    expected = evaluator.picture(whole, 1).rgba()
    part = evaluator.picture(whole, 1, region=Box(5, 4, 21, 13)).rgba()
    np.testing.assert_allclose(part, expected[4:13, 5:21], atol=1e-6)
    other = comp(layer("two"), adjustment(steps=[BLUR], matte=LEFT), layer("three"))
    np.testing.assert_allclose(evaluator.picture(other, 1).rgba(), drawn(other), atol=1e-6)


def test_alone_it_is_shown_on_what_it_changes_and_a_click_goes_through_it():
    whole = comp(*SOFT, adjustment(steps=[LEVELS]), layer("three", "far", transform={"x": 1000}))
    np.testing.assert_allclose(drawn(whole, only="adj"), drawn(whole, upto="adj"), atol=1e-6)
    assert layer_under(Evaluator(Arrays(FILES)), whole, 1, (4, 3), 0) == "two"


def test_its_picture_serves_a_matte():
    matte = {"parts": [{"kind": "channel", "source": "layer:adj", "channel": "red", "space": "light"}]}
    got = drawn(
        comp(layer("plate"), adjustment(steps=[LEVELS]), layer("moving", "cut", matte=matte)), only="cut"
    )
    np.testing.assert_allclose(got[..., 3], np.sqrt(0.6), atol=1e-5)


TAKES = {"parts": [{"kind": "channel", "source": "layer:adj"}]}


@pytest.mark.parametrize(
    ("layers", "words"),
    [
        ([layer("one", matte=TAKES), adjustment()], "lies on one"),
        ([group(adjustment(), alpha={"by": "member", "member": "adj"})], "lies on"),
        ([group(layer("one"), adjustment(), alpha={"by": "matte", "matte": LEFT})], "holds no adjustment"),
        ([layer("one"), adjustment(repeat={"count": 2})], "is not repeated"),
    ],
)  # fmt: skip
def test_what_cannot_be_is_refused_with_why(layers, words):
    with pytest.raises(DocumentRefused) as caught:
        comp(*layers)
    assert words in caught.value.message
