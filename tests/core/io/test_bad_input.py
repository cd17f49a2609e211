"""What damaged, lying and odd files get: a typed error that names the file and says what to do."""

import struct
import sys
import zlib
from fractions import Fraction

import numpy as np
import pytest
import tifffile
from core.pictures import movie_without_rate, picture, premultiplied, save_png, soft_disc
from neatveil.cli import main
from neatveil.delivery import Target, format_named, write_movie
from neatveil.delivery.write import write_frame
from neatveil.errors import (
    DecoderFailed,
    FileDamaged,
    FileEmpty,
    FileMissing,
    FormatUnknown,
    FrameMissing,
    NeatVeilError,
    PictureTooLarge,
)
from neatveil.io import LocalDecoder, Pattern, find_sequences
from neatveil.io.isolated import IsolatedDecoder

DECODER = LocalDecoder()


@pytest.fixture(params=[".png", ".exr", ".tif", ".mov"])
def whole(request, tmp_path):
    path = tmp_path / f"kite{request.param}"
    rgba = premultiplied(np.random.default_rng(0).random((64, 96, 4), np.float32))
    if request.param == ".mov":
        write_movie(
            lambda _: picture(rgba),
            format_named("prores4444-straight"),
            Target(path),
            range(4),
            Fraction(25),
        )
        return path
    formats = {".png": "png16-straight", ".exr": "exr-half-premultiplied", ".tif": "tiff16-straight"}
    write_frame(picture(rgba), format_named(formats[request.param]), path)
    return path


def look_at_everything(source):
    facts = DECODER.probe(source)
    for frame in range(facts.first, facts.last + 1):
        DECODER.read(source, frame)


@pytest.mark.parametrize("keep", [0.3, 0.6, 0.95])
def test_truncated_file(whole, keep):
    data = whole.read_bytes()
    whole.write_bytes(data[: int(len(data) * keep)])
    with pytest.raises(FileDamaged, match="kite") as caught:
        look_at_everything(str(whole))
    assert caught.value.advice


def test_empty_file(tmp_path):
    for ending in ("png", "exr", "mov"):
        (tmp_path / f"a.{ending}").touch()
        with pytest.raises(FileEmpty, match="0 bytes"):
            DECODER.probe(str(tmp_path / f"a.{ending}"))


def test_text_named_exr(tmp_path):
    (tmp_path / "notes.exr").write_text("bring the lantern\n" * 50)
    with pytest.raises(FileDamaged, match=r"notes\.exr.*OpenEXR") as caught:
        DECODER.probe(str(tmp_path / "notes.exr"))
    assert "ending" in caught.value.advice


def test_missing_and_unknown(tmp_path):
    with pytest.raises(FileMissing):
        DECODER.probe(str(tmp_path / "no.png"))
    with pytest.raises(FormatUnknown, match=r"\.blend.*png"):
        DECODER.probe(str(tmp_path / "scene.blend"))


def test_picture_that_says_it_is_a_million_wide(tmp_path):
    def chunk(kind, data):
        return struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data))

    head = struct.pack(">IIBBBBB", 1_000_000, 1_000_000, 8, 6, 0, 0, 0)
    body = chunk(b"IHDR", head) + chunk(b"IDAT", zlib.compress(b"\0" * 100)) + chunk(b"IEND", b"")
    (tmp_path / "big.png").write_bytes(b"\x89PNG\r\n\x1a\n" + body)
    with pytest.raises((PictureTooLarge, FileDamaged), match="big"):
        DECODER.probe(str(tmp_path / "big.png"))


def test_sequence_with_gaps_and_two_sizes(tmp_path):
    for n in (1, 2, 5, 6):
        save_png(tmp_path / f"s.{n:03d}.png", soft_disc(24, 32))
    save_png(tmp_path / "s.007.png", soft_disc(20, 32))
    source = str(tmp_path / "s.###.png")
    facts = DECODER.probe(source)
    assert (facts.first, facts.last, facts.count, facts.missing) == (1, 7, 5, [3, 4])
    assert facts.odd_sizes == {7: [32, 20]}
    assert any("missing" in n for n in facts.notes)
    assert any("frame 7 with 32 x 20" in n for n in facts.notes)
    with pytest.raises(FrameMissing, match=r"Frame 3 of s\.###\.png"):
        DECODER.read(source, 3)


@pytest.mark.parametrize(
    "name", ["glow at dusk.png", "фонарь 灯.png", "..lantern.png", "-rf.png", "a%20b#.png"]
)
def test_awkward_names(tmp_path, name):
    save_png(tmp_path / name, soft_disc(8, 8))
    assert DECODER.probe(str(tmp_path / name)).width == 8
    assert DECODER.read(str(tmp_path / name), 0)["A"].shape == (8, 8)


