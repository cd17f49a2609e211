"""Timecode by SMPTE ST 12-1 [SMPTE12-1], beside OpenTimelineIO's; and what headers of files say."""

from fractions import Fraction

import av
import OpenEXR
import opentimelineio as otio
import pytest
from core.pictures import picture, premultiplied, soft_disc
from hypothesis import given
from hypothesis import strategies as st
from neatveil.comp import Comp
from neatveil.delivery import DeliveryForm, Take, Target, format_of, prove, taken, write_frames, write_movie
from neatveil.delivery.timecode import Timecode
from neatveil.errors import ValueRefused
from neatveil.io import LocalDecoder

RATES = [Fraction(24), Fraction(25), Fraction(30000, 1001), Fraction(60000, 1001), Fraction(24000, 1001)]


@given(st.sampled_from(RATES), st.integers(0, 24 * 3600 * 23), st.booleans())
def test_timecodes_are_the_librarys(rate, count, drop):
    """Both ways, over most of a day."""
    drop = drop and rate in {Fraction(30000, 1001), Fraction(60000, 1001)}
    time = otio.opentime.RationalTime(count, float(rate))
    text = otio.opentime.to_timecode(time, float(rate), drop_frame=drop)
    found = Timecode(count, round(rate), drop)
    assert str(found) == text
    assert Timecode.parse(text, rate) == found


def test_drop_frame_leaves_out_two_numbers_a_minute_but_each_tenth():
    """ST 12-1, 5.2.2: 107,892 frames an hour at 29.97."""
    rate = Fraction(30000, 1001)
    assert str(Timecode.parse("00:00:59;29", rate).after(1)) == "00:01:00;02"
    assert str(Timecode.parse("00:09:59;29", rate).after(1)) == "00:10:00;00"
    assert Timecode.parse("01:00:00;00", rate).count == 107892
    assert str(Timecode.parse("23:59:59;29", rate).after(1)) == "00:00:00;00"


@pytest.mark.parametrize(
    ("text", "rate"),
    [("1:00:00:00", 25), ("01:00:00:25", 25), ("01:60:00:00", 25), ("24:00:00:00", 25), ("01:00:00;00", 25),
     ("00:01:00;01", Fraction(30000, 1001))],
)  # fmt: skip
def test_what_is_no_timecode_is_refused_with_how_to_write_it(text, rate):
    with pytest.raises(ValueRefused) as told:
        taken(Take(timecode=text), Comp(rate=str(rate)))
    assert told.value.where == "timecode"
    assert told.value.advice


def source(number):
    return picture(premultiplied(soft_disc(64, 96)))


def test_an_openexr_header_says_rate_timecode_primaries_and_source(tmp_path):
    take = taken(Take(frames="3-5", timecode="01:00:59;28"), Comp(rate="30000/1001", first=3, last=5))
    made = format_of(DeliveryForm(codec="exr", alpha="premultiplied", encoding="linear"))
    write_frames(source, made, Target(tmp_path / "d.####.exr"), take.numbers, stamp=take.stamp("abc123"))
    target = Target(tmp_path / "d.####.exr")
    assert prove(source, LocalDecoder(), made, target, take.numbers, take.rate).rate_found == "30000/1001"
    wrong = prove(source, LocalDecoder(), made, target, take.numbers, Fraction(25))
    assert wrong.problems == ["The rate is 30000/1001, meant was 25."]
    with OpenEXR.File(str(tmp_path / "d.0005.exr")) as file:
        header = dict(file.header())
    assert header["framesPerSecond"] == Fraction(30000, 1001)
    # hours, minutes, seconds, frame, drop-frame
    assert str(header["timeCode"]).startswith("(1, 1, 0, 2, 1")
    assert header["chromaticities"] == pytest.approx((0.64, 0.33, 0.3, 0.6, 0.15, 0.06, 0.3127, 0.329))
    assert header["neatveil:source"] == "abc123"


@pytest.mark.parametrize(("text", "rate"), [("10:00:00:12", "25"), ("00:01:00;02", "30000/1001")])
def test_a_movie_has_a_timecode_track(tmp_path, text, rate):
    take = taken(Take(timecode=text), Comp(rate=rate, first=1, last=3))
    made = format_of(DeliveryForm(codec="prores4444", encoding="rec709"))
    write_movie(source, made, Target(tmp_path / "d.mov"), take.numbers, take.rate, stamp=take.stamp())
    with av.open(str(tmp_path / "d.mov")) as movie:
        assert {s.metadata.get("timecode") for s in movie.streams} == {text}
        assert [s.type for s in movie.streams] == ["video", "data"]
