"""Curves with their values in a file that the page tests read too: what is dragged is what is rendered."""

import json
from pathlib import Path

import pytest
from neatveil.animation import Curve

FILE = Path(__file__).parents[2] / "data" / "curves.json"
CURVES = json.loads(FILE.read_text("utf-8"))


@pytest.mark.parametrize("row", CURVES, ids=lambda row: row["name"])
def test_the_kept_values_are_the_cores(row):
    curve = Curve(keys=tuple(row["keys"]), beyond=row["beyond"])
    for frame, value in row["values"]:
        assert curve.at(frame) == pytest.approx(value, abs=1e-9)


def test_every_way_and_every_end_is_kept():
    assert {k["way"] for row in CURVES for k in row["keys"]} == {"hold", "linear", "smooth", "eased"}
    assert {row["beyond"] for row in CURVES} == {"hold", "loop", "ping-pong"}
