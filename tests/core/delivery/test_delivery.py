"""Deliveries: whole files only, and proofs that find what is wrong."""

import os
import subprocess
import sys
from fractions import Fraction
from pathlib import Path

import numpy as np
import pytest
import xxhash
from core.pictures import picture, premultiplied, save_png, soft_disc
from neatveil.delivery import (
    Target,
    count_losses,
    format_for_file,
    format_named,
    prove,
    write_frames,
    write_movie,
)
from neatveil.errors import Cancelled, DiskFull, NameUnknown, ValueRefused
from neatveil.io import LocalDecoder

FILES = {"png16-straight": "k.####.png", "exr-half-premultiplied": "k.####.exr",
         "tiff16-straight": "k.####.tif", "prores4444-straight": "k.mov"}  # fmt: skip


def source(frame):
    return picture(premultiplied(np.roll(soft_disc(), frame, axis=1)))


def deliver(delivery_format, target, frames):
    if delivery_format.kind == "movie":
        write_movie(source, delivery_format, target, frames, Fraction(24000, 1001))
    else:
        write_frames(source, delivery_format, target, frames)


def proof_of(delivery_format, target, frames):
    return prove(source, LocalDecoder(), delivery_format, target, frames, Fraction(24000, 1001))


@pytest.mark.parametrize("name", FILES)
def test_what_is_written_is_proved(name, tmp_path):
    delivery_format, target, frames = (
        format_named(name),
        Target(tmp_path / "out" / FILES[name]),
        [3, 4, 5],
    )
    deliver(delivery_format, target, frames)
    proof = proof_of(delivery_format, target, frames)
    assert proof.good, proof.problems
    assert (proof.frames_found, proof.missing) == (3, [])
    assert (proof.alpha_low, proof.alpha_high) == (0, 1)
    first = target.files(delivery_format, frames)[0]
    assert proof.hashes[first.name] == xxhash.xxh64(first.read_bytes()).hexdigest()
    assert not list((tmp_path / "out").glob(".*")), "no hidden part files are left"


def test_proof_finds_a_missing_and_a_changed_frame(tmp_path):
    delivery_format, target = format_named("png16-straight"), Target(tmp_path / "k.####.png")
    deliver(delivery_format, target, range(1, 6))
    target.frame_path(2).unlink()
    save_png(target.frame_path(4), soft_disc(colour=(0.81, 0.4, 0.1)))
    proof = proof_of(delivery_format, target, [1, 2, 3, 4, 5])
    assert proof.missing == [2]
    assert not proof.good
    assert any("Frame 4 differs" in p for p in proof.problems)
    assert [f.frame for f in proof.frames if not f.within] == [4]


def test_proof_finds_a_wrong_rate(tmp_path):
    delivery_format, target = format_named("prores4444-straight"), Target(tmp_path / "k.mov")
    write_movie(source, delivery_format, target, [1, 2], Fraction(24))
    assert any("24000/1001" in p for p in proof_of(delivery_format, target, [1, 2]).problems)


def test_light_that_straight_cannot_hold_is_counted(tmp_path):
    rgba = premultiplied(soft_disc())
    rgba[0, :5, 0] = 0.5
    glow = picture(rgba)
    for name, lost in (("png16-straight", 5), ("exr-half-premultiplied", 0)):
        delivery_format, target = format_named(name), Target(tmp_path / FILES[name])
        write_frames(lambda _: glow, delivery_format, target, [1])
        proof = prove(lambda _: glow, LocalDecoder(), delivery_format, target, [1], Fraction(25))
        assert (proof.lost_light, proof.good) == (lost, lost == 0)
        accepted = prove(
            lambda _: glow, LocalDecoder(), delivery_format, target, [1], Fraction(25), loss_accepted=True
        )
        assert (accepted.lost_light, accepted.good) == (lost, True)


@pytest.mark.parametrize("name", sorted(FILES))
def test_a_picture_that_is_only_light_is_counted_before_and_fails_its_proof(tmp_path, name):
    """Glow without any coverage: a straight file of it is black, however well it agrees with itself."""
    rgba = np.zeros((16, 16, 4), np.float32)
    rgba[4:12, 4:12, :3] = 0.7
    glow, delivery_format = picture(rgba), format_named(name)
    losses = count_losses(lambda _: glow, [delivery_format], range(1, 9))[0]
    assert losses.frames == [1, 5, 8]
    straight = delivery_format.reading.alpha == "straight"
    assert losses.lost_light == (3 * 64 if straight else 0)
    assert bool(losses.words(delivery_format)) == straight
    target = Target(
        tmp_path
        / (
            f"a{delivery_format.ending}"
            if delivery_format.kind == "movie"
            else f"a.####{delivery_format.ending}"
        )
    )
    if delivery_format.kind == "movie":
        write_movie(lambda _: glow, delivery_format, target, [1, 2], Fraction(25))
    else:
        write_frames(lambda _: glow, delivery_format, target, [1, 2])
    proof = prove(lambda _: glow, LocalDecoder(), delivery_format, target, [1, 2], Fraction(25))
    assert proof.good == (not straight), proof.problems
    if straight:
        assert any("came out black" in p for p in proof.problems)


