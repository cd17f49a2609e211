"""Several forms of the same frames at once: each is what it is alone, and every frame is evaluated once."""

from collections import Counter
from fractions import Fraction

import numpy as np
import pytest
from core.pictures import picture, premultiplied, soft_disc
from neatveil.codecs import CODECS
from neatveil.delivery import (
    DeliveryForm,
    Output,
    Target,
    format_named,
    format_of,
    prove,
    prove_together,
    write_frames,
    write_movie,
    write_together,
)
from neatveil.errors import Cancelled, DiskFull, ValueRefused
from neatveil.io import LocalDecoder
from neatveil.io.backends import av_writing

RATE = Fraction(24000, 1001)
FRAMES = [3, 4, 7]


class Source:
    """A moving disc of 128 x 96, which the least of all codecs allow; counts what it is asked for.

    Not smaller: of pictures of 64 x 48 x264's rate control over macroblock trees makes one of several files.
    """

    def __init__(self):
        self.asked = Counter()

    def __call__(self, frame):
        self.asked[frame] += 1
        return picture(premultiplied(np.roll(np.tile(soft_disc(), (2, 2, 1)), frame, axis=1)))


def outputs_in(folder, names):
    made = [format_named(n) for n in names]
    return [
        Output(f, Target(folder / f"{i}{'' if f.kind == 'movie' else '.####'}{f.ending}"))
        for i, f in enumerate(made)
    ]


def read(output):
    decoder = LocalDecoder()
    if output.format.kind == "movie":
        return [decoder.read(str(output.target.path), i) for i in range(len(FRAMES))]
    return [decoder.read(str(output.target.frame_path(f)), 0) for f in FRAMES]


@pytest.mark.parametrize("names", [
    ["png16-straight", "exr-half-premultiplied"], ["png16-straight", "prores4444-straight"],
    ["prores4444-on-black", "h264-viewing", "exr-half-premultiplied", "prores4444-straight"],
])  # fmt: skip
def test_each_form_is_what_it_is_alone(tmp_path, names):
    source, alone = Source(), Source()
    outputs = outputs_in(tmp_path, names)
    write_together(source, outputs, FRAMES, RATE)
    assert source.asked == dict.fromkeys(FRAMES, 1)
    proofs = prove_together(source, LocalDecoder(), outputs, FRAMES, RATE)
    assert source.asked == dict.fromkeys(FRAMES, 2)
    for output, proof in zip(outputs, proofs, strict=True):
        delivery_format, target = output
        single = Output(delivery_format, Target(tmp_path / "alone" / target.path.name))
        if delivery_format.kind == "movie":
            write_movie(alone, *single, FRAMES, RATE)
        else:
            write_frames(alone, *single, FRAMES)
        for got, expected in zip(read(output), read(single), strict=True):
            assert got.planes.keys() == expected.planes.keys()
            for name, plane in expected.planes.items():
                np.testing.assert_array_equal(got[name], plane)
        expected = prove(alone, LocalDecoder(), *single, FRAMES, RATE)
        assert proof.good
        assert proof.model_dump(exclude={"hashes"}) == expected.model_dump(exclude={"hashes"})


def test_every_codec_together_with_all_others(tmp_path):
    """One evaluation for the whole table; 256 x 128, which the least of all of them allow."""
    disc = np.tile(soft_disc(), (8, 8, 1))[:128, :256]
    wide = picture(premultiplied(disc))
    forms = [DeliveryForm(codec=n, contents="rgba" if c.alpha else "rgb") for n, c in CODECS.items()]
    made = [format_of(f) for f in forms]
    outputs = [
        Output(f, Target(tmp_path / f"{i}{'' if f.kind == 'movie' else '.####'}{f.ending}"))
        for i, f in enumerate(made)
    ]
    write_together(lambda _: wide, outputs, [1, 2], Fraction(25))
    proofs = prove_together(lambda _: wide, LocalDecoder(), outputs, [1, 2], Fraction(25), loss_accepted=True)
    assert {o.format.codec.name: p.problems for o, p in zip(outputs, proofs, strict=True)} == {
        n: [] for n in CODECS
    }


def test_what_was_interrupted_goes_on_with_the_files_that_are_not_there(tmp_path):
    source = Source()
    outputs = outputs_in(tmp_path, ["png16-straight", "exr-half-premultiplied"])
    write_together(source, outputs, FRAMES, RATE)
    outputs[1].target.frame_path(4).unlink()
    before = {p: p.stat().st_mtime_ns for p in tmp_path.iterdir()}
    told = []
    write_together(source, outputs, FRAMES, RATE, resume=True, progress=told.append)
    assert source.asked == {3: 1, 4: 2, 7: 1}
    assert told == FRAMES
    assert {p: p.stat().st_mtime_ns for p in before} == before
    assert outputs[1].target.frame_path(4).is_file()


def test_cancelled_leaves_whole_frames_and_no_movie(tmp_path):
    asked = iter([False, False, True])
    outputs = outputs_in(tmp_path, ["png16-straight", "prores4444-straight", "h264-viewing"])
    with pytest.raises(Cancelled):
        write_together(Source(), outputs, FRAMES, RATE, cancelled=lambda: next(asked))
    assert [p.name for p in sorted(tmp_path.iterdir())] in (["0.0003.png"], ["0.0003.png", "0.0004.png"])


def test_a_full_disk_for_one_movie_leaves_none_of_them(tmp_path, monkeypatch):
    real = av_writing.MovieWriter.write

    def full(self, stored):
        if self.path.suffix == ".mp4":
            raise DiskFull("The disk is full.")
        real(self, stored)

    monkeypatch.setattr(av_writing.MovieWriter, "write", full)
    outputs = outputs_in(tmp_path, ["prores4444-straight", "h264-viewing"])
    with pytest.raises(DiskFull):
        write_together(Source(), outputs, FRAMES, RATE)
    assert not list(tmp_path.iterdir())


def test_a_name_that_does_not_fit_is_refused_before_anything_is_written(tmp_path):
    good, bad = outputs_in(tmp_path, ["png16-straight", "prores4444-straight"])
    with pytest.raises(ValueRefused):
        write_together(Source(), [good, Output(bad.format, good.target)], FRAMES, RATE)
    assert not list(tmp_path.iterdir())
