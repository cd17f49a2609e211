"""Steps that take other layers and elements: the right frame, the right steps, no circles."""

import numpy as np
import pytest
import scipy.ndimage as ndi
from core.pictures import save_png, soft_disc
from neatveil.comp.loading import parse_comp
from neatveil.errors import DocumentRefused, NameUnknown, NeatVeilError
from neatveil.evaluate import Evaluator
from neatveil.io import LocalDecoder
from neatveil.io.backends import oiio_writing
from neatveil.picture import StoredPicture

ROUTE = {"A": {"source": "second", "channel": "R"}}


@pytest.fixture
def files(tmp_path):
    save_png(tmp_path / "plate.png", np.random.default_rng(1).random((48, 64, 3), np.float32))
    for n in range(1, 4):
        save_png(tmp_path / f"disc.{n:02d}.png", np.roll(soft_disc(48, 64, (0.5 + n / 10, 0.2, 0.1)), n, 1))
    return tmp_path


def comp(files, plate=(), disc=(), **more):
    elements = {
        "p": {"name": "plate", "file": str(files / "plate.png"), "still": True, "encoding": "linear"},
        "d": {
            "name": "disc",
            "file": str(files / "disc.##.png"),
            "first": 1,
            "last": 3,
            "encoding": "linear",
        },
    }
    layers = [
        {"id": "back", "name": "plate", "element": "p", "steps": list(plate)},
        {"id": "front", "name": "disc", "element": "d", "steps": list(disc), **more},
    ]
    return parse_comp(
        {"width": 64, "height": 48, "first": 1, "last": 3, "elements": elements, "layers": layers}
    )


def drawn(document, frame=1, only="back", **how):
    return Evaluator(LocalDecoder()).picture(document, frame, only=only, **how)


def patch(second):
    return {"kind": "patch", "second": second, "routes": ROUTE}


@pytest.mark.parametrize("second", ["d", "layer:front"])
@pytest.mark.parametrize("frame", [1, 3])
def test_a_layers_alpha_from_another_picture_at_the_same_frame(files, second, frame):
    got = drawn(comp(files, plate=[patch(second)]), frame)
    red = drawn(comp(files), frame, only="front")
    inside = red["A"] > 0.9
    np.testing.assert_allclose(got["A"][inside], 0.5 + frame / 10, atol=3e-3)


def test_a_layer_comes_after_its_own_steps_though_it_is_hidden(files):
    """What is taken is the layer with its steps, at its own place, shown or not."""
    dark = {"kind": "exposure", "stops": -1}
    got = drawn(comp(files, plate=[patch("layer:front")], disc=[dark], shown=False))
    full = drawn(comp(files, plate=[patch("layer:front")]))
    np.testing.assert_allclose(got["A"], full["A"] / 2, atol=1e-6)


def test_a_change_of_the_other_layer_is_seen_at_once(files):
    evaluator = Evaluator(LocalDecoder())
    alone = [
        evaluator.picture(
            comp(files, plate=[patch("layer:front")], disc=[{"kind": "exposure", "stops": s}]), 1, only="back"
        )
        for s in (0, -2)
    ]
    np.testing.assert_allclose(alone[1]["A"], alone[0]["A"] / 4, atol=1e-6)


def test_at_a_level_it_is_the_same_picture_smaller(files):
    one = {"kind": "patch", "second": "layer:front", "routes": {"A": {"source": "second", "channel": "A"}}}
    small, full = (drawn(comp(files, plate=[one]), level=n) for n in (1, 0))
    np.testing.assert_allclose(small["A"], full["A"].reshape(24, 2, 32, 2).mean((1, 3)), atol=1e-6)


@pytest.mark.parametrize(
    ("plate", "disc", "words"),
    [
        ([patch("layer:front")], [patch("layer:back")], "plate takes disc takes plate"),
        ([patch("layer:back")], [], "plate takes plate"),
    ],
)
def test_a_circle_is_refused_and_named(files, plate, disc, words):
    with pytest.raises(DocumentRefused, match=words):
        comp(files, plate=plate, disc=disc)


