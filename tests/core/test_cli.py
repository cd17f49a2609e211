"""The command line: same code, one clear line on standard error, non-zero when wrong."""

import json

import numpy as np
import pytest
from core.drawn.made_fonts import save_font
from core.pictures import premultiplied, save_png, soft_disc
from neatveil.cli import main
from neatveil.comp.loading import parse_comp
from neatveil.drawn.font_files import FILES, fonts_in
from neatveil.evaluate import Evaluator
from neatveil.io import LocalDecoder


@pytest.fixture
def comp(tmp_path):
    for n in (1, 2, 3):
        save_png(tmp_path / f"disc.{n:04d}.png", np.roll(soft_disc(), n, axis=1))
    (tmp_path / "c.json").write_text(
        json.dumps(
            {
                "width": 64, "height": 48, "rate": "25", "first": 1, "last": 3,
                "elements": {"d": {"file": "disc.####.png", "first": 1, "last": 3}},
                "layers": [{"id": "a", "name": "disc", "element": "d"}],
            }
        )
    )  # fmt: skip
    return tmp_path


def test_probe_as_json_and_words(comp, capsys):
    assert main(["probe", str(comp / "disc.####.png"), "--json"]) == 0
    facts = json.loads(capsys.readouterr().out)
    assert (facts["first"], facts["last"], facts["alpha_use"]) == (1, 3, "used")
    assert main(["probe", str(comp / "disc.0001.png")]) == 0
    assert "64 x 48" in capsys.readouterr().out


def test_a_text_in_a_font_file_is_drawn_as_the_application_draws_it(tmp_path, monkeypatch, capsys):
    (font,) = fonts_in(save_font(tmp_path / "marsh.ttf"))
    made = {"kind": "text", "text": "沼 Ma", "size": 20, "font": font.key}
    layer = {"id": "t", "name": "Card", "kind": "made", "made": made}
    data = {"width": 96, "height": 40, "last": 1, "layers": [layer]}
    (tmp_path / "c.json").write_text(json.dumps(data))
    ask = ["render", str(tmp_path / "c.json"), "--to", str(tmp_path / "o.####.exr")]
    monkeypatch.setattr(FILES, "_given", {})
    assert main(ask) == 1
    assert "is not here" in capsys.readouterr().err
    assert main(["--font", str(tmp_path / "marsh.ttf"), *ask]) == 0
    (file,) = tmp_path.glob("o.*.exr")
    alpha = LocalDecoder().read(str(file), 1).planes["A"]
    expected = Evaluator(LocalDecoder()).picture(parse_comp(data), 1)["A"]
    np.testing.assert_allclose(alpha, expected, atol=1e-3)
    assert alpha.max() == 1


@pytest.mark.parametrize("target", ["o.####.png", "o.####.exr", "o.mov"])
def test_render_then_verify(comp, capsys, target):
    out = str(comp / "out" / target)
    assert main(["render", str(comp / "c.json"), "--frames", "1-3", "--to", out]) == 0
    assert main(["verify", out, "--against", str(comp / "c.json"), "--json"]) == 0
    proof = json.loads(capsys.readouterr().out)
    assert (proof["frames_found"], proof["good"]) == (3, True)


def test_verify_fails_when_a_frame_is_missing(comp, capsys):
    out = str(comp / "o.####.png")
    main(["render", str(comp / "c.json"), "--to", out])
    (comp / "o.0002.png").unlink()
    assert main(["verify", out, "--against", str(comp / "c.json")]) == 1
    assert capsys.readouterr().err == "neatveil: 1 frames are missing: 2.\n"


def test_convert_unmultiplies_over_a_matte(comp):
    straight = soft_disc()
    a = straight[..., 3:]
    over_green = np.dstack([straight[..., :3] * a + np.array([0, 1, 0]) * (1 - a), a])
    save_png(comp / "g.png", over_green)
    args = ["--read", "premultiplied", "--matte", "0,1,0", "--write", "straight"]
    assert main(["convert", str(comp / "g.png"), str(comp / "s.png"), *args]) == 0
    got = LocalDecoder().read(str(comp / "s.png"), 0).rgba()
    there = straight[..., 3] > 0.5
    np.testing.assert_allclose(got[there], straight[there], atol=2.1 / 255)


def test_convert_straight_to_premultiplied_exr(comp):
    args = ["--read", "straight", "--write", "premultiplied"]
    assert main(["convert", str(comp / "disc.####.png"), str(comp / "p.####.exr"), *args]) == 0
    got = LocalDecoder().read(str(comp / "p.0002.exr"), 0).rgba()
    assert got[..., 0].max() == pytest.approx(0.6038, abs=2e-3)  # sRGB 0.8 decoded (colour-science)
    edge = (got[..., 3] > 0.1) & (got[..., 3] < 0.9)
    np.testing.assert_allclose(got[edge][:, 0] / got[edge][:, 3], 0.6038, atol=4e-3)


def test_convert_keeps_premultiplied_code_values(comp):
    save_png(comp / "p.png", premultiplied(soft_disc()))
    args = ["--read", "premultiplied", "--write", "premultiplied"]
    assert main(["convert", str(comp / "p.png"), str(comp / "q.png"), *args]) == 0
    before, after = (LocalDecoder().read(str(comp / n), 0).rgba() for n in ("p.png", "q.png"))
    np.testing.assert_allclose(after, before, atol=2e-5)


