"""Random documents: the evaluator against the plain evaluation, whole, in parts, at every preview level.

480 documents in continuous integration; `NEATVEIL_DOCUMENTS=20000 pytest tests/core/reference` by hand.
"""

import json
import os

import numpy as np
from core.reference.comp import Reference
from core.reference.documents import documents, matted, piles, single
from core.reference.pictures import Arrays, extra_planes, pictures
from core.reference.working import SPACES
from hypothesis import HealthCheck, given, note, settings
from hypothesis import strategies as st
from neatveil.comp.loading import parse_comp
from neatveil.evaluate import Evaluator, frame_box
from neatveil.picture import RGBA, Box

#: A few roundings of float32, as a share.
ROUNDING = 3e-7
PICTURES, EXTRA = pictures(), extra_planes()
MANY = int(os.environ.get("NEATVEIL_DOCUMENTS", "480"))
many = settings(
    max_examples=MANY // 4, deadline=None,
    suppress_health_check=[HealthCheck.too_slow, HealthCheck.data_too_large, HealthCheck.filter_too_much],
)  # fmt: skip


SPACES_DRAWN = st.sampled_from([*["linear"] * 4, *SPACES])
FRAMES, LEVELS = st.integers(1, 5), st.sampled_from([0, 0, 1, 2])


@many
@given(single, FRAMES, LEVELS, st.data())
def test_a_layer_with_a_step_or_two(written, frame, level, data):
    compare(written, frame, level, data)


@many
@given(matted, FRAMES, LEVELS, st.data())
def test_a_layer_cut_by_a_matte(written, frame, level, data):
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
    working, inner = data.draw(st.tuples(SPACES_DRAWN, SPACES_DRAWN))
    written = {
        **written, "working": working,
        "comps": {key: {**comp, "working": inner} for key, comp in written["comps"].items()},
    }  # fmt: skip
    note(json.dumps({"frame": frame, "level": level, "working": working, "layers": written["layers"]}))
    comp = parse_comp(written)
    expected = Reference(comp, PICTURES, EXTRA).picture(frame, level)
    evaluator = Evaluator(Arrays(PICTURES, EXTRA))
    got = evaluator.picture(comp, frame, level=level).rgba()
    assert got.shape == expected.shape
    assert got[..., 3].min() >= 0
    assert got[..., 3].max() <= 1 + 1e-6
    height, width = got.shape[:2]
    x, y = data.draw(st.integers(0, width - 1)), data.draw(st.integers(0, height - 1))
    part = Box(x, y, min(width, x + 17), min(height, y + 9))
    region = got.copy()
    region[part.y0 : part.y1, part.x0 : part.x1] = (
        Evaluator(Arrays(PICTURES, EXTRA)).picture(comp, frame, level=level, region=part).rgba()
    )
    passing = dragged(comp, frame, level, data)
    off = far(got, expected, 2e-3) | far(region, got, 1e-4) | far(passing, got, 1e-4)
    if off.any():  # wrong, or only what float32 cannot know?
        off &= ~unsteady(comp, frame, level, expected)
    assert not off.any(), told(got, region, expected, off)


def dragged(comp, frame, level, data):
    """The picture as it is drawn while a layer of it is dragged: after it lay in another place."""
    evaluator = Evaluator(Arrays(PICTURES, EXTRA))
    layer = comp.layer(data.draw(st.sampled_from([x.id for x in comp.all_layers])))
    moved = layer.transform.model_copy(
        update={"x": layer.transform.x + data.draw(st.sampled_from([-7, 2.5]))}
    )
    drawn(evaluator, comp.with_layer(layer.id, {"transform": moved, "keys": {}}), frame, level)
    return drawn(evaluator, comp, frame, level)


def drawn(evaluator, comp, frame, level):
    box = frame_box(comp, level)
    out = np.full((box.height, box.width, 4), np.nan, np.float32)

    def take(y0, y1, planes):
        out[y0:y1] = np.stack([planes[n] for n in RGBA], -1)

    evaluator.draw(comp, frame, take, level=level)
    return out


def far(got, expected, tolerance):
    """``(H, W)``: where two pictures differ."""
    # a filter's lobes below 0 are left out where there is no alpha: float32 may find a trace of one
    dark = (np.maximum(got[..., 3:], expected[..., 3:]) < 1e-5) & (np.minimum(got, expected) < 0)
    return (~np.isclose(got, expected, atol=tolerance, rtol=tolerance) & ~dark).any(-1)


def unsteady(comp, frame, level, expected):
    """Where the plain evaluation itself is another when rounding errs a little, or a trace is nothing.

    Such is what is divided by that trace, or a threshold that is met exactly.
    """
    found = np.zeros(expected.shape[:2], bool)
    for otherwise in ({"least": 1e-5}, {"trace": 1e-7}):
        found |= differ(Reference(comp, PICTURES, EXTRA, **otherwise).picture(frame, level), expected)
    for seed in range(3):
        rng = np.random.default_rng(seed)
        shaken = {
            name: [p + ROUNDING * rng.uniform(-1, 1, p.shape) * size_of(p, comp) for p in rows]
            for name, rows in PICTURES.items()
        }
        again = Reference(comp, shaken, EXTRA).picture(frame, level)
        found |= differ(again, expected)
    return found


def size_of(picture, comp):
    """What rounding goes by: each number, and where a matrix brings R, G, B together the largest of them."""
    if comp.working == "linear":
        return np.abs(picture)
    return np.abs(picture).max(-1, keepdims=True) * (picture != 0)


def differ(again, expected):
    return ~np.isclose(again, expected, atol=3e-4, rtol=3e-4).all(-1)


def told(got, region, expected, off):
    y, x = np.argwhere(off)[0]
    shown = f"{got[y, x]} (as a part {region[y, x]}) for {expected[y, x]}"
    return f"{off.sum()} pixels, the first at {x}, {y}: {shown}"
