"""Configurations that a project brings: known by what they hold, whole, and without files from elsewhere.

What a space means is checked against the closed form of the table that an archive holds, and against the
library working inside the configuration alone.
"""

import json

import numpy as np
import OpenEXR
import PyOpenColorIO as ocio
import pytest
from core.colour.made_configurations import SPACE, archive, config_with_a_table, square_table
from core.pictures import premultiplied, save_png, soft_disc
from neatveil.cli import main
from neatveil.colour import configurations, encoding_named
from neatveil.colour.checked_apart import check_apart
from neatveil.colour.spaces import is_linear_space, space_codes, space_light, spaces_of, views_of
from neatveil.errors import NameUnknown
from neatveil.view import Look


@pytest.fixture
def own(tmp_path):
    return configurations.give(archive(tmp_path))


def _grey(values):
    return dict.fromkeys("RGB", np.asarray(values, np.float32).reshape(1, -1))


def test_a_table_in_an_archive_is_its_closed_form_there_and_back(own):
    codes = np.linspace(0, 1, 101)
    light = space_light(_grey(codes), f"{own}/{SPACE}")
    for n in "RGB":  # on grey, so that primaries play no part
        np.testing.assert_allclose(light[n][0], codes**2, atol=2e-6)
        np.testing.assert_allclose(space_codes(light, f"{own}/{SPACE}")[n][0], codes, atol=2e-4)
    assert [s.title for s in spaces_of(own)] == ["ACES2065-1", SPACE], "data is no space of colour"
    assert is_linear_space(f"{own}/ACES2065-1")


def test_its_views_are_shown_and_a_raw_one_is_not(own):
    (view,) = views_of(own)
    assert (view.display, view.title) == ("desk", "squared")
    shown = space_codes(_grey([0.25, 0.49]), view.name)
    np.testing.assert_allclose(shown["G"][0], [0.5, 0.7], atol=2e-4)
    assert Look(through=view.name).through == view.name


def test_the_same_configuration_brought_is_the_one_that_ships(tmp_path):
    """A copy of the library's own, as a file: every space, by other ways to the same light."""
    path = tmp_path / "copy.ocio"
    path.write_text(ocio.Config.CreateFromBuiltinConfig(configurations.BUILT_IN["cg"]).serialize())
    key = configurations.give(path)
    rng = np.random.default_rng(5)
    light = dict(zip("RGB", rng.random((3, 9, 11), np.float32) * 3, strict=True))
    names = [s.title for s in spaces_of("cg")]
    assert [s.title for s in spaces_of(key)] == names
    for name in [*names, *(v.name.removeprefix("cg/") for v in views_of("cg"))]:
        got, want = space_codes(light, f"{key}/{name}"), space_codes(light, f"cg/{name}")
        for n in "RGB":
            np.testing.assert_allclose(got[n], want[n], rtol=1e-4, atol=1e-5, err_msg=name)


def test_its_key_is_what_the_file_holds(tmp_path, own):
    assert configurations.KEY_PATTERN.count("own-") == 1
    again = tmp_path / "another name.ocioz"
    again.write_bytes((tmp_path / "marsh.ocioz").read_bytes())
    assert configurations.give(again) == own
    assert encoding_named(f"{own}/{SPACE}") is not None
    with pytest.raises(NameUnknown, match="own-0000000000000000"):
        space_light(_grey([0.5]), f"own-0000000000000000/{SPACE}")
    with pytest.raises(NameUnknown, match="no such"):
        space_light(_grey([0.5]), f"{own}/no such")


def test_file_rules_give_a_space_by_the_name_and_the_default_one_gives_none(own):
    assert configurations.by_file_rules(own, "plates/sky_marsh.0001.exr") == SPACE
    assert configurations.by_file_rules(own, "plates/sky.0001.exr") is None
    assert configurations.by_file_rules("cg", "sky_marsh.exr") is None


def _raw(folder):
    return ocio.Config.CreateRaw().serialize()


def _without_its_table(folder):
    return config_with_a_table().serialize()


def _from_elsewhere(folder):
    return config_with_a_table(source=str(square_table(folder / "outside"))).serialize()


