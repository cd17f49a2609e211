"""Which frame of an element is seen: against exact rational time, for every rate, speed and offset."""

from fractions import Fraction
from math import floor

import pytest
from hypothesis import given
from hypothesis import strategies as st
from neatveil.comp import Comp, Element, Group, Layer, element_frame, element_frames, group_frames

#: Rates that are in use: film, PAL, NTSC, and their doubles (SMPTE ST 2036-1 and EBU R 112 list them).
RATES = st.sampled_from(["24000/1001", "24", "25", "30000/1001", "30", "48", "50", "60000/1001", "60"])
SPEEDS = st.sampled_from([0.25, 0.5, 0.8, 1.0, 1.25, 2.0, 3.0])
ENDS = st.sampled_from(["hold", "loop", "ping-pong", "blank"])


def shown(
    frame, *, rate="25", own="25", speed=1.0, offset=0, first=1, clip=(101, 140), beyond="blank", **how
):  # fmt: skip
    comp = Comp(rate=rate, first=first, last=first + 1000)
    element = Element(file="a.####.png", first=clip[0], last=clip[1], rate=own)
    layer = Layer(id="a", name="a", element="a", speed=speed, offset=offset, beyond=beyond, **how)
    return element_frame(comp, layer, element, frame)


@given(RATES, RATES, SPEEDS, st.integers(-30, 30), st.integers(-5, 60))
def test_the_frame_that_is_seen_is_the_last_one_that_has_begun(rate, own, speed, offset, frame):
    """In seconds: the comp's frame begins at n / rate, the element's k-th at k / (its rate x the speed)."""
    time = Fraction(frame - 1 - offset) / Fraction(rate)
    index = floor(time * Fraction(own) * Fraction(speed))
    expected = 101 + index if 0 <= index < 40 else None
    assert shown(frame, rate=rate, own=own, speed=speed, offset=offset) == expected


@given(RATES, RATES, SPEEDS)
def test_time_never_goes_back(rate, own, speed):
    seen = [shown(n, rate=rate, own=own, speed=speed, beyond="hold") for n in range(-20, 80)]
    assert seen == sorted(seen)
    assert seen[0] == 101


@given(st.integers(-200, 200), st.integers(1, 12), ENDS)
def test_beyond_its_frames(frame, count, ends):
    """Python's own remainder for loops; there and back is a loop of the frames and the inner ones again."""
    index = frame - 1
    round_trip = [*range(count), *range(count - 2, 0, -1)]
    expected = {
        "hold": min(max(index, 0), count - 1),
        "loop": index % count,
        "ping-pong": round_trip[index % len(round_trip)],
        "blank": index if 0 <= index < count else None,
    }[ends]
    got = shown(frame, clip=(1, count), beyond=ends)
    assert got == (None if expected is None else 1 + expected)


@given(st.integers(-50, 50), SPEEDS, ENDS)
def test_backwards_is_the_mirror_of_forwards(frame, speed, ends):
    there = shown(frame, speed=speed, beyond=ends)
    back = shown(frame, speed=speed, beyond=ends, reverse=True)
    assert back == (None if there is None else 101 + 140 - there)


@given(st.integers(-50, 50), st.integers(-40, 40), ENDS)
def test_an_offset_is_a_later_start(frame, offset, ends):
    assert shown(frame + offset, offset=offset, beyond=ends) == shown(frame, beyond=ends)


@given(st.integers(-500, 500), SPEEDS, st.integers(-9, 9))
def test_a_still_is_one_frame_at_all_times(frame, speed, offset):
    element = Element(file="a.png", first=7, last=7, still=True)
    layer = Layer(id="a", name="a", element="a", speed=speed, offset=offset, beyond="blank")
    assert element_frame(Comp(first=1, last=9), layer, element, frame) == 7


@given(st.integers(-100, 1000), st.integers(1, 90))
def test_where_the_comp_begins_moves_everything_along(frame, first):
    assert shown(frame + first - 1, first=first) == shown(frame)


def both(frame, *, rate="25", own="25", speed=1.0, **how):
    comp = Comp(rate=rate, first=1, last=1000)
    element = Element(file="a.####.png", first=101, last=140, rate=own)
    return element_frames(comp, Layer(id="a", name="a", element="a", speed=speed, **how), element, frame)


@given(RATES, RATES, SPEEDS, st.integers(1, 20))
def test_blended_frames_stand_around_the_exact_time(rate, own, speed, frame):
    """The shares weigh the two frames so that their mean is the time itself, as linear interpolation does."""
    place = Fraction(frame - 1) / Fraction(rate) * Fraction(own) * Fraction(speed)
    shown = both(frame, rate=rate, own=own, speed=speed, between="blend", beyond="hold")
    if place <= 39:
        assert shown.number + shown.share * (shown.after - shown.number) == pytest.approx(101 + float(place))
        assert 0 <= shown.share < 1
        assert shown.after - shown.number in {0, 1}
    else:
        assert shown == (140, 140, 0)


@given(RATES, RATES, SPEEDS, st.integers(1, 20))
def test_the_nearest_frame_is_never_more_than_half_a_frame_away(rate, own, speed, frame):
    place = Fraction(frame - 1) / Fraction(rate) * Fraction(own) * Fraction(speed)
    shown = both(frame, rate=rate, own=own, speed=speed, between="nearest", beyond="hold")
    assert abs(min(place, 39) - (shown.number - 101)) <= Fraction(1, 2)
    assert shown.share == 0


def test_a_blank_end_is_not_faded_to():
    last = both(80, speed=0.5, between="blend", beyond="blank")  # 39.5 frames in: the last one has begun
    assert last == (140, 140, 0)
    assert both(81, speed=0.5, between="blend", beyond="blank") is None


def test_a_loop_is_blended_across_its_ends():
    assert both(80, speed=0.5, between="blend", beyond="loop") == (140, 101, 0.5)


def test_a_frozen_frame_stays_and_a_late_copy_shows_an_earlier_one():
    assert {both(n, own_frame=117.0).number for n in range(1, 60)} == {117}
    assert both(9, own_frame=117.0, offset=5).number == 112
    assert both(9, own_frame=117.25, between="blend") == (117, 118, 0.25)
    assert both(9, own_frame=117.0, speed=3.0) == both(9, own_frame=117.0)


def test_a_curve_of_own_frames_is_read_at_the_frame():
    keys = {"own_frame": {"keys": [{"frame": 1, "value": 101, "way": "linear"}, {"frame": 5, "value": 111}]}}
    layer = Layer.model_validate(
        {"id": "a", "name": "a", "element": "a", "own_frame": 101, "keys": keys, "between": "blend"}
    )
    element = Element(file="a.####.png", first=101, last=140, rate="50")
    found = [element_frames(Comp(first=1, last=9), layer.at(n), element, n) for n in (1, 2, 4, 9)]
    assert found == [(101, 101, 0), (103, 104, 0.5), (108, 109, 0.5), (111, 111, 0)]


def test_a_frozen_group_stands_still():
    frozen = Group(id="g", name="g", own_frame=4.0)
    assert {group_frames(Comp(first=1, last=10), frozen, n) for n in range(-5, 20)} == {(4, 4, 0)}
