"""Pictures of a proof: what the files hold, read by Pillow."""

import io
from fractions import Fraction

import numpy as np
import pytest
from core.pictures import picture, premultiplied, soft_disc
from neatveil.delivery import (
    DELIVERY_FORMATS,
    DeliveryForm,
    Target,
    format_of,
    write_frames,
    write_movie,
)
from neatveil.delivery.proof_pictures import proof_png
from neatveil.errors import FileMissing, NeatVeilError, ValueRefused
from neatveil.io import LocalDecoder
from PIL import Image

FORMS = [
    *DELIVERY_FORMATS.values(),
    *(format_of(DeliveryForm(codec="png16", contents=c)) for c in ("rgb", "alpha")),
]


def disc(height=96, width=960):
    return picture(premultiplied(soft_disc(height, width)))


def written(folder, made, source, frames=(4, 5)):
    target = Target(folder / f"k{'.####' if made.kind == 'frames' else ''}{made.ending}")
    if made.kind == "movie":
        write_movie(lambda n: source, made, target, frames, Fraction(25))
    else:
        write_frames(lambda n: source, made, target, frames)
    return target


def pixels(png):
    return np.asarray(Image.open(io.BytesIO(png)).convert("RGB"), np.float64) / 255


@pytest.mark.parametrize("made", FORMS, ids=lambda f: f"{f.name}, {f.contents}")
def test_every_form_shows_its_files_and_their_alpha_half_size_and_nothing_else(made, tmp_path):
    target = written(tmp_path, made, disc())
    alpha = pixels(proof_png(LocalDecoder(), made, target, (1, 5), "alpha"))
    assert alpha.shape == (48, 480, 3)
    halved = soft_disc(96, 960)[..., 3].reshape(48, 2, 480, 2).mean((1, 3))
    wanted = halved if made.contents != "rgb" else np.ones((48, 480))
    np.testing.assert_allclose(alpha[..., 0], wanted, atol=0.02)
    checks = pixels(proof_png(LocalDecoder(), made, target, (1, 5), "checks"))
    if made.contents == "rgba":  # beside the disc the checks, as grey as they are
        assert set(np.round(checks[2:6, 2:40, 0].ravel(), 2)) <= {
            0.45,
            0.6,
            *np.round(np.linspace(0.45, 0.6, 20), 2),
        }
        assert np.ptp(checks[2:6, 2:40], axis=-1).max() < 0.02


def test_the_difference_shows_where_one_pixel_is_off_however_small_the_picture(tmp_path):
    made = format_of(DeliveryForm(codec="tiff16", past_edge=0))
    wanted = disc(200, 1500)
    off = {n: p.copy() for n, p in wanted.planes.items()}
    off["R"][100, 750] *= 0.9
    target = written(tmp_path, made, wanted.with_planes(off))
    shown = pixels(proof_png(LocalDecoder(), made, target, (0, 4), "difference", wanted))
    bright = np.argwhere(shown[..., 0] > 0.9)
    assert len(bright) == 1
    row, column = bright[0] * 4  # 1500 pixels in fewer than 480: every fourth
    assert abs(row - 100) <= 4
    assert abs(column - 750) <= 4
    assert shown[..., 1].max() < 0.05


def test_what_cannot_be_shown_is_told(tmp_path):
    made = format_of(DeliveryForm(codec="png16"))
    target = written(tmp_path, made, disc())
    with pytest.raises(FileMissing):
        proof_png(LocalDecoder(), made, target, (2, 6), "checks")
    with pytest.raises(ValueRefused, match="another size"):
        proof_png(LocalDecoder(), made, target, (0, 4), "difference", disc(20, 30))
    target.frame_path(5).write_bytes(b"no picture")
    with pytest.raises(NeatVeilError, match=r"k\.0005\.png"):
        proof_png(LocalDecoder(), made, target, (1, 5), "alpha")
