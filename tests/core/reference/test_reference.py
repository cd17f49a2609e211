"""Random documents: the evaluator against the plain evaluation, whole, in parts, at every preview level.

450 documents in continuous integration; `NEATVEIL_DOCUMENTS=20000 pytest tests/core/reference` by hand.
"""

import json
import os

import numpy as np
from core.reference.comp import Reference
from core.reference.documents import Arrays, documents, pictures, piles, single
from hypothesis import HealthCheck, given, note, settings
from hypothesis import strategies as st
from neatveil.comp.document import parse_comp
from neatveil.evaluate import Evaluator
from neatveil.picture import Box

PICTURES = pictures()
MANY = int(os.environ.get("NEATVEIL_DOCUMENTS", "450"))
many = settings(
    max_examples=MANY // 3, deadline=None,
    suppress_health_check=[HealthCheck.too_slow, HealthCheck.data_too_large, HealthCheck.filter_too_much],
)  # fmt: skip


FRAMES, LEVELS = st.integers(1, 5), st.sampled_from([0, 0, 1, 2])


@many
@given(single, FRAMES, LEVELS, st.data())
def test_a_layer_with_a_step_or_two(written, frame, level, data):
    compare(written, frame, level, data)


@many
@given(piles, FRAMES, LEVELS, st.data())
def test_a_pile_of_layers_by_every_operator(written, frame, level, data):
    compare(written, frame, level, data)


@many
@given(documents, FRAMES, LEVELS, st.data())
def test_a_document_means_what_the_plain_evaluation_makes_of_it(written, frame, level, data):
    compare(written, frame, level, data)


def compare(written, frame, level, data):
    """Whole and in part, against the plain evaluation."""
    note(json.dumps({"frame": frame, "level": level, "layers": written["layers"]}))
    comp = parse_comp(written)
    expected = Reference(comp, PICTURES).picture(frame, level)
    evaluator = Evaluator(Arrays(PICTURES))
    got = evaluator.picture(comp, frame, level=level).rgba()
    close(got, expected)
    height, width = got.shape[:2]
    x, y = data.draw(st.integers(0, width - 1)), data.draw(st.integers(0, height - 1))
    part = Box(x, y, min(width, x + 17), min(height, y + 9))
    region = Evaluator(Arrays(PICTURES)).picture(comp, frame, level=level, region=part).rgba()
    close(region, expected[part.y0 : part.y1, part.x0 : part.x1])


def close(got, expected):
    assert got.shape == expected.shape
    assert got[..., 3].min() >= 0
    assert got[..., 3].max() <= 1 + 1e-6
    # a filter's lobes below 0 are left out where there is no alpha: float32 may find a trace of one
    dark = (np.maximum(got[..., 3:], expected[..., 3:]) < 1e-5) & (np.minimum(got, expected) < 0)
    got, expected = np.where(dark, 0, got), np.where(dark, 0, expected)
    # float32 against float64: what divides by a small alpha, or by a small difference, is off by more
    np.testing.assert_allclose(got, expected, atol=2e-3, rtol=2e-3)