def test_what_is_gone_is_named_by_layer(files):
    with pytest.raises(DocumentRefused, match=r"Layer plate: .*layer gone.*not in the comp"):
        drawn(comp(files, plate=[patch("layer:gone")]))
    with pytest.raises(DocumentRefused, match=r"Layer plate: .*e99.*has not"):
        drawn(comp(files, plate=[patch("e99")]))


def test_a_channel_that_is_not_there_is_named(files):
    one = {"kind": "patch", "second": "d", "routes": {"A": {"source": "second", "channel": "depth.Z"}}}
    with pytest.raises(NameUnknown, match=r"depth\.Z"):
        drawn(comp(files, plate=[one]))


def test_what_cannot_be_done_leaves_the_others_and_is_named(files):
    document = comp(files, disc=[{"kind": "blur"}, {"kind": "gloww"}])
    evaluator, failed = Evaluator(LocalDecoder()), []
    got = evaluator.picture(document, 1, failed=failed)
    np.testing.assert_array_equal(got["R"], drawn(comp(files))["R"])
    assert [(e.code, e.where) for e in failed] == [("step-unknown", "disc")]
    assert "blur" in failed[0].advice, "the kinds that are known are named"
    with pytest.raises(NeatVeilError, match=r"Layer disc: The step .gloww. is not known"):
        evaluator.picture(document, 1)


def test_a_step_that_is_off_may_name_what_is_gone(files):
    off = {**patch("gone"), "on": False}
    np.testing.assert_array_equal(drawn(comp(files, plate=[off]))["A"], drawn(comp(files))["A"])
    failed = []
    Evaluator(LocalDecoder()).picture(comp(files, plate=[patch("gone")]), 1, failed=failed)
    assert failed[0].where == "plate"


@pytest.fixture
def deep(tmp_path):
    """A picture with its depth in the same file."""
    rng = np.random.default_rng(4)
    planes = {n: rng.random((48, 64), np.float32) for n in ("R", "G", "B")}
    planes |= {"A": np.ones((48, 64), np.float32), "depth.Z": rng.random((48, 64), np.float32) * 9}
    stored = StoredPicture(planes, data_planes=["depth.Z"])
    oiio_writing.write(
        tmp_path / "deep.exr", stored, sample="float", alpha_straight=False, encoding="linear",
        compression="zip",
    )  # fmt: skip
    return planes, comp(tmp_path), tmp_path


def test_steps_act_on_a_further_channel_and_a_patch_takes_it(deep):
    planes, _, folder = deep
    steps = [
        {"kind": "levels", "in_white": 9, "extra_channel": "depth.Z"},
        {"kind": "blur", "size": 2, "extra_channel": "depth.Z"},
        {"kind": "exposure", "stops": 1},
        {"kind": "blur", "size": 1, "channels": "r"},
        {"kind": "patch", "routes": {"A": {"channel": "depth.Z"}}},
    ]
    element = {"name": "deep", "file": str(folder / "deep.exr"), "still": True, "encoding": "linear",
               "reading": {"alpha": "premultiplied"}}  # fmt: skip
    layer = {"id": "back", "name": "deep", "element": "x", "steps": steps}
    document = parse_comp({"width": 64, "height": 48, "elements": {"x": element}, "layers": [layer]})
    got = drawn(document)
    expected = ndi.gaussian_filter(planes["depth.Z"].astype(float) / 9, 2, mode="nearest", radius=8)
    np.testing.assert_allclose(got["A"], expected, atol=2e-6)
    np.testing.assert_allclose(got["G"], planes["G"] * 2 * expected, atol=5e-6)


def test_a_further_channel_that_is_not_there_is_named(files):
    with pytest.raises(NeatVeilError, match=r"Layer plate: Step Blur: .*depth\.Z"):
        drawn(comp(files, plate=[{"kind": "blur", "extra_channel": "depth.Z"}]))
