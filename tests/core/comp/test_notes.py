"""Notes and locks: what people say of a comp changes nothing of its picture."""

import numpy as np
import pytest
from neatveil.comp.loading import parse_comp
from neatveil.comp.merging import merge
from neatveil.errors import DocumentRefused
from neatveil.evaluate import Evaluator
from neatveil.io.decoder import LocalDecoder
from neatveil.view.picking import layer_under

CARD = {"kind": "made", "id": "card", "name": "card", "made": {"kind": "solid", "colour": [0.3, 0.2, 0.1]}}
NOTE = {"id": "n1", "text": "darker here", "frame": 3, "x": 10, "y": 8}


def comp_of(**fields):
    return parse_comp({"width": 32, "height": 24, "first": 1, "last": 9, "layers": [CARD], **fields})


def test_a_comp_with_notes_and_locks_draws_what_it_drew():
    evaluator = Evaluator(LocalDecoder())
    plain = evaluator.picture(comp_of(), 3).rgba()
    told = comp_of(notes=[NOTE], layers=[{**CARD, "locked": True}])
    assert np.array_equal(evaluator.picture(told, 3).rgba(), plain)


def test_locked_layers_are_passed_over_where_one_is_chosen_in_the_picture():
    behind = {**CARD, "id": "behind", "name": "behind"}
    evaluator = Evaluator(LocalDecoder())
    both = comp_of(layers=[behind, {**CARD, "locked": True}])
    assert layer_under(evaluator, both, 3, (5, 5), 0) == "behind"
    assert layer_under(evaluator, comp_of(layers=[{**CARD, "locked": True}]), 3, (5, 5), 0) is None


@pytest.mark.parametrize("wrong", [{"text": ""}, {"text": "x" * 2001}, {"x": 1e9}, {"colour": "red"}])
def test_a_note_that_is_none_is_refused(wrong):
    with pytest.raises(DocumentRefused):
        comp_of(notes=[{**NOTE, **wrong}])


def test_notes_of_two_people_are_put_together():
    """One takes back a note while another one writes a further one."""
    base = {"notes": [NOTE]}
    theirs = {"notes": [NOTE, {**NOTE, "id": "n2", "text": "and here"}]}
    merged, clashes = merge(base, {"notes": []}, theirs)
    assert [n["id"] for n in merged["notes"]] == ["n2"]
    assert clashes == []