def test_schema_is_json(capsys):
    assert main(["schema"]) == 0
    assert "layers" in json.loads(capsys.readouterr().out)["properties"]


@pytest.mark.parametrize(
    ("args", "words"),
    [
        (["probe", "nowhere.png"], "nowhere.png is not there"),
        (["probe", "nowhere.####.exr"], "No file matches"),
        (["render", "nowhere.json", "--to", "a.####.png"], "nowhere.json"),
    ],
)
def test_errors_are_one_line_and_a_status(args, words, capsys):
    assert main(args) == 1
    err = capsys.readouterr().err
    assert words in err
    assert err.count("\n") == 1


def test_frames_outside_the_comp_are_refused(comp, capsys):
    assert main(["render", str(comp / "c.json"), "--frames", "2-9", "--to", str(comp / "o.####.png")]) == 1
    assert "the comp has 1 to 3" in capsys.readouterr().err


def test_movie_without_rate_asks_for_one(comp, capsys):
    args = ["--read", "straight", "--write", "straight"]
    assert main(["convert", str(comp / "disc.####.png"), str(comp / "o.mov"), *args]) == 1
    assert "--rate" in capsys.readouterr().err
    assert main(["convert", str(comp / "disc.####.png"), str(comp / "o.mov"), *args, "--rate", "23.976"]) == 0
    assert LocalDecoder().probe(str(comp / "o.mov")).rate == "24000/1001"


def test_what_the_pixels_say(tmp_path, capsys):
    from core.alpha.matrix import Case, element
    from core.pictures import save_png

    path = save_png(tmp_path / "k.png", element(Case("soft", "8-bit", "encoded", "red")))
    assert main(["reading", str(path)]) == 0
    lines = capsys.readouterr().out.splitlines()
    assert lines[0] == "premultiplied over #ff0000 in encoded values"
    assert any("%" in line for line in lines[2:])


def test_rewriting_on_the_command_line(tmp_path, capsys):
    from core.pictures import save_png, soft_disc

    for n in (1, 2):
        save_png(tmp_path / f"k.{n}.png", soft_disc())
    source, target = str(tmp_path / "k.#.png"), str(tmp_path / "out.mkv")
    assert main(["transcode", source, target, "--format", "ffv1"]) == 1
    assert "gives no frame rate" in capsys.readouterr().err
    assert main(["transcode", source, target, "--format", "ffv1", "--rate", "24000/1001"]) == 0
    assert "2 of 2 frames; colour off by 0.0000" in capsys.readouterr().out
    assert main(["transcode", source, str(tmp_path / "o.mp4"), "--format", "h264", "--rate", "25"]) == 1
    assert "cannot hold its alpha" in capsys.readouterr().err


def test_delivering_in_a_form_and_proving_it(comp, capsys):
    """The same as ordered on the Delivery desk: RGB and alpha apart, single frames and ranges."""
    out = comp / "out" / "disc"
    args = ["deliver", str(comp / "c.json"), "--to", str(out), "--codec", "tiff16", "--contents", "apart"]
    assert main([*args, "--frames", "1,3", "--json"]) == 0
    proofs = json.loads(capsys.readouterr().out)
    assert [(p["good"], p["frames_found"]) for p in proofs] == [(True, 2)] * 2
    assert sorted(p.name for p in out.parent.iterdir()) == [
        "ascmhl", "disc_alpha.0001.tif", "disc_alpha.0003.tif", "disc_alpha.otio", "disc_rgb.0001.tif",
        "disc_rgb.0003.tif", "disc_rgb.otio",
    ]  # fmt: skip
    assert main([*args, "--frames", "3"]) == 1
    assert "is there already" in capsys.readouterr().err
    assert main([*args, "--frames", "2,9"]) == 1
    assert "the comp has 1 to 3" in capsys.readouterr().err


def test_several_presets_in_one_go(comp, capsys):
    args = ["deliver", str(comp / "c.json"), "--preset", "prores4444-straight", "--preset", "tiff16-straight"]
    assert main([*args, "--to", str(comp / "all" / "{format}"), "--json"]) == 0
    assert [p["good"] for p in json.loads(capsys.readouterr().out)] == [True, True]
    names = {p.name for p in (comp / "all").iterdir()}
    assert {"prores4444.mov", "prores4444.otio", "tiff16.0001.tif", "tiff16.0003.tif"} <= names
    twice = ["--preset", "prores4444-on-black", "--to", str(comp / "once")]
    assert main([*args, *twice]) == 1
    assert "Put {format} into the name" in capsys.readouterr().err
    assert not list(comp.glob("once*"))


def test_a_preset_is_followed_and_changed_part_by_part(comp, capsys):
    args = ["deliver", str(comp / "c.json"), "--to", str(comp / "view"), "--preset", "h264-viewing"]
    assert main([*args, "--frames", "1-2"]) == 0
    assert "view.mp4: proved" in capsys.readouterr().out
    assert LocalDecoder().probe(str(comp / "view.mp4")).alpha is False
    assert main([*args, "--contents", "rgba"]) == 1
    assert "cannot hold the alpha" in capsys.readouterr().err