def _from_above(folder):
    square_table(folder / "outside")
    return config_with_a_table(search="../outside/luts").serialize()


def _by_the_environment(folder):
    return config_with_a_table(search="$HOME/luts").serialize()


def _alone(folder):
    """Spaces of which nothing says how they relate to others."""
    config = ocio.Config()
    config.setVersion(2, 1)
    for name in ("marsh light", "marsh codes"):
        config.addColorSpace(ocio.ColorSpace(ocio.REFERENCE_SPACE_SCENE, name))
    config.setRole("scene_linear", "marsh light")
    config.setRole("default", "marsh light")
    config.addDisplayView("desk", "codes", "marsh codes")
    return config.serialize()


@pytest.mark.parametrize(
    ("held", "said"),
    [
        (_raw, "no colour space"),
        (_without_its_table, "square.spi1d"),
        (_from_elsewhere, "from outside itself"),
        (_from_above, "from outside itself"),
        (_by_the_environment, "from outside itself"),
        (_alone, "aces_interchange"),
        (lambda _: "ocio_profile_version: 9\n", "no configuration"),
        (lambda _: "a picture", "no configuration"),
        (lambda _: "", "no configuration"),
    ],
)
def test_what_cannot_be_used_is_refused_with_why(tmp_path, held, said):
    (tmp_path / "in").mkdir()
    path = tmp_path / "in" / "c.ocio"
    path.write_text(held(tmp_path))
    with pytest.raises(configurations.ConfigurationRefused) as refused:
        configurations.check(path, "marsh.ocio")
    assert said in str(refused.value)
    assert "marsh.ocio" in str(refused.value)
    assert str(tmp_path / "in") not in str(refused.value), "where files lie is not told"


def test_a_damaged_archive_is_refused(tmp_path):
    path = archive(tmp_path)
    path.write_bytes(path.read_bytes()[:200])
    with pytest.raises(configurations.ConfigurationRefused):
        configurations.check(path)


def test_the_command_line_delivers_in_a_space_of_a_given_configuration(tmp_path, capsys):
    disc = soft_disc(24, 32, (0.25, 0.25, 0.25))
    save_png(tmp_path / "disc.png", premultiplied(disc))
    comp = {
        "width": 32, "height": 24, "rate": "25", "first": 1, "last": 1,
        "elements": {"d": {"file": "disc.png", "reading": {"alpha": "premultiplied"}, "encoding": "linear"}},
        "layers": [{"id": "a", "name": "disc", "element": "d"}],
    }  # fmt: skip
    (tmp_path / "c.json").write_text(json.dumps(comp))
    path = archive(tmp_path)
    out = str(tmp_path / "out")
    said = ["--config", str(path), "deliver", str(tmp_path / "c.json"), "--codec", "exr", "--to", out]
    assert main([*said, "--encoding", f"own/{SPACE}"]) == 0, capsys.readouterr().err
    (written,) = tmp_path.glob("out*.exr")
    pixels = OpenEXR.File(str(written)).channels()["RGBA"].pixels[12, 16].astype(float)
    np.testing.assert_allclose(pixels, [0.5, 0.5, 0.5, 1], atol=2e-3)  # 8 bits of the source, half's steps
    assert main(["deliver", str(tmp_path / "c.json"), "--to", f"{out}2", "--encoding", "own/x"]) == 1


def test_one_is_tried_in_a_process_of_its_own(tmp_path):
    good = archive(tmp_path)
    check_apart(good, "marsh.ocioz")
    (tmp_path / "torn.ocioz").write_bytes(good.read_bytes()[:300])
    with pytest.raises(configurations.ConfigurationRefused, match=r"torn\.ocioz is no configuration"):
        check_apart(tmp_path / "torn.ocioz", "torn.ocioz")
    with pytest.raises(configurations.ConfigurationRefused, match="took longer than"):
        check_apart(good, "marsh.ocioz", seconds=0.001)
    with pytest.raises(configurations.ConfigurationRefused, match="ended the process"):
        check_apart(good, "marsh.ocioz", memory=1 << 20)