def test_grouping_names_into_sequences():
    names = ["a.0001.exr", "a.0002.exr", "b9.png", "b10.png", "c.mov", "d.0100.png", "d.101.png"]
    found, alone = find_sequences(names)
    assert {p.text: f for p, f in found.items()} == {"a.####.exr": [1, 2], "b#.png": [9, 10]}
    assert alone == ["c.mov", "d.0100.png", "d.101.png"]


def test_pattern_with_printf_form():
    assert Pattern.parse("shot_%05d.exr").path(12).name == "shot_00012.exr"


def test_movie_without_a_rate_says_so_and_is_asked_for_one(tmp_path, capsys):
    path = movie_without_rate(tmp_path / "still_water.mkv")
    facts = DECODER.probe(str(path))
    assert facts.rate is None
    assert any("no frame rate" in n for n in facts.notes)
    convert = ["convert", str(path), str(tmp_path / "o.mov"), "--read", "straight", "--write", "straight"]
    assert main(convert) == 1
    assert "--rate" in capsys.readouterr().err


CRASH = "import os, sys; sys.stdin.readline(); os.abort()"
HANG = "import time, sys; sys.stdin.readline(); time.sleep(600)"


@pytest.mark.parametrize(
    ("script", "word", "seconds"), [(CRASH, "ended unexpectedly twice", 60), (HANG, "took longer than", 0.5)]
)
def test_decoder_that_crashes_or_hangs_is_stopped(script, word, seconds, tmp_path):
    decoder = IsolatedDecoder(1, read_seconds=seconds, command=[sys.executable, "-c", script])
    for _ in range(2):  # and the next request gets a new process
        with pytest.raises(DecoderFailed, match=rf"evil\.png.*{word}"):
            decoder.read(str(tmp_path / "evil.png"), 0)
    decoder.close()


def test_decoder_process_is_held_to_its_memory(tmp_path):
    """144 MB in the file, 576 MB as float: the first picture fits 1 GB of address space, not this one."""
    small, large = save_png(tmp_path / "a.png", soft_disc()), tmp_path / "b.tif"
    tifffile.imwrite(large, np.zeros((6000, 6000, 4), np.uint8), compression="zlib", extrasamples=[2])
    decoder = IsolatedDecoder(1, memory_limit=1 << 30)
    try:
        assert decoder.read(str(small), 0)["A"].max() == 1
        with pytest.raises((DecoderFailed, FileDamaged)):
            decoder.read(str(large), 0)
        assert decoder.read(str(small), 0)["A"].max() == 1
    finally:
        decoder.close()


def test_isolated_decoder_gives_what_the_local_one_gives(tmp_path):
    path = str(save_png(tmp_path / "a.png", soft_disc()))
    decoder = IsolatedDecoder(1)
    try:
        assert decoder.probe(path) == DECODER.probe(path)
        np.testing.assert_array_equal(decoder.read(path, 0).rgba(), DECODER.read(path, 0).rgba())
        (tmp_path / "b.exr").write_text("no")
        with pytest.raises(FileDamaged):
            decoder.probe(str(tmp_path / "b.exr"))
    finally:
        decoder.close()


def test_errors_of_random_damage_are_typed(tmp_path):
    """A hundred mutations of a PNG: pictures or typed errors, nothing else."""
    rng = np.random.default_rng(9)
    data = save_png(tmp_path / "a.png", soft_disc()).read_bytes()
    for n in range(100):
        hurt = bytearray(data)
        for at in rng.integers(8, len(data), 4):
            hurt[at] = int(rng.integers(256))
        path = tmp_path / f"m{n}x.png"
        path.write_bytes(hurt)
        try:
            DECODER.read(str(path), 0)
        except NeatVeilError as error:
            assert path.name in error.message  # noqa: PT017


def test_a_decoder_that_is_killed_once_is_no_proof_against_the_file(tmp_path):
    """As by a system that is short of memory: asked again, the file is read; killed twice, it is told how."""
    path = save_png(tmp_path / "kite.png", soft_disc(16, 16))
    decoder = IsolatedDecoder(1)
    before = decoder.read(str(path), 0)
    decoder._idle[0].process.kill()
    np.testing.assert_array_equal(decoder.read(str(path), 0)["R"], before["R"])
    shot = [sys.executable, "-c", "import os, signal; input(); os.kill(os.getpid(), signal.SIGKILL)"]
    with pytest.raises(DecoderFailed, match=r"ended unexpectedly twice .*SIGKILL"):
        IsolatedDecoder(1, command=shot).read(str(path), 0)
