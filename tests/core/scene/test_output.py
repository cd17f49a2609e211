"""Files of a render: one sequence a pass, codes of 8 and 16 bits, dithering, and how they read back."""

import json

import cv2
import numpy as np
import OpenEXR
import pytest
from core.scene.test_layers import LAYERS, three_cards
from core.scene.test_passes import HEIGHT, WIDTH
from core.scene.test_shutter import moving
from ferrow_marsh.scenes.waymark import waymark
from neatveil.alpha import read
from neatveil.cli import main
from neatveil.errors import DocumentRefused, SceneRefused
from neatveil.io import LocalDecoder
from neatveil.io.backends import oiio_writing
from neatveil.io.backends.oiio_writing import block_of
from neatveil.picture import StoredPicture
from neatveil.scene.frames import render_frame
from neatveil.scene.output import written_of
from neatveil.scene.pictures import LocalPictures
from neatveil.scene.render_layers import render_layers_of
from neatveil.scene.rendering import frames_there, render_range, write_manifest
from neatveil.scene.setup import parse_setup


def setup(format_name, passes, **more):
    output = {"format": format_name, **more.pop("output", {})}
    given = {"rate": "25", "width": WIDTH, "height": HEIGHT, "samples": 4, "passes": passes, "output": output}
    return parse_setup({**given, **more})


def test_one_sequence_a_pass(tmp_path):
    rows = setup("exr-each", ["beauty", "depth", "masks"], numbers={"near": 1, "far": 3})
    render_range(three_cards(), rows, [1], tmp_path)
    there = sorted(p.name for p in tmp_path.iterdir())
    assert there == ["cards_beauty.0001.exr", "cards_depth.0001.exr", "cards_masks.0001.exr"]
    for name, channels in (("beauty", set("RGBA")), ("depth", {"depth.Z"}), ("masks", {"mask.1", "mask.3"})):
        with OpenEXR.File(str(tmp_path / f"cards_{name}.0001.exr"), separate_channels=True) as file:
            assert set(file.channels()) == channels


@pytest.mark.parametrize("format_name", ["png8", "png16", "tiff8", "tiff16"])
@pytest.mark.parametrize("how", [{"alpha": "straight"}, {"over": [0, 0.5, 1]}, {}])
def test_codes_read_back_as_the_light_that_was_rendered(tmp_path, format_name, how):
    rows = setup(format_name, ["beauty"], output={"dither": False}, **how)
    scene = three_cards()
    render_range(scene, rows, [1], tmp_path)
    (written,) = written_of(scene, rows, render_layers_of(scene, rows)[0])
    stored = LocalDecoder().read(str(tmp_path / written.pattern), 1)
    again = read(stored, written.reading, written.encoding)
    plain = render_frame(scene, setup("exr", ["beauty"]), 1)
    step = 1 / 255 if format_name.endswith("8") else 1 / 65535
    for name in "RGBA":
        # a code's step is widest in light at the bright end: 2.4 times
        np.testing.assert_allclose(again[name], plain[name], atol=2 * step)


def test_depth_and_motion_as_codes(tmp_path):
    """(z - near) / (far - near); 0.5 + d / (2 * most), in 16 bits."""
    rows = setup(
        "tiff16",
        ["depth", "motion_encoded", "normals"],
        most_motion=50,
        output={"depth_range": [2, 6]},
        rate="10",
    )
    scene = moving(speed=10.0)  # 20 pixels a frame
    render_range(scene, rows, [1], tmp_path)
    depth = cv2.imread(str(tmp_path / "s_depth.0001.tif"), cv2.IMREAD_UNCHANGED)
    assert depth.dtype == np.uint16
    middle = HEIGHT // 2, WIDTH // 2
    assert depth[middle] / 65535 == pytest.approx(0.5, abs=1e-4)
    assert depth[0, 0] == 65535
    way = cv2.imread(str(tmp_path / "s_motion_encoded.0001.tif"), cv2.IMREAD_UNCHANGED)[..., ::-1]
    assert way[middle][0] / 65535 == pytest.approx(0.5 + 20 / 100, abs=2e-5)
    assert way[middle][1] / 65535 == pytest.approx(0.5, abs=2e-5)
    up = cv2.imread(str(tmp_path / "s_normals.0001.tif"), cv2.IMREAD_UNCHANGED)[..., ::-1]
    np.testing.assert_allclose(up[middle] / 65535, [0.5, 0.5, 1], atol=1e-4)
    told = json.loads(write_manifest(scene, rows, tmp_path).read_text())
    assert told["passes"]["depth"]["codes"] == {"0": 2, "1": 6}
    assert told["passes"]["motion_encoded"]["most_motion"] == 50


