"""What of a comp goes out: frames, layers, rate, size, numbers; and names made of tokens."""

from fractions import Fraction

import cv2
import numpy as np
import pytest
from core.pictures import picture, premultiplied, soft_disc
from core.reference.documents import documents
from core.reference.pictures import Arrays, extra_planes, pictures
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from neatveil.comp import Comp
from neatveil.comp.loading import parse_comp
from neatveil.delivery import DeliveryForm, Losses, Take, advice_for, format_of, taken
from neatveil.delivery.looks import look_of
from neatveil.delivery.resized import resized
from neatveil.delivery.write import held, meant
from neatveil.errors import DocumentRefused, ValueRefused
from neatveil.evaluate import Evaluator
from neatveil.frame_list import frames_in_words, parse_frames
from neatveil.picture import RGBA, whole_frame
from neatveil.tokens import named_by


@given(st.sets(st.integers(-9999, 9999), min_size=1, max_size=40))
def test_frames_in_words_are_read_back(frames):
    assert parse_frames(frames_in_words(frames)) == sorted(frames)


@pytest.mark.parametrize("text", ["", "a", "1-", "5-2", "1..3", "1,,2", "1-9999999", "1e3"])
def test_what_is_no_frames_is_refused_with_how_to_write_them(text):
    with pytest.raises(ValueRefused) as told:
        parse_frames(text)
    assert told.value.where == "frames"


@given(
    first=st.integers(-5, 5), count=st.integers(1, 60), rate=st.sampled_from(["24", "25", "24000/1001"]),
    other=st.sampled_from(["12", "25", "30000/1001", "50", "60"]),
)  # fmt: skip
def test_the_same_time_shows_what_is_seen_at_each_moment(first, count, rate, other):
    """Beside the plain rule: the frame that has begun at the middle of nothing but its own moment."""
    comp = Comp(rate=rate, first=first, last=first + count - 1)
    got = taken(Take(rate=other, timing="time", start=1), comp)
    old, new = Fraction(rate), Fraction(other)
    assert abs(len(got.frames) / new - count / old) <= 1 / (2 * new) or len(got.frames) == 1
    for number, frame in got.frames.items():
        moment = (number - 1) / new
        begun = first + int(moment * old)
        assert frame == min(begun, comp.last)


def test_the_same_frames_keep_their_numbers_and_a_start_counts_them_anew():
    comp = Comp(first=10, last=40)
    assert taken(Take(frames="12-14,30"), comp).frames == {12: 12, 13: 13, 14: 14, 30: 30}
    assert taken(Take(frames="12-14,30", start=-1), comp).frames == {-1: 12, 0: 13, 1: 14, 2: 30}
    assert taken(Take(rate="50"), comp).rate == 50
    for wrong in (Take(frames="9-12"), Take(frames="40-41"), Take(rate="0"), Take(rate="fast")):
        with pytest.raises(ValueRefused):
            taken(wrong, comp)
    with pytest.raises(DocumentRefused, match="no layer 'x'"):
        taken(Take(part="layer", layer="x"), comp)


@given(written=documents, data=st.data())
@settings(max_examples=25, deadline=None, suppress_health_check=list(HealthCheck))
def test_a_layer_alone_and_the_pile_up_to_it_are_what_the_viewer_shows(written, data):
    comp = parse_comp(written)
    layer = data.draw(st.sampled_from([x.id for x in comp.all_layers]))
    evaluator = Evaluator(Arrays(pictures(), extra_planes()))
    part = data.draw(st.sampled_from(["upto", "layer"]))
    which = {"upto": {"upto": layer}, "layer": {"only": layer}}[part]
    got = taken(Take(part=part, layer=layer, frames=str(comp.first)), comp).source(evaluator)(comp.first)
    want = evaluator.picture(comp, comp.first, **which)
    for n in RGBA:
        np.testing.assert_array_equal(whole_frame(got)[n], whole_frame(want)[n])


@pytest.mark.parametrize("how", ["lanczos3", "catmull-rom", "triangle", "box"])
@pytest.mark.parametrize("size", [(64, 48), (37, 29), (256, 192)])
def test_a_resized_picture_keeps_its_colour_and_its_coverage(how, size):
    """The straight colour is the same everywhere; the mean coverage too. Beside OpenCV where it halves."""
    whole = picture(premultiplied(soft_disc(96, 128)))
    small = resized(whole, *size, how)
    assert (small.display_window.width, small.display_window.height) == size
    alpha = small["A"]
    assert alpha.min() >= 0
    assert alpha.max() <= 1
    # the box counts whole pixels: in a ratio that is no whole number some more than others
    slack = 8e-3 if how == "box" else 2e-3
    assert float(alpha.mean()) == pytest.approx(float(whole["A"].mean()), rel=slack)
    seen = alpha > 0.02
    for n, value in zip("RGB", (0.8, 0.4, 0.1), strict=True):
        np.testing.assert_allclose(small[n][seen] / alpha[seen], value, rtol=3e-3)
    if how == "box" and size == (64, 48):
        np.testing.assert_allclose(
            alpha, cv2.resize(whole["A"], size, interpolation=cv2.INTER_AREA), atol=2e-6
        )


