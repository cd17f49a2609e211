"""What an element's frame is made of: gaps, channels of other files, data."""

import numpy as np
import pytest
from core.pictures import save_png, soft_disc
from neatveil.alpha import Reading
from neatveil.comp import Carried, Element
from neatveil.errors import FrameMissing, ValueRefused
from neatveil.evaluate import Evaluator
from neatveil.evaluate.stored import read_stored
from neatveil.io import LocalDecoder
from neatveil.io.backends import oiio_writing
from neatveil.picture import Box, StoredPicture

DECODER = LocalDecoder()


@pytest.fixture
def gapped(tmp_path):
    for n in (1, 2, 5):
        save_png(tmp_path / f"s.{n}.png", np.full((4, 6, 4), n / 10, np.float32))
    return Element(name="s", file=str(tmp_path / "s.#.png"), first=1, last=5)


@pytest.mark.parametrize(("gaps", "expected"), [("hold", 51 / 255), ("black", 0.0)])
def test_missing_frames_hold_or_are_clear(gapped, gaps, expected):
    element = gapped.model_copy(update={"gaps": gaps})
    picture = read_stored(DECODER, element, 4)
    assert [float(picture[n][0, 0]) for n in "RGBA"] == pytest.approx([expected] * 4)
    assert float(read_stored(DECODER, element, 5)["R"][0, 0]) == pytest.approx(128 / 255)


def test_a_missing_frame_is_an_error_unless_somebody_says_otherwise(gapped):
    with pytest.raises(FrameMissing, match="Frame 3"):
        read_stored(DECODER, gapped, 3)


def test_a_gap_that_is_filled_is_drawn_from_the_new_frame(gapped, tmp_path):
    """What was kept of a held frame is given up once the frame is there."""
    evaluator = Evaluator(DECODER)
    element = gapped.model_copy(
        update={"gaps": "hold", "reading": Reading(alpha="none"), "encoding": "linear"}
    )
    assert float(evaluator.source(element, 3)["R"][0, 0]) == pytest.approx(51 / 255)
    save_png(tmp_path / "s.3.png", np.full((4, 6, 4), 0.9, np.float32))
    assert float(evaluator.source(element, 3)["R"][0, 0]) == pytest.approx(230 / 255)


def _exr(path, planes, window=None, frame=None):
    picture = StoredPicture(planes, window, frame)
    oiio_writing.write(path, picture, sample="float", alpha_straight=False, encoding="linear")
    return path


def test_data_is_never_decoded_never_multiplied_and_never_changed(tmp_path):
    """A normal stored as R, G, B with values below 0: bit for bit, whatever encoding and reading say."""
    rng = np.random.default_rng(3)
    planes = {n: rng.normal(size=(5, 7)).astype(np.float32) for n in "RGB"} | {
        "A": rng.random((5, 7), np.float32), "depth.Z": rng.normal(size=(5, 7)).astype(np.float32) * 900,
    }  # fmt: skip
    path = _exr(tmp_path / "n.exr", planes)
    evaluator = Evaluator(DECODER)
    for encoding in ("linear", "srgb", "rec709", "gamma2.2"):
        for alpha in ("straight", "premultiplied", "none"):
            element = Element(
                name="n", file=str(path), still=True, encoding=encoding,
                reading=Reading(alpha=alpha, matte=(0.2, 0.4, 0.6), multiplied="encoded"),
                kinds=dict.fromkeys("RGB", "data"),
            )  # fmt: skip
            got = evaluator.source(element, 0)
            for n in "RGB":
                np.testing.assert_array_equal(got[n], planes[n])
            stored = evaluator.stored(element, 0, ["depth.Z"])
            np.testing.assert_array_equal(stored["depth.Z"], planes["depth.Z"])


def test_a_name_that_means_data_can_be_said_to_be_colour(tmp_path):
    path = _exr(tmp_path / "m.exr", {"mask.R": np.ones((2, 2), np.float32)})
    element = Element(name="m", file=str(path), still=True)
    assert read_stored(DECODER, element, 0, ["mask.R"]).data_planes == {"mask.R"}
    said = element.model_copy(update={"kinds": {"mask.R": "colour"}})
    assert read_stored(DECODER, said, 0, ["mask.R"]).data_planes == frozenset()


def test_an_alpha_of_its_own_file_begins_where_it_is_told(tmp_path):
    for n in (1, 2, 3):
        save_png(tmp_path / f"c.{n}.png", np.full((3, 3, 3), 0.5, np.float32))
        save_png(tmp_path / f"a.{n + 10}.png", np.full((3, 3, 3), n / 10, np.float32))
    part = Carried(name="A", file=str(tmp_path / "a.##.png"), first=11, last=13, offset=1, beyond="blank")
    element = Element(name="c", file=str(tmp_path / "c.#.png"), first=1, last=3, joined=(part,))
    levels = [float(read_stored(DECODER, element, f)["A"][0, 0]) for f in (1, 2, 3)]
    assert levels == pytest.approx([0, 26 / 255, 51 / 255], abs=1e-6)
    turned = element.model_copy(update={"joined": (part.model_copy(update={"inverted": True, "offset": 0}),)})
    assert float(read_stored(DECODER, turned, 1)["A"][0, 0]) == pytest.approx(1 - 26 / 255)


def test_a_part_of_another_size_is_refused_and_one_with_a_smaller_data_window_fits(tmp_path):
    save_png(tmp_path / "c.png", soft_disc(8, 8)[..., :3])
    save_png(tmp_path / "a.png", soft_disc(9, 8)[..., :3])
    part = Carried(name="A", file=str(tmp_path / "a.png"), still=True)
    element = Element(name="c", file=str(tmp_path / "c.png"), still=True, joined=(part,))
    with pytest.raises(ValueRefused, match=r"8 x 9.*8 x 8"):
        read_stored(DECODER, element, 0)
    z = _exr(tmp_path / "z.exr", {"Z": np.full((2, 3), 7, np.float32)}, Box(4, 1, 7, 3), Box(0, 0, 8, 8))
    deep = Carried(name="depth.Z", file=str(z), channel="Z", still=True, data=True)
    got = read_stored(DECODER, element.model_copy(update={"joined": (deep,)}), 0, ["R", "depth.Z"])
    expected = np.zeros((8, 8), np.float32)
    expected[1:3, 4:7] = 7
    np.testing.assert_array_equal(got["depth.Z"], expected)
    assert got.data_planes == {"depth.Z"}
