"""Frames blended for another rate, a slower speed, or a time between two of them."""

import cv2
import numpy as np
import pytest
from core.evaluate.test_group_layers import FILES, comp, drawn, group, layer
from core.reference.pictures import Arrays
from neatveil.errors import FrameMissing
from neatveil.evaluate import Evaluator
from neatveil.view import sample


def test_half_speed_shows_the_mean_of_two_frames_in_light():
    """Linear light is mixed, not codes: the mean of the light, by OpenCV's addWeighted."""
    document = comp(layer("moving", speed=0.5, between="blend"))
    for frame in (1, 2, 4, 7):
        a, b = (FILES["moving"][(frame - 1) // 2], FILES["moving"][frame // 2])
        assert drawn(document, frame) == pytest.approx(cv2.addWeighted(a, 0.5, b, 0.5, 0), abs=1e-6)


def test_frames_of_24_in_25_follow_the_exact_time():
    document = comp(layer("moving", between="blend"))
    elements = {k: e.model_copy(update={"rate": 24}) for k, e in document.elements.items()}
    document = document.model_copy(update={"elements": elements})
    for frame in range(1, 9):
        assert drawn(document, frame)[0, 0, 0] == pytest.approx((1 + (frame - 1) * 24 / 25) / 10, abs=1e-6)


def test_what_comes_after_the_blend_sees_one_picture():
    """Steps and mattes work on the mix: exposure doubles it, and its luma cuts it."""
    steps = [{"kind": "exposure", "stops": 1.0}]
    assert drawn(comp(layer("moving", own_frame=3.5, between="blend", steps=steps)))[
        0, 0, 0
    ] == pytest.approx(0.7)
    part = {"kind": "channel", "source": "layer:moving", "channel": "R"}
    cut = layer("plate", matte={"parts": [part]})
    document = comp(layer("moving", own_frame=3.5, between="blend", shown=False), cut)
    assert drawn(document)[0, 0, 3] == pytest.approx(0.35)


def test_a_group_is_blended_as_its_members_are_seen_then():
    """Half a frame into a group of an opaque and a transparent clip: the mean of both whole results."""
    inside = group(layer("moving", opacity=0.5), layer("one", operator="multiply"), name="inner")
    held = [drawn(comp(group(inside, own_frame=float(n))), 1) for n in (3, 4)]
    assert np.ptp([h[0, 0, 0] for h in held]) > 0
    mixed = drawn(comp(group(inside, own_frame=3.25, between="blend")), 1)
    assert mixed == pytest.approx(0.75 * held[0] + 0.25 * held[1], abs=1e-6)


def test_a_frame_that_cannot_be_read_is_named_and_the_rest_shows():
    class Gap(Arrays):
        def read(self, source, frame, planes=None):
            if source == "moving" and frame == 5:
                raise FrameMissing("Frame 5 of moving is missing.")
            return super().read(source, frame, planes)

    failed = []
    document = comp(layer("plate"), layer("moving", own_frame=4.5, between="blend"))
    picture = Evaluator(Gap(FILES)).picture(document, 1, failed=failed).rgba()
    assert [e.where for e in failed] == ["moving"]
    assert picture == pytest.approx(drawn(comp(layer("plate"))))


def test_stored_values_are_those_of_the_frame_that_is_seen_most():
    document = comp(layer("moving", own_frame=3.25, between="blend"))
    got = sample(Evaluator(Arrays(FILES)), document, 1, 2, 2, "moving", extent="comp", failed=[])
    assert got.stored[0] == pytest.approx(0.3)