def test_light_without_coverage_is_held_by_a_raised_alpha():
    rgba = premultiplied(soft_disc(24, 24))
    rgba[:4, :, :3] = (0.5, 0.25, 0.0)
    glow = picture(rgba)
    raised = format_of(DeliveryForm(codec="png16", light="raised", past_edge=0))
    assert (held(glow, raised)["A"][:4] == np.float32(0.5)).all()
    back = meant(glow, raised)
    # decoded and multiplied again it gives the light that was there
    light = np.where(back["R"] <= 0.04045, back["R"] / 12.92, ((back["R"] + 0.055) / 1.055) ** 2.4)
    np.testing.assert_allclose((light * back["A"])[:4], 0.5, atol=1e-5)
    np.testing.assert_array_equal(back["A"][8:], glow["A"][8:])


def mended_codec(form):
    return format_of(form.parts()[0][1]).codec


ODD = taken(Take(), Comp(width=101, height=51, rate="25"))


@pytest.mark.parametrize(
    ("form", "what", "losses"),
    [
        ({"codec": "h264", "contents": "rgb"}, "size", None),
        ({"codec": "h264", "contents": "rgba"}, "alpha", None),
        ({"codec": "png8"}, "bits", None),
        ({"codec": "h265", "contents": "rgb"}, "lossy", None),
        ({"codec": "jpeg", "contents": "apart"}, "lossy", None),
        ({"codec": "exr", "compression": "dwaa"}, "lossy", None),
        ({"codec": "png16", "contents": "rgb"}, "alpha", Losses(frames=[1], alpha_low=0)),
        ({"codec": "png16"}, "light", Losses(frames=[1], lost_light=7)),
        ({"codec": "png16"}, "clipped", Losses(frames=[1], clipped=7)),
        ({"codec": "exr", "encoding": "linear"}, "clipped", Losses(frames=[1], clipped=7)),
    ],
)
def test_every_advice_names_a_repair_under_which_it_is_gone(form, what, losses):
    chosen = DeliveryForm(**form)
    found = next(a for a in advice_for(chosen, ODD, losses) if a.what == what)
    assert found.repairs
    for repair in found.repairs:
        mended = DeliveryForm.model_validate({**chosen.model_dump(), **repair.form})
        again = taken(Take.model_validate(repair.take), ODD.comp)
        if losses is not None and what in {"light", "clipped"}:
            # whether light is gone is counted anew: by the form that was mended
            assert mended.alpha == "premultiplied" or mended.light == "raised" or mended.codec == "exr32"
            continue
        assert what not in {a.what for a in advice_for(mended, again, losses) if a.weight != "told"}
        assert what != "lossy" or mended_codec(mended).lossless


def test_another_rate_is_told_with_what_it_does_to_speed():
    comp = Comp(width=64, height=48, rate="25", first=1, last=10)
    told = advice_for(DeliveryForm(), taken(Take(rate="50"), comp))
    assert "run 2 times as fast" in told[0].message
    told = advice_for(DeliveryForm(), taken(Take(rate="50", timing="time"), comp))
    assert "10 frames are shown twice" in told[0].message


def test_small_pictures_show_the_file_with_its_alpha_and_without():
    """Over checks nothing of the colour past the edge is seen; where alpha is ignored all of it."""
    made = format_of(DeliveryForm(codec="png16", past_edge=100))
    disc = picture(premultiplied(soft_disc(90, 120)))

    def corner(shown):
        data = np.frombuffer(look_of(disc, made, shown, 1), np.uint8)
        return cv2.imdecode(data, cv2.IMREAD_COLOR)[0, 0, ::-1]

    code = np.rint(255 * (1.055 * np.array([0.8, 0.4, 0.1]) ** (1 / 2.4) - 0.055))  # IEC 61966-2-1
    np.testing.assert_array_equal(corner("ignored"), code)
    assert len(set(corner("checks"))) == 1


def test_a_gradient_is_shown_in_bands_and_dithered():
    ramp = np.ones((80, 240, 4), np.float32)
    ramp[..., :3] = np.linspace(0.2, 0.23, 240, dtype=np.float32)[None, :, None]
    made = format_of(DeliveryForm(codec="png8"))

    def levels(shown):
        data = np.frombuffer(look_of(picture(ramp), made, shown, 1), np.uint8)
        row = cv2.imdecode(data, cv2.IMREAD_COLOR)[100, :, 1].astype(int)
        return np.count_nonzero(np.diff(row))

    assert 1 <= levels("bands") <= 8
    assert levels("dithered") > 15


def test_names_take_tokens_and_refuse_those_without_a_value():
    values = {"comp": "Boardwalk, dusk / v2", "version": "v003"}
    assert named_by("{comp}_{version}.{frame}", values) == "Boardwalk_dusk_v2_v003.####"
    for wrong in ("{layer}", "{Comp}", "{row}"):
        with pytest.raises(ValueRefused, match="has no value here"):
            named_by(wrong, values)
