"""Suggested readings on veils, glows, pictures in the RGB, inverted alphas: right, or not sure of it."""

from collections import Counter

import pytest
from core.alpha.wider import KINDS, MIXED, is_right, stored, wider_cases
from neatveil.alpha.suggest import suggest
from neatveil.picture import StoredPicture


@pytest.fixture(scope="module")
def outcomes():
    found = []
    for case in wider_cases(1):
        got = suggest([StoredPicture.from_rgba(stored(case))], "srgb", 255.0)
        found.append((case, is_right(case, got.reading), got))
    return found


@pytest.mark.parametrize("kind", [k for k in KINDS if k != "veil"])
def test_readings_of_this_kind_are_found(outcomes, kind):
    """The longer run, `bench/run readings`, has the figures."""
    rows = [(case, right) for case, right, _ in outcomes if case.kind == kind]
    wrong = [str(case) for case, right in rows if not right]
    least = 0.95 if kind in MIXED else 0.88
    assert len(wrong) <= (1 - least) * len(rows), wrong


def test_a_veil_is_left_open_rather_than_guessed(outcomes):
    """Its alpha never falls below one half: what lies behind it is an extrapolation."""
    verdicts = Counter(got.verdict for case, right, got in outcomes if case.kind == "veil" and not right)
    assert verdicts["cannot-tell"] >= 0.6 * sum(verdicts.values())


def test_what_is_wrong_is_not_sure(outcomes):
    wrong = [str(case) for case, right, got in outcomes if not right and got.sure]
    assert not wrong
