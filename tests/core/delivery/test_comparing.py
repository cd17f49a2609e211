"""Comparing a frame with its file goes by strips: as whole planes in double precision would have it."""

import numpy as np
import pytest
from core.pictures import picture
from neatveil.delivery import DeliveryForm, format_named, format_of, lost_in
from neatveil.delivery.comparing import compare
from neatveil.delivery.write import meant
from neatveil.picture import StoredPicture

#: Several strips, the last one lower than the others.
HEIGHT, WIDTH = 517, 601
FORMS = {
    "straight": format_named("png16-straight"),
    "premultiplied": format_of(DeliveryForm(codec="tiff16", alpha="premultiplied", encoding="linear")),
    "half": format_named("exr-half-premultiplied"),
    "alpha": format_of(DeliveryForm(codec="png16", contents="alpha")),
    "lossy": format_named("h264-viewing"),
}


def coloured(seed=4):
    rng = np.random.default_rng(seed)
    rgba = rng.random((HEIGHT, WIDTH, 4), np.float32)
    rgba[..., 3] *= rng.random((HEIGHT, WIDTH), np.float32) > 0.3
    rgba[..., :3] *= rgba[..., 3:]
    return picture(rgba)


def off_by(wanted, noise, seed=9):
    rng = np.random.default_rng(seed)
    planes = {
        n: p + noise * rng.standard_normal(p.shape).astype(np.float32) for n, p in wanted.planes.items()
    }
    return StoredPicture(planes, wanted.data_window, wanted.display_window)


@pytest.mark.parametrize("name", FORMS)
def test_the_largest_and_the_mean_difference(name):
    made, shown = FORMS[name], coloured()
    wanted = meant(shown, made, 1)
    found = off_by(wanted, 0.01)
    row = compare(shown, found, made, 1)
    share = np.clip(wanted["A"], 0, 1) if made.reading.alpha == "straight" and "A" in wanted.planes else 1
    top = 1 if not made.codec.floating else 65504
    low = -top if top > 1 else 0
    errors = {n: np.abs(found[n].astype(np.float64) - np.clip(p, low, top)) for n, p in wanted.planes.items()}
    errors = {n: e if n == "A" else e * share for n, e in errors.items()}
    colours = [e for n, e in errors.items() if n != "A"]
    assert row.colour_error == pytest.approx(max(e.max() for e in colours), rel=1e-5)
    assert row.colour_mean == pytest.approx(max(e.mean() for e in colours), rel=1e-5)
    alpha = errors.get("A", colours[0] if name == "alpha" else np.zeros(1))
    assert row.alpha_error == pytest.approx(alpha.max(), rel=1e-5)
    assert row.within == (name == "lossy"), "sixteen codes of eight bits are allowed in the mean there"


@pytest.mark.parametrize("place", [(0, 0), (130, 600), (HEIGHT - 1, 0), (HEIGHT - 1, WIDTH - 1)])
@pytest.mark.parametrize("name", ["premultiplied", "half", "alpha"])
def test_one_pixel_that_is_off_is_found_wherever_it_is(name, place):
    made, shown = FORMS[name], coloured()
    wanted = meant(shown, made, 1)
    assert compare(shown, wanted, made, 1).within
    for channel in wanted.planes:
        planes = {n: p.copy() for n, p in wanted.planes.items()}
        planes[channel][place] += 0.01
        assert not compare(
            shown, StoredPicture(planes, wanted.data_window, wanted.display_window), made, 1
        ).within


def test_what_is_lost_is_counted_over_all_strips():
    rgba = np.zeros((HEIGHT, WIDTH, 4), np.float32)
    rgba[::7, ::3, :3] = 0.5
    shown, made = picture(rgba), FORMS["straight"]
    assert lost_in(shown, meant(shown, made), made) == (len(range(0, HEIGHT, 7)) * len(range(0, WIDTH, 3)), 0)
    rgba[-1, :, :] = (1e6, 0, 0, 1)
    beyond = picture(rgba)
    for name in ("premultiplied", "half"):
        assert lost_in(beyond, meant(beyond, FORMS[name]), FORMS[name]) == (0, WIDTH)


def test_the_same_frame_gives_the_same_proof_to_the_last_digit():
    made, shown = FORMS["straight"], coloured()
    found = off_by(meant(shown, made, 1), 1e-4)
    assert len({compare(shown, found, made, 1).model_dump_json() for _ in range(8)}) == 1


@pytest.mark.parametrize("name", ["premultiplied", "half"])
def test_what_is_no_number_is_never_taken_for_right(name):
    made, shown = FORMS[name], coloured()
    wanted = meant(shown, made, 1)
    planes = {n: p.copy() for n, p in wanted.planes.items()}
    planes["G"][400, 3] = np.nan
    broken = StoredPicture(planes, wanted.data_window, wanted.display_window)
    assert not compare(shown, broken, made, 1).within
    rgba = np.dstack([shown[n] for n in "RGBA"])
    rgba[400, 3, 1] = np.nan
    assert not compare(picture(rgba), wanted, made, 1).within
