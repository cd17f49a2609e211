"""A pass that is missing on some frames, under every step that goes by data: named, and the rest is drawn."""

import numpy as np
import pytest
from neatveil.alpha import Reading
from neatveil.comp import Carried, Comp, Element, Layer
from neatveil.errors import FrameMissing
from neatveil.evaluate import Evaluator
from neatveil.io import LocalDecoder
from neatveil.io.backends import oiio_writing
from neatveil.picture import StoredPicture

SIZE = (12, 16)
STEPS = {
    "uv_map": {"second": "car"}, "motion_blur": {}, "depth_blur": {"size": 3.0}, "fog": {},
    "relight": {},
}  # fmt: skip
CHANNELS = ("depth.Z", "uv.U", "uv.V", "motion.X", "motion.Y", "normal.X", "normal.Y", "normal.Z")


def written(path, **planes):
    made = {n: np.full(SIZE, v, np.float32) for n, v in planes.items()}
    oiio_writing.write(
        path, StoredPicture(made), sample="float", alpha_straight=False, encoding="linear", compression="zip"
    )


@pytest.fixture
def comp_of(tmp_path):
    """A plate, and before it a layer with the step; colour of three frames, data of frames 1 and 3."""
    for n in (1, 2, 3):
        written(tmp_path / f"back.{n}.exr", R=0.2, G=0.3, B=0.4, A=1.0)
        written(tmp_path / f"car.{n}.exr", R=0.5, G=0.5, B=0.5, A=0.5)
        if n != 2:
            written(tmp_path / f"data.{n}.exr", **dict.fromkeys(CHANNELS, 0.5))

    def made(step, beyond, last):
        own = {"rate": "25", "encoding": "linear", "reading": Reading(alpha="premultiplied"), "first": 1}
        joined = tuple(
            Carried(name=c, file=str(tmp_path / "data.#.exr"), channel=c, first=1, last=last, data=True,
                    beyond=beyond)
            for c in CHANNELS
        )  # fmt: skip
        elements = {
            "back": Element(name="back", file=str(tmp_path / "back.#.exr"), last=3, **own),
            "car": Element(name="car", file=str(tmp_path / "car.#.exr"), last=3, joined=joined, **own),
        }
        car = Layer(id="car", name="car", element="car", steps=[{"kind": step, **STEPS[step]}])
        back = Layer(id="back", name="plate", element="back")
        return Comp(width=SIZE[1], height=SIZE[0], first=1, last=3, elements=elements, layers=(back, car))

    return made


@pytest.mark.parametrize("step", STEPS)
@pytest.mark.parametrize(("last", "frame", "words"), [(3, 2, "Frame 2 of data"), (2, 3, "no frame for 3")])
def test_it_is_named_by_layer_and_the_rest_is_drawn(comp_of, step, last, frame, words):
    """In the middle, where a file is not there; and past the end, where the pass was said to end."""
    comp, failed = comp_of(step, "error", last), []
    picture = Evaluator(LocalDecoder()).picture(comp, frame, failed=failed)
    (error,) = failed
    assert isinstance(error, FrameMissing)
    assert error.message.startswith("Layer car: ")
    assert words in error.message
    assert error.advice
    np.testing.assert_allclose(picture["B"], 0.4)
    whole = Evaluator(LocalDecoder()).picture(comp, 1, failed=failed)
    assert len(failed) == 1
    assert not np.allclose(whole["B"], 0.4)


@pytest.mark.parametrize("step", STEPS)
@pytest.mark.parametrize("beyond", ["hold", "blank"])
def test_what_stands_in_past_the_end_is_what_was_said(comp_of, step, beyond):
    failed = []
    evaluator = Evaluator(LocalDecoder())
    held = evaluator.picture(comp_of(step, beyond, 1), 3, failed=failed)
    assert failed == []
    if beyond == "hold":
        there = evaluator.picture(comp_of(step, beyond, 1), 1)
        np.testing.assert_array_equal(held.rgba(), there.rgba())