def test_what_codes_cannot_hold_is_said():
    for one in ("motion", "position", "ids"):
        with pytest.raises(DocumentRefused, match=f"{one}.*cannot be held"):
            setup("png16", [one])
    with pytest.raises(DocumentRefused, match="depth_range"):
        setup("png16", ["depth"])


def test_dithered_codes_have_the_mean_of_what_was_meant():
    """Rounding by lot has no error in the mean; whole codes stay as they are."""
    ramp = np.linspace(10.0, 11.0, 11) / 255
    block = np.broadcast_to(ramp.astype(np.float32)[:, None], (11, 20_000))
    got = block_of([block], "uint8", 5)[..., 0]
    np.testing.assert_allclose(got.mean(axis=1), ramp * 255, atol=0.012)
    assert set(np.unique(got)) == {10, 11}
    whole = np.broadcast_to((np.arange(256) / 255).astype(np.float32)[:, None], (256, 500))
    np.testing.assert_array_equal(
        block_of([whole], "uint8", 6)[..., 0], np.broadcast_to(np.arange(256)[:, None], (256, 500))
    )


def test_layers_go_into_folders_of_their_own(tmp_path):
    rows = setup("exr", ["beauty", "depth"], layers=LAYERS)
    render_range(three_cards(), rows, [1], tmp_path)
    there = sorted(p.relative_to(tmp_path).as_posix() for p in tmp_path.rglob("*.exr"))
    assert there == ["far/cards_far.0001.exr", "middle/cards_middle.0001.exr", "near/cards_near.0001.exr"]
    assert frames_there(three_cards(), rows, tmp_path) == [1]
    (tmp_path / "far/cards_far.0001.exr").unlink()
    assert frames_there(three_cards(), rows, tmp_path) == []


