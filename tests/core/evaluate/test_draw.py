"""Drawing strip by strip gives what `picture` gives, whatever is kept of what was asked before."""

import numpy as np
import pytest
from core.pictures import save_png, soft_disc
from neatveil import arrays
from neatveil.comp.loading import parse_comp
from neatveil.evaluate import Evaluator, frame_box, plan
from neatveil.io import LocalDecoder
from neatveil.picture import RGBA, Box

ELEMENTS = ("plate", "disc", "strap")


@pytest.fixture
def files(tmp_path):
    rng = np.random.default_rng(2)
    save_png(tmp_path / "plate.png", rng.random((210, 330, 3), np.float32))
    save_png(tmp_path / "disc.png", soft_disc(120, 100))
    strap = np.zeros((210, 330, 4), np.float32)
    strap[150:190, 20:200] = (0.8, 0.7, 0.2, 0.5)
    save_png(tmp_path / "strap.png", strap)
    return tmp_path


def comp(files, *layers):
    rows = [{"id": f"l{i}", "name": f"l{i}", **layer} for i, layer in enumerate(layers)]
    made = {n: {"file": str(files / f"{n}.png"), "still": True, "encoding": "linear"} for n in ELEMENTS}
    return parse_comp({"width": 330, "height": 210, "first": 1, "last": 1, "elements": made, "layers": rows})


def drawn(evaluator, document, region=None, **options):
    frame = frame_box(document, options.get("level", 0))
    area = frame if region is None else region.intersect(frame)
    out = np.full((area.height, area.width, 4), np.nan, np.float32)

    def take(y0, y1, planes):
        for i, n in enumerate(RGBA):
            out[y0:y1, :, i] = planes[n]

    evaluator.draw(document, 1, take, region=region, **options)
    return out


def pile(files, gamma=1.4, **more):
    levels = {"kind": "levels", "gamma": gamma}
    return comp(
        files, {"element": "plate"},
        {"element": "disc", "transform": {"x": 40, "y": -7}, "steps": [levels], **more},
        {"element": "strap", "opacity": 0.6},
    )  # fmt: skip


@pytest.mark.parametrize("level", [0, 1])
@pytest.mark.parametrize("region", [None, Box(3, 11, 120, 97)])
@pytest.mark.parametrize(
    "more", [{}, {"operator": "atop"}, {"operator": "in"}, {"transform": {"scale": 0.7}}]
)
def test_drawn_is_the_picture(files, level, region, more):
    document = pile(files, **more)
    expected = Evaluator(LocalDecoder()).picture(document, 1, level=level, region=region).rgba()
    got = drawn(Evaluator(LocalDecoder()), document, region, level=level)
    np.testing.assert_array_equal(got, expected)


def test_going_on_changing_one_layer_is_always_right(files):
    """What is kept below the layer that changes must not show in the next picture, or be written to."""
    kept = Evaluator(LocalDecoder())
    for change in ({"gamma": 0.6}, {"gamma": 0.7}, {"opacity": 0.3}, {"opacity": 0.4}, {"gamma": 0.7}):
        document = pile(files, **change)
        fresh = Evaluator(LocalDecoder()).picture(document, 1).rgba()
        np.testing.assert_array_equal(drawn(kept, document), fresh)
        np.testing.assert_array_equal(kept.picture(document, 1).rgba(), fresh)


@pytest.mark.parametrize("level", [0, 1])
@pytest.mark.parametrize("above", ["over", "screen", "in", "adjust", "matte"])
def test_a_layer_dragged_is_the_picture_at_every_place(files, level, above):
    """Only what its places reach is composited anew: near, far, beyond the frame, through what lies on it."""
    kept = Evaluator(LocalDecoder())
    steps = [{"kind": "blur", "size": 9}]
    through = [{"kind": "channel", "source": "layer:l1", "channel": "alpha", "read": "placed"}]
    top = {
        "adjust": {"kind": "made", "made": {"kind": "beneath"}, "steps": steps},
        "matte": {"element": "plate", "opacity": 0.5, "matte": {"parts": through}},
    }.get(above, {"element": "strap", "opacity": 0.6, "operator": above})
    for x, y, scale in [
        (0, 0, 1),
        (3.5, 0, 1),
        (4, 2, 0.4),
        (400, 0, 1),
        (400, 9, 1),
        (-60, 50, 1.5),
        (7, 7, 1),
    ]:
        disc = {"element": "disc", "transform": {"x": x, "y": y, "scale": scale}}
        document = comp(files, {"element": "plate"}, disc, top)
        fresh = Evaluator(LocalDecoder()).picture(document, 1, level=level).rgba()
        np.testing.assert_allclose(drawn(kept, document, level=level), fresh, atol=1e-6)


def test_what_is_dragged_and_hidden_or_fails_and_comes_back(files, monkeypatch):
    kept, here = Evaluator(LocalDecoder()), {"x": 40, "y": 1}
    for more in ({}, {"shown": False}, {"transform": here}, {"operator": "in"}, {"transform": here}):
        document = pile(files, **more)
        fresh = Evaluator(LocalDecoder()).picture(document, 1).rgba()
        np.testing.assert_allclose(drawn(kept, document), fresh, atol=1e-6)
    without = comp(files, {"element": "plate"}, {"element": "gone"}, {"element": "strap", "opacity": 0.6})
    failed = []
    got = drawn(kept, without, failed=failed)
    assert len(failed) == 1
    assert np.isfinite(got).all()
    document = pile(files)
    fresh = Evaluator(LocalDecoder()).picture(document, 1).rgba()
    np.testing.assert_allclose(drawn(kept, document), fresh, atol=1e-6)


def test_large_pictures_lay_in_place_and_are_the_same(files, monkeypatch):
    document = pile(files)
    expected = Evaluator(LocalDecoder()).picture(document, 1).rgba()
    monkeypatch.setattr(plan, "KEEP_BYTES", 0)
    large = Evaluator(LocalDecoder())
    np.testing.assert_array_equal(large.picture(document, 1).rgba(), expected)
    np.testing.assert_array_equal(drawn(large, document), expected)


def test_nothing_and_one_sheet_alone(files):
    assert not drawn(Evaluator(LocalDecoder()), comp(files)).any()
    strap = comp(files, {"element": "strap"})
    stored = LocalDecoder().read(str(files / "strap.png"), 0)
    expected = arrays.premultiply(np.dstack([stored[n] for n in RGBA]))
    np.testing.assert_array_equal(drawn(Evaluator(LocalDecoder()), strap), expected)