def test_values_beyond_a_half_are_counted_as_clipped():
    rgba = np.full((4, 4, 4), 1e6, np.float32)
    rgba[..., 3] = 1
    losses = count_losses(lambda _: picture(rgba), [format_named("exr-half-premultiplied")], [1])[0]
    assert losses.clipped == 16


def test_cancelling_keeps_whole_files_and_leaves_no_parts(tmp_path):
    done = []
    delivery_format, target = format_named("png16-straight"), Target(tmp_path / "k.####.png")
    with pytest.raises(Cancelled):
        write_frames(
            source,
            delivery_format,
            target,
            range(1, 40),
            progress=done.append,
            cancelled=lambda: len(done) >= 2,
        )
    assert 2 <= len(list(tmp_path.iterdir())) < 39
    assert not list(tmp_path.glob(".*"))
    movie = Target(tmp_path / "k.mov")
    with pytest.raises(Cancelled):
        write_movie(
            source,
            format_named("prores4444-straight"),
            movie,
            range(9),
            Fraction(25),
            cancelled=lambda: True,
        )
    assert not movie.path.exists()


def test_names_must_fit_the_form(tmp_path):
    with pytest.raises(ValueRefused, match="####"):
        deliver(format_named("png16-straight"), Target(tmp_path / "k.png"), [1])
    with pytest.raises(ValueRefused, match=r"\.mov"):
        deliver(format_named("prores4444-straight"), Target(tmp_path / "k.avi"), [1])
    with pytest.raises(NameUnknown, match=r"\.png"):
        format_for_file("k.jpg")


FULL_DISK = """
import resource, sys
from fractions import Fraction
from pathlib import Path
sys.path.insert(0, {tests!r})
import numpy as np
from core.pictures import picture
from neatveil.delivery import Target, format_named, write_frames, write_movie
from neatveil.errors import NeatVeilError
import signal
signal.signal(signal.SIGXFSZ, signal.SIG_IGN)
noise = picture(np.random.default_rng(0).random((300, 400, 4), np.float32))
resource.setrlimit(resource.RLIMIT_FSIZE, (100_000, 100_000))
target, delivery_format = Target(Path({path!r})), format_named({name!r})
try:
    if delivery_format.kind == "movie":
        write_movie(lambda _: noise, delivery_format, target, range(3), Fraction(25))
    else:
        write_frames(lambda _: noise, delivery_format, target, [1])
    print("written")
except NeatVeilError as error:
    print(error.code, error)
"""


@pytest.mark.parametrize("name", FILES)
def test_no_room_leaves_no_file_under_the_final_name(name, tmp_path):
    """A limit on the file size makes write() fail as a full disk does."""
    path = tmp_path / FILES[name]
    script = FULL_DISK.format(tests=str(Path(__file__).parents[2]), path=str(path), name=name)
    run = subprocess.run([sys.executable, "-c", script], capture_output=True, text=True, env=os.environ)
    assert run.stdout.split(" ")[0] in {"write-failed", "disk-full"}, run.stdout + run.stderr
    assert "k." in run.stdout
    assert list(tmp_path.iterdir()) == []


@pytest.mark.skipif(os.geteuid() != 0, reason="mounting a small disk needs root")
def test_full_disk_is_named(tmp_path):
    small = tmp_path / "small"
    small.mkdir()
    mount = ["mount", "-t", "tmpfs", "-o", "size=512k", "tmpfs", str(small)]
    if subprocess.run(mount, capture_output=True).returncode:
        pytest.skip("this machine does not let us mount a small disk")
    noise = picture(np.random.default_rng(0).random((300, 400, 4), np.float32))
    try:
        with pytest.raises(DiskFull, match=r"k\.0001") as caught:
            write_frames(
                lambda _: noise,
                format_named("exr-half-premultiplied"),
                Target(small / "k.####.exr"),
                [1],
            )
        assert "space" in caught.value.advice
        assert list(small.iterdir()) == []
    finally:
        subprocess.run(["umount", str(small)], check=True)


def test_a_small_wrong_place_in_a_lossy_movie_is_found(tmp_path):
    """Its mean over the frame is far within what the codec may lose."""
    delivery_format, target = format_named("prores4444-straight"), Target(tmp_path / "k.mov")

    def spotted(frame):
        rgba = premultiplied(np.roll(soft_disc(), frame, axis=1)).copy()
        rgba[22:24, 31:33, :3] += 0.2
        return picture(rgba)

    write_movie(spotted, delivery_format, target, [1, 2], Fraction(24000, 1001))
    proof = proof_of(delivery_format, target, [1, 2])
    assert not proof.good
    assert proof.frames[0].colour_mean < delivery_format.colour_tolerance