def test_a_draft_is_smaller_and_coarser(tmp_path):
    rows = setup("exr", ["beauty"], use="draft")
    render_range(three_cards(), rows, [1], tmp_path)
    picture = LocalDecoder().read(str(tmp_path / "cards.####.exr"), 1)
    assert (picture.display_window.width, picture.display_window.height) == (WIDTH // 2, HEIGHT // 2)


def test_the_command_line_shares_frames_out_and_reads_pictures(tmp_path):
    scene = waymark(tmp_path / "waymark.glb")
    sky = np.full((8, 16, 3), 128, np.uint8)
    cv2.imwrite(str(tmp_path / "sky.png"), sky)
    rows = setup(
        "exr", ["beauty", "environment"], last=3, environment={"picture": "sky.png", "visible": True}
    )
    rows = rows.model_copy(update={"width": 48, "height": 27})
    (tmp_path / "s.json").write_text(rows.model_dump_json())
    command = ["scene", str(scene), "--setup", str(tmp_path / "s.json"), "--to", str(tmp_path / "o")]
    assert main([*command, "--processes", "2"]) == 0
    told = json.loads((tmp_path / "o/waymark.json").read_text())
    assert list(told["frames"]) == ["1", "2", "3"]
    assert told["alpha"]["alpha"] == "straight", "the sky is in the RGB"
    picture = LocalDecoder().read(str(tmp_path / "o/waymark.####.exr"), 2, ["environment.R", "A"])
    light = ((128 / 255 + 0.055) / 1.055) ** 2.4
    np.testing.assert_allclose(picture["environment.R"][picture["A"] == 0], light, atol=2e-3)


def test_a_picture_that_is_not_there(tmp_path, capsys):
    scene = waymark(tmp_path / "waymark.glb")
    rows = setup("exr", ["beauty"], environment={"picture": "gone.png"})
    (tmp_path / "s.json").write_text(rows.model_dump_json())
    assert main(["scene", str(scene), "--setup", str(tmp_path / "s.json"), "--to", str(tmp_path / "o")]) == 1
    assert "gone.png" in capsys.readouterr().err
    assert not (tmp_path / "o").exists()
    with pytest.raises(SceneRefused, match="not at hand"):
        render_frame(three_cards(), rows, 1)


def test_passes_that_carry_the_alpha_compound_it(tmp_path):
    """The classic mistake, on purpose: alpha a in n layers laid over each other is 1 - (1 - a)^n."""
    rows = setup("exr-each", ["emission", "reflection", "diffuse"], output={"alpha_with_passes": True})
    scene = three_cards()
    render_range(scene, rows, [1], tmp_path)
    alphas = []
    for row in written_of(scene, rows, render_layers_of(scene, rows)[0]):
        assert row.reading.alpha == "premultiplied"
        alphas.append(read(LocalDecoder().read(str(tmp_path / row.pattern), 1), row.reading, "linear")["A"])
    one = alphas[0]
    assert ((one > 0) & (one < 1)).any()
    pile = 1 - (1 - alphas[0]) * (1 - alphas[1]) * (1 - alphas[2])
    np.testing.assert_allclose(pile, 1 - (1 - one) ** 3, atol=1e-6)


def test_glare_is_light_where_alpha_is_0_and_is_lost_in_a_straight_file():
    scene = three_cards()
    glare = {"strength": 0.2, "size": 0.1, "over": 0.5}
    bare = render_frame(scene, setup("exr", ["beauty"]), 1)
    got = render_frame(scene, setup("exr", ["beauty", "glare"], glare=glare), 1)
    np.testing.assert_array_equal(got["A"], bare["A"])
    np.testing.assert_allclose(got["R"], bare["R"] + got["glare.R"], atol=1e-6)
    outside = got["A"] == 0
    assert (got["R"][outside] > 1e-3).sum() > 500
    # all but what leaves the frame is still there: a fifth of the light over the threshold
    bright = np.maximum(bare["R"] - 0.5, 0).sum()
    assert 0.7 * bright < got["glare.R"].sum() / 0.2 <= bright * 1.001
    straight = render_frame(scene, setup("exr", ["beauty"], glare=glare, alpha="straight"), 1)
    assert not straight["R"][outside].any()


@pytest.mark.parametrize("ending", ["exr", "hdr", "png"])
def test_environments_of_every_format_are_read_as_light(tmp_path, ending):
    light = np.full((8, 16, 3), 0.25, np.float32)
    light[:, :8] = 2.0 if ending != "png" else 1.0
    path = tmp_path / f"sky.{ending}"
    if ending == "png":
        code = np.where(light == 1, 255, round(255 * (1.055 * 0.25 ** (1 / 2.4) - 0.055))).astype(np.uint8)
        cv2.imwrite(str(path), code)
    elif ending == "hdr":
        cv2.imwrite(str(path), light)
    else:
        planes = {n: np.ascontiguousarray(light[..., i]) for i, n in enumerate("RGB")}
        oiio_writing.write(
            path, StoredPicture(planes), sample="half", alpha_straight=False, encoding="linear"
        )
    got = LocalPictures(LocalDecoder(), tmp_path, setup("exr", ["beauty"]))(path.name, 1)
    assert got.shape == (8, 16, 3)
    np.testing.assert_allclose(got, light, rtol=0.012)
