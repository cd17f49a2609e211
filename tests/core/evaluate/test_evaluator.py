"""The evaluator: what comes out is the arithmetic, whatever the region, level or cache."""

import threading

import cv2
import numpy as np
import pytest
from core.pictures import save_png, soft_disc
from neatveil import arrays
from neatveil.comp import Comp
from neatveil.comp.loading import parse_comp
from neatveil.errors import Cancelled, FileMissing, FrameMissing
from neatveil.evaluate import ByteCache, Evaluator
from neatveil.io import LocalDecoder
from neatveil.picture import Box
from neatveil.view import sample


class CountingDecoder(LocalDecoder):
    reads = 0

    def read(self, *args):
        self.reads += 1
        return super().read(*args)


@pytest.fixture
def files(tmp_path):
    plate = np.random.default_rng(1).random((96, 128, 3), np.float32)
    save_png(tmp_path / "plate.png", plate)
    for n in range(1, 4):
        save_png(tmp_path / f"disc.{n:02d}.png", soft_disc(48, 64))
    return tmp_path


def comp(files, **kite) -> Comp:
    still = {"file": str(files / "plate.png"), "still": True, "encoding": "linear"}
    disc = {"file": str(files / "disc.##.png"), "first": 1, "last": 3, "encoding": "linear"}
    return parse_comp(
        {
            "width": 128, "height": 96, "first": 1, "last": 3,
            "elements": {"plate": still, "disc": disc},
            "layers": [
                {"id": "back", "name": "plate", "element": "plate"},
                {"id": "front", "name": "disc", "element": "disc", **kite},
            ],
        }
    )  # fmt: skip


def read_png(path):
    got = LocalDecoder().read(str(path), 0)
    planes = [got[n] for n in "RGB"] + [got.planes.get("A", np.ones_like(got["R"]))]
    return np.dstack(planes)


def test_layer_over_plate_is_over_at_its_place(files):
    got = Evaluator(LocalDecoder()).picture(comp(files, transform={"x": 5, "y": -3}, opacity=0.5), 1)
    front = np.zeros((96, 128, 4), np.float32)
    front[24 - 3 : 72 - 3, 32 + 5 : 96 + 5] = arrays.premultiply(read_png(files / "disc.01.png"))
    expected = arrays.merge("over", front, read_png(files / "plate.png"), 0.5)
    np.testing.assert_allclose(got.rgba(), expected, atol=1e-6)


def test_steps_then_place_then_meets(files):
    levels = {"kind": "levels", "gamma": 2.0}
    got = Evaluator(LocalDecoder()).picture(comp(files, steps=[levels], operator="plus"), 1)
    front = np.zeros((96, 128, 4), np.float32)
    disc = arrays.premultiply(read_png(files / "disc.01.png"))
    front[24:72, 32:96] = arrays.levels(disc, gamma=2.0)
    expected = read_png(files / "plate.png") + front
    expected[..., 3] = 1  # both are opaque there: coverage does not add up
    np.testing.assert_allclose(got.rgba(), expected, atol=2e-6)


@pytest.mark.parametrize("operator", ["over", "in", "out", "atop", "multiply", "min"])
@pytest.mark.parametrize("place", [{}, {"x": 7.5, "scale": 1.3, "rotation": 20}])
def test_any_region_is_that_part_of_the_whole(files, operator, place):
    evaluator = Evaluator(LocalDecoder())
    document = comp(files, operator=operator, transform=place)
    whole = evaluator.picture(document, 1).rgba()
    part = evaluator.picture(document, 1, region=Box(11, 13, 90, 64))
    assert part.data_window == Box(11, 13, 90, 64)
    # resampling works on float32 coordinates, measured from another corner in the part
    np.testing.assert_allclose(part.rgba(), whole[13:64, 11:90], atol=1e-5)


def test_smaller_level_is_the_mean_of_the_larger(files):
    evaluator = Evaluator(LocalDecoder())
    small = evaluator.picture(comp(files), 1, level=1).rgba()
    whole = evaluator.picture(comp(files), 1).rgba()
    mean = cv2.resize(whole, (64, 48), interpolation=cv2.INTER_AREA)
    # halving before or after `over` differs only where both pictures vary inside 2 x 2 pixels
    assert np.abs(small - mean).mean() < 0.01
    flat = evaluator.picture(comp(files, shown=False), 1, level=1).rgba()
    plate = cv2.resize(read_png(files / "plate.png"), (64, 48), interpolation=cv2.INTER_AREA)
    np.testing.assert_allclose(flat, plate, atol=1e-6)


def test_half_turn_twice_is_where_it_was(files):
    evaluator = Evaluator(LocalDecoder())
    turned = evaluator.picture(comp(files, transform={"rotation": 360}), 1).rgba()
    np.testing.assert_allclose(turned, evaluator.picture(comp(files), 1).rgba(), atol=1e-5)


def test_resampled_alpha_stays_within_0_and_1(files):
    alone = Evaluator(LocalDecoder()).picture(comp(files, transform={"scale": 2.7}), 1, only="front")
    assert alone["A"].min() >= 0
    assert alone["A"].max() <= 1


def test_same_key_is_never_computed_twice(files):
    decoder = CountingDecoder()
    evaluator = Evaluator(decoder)
    for gamma in (1.1, 1.2, 1.3):
        evaluator.picture(comp(files, steps=[{"kind": "levels", "gamma": gamma}]), 1)
    assert decoder.reads == 2, "plate and disc once each"


def test_a_changed_file_is_read_again(files):
    evaluator = Evaluator(LocalDecoder())
    before = evaluator.picture(comp(files), 1).rgba()
    save_png(files / "plate.png", np.zeros((96, 128, 3), np.float32))
    assert np.abs(evaluator.picture(comp(files), 1).rgba() - before).max() > 0.1


def test_cache_is_bounded_in_bytes():
    cache = ByteCache(100, len)
    for n in range(10):
        cache.put(str(n), b"x" * 30)
    assert cache.bytes == 90
    assert cache.peek("9") is not None
    assert cache.peek("0") is None


def test_cache_computes_once_for_all_who_wait():
    cache, made = ByteCache(1000, len), []
    gate = threading.Event()

    def make():
        gate.wait(5)
        made.append(1)
        return b"x"

    threads = [threading.Thread(target=cache.get, args=("k", make)) for _ in range(6)]
    for t in threads:
        t.start()
    gate.set()
    for t in threads:
        t.join()
    assert made == [1]


def test_errors_name_the_layer(files):
    document = comp(files, name="lost kite")
    (files / "disc.02.png").unlink()
    with pytest.raises(FrameMissing, match="lost kite") as caught:
        Evaluator(LocalDecoder()).picture(document, 2)
    assert caught.value.where == "lost kite"
    (files / "plate.png").unlink()
    with pytest.raises(FileMissing, match="plate"):
        Evaluator(LocalDecoder()).picture(document, 1)


def test_evaluation_can_be_cancelled(files):
    with pytest.raises(Cancelled):
        Evaluator(LocalDecoder()).picture(comp(files), 1, cancelled=lambda: True)


def test_values_under_a_pixel(files):
    evaluator = Evaluator(LocalDecoder())
    got = sample(evaluator, comp(files, transform={"x": 5, "y": -3}), 1, 69, 45, "front")
    assert got.stored == pytest.approx(tuple(read_png(files / "disc.01.png")[24, 32]), abs=1e-6)
    assert got.result == pytest.approx((0.8, 0.4, 0.1, 1), abs=3e-3)
    outside = sample(evaluator, comp(files), 1, 1, 1, "front")
    assert outside.stored is None
