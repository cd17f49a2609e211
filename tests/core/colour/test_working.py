"""Working spaces: matrices against colour-science and the library, and what a configuration asks for."""

import colour
import numpy as np
import PyOpenColorIO as ocio
import pytest
from core.colour.made_configurations import archive
from core.pictures import picture
from core.reference.working import SPACES
from hypothesis import given
from hypothesis import strategies as st
from neatveil.colour import configurations
from neatveil.colour.working import (
    colour_from_working,
    from_working,
    matrix_to_light,
    role_of,
    to_work_in,
    to_working,
)
from neatveil.comp import Comp
from neatveil.errors import ValueRefused
from neatveil.picture import PremultipliedPicture


@pytest.mark.parametrize("name", sorted(SPACES))
def test_a_matrix_is_that_of_colour_science(name):
    expected = colour.matrix_RGB_to_RGB(
        SPACES[name], "ITU-R BT.709", chromatic_adaptation_transform="Bradford"
    )
    np.testing.assert_allclose(matrix_to_light(name), expected, atol=2e-4)


def test_acescg_is_worked_in_as_the_library_itself_has_it():
    """ACEScg of the CG configuration [S2014004] against the library's processor for single colours."""
    config = ocio.Config.CreateFromBuiltinConfig(configurations.BUILT_IN["cg"])
    processor = config.getProcessor("Linear Rec.709 (sRGB)", "ACEScg").getDefaultCPUProcessor()
    for rgb in ([1.0, 0.0, 0.0], [0.1, 3.5, 0.2], [-0.2, 0.18, 12.0]):
        got = to_working(picture(np.array([[[*rgb, 1.0]]], np.float32)), "linear@ap1").rgba()[0, 0, :3]
        np.testing.assert_allclose(got, processor.applyRGB(rgb), atol=2e-5 * max(rgb))


@given(st.sampled_from(sorted(SPACES)), st.lists(st.floats(-4, 60, width=32), min_size=3, max_size=3))
def test_there_and_back_is_the_same_light_and_white_stays_white(name, rgb):
    given_picture = picture(np.array([[[*rgb, 0.5], [0.7, 0.7, 0.7, 1.0]]], np.float32))
    there = to_working(given_picture, name)
    np.testing.assert_allclose(there.rgba()[0, 1], [0.7, 0.7, 0.7, 1], atol=2e-4)
    back = from_working(there, name).rgba()
    np.testing.assert_allclose(back, given_picture.rgba(), atol=3e-6 * max(1, *np.abs(rgb)))
    np.testing.assert_allclose(
        colour_from_working(tuple(there.rgba()[0, 0, :3].tolist()), name), rgb,
        atol=3e-6 * max(1, *np.abs(rgb)),
    )  # fmt: skip


def test_data_and_other_planes_stay_as_they_are():
    planes = {n: np.full((1, 1), 0.3 + 0.2 * i, np.float32) for i, n in enumerate("RGBA")}
    data = PremultipliedPicture(planes, data_planes={"R", "G", "B"})
    assert to_working(data, "linear@ap1") is data
    extra = {**planes, "depth.Z": np.full((1, 1), 7, np.float32)}
    changed = to_working(PremultipliedPicture(extra, data_planes={"depth.Z"}), "linear@ap1")
    assert changed["depth.Z"][0, 0] == 7
    assert changed["R"][0, 0] != extra["R"][0, 0]


def test_a_configuration_asks_for_its_scene_linear_role(tmp_path):
    """ACES2065-1 in the made one: known by its primaries, so that the document needs no configuration."""
    own = configurations.give(archive(tmp_path))
    assert [role_of(k) for k in ("cg", "studio", "cg2", own)] == ["linear@ap1"] * 3 + ["linear@ap0"]
    config = _config(
        "Marsh linear", ocio.MatrixTransform([0.5, 0.4, 0.1, 0, 0.2, 0.7, 0.1, 0, 0, 0, 1, 0, 0, 0, 0, 1])
    )
    key = _given(config, tmp_path / "matrix.ocio")
    assert role_of(key) == f"{key}/Marsh linear"
    assert Comp(working=f"{key}/Marsh linear").working == f"{key}/Marsh linear"
    without = _config("none", None)
    without.setRole("scene_linear", None)
    assert role_of(_given(without, tmp_path / "none.ocio")) is None


def test_a_space_that_only_calls_itself_linear_is_not_worked_in(tmp_path):
    key = _given(_config("Bent", ocio.ExponentTransform([1.2, 1.2, 1.2, 1])), tmp_path / "bent.ocio")
    assert role_of(key) is None
    with pytest.raises(ValueRefused, match="Bent cannot be worked in: it is not linear"):
        matrix_to_light(f"{key}/Bent")


@pytest.mark.parametrize("name", ["srgb", "rec709@bt2020", "gamma2.2", "cg/ACEScct", "cg/nothing"])
def test_what_is_no_linear_light_is_refused(name):
    with pytest.raises(ValueError, match=r"no working space|nothing"):
        to_work_in(name)


def test_a_document_opens_without_the_configuration_that_it_works_in():
    assert Comp(working="own-0123456789abcdef/Marsh linear").working.startswith("own-")


def _config(name, transform):
    config = ocio.Config()
    config.setVersion(2, 1)
    config.addColorSpace(ocio.ColorSpace(ocio.REFERENCE_SPACE_SCENE, "ACES2065-1", encoding="scene-linear"))
    made = ocio.ColorSpace(ocio.REFERENCE_SPACE_SCENE, name, encoding="scene-linear", toReference=transform)
    config.addColorSpace(made)
    config.setRole("aces_interchange", "ACES2065-1")
    config.setRole("scene_linear", name)
    config.setRole("default", "ACES2065-1")
    config.addDisplayView("desk", "view", "ACES2065-1")
    return config


def _given(config, path):
    path.write_text(config.serialize())
    return configurations.give(path)
