"""Groups: neighbours laid together first, so that what cuts or keeps inside does so within them."""

import numpy as np
import pytest
from core.pictures import save_png, soft_disc
from neatveil.comp.loading import parse_comp
from neatveil.evaluate import Evaluator
from neatveil.io import LocalDecoder


@pytest.fixture
def shot(tmp_path):
    save_png(tmp_path / "plate.png", np.full((48, 64, 3), 0.5, np.float32))
    save_png(tmp_path / "disc.png", soft_disc(48, 64))
    save_png(tmp_path / "hole.png", soft_disc(48, 64) * np.array([1, 1, 1, 0.5], np.float32))

    def comp(*layers):
        elements = {
            n: {"file": str(tmp_path / f"{n}.png"), "still": True, "encoding": "linear"}
            for n in ("plate", "disc", "hole")
        }
        rows = [{"id": f"l{i}", "name": f"layer {i}", **row} for i, row in enumerate(layers)]
        # as version 2 wrote groups: neighbours of one name
        return parse_comp({"neatveil": 2, "width": 64, "height": 48, "elements": elements, "layers": rows})

    return comp


def drawn(document, **how):
    return Evaluator(LocalDecoder()).picture(document, 1, **how)


def cutting(group="", operator="dest-out"):
    return [
        {"element": "plate"}, {"element": "disc", "group": group},
        {"element": "hole", "operator": operator, "group": group},
    ]  # fmt: skip


def test_a_cut_goes_through_everything_under_it(shot):
    alpha = drawn(shot(*cutting()))["A"]
    assert alpha[24, 32] == pytest.approx(0.5, abs=3e-3)


def test_in_a_group_it_leaves_what_lies_behind(shot):
    picture = drawn(shot(*cutting("lantern")))
    np.testing.assert_allclose(picture["A"], 1, atol=1e-6)
    # half of the disc over the plate
    assert picture["R"][24, 32] == pytest.approx(0.5 * 0.8 + 0.5 * 0.5, abs=3e-3)


def test_keep_inside_is_bounded_by_the_group(shot):
    """Outside of a group the opaque plate keeps all of it; in one, only what lies on the disc is kept."""
    wide = {"element": "plate", "operator": "atop", "steps": [{"kind": "exposure", "stops": -2}]}
    alone = drawn(shot({"element": "plate"}, {"element": "disc"}, wide))
    assert alone["R"][2, 2] == pytest.approx(0.125, abs=2e-3)
    grouped = drawn(shot({"element": "plate"}, {"element": "disc", "group": "g"}, {**wide, "group": "g"}))
    assert grouped["R"][2, 2] == pytest.approx(0.5, abs=3e-3)
    assert grouped["R"][24, 32] == pytest.approx(0.125, abs=2e-3)


def test_a_group_laid_over_is_what_its_layers_would_be_where_all_are_over(shot):
    """`over` is associative: grouping by itself changes nothing."""
    layers = [{"element": "plate"}, {"element": "hole"}, {"element": "disc", "transform": {"x": 9.5}}]
    plain = drawn(shot(*layers))
    grouped = drawn(shot(layers[0], *[{**x, "group": "g"} for x in layers[1:]]))
    for n in "RGBA":
        np.testing.assert_allclose(grouped[n], plain[n], atol=1e-6)


def test_neighbours_alone_are_one_group(shot):
    """A layer between two of one name parts them."""
    rows = cutting("g")
    apart = drawn(shot(rows[0], rows[1], {"element": "plate", "opacity": 0.0}, rows[2]))
    np.testing.assert_allclose(apart["R"][24, 32], 0.8, atol=3e-3)


def test_a_change_within_a_group_is_seen_at_once(shot):
    evaluator = Evaluator(LocalDecoder())
    first = evaluator.picture(shot(*cutting("g")), 1)["R"][24, 32]
    changed = cutting("g")
    changed[2]["opacity"] = 0.0
    second = evaluator.picture(shot(*changed), 1)["R"][24, 32]
    ungrouped = evaluator.picture(shot(*cutting()), 1)["A"][24, 32]
    assert [round(float(v), 2) for v in (first, second, ungrouped)] == [0.65, 0.8, 0.5]


def test_one_of_its_layers_alone_and_the_pile_up_to_it(shot):
    document = shot(*cutting("g"))
    assert drawn(document, only="l2")["A"][24, 32] == pytest.approx(0.5, abs=3e-3)
    assert drawn(document, upto="l1")["R"][24, 32] == pytest.approx(0.8, abs=3e-3)
