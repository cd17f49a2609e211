"""One layer many times: where its copies lie, when they are seen, and by what chance."""

import numpy as np
import pytest
from core.evaluate.test_group_layers import by_member, comp, drawn, group, layer, pixel
from neatveil.comp.repeat import COPIES, Repeat, chance_of, copies_of
from neatveil.errors import DocumentRefused


def test_copies_are_what_as_many_layers_would_be():
    """Each further than the one before; the crowd blends as one layer."""
    repeat = {"count": 3, "x": 3, "y": -2, "rotation": 10, "scale": 0.9, "opacity": 0.8}
    fields = {"operator": "screen", "opacity": 0.7}
    crowd = layer("one", repeat=repeat, transform={"x": 4, "scale": 0.6}, **fields)
    by_hand = [
        layer(
            "one", f"c{n}", opacity=0.8**n,
            transform={"x": 4 + 3 * n, "y": -2 * n, "rotation": 10 * n, "scale": 0.6 * 0.9**n},
        )
        for n in range(3)
    ]  # fmt: skip
    got = drawn(comp(layer("plate"), crowd))
    expected = drawn(comp(layer("plate"), group(*by_hand, **fields)))
    np.testing.assert_allclose(got, expected, atol=1e-6)


def test_copies_start_later_and_each_shows_its_own_frame():
    crowd = layer("moving", repeat={"count": 2, "time": 2, "x": 16}, transform={"x": -8})
    got = drawn(comp(crowd), 5)
    assert got[5, 2, 0] == pytest.approx(0.5), "the first copy is at frame 5"
    assert got[5, 29, 0] == pytest.approx(0.3), "the second began two frames later"
    ended = layer("moving", repeat={"count": 2, "time": 5, "x": 16}, beyond="blank", transform={"x": -8})
    assert drawn(comp(ended), 3)[5, 29, 3] == 0


def test_steps_and_the_matte_act_on_every_copy():
    matte = {"parts": [{"kind": "shape", "shape": "rectangle", "width": 4, "height": 4}]}
    crowd = layer("plate", repeat={"count": 3, "x": 8}, matte=matte, steps=[{"kind": "exposure", "stops": 1}])
    got = drawn(comp(crowd))
    assert [got[12, x, 3] for x in (16, 20, 24, 28)] == [1, 0, 1, 0]
    assert got[12, 24, 0] == pytest.approx(1.2, abs=1e-5)


def test_others_take_the_whole_crowd():
    crowd = layer("plate", "crowd", repeat={"count": 2, "x": 8}, transform={"scale": 0.25}, shown=False)
    part = {"kind": "channel", "source": "layer:crowd", "channel": "alpha", "read": "placed"}
    got = drawn(comp(crowd, layer("two", matte={"parts": [part]})))
    shown = drawn(comp({**crowd, "shown": True}))
    np.testing.assert_allclose(got[..., 3], shown[..., 3] * drawn(comp(layer("two")))[..., 3], atol=1e-4)
    inside = group(crowd, layer("plate"), alpha=by_member("crowd"))
    np.testing.assert_allclose(drawn(comp(inside))[..., 3], shown[..., 3], atol=1e-4)


def test_the_order_is_that_of_the_copies_or_of_their_size():
    sizes = {"scale": 0.5, "count": 3}
    assert [c.number for c in copies_of(Repeat(**sizes))] == [0, 1, 2]
    assert [c.number for c in copies_of(Repeat(**sizes, order="first-in-front"))] == [2, 1, 0]
    assert [c.number for c in copies_of(Repeat(**sizes, order="larger-in-front"))] == [2, 1, 0]


def test_chance_is_even_within_its_limits_and_belongs_to_the_seed():
    luck = np.array([[chance_of(4, n, f) for f in range(6)] for n in range(4000)])
    assert np.abs(luck).max() <= 1
    np.testing.assert_allclose(luck.mean(axis=0), 0, atol=0.04)
    # of an even distribution over -1 to 1 the variance is 1/3
    np.testing.assert_allclose(luck.var(axis=0), 1 / 3, atol=0.02)
    assert np.abs(np.corrcoef(luck.T) - np.eye(6)).max() < 0.06, "fields are independent"
    crowd = Repeat(count=50, chance_x=30, chance_time=5)
    assert copies_of(crowd) == copies_of(crowd)
    assert copies_of(crowd) != copies_of(crowd.model_copy(update={"seed": 1}))


def test_ten_thousand_copies_are_refused_by_their_number_and_two_thousand_are_drawn():
    with pytest.raises(DocumentRefused, match=r"repeat\.count: .* less than or equal to 2000"):
        comp(layer("one", repeat={"count": 10000}))
    many = layer("one", repeat={"count": COPIES, "chance_x": 14, "chance_y": 10}, transform={"scale": 0.1})
    assert pixel(comp(many))[3] > 0.9
