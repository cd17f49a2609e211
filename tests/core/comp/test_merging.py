"""Changes of one document put together: nothing of either side is lost, and clashes are named."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from neatveil.comp.merging import merge

values = st.recursive(
    st.integers(0, 3) | st.text("ab", max_size=1),
    lambda inner: st.dictionaries(st.sampled_from("abc"), inner, max_size=3) | st.lists(inner, max_size=3),
    max_leaves=8,
)


@given(values, values)
def test_where_one_side_changed_nothing_the_others_change_is_the_result(base, changed):
    assert merge(base, base, changed) == (changed, [])
    assert merge(base, changed, base) == (changed, [])
    assert merge(base, changed, changed) == (changed, [])


def layers(*names, **changes):
    return [{"id": n, "x": 0, "steps": [{"kind": "levels", "gamma": 1}], **changes.get(n, {})} for n in names]


def test_numbers_of_one_layer_changed_by_two_people():
    base = {"layers": layers("a", "b")}
    mine = {"layers": layers("a", "b", a={"x": 5})}
    theirs = {"layers": layers("a", "b", a={"steps": [{"kind": "levels", "gamma": 2}]}, b={"x": 9})}
    got, clashes = merge(base, mine, theirs)
    assert not clashes
    assert got["layers"][0] == {"id": "a", "x": 5, "steps": [{"kind": "levels", "gamma": 2}]}
    assert got["layers"][1]["x"] == 9


@pytest.mark.parametrize(
    ("mine", "theirs", "expected"),
    [
        ("ab", "abcd", "abd"),  # c was there before and is taken out
        ("abxc", "acb", "acbx"),  # one adds, one moves
        ("cab", "abcz", "czab"),  # what is new stays behind its neighbour
    ],
)
def test_layers_taken_out_added_and_moved(mine, theirs, expected):
    got, clashes = merge(layers(*"abc"), layers(*mine), layers(*theirs))
    assert "".join(x["id"] for x in got) == expected
    assert not clashes


def test_clashes_are_named_and_left_as_the_others_have_them():
    base, mine, theirs = (
        {"layers": layers("a", a={"x": x, "steps": [{"kind": "levels", "gamma": g}]})}
        for x, g in ((0, 1), (1, 2), (0, 3))
    )
    got, clashes = merge(base, mine, theirs)
    assert clashes == ["layers.a.steps.0.gamma"]
    assert got["layers"][0]["x"] == 1
    assert got["layers"][0]["steps"][0]["gamma"] == 3


def test_a_layer_taken_out_that_somebody_else_changed_clashes():
    got, clashes = merge(layers("a", "b"), layers("b"), layers("a", "b", a={"x": 4}))
    assert clashes == ["a"]
    assert [x["id"] for x in got] == ["a", "b"]
    assert merge(layers(*"abc"), layers(*"bac"), layers(*"acb"))[1] == ["order"]
