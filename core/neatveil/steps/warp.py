"""Field steps that move pixels: matrices from where a pixel goes to where it comes from."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from math import ceil, floor
from typing import Literal

import cv2
import numpy as np
from numpy.typing import NDArray
from pydantic.config import JsonDict

from ..numeric.blocks import new_array
from ..numeric.jit import kernel
from ..numeric.pool import for_strips
from ..numeric.resample import is_perspective, resample
from ..picture import RGBA, Box, Plane, PremultipliedPicture, cut, new_planes

Matrix = NDArray[np.float64]
Filter = Literal["nearest", "linear", "cubic", "lanczos"]
#: Pixels of the source by which a filter spreads a value at most.
REACH: dict[str, int] = {"nearest": 1, "linear": 1, "cubic": 2, "lanczos": 3}

FILTER_LABELS: JsonDict = {
    "nearest": "Nearest", "linear": "Linear", "cubic": "Cubic (Catmull-Rom)", "lanczos": "Lanczos (3 lobes)",
}  # fmt: skip
#: Those that OpenCV does with exact places; its cubic (a = -0.75) bends a ramp and its Lanczos rounds places
#: to 1/32 of a pixel.
OPENCV_FILTERS = {"nearest": cv2.INTER_NEAREST, "linear": cv2.INTER_LINEAR}


def moved(picture: PremultipliedPicture, matrices: Sequence[Matrix], how: str) -> PremultipliedPicture:
    """The picture under ``(3, 3)`` matrices, the mean of all of them.

    ``matrices``: from the picture's pixels to where they go, both measured from the corner of the display
    window. A picture made much smaller is halved first, so that nothing shimmers.
    """
    frame, source = picture.display_window, picture.data_window
    pixels, base, reach = _halved_for(picture, matrices[0], REACH[how])
    area = reached(reach, matrices).shift(frame.x0, frame.y0).intersect(frame.around(source))
    if area.empty:
        area = Box(frame.x0, frame.y0, frame.x0 + 1, frame.y0 + 1)
    # result pixel's centre -> its place in the frame -> source's frame -> source's own pixel
    corner = shift(area.x0 - frame.x0 + 0.5, area.y0 - frame.y0 + 0.5)
    backs = [shift(-0.5, -0.5) @ base @ np.linalg.inv(m) @ corner for m in matrices]
    planes = new_planes(RGBA, area.height, area.width)

    def strip(y0: int, y1: int) -> None:
        size = area.width, y1 - y0
        total = warped_mean(pixels, [back @ shift(0, y0) for back in backs], size, how)
        part(total, how, {n: planes[n][y0:y1] for n in RGBA})

    for_strips(area.height, area.width, strip)
    return PremultipliedPicture(planes, area, frame, data_planes=picture.data_planes)


def warped(pixels: NDArray[np.float32], back: Matrix, size: tuple[int, int], how: str) -> NDArray[np.float32]:
    """Planes together or one: of a size, each pixel from where ``back``, ``(3, 3)``, sends it; 0 beyond."""
    out = new_array((size[1], size[0], *pixels.shape[2:]))
    if how not in OPENCV_FILTERS:
        resample(np.ascontiguousarray(pixels), back, out, how)
        return out
    flags = OPENCV_FILTERS[how] | cv2.WARP_INVERSE_MAP
    if is_perspective(back):
        cv2.warpPerspective(pixels, back, size, out, flags, cv2.BORDER_CONSTANT, (0, 0, 0, 0))
        _clear_behind(out, back)
    else:
        cv2.warpAffine(pixels, back[:2] / back[2, 2], size, out, flags, cv2.BORDER_CONSTANT, (0, 0, 0, 0))
    return out


def warped_mean(
    pixels: NDArray[np.float32], backs: Sequence[Matrix], size: tuple[int, int], how: str
) -> NDArray[np.float32]:
    """The mean of what `warped` gives for several matrices."""
    total = warped(pixels, backs[0], size, how)
    for back in backs[1:]:
        total += warped(pixels, back, size, how)
    if len(backs) > 1:
        total *= np.float32(1 / len(backs))
    return total


def _clear_behind(out: NDArray[np.float32], back: Matrix) -> None:
    """What lies behind the eye is not seen: OpenCV would show it upside down."""
    height, width = out.shape[:2]
    ends = [back[2] @ (x, y, 1) for x in (0, width) for y in (0, height)]
    if min(ends) <= 0:
        y, x = np.ogrid[:height, :width]
        out[back[2, 0] * x + back[2, 1] * y + back[2, 2] <= 0] = 0


def shift(dx: float, dy: float) -> Matrix:
    """``(3, 3)``: right and down by."""
    return np.array([[1, 0, dx], [0, 1, dy], [0, 0, 1]], float)


def _halved_for(
    picture: PremultipliedPicture, matrix: Matrix, reach: int
) -> tuple[NDArray[np.float32], Matrix, Box]:
    """Pixels halved while they would shrink to less than half, what leads to them, and what they reach.

    Pixels are paired from the frame's corner, whatever the data window leaves out. The matrix goes from the
    frame to the halved pixels; the box, seen from the frame's corner, has a margin of the filter's ``reach``.
    """
    frame, window = picture.display_window, picture.data_window
    shrink = float(np.sqrt(abs(np.linalg.det(matrix[:2, :2]))))
    times, size = 0, max(frame.width, frame.height)
    while shrink * 2**times < 0.5 and size >> times > 1:
        times += 1
    step = 1 << times
    own = window.shift(-frame.x0, -frame.y0)
    wide = Box(
        own.x0 // step * step, own.y0 // step * step, -(-own.x1 // step) * step, -(-own.y1 // step) * step
    )
    pixels = picture.interleaved() if wide == own else cut(picture, wide.shift(frame.x0, frame.y0)).rgba()
    for _ in range(times):
        half = (pixels.shape[1] // 2, pixels.shape[0] // 2)
        pixels = np.asarray(cv2.resize(pixels, half, interpolation=cv2.INTER_AREA), np.float32)
    base = np.diag([1 / step, 1 / step, 1]) @ shift(-wide.x0, -wide.y0)
    pad = reach * step
    return pixels, base, Box(wide.x0 - pad, wide.y0 - pad, wide.x1 + pad, wide.y1 + pad)


def reached(box: Box, matrices: Sequence[Matrix]) -> Box:
    """All whole pixels that the box's reach under any of the matrices."""
    corners = np.array([[x, y, 1] for x in (box.x0, box.x1) for y in (box.y0, box.y1)], float)
    points = []
    for matrix in matrices:
        found = corners @ matrix.T
        if (found[:, 2] <= 1e-6).any():
            return Box(-(1 << 20), -(1 << 20), 1 << 20, 1 << 20)  # it goes behind the eye
        points.append(found[:, :2] / found[:, 2:])
    low, high = np.concatenate(points).min(0), np.concatenate(points).max(0)
    return Box(floor(low[0]), floor(low[1]), ceil(high[0]), ceil(high[1]))


def part(pixels: NDArray[np.float32], how: str, out: Mapping[str, Plane]) -> None:
    """What `warped` gave as planes R, G, B, A, contiguous; without what a filter's negative lobes add."""
    if how in {"cubic", "lanczos"}:
        _limited(pixels.reshape(-1), *(out[n].reshape(-1) for n in RGBA))
    else:
        cv2.split(pixels, [out[n] for n in RGBA])


@kernel
def _limited(pixels, r, g, b, a):  # type: ignore[no-untyped-def]
    """Alpha stays within 0..1: above 1 the straight colour is kept; where it is 0 nothing is left but light.

    An alpha within a trace of 0 counts as 0 and within a trace of 1 as 1: the weights of a filter sum to 1
    only within a few roundings, and an opaque picture stays opaque when it is turned.
    """
    zero, one, least, trace = np.float32(0), np.float32(1), np.float32(-np.inf), np.float32(1e-6)
    for i in range(a.size):
        alpha = pixels[4 * i + 3]
        k = one / alpha if alpha > one else one
        low = zero if alpha < trace else least
        red, green, blue = pixels[4 * i], pixels[4 * i + 1], pixels[4 * i + 2]
        # written so that NaN stays NaN
        r[i] = (low if red < low else red) * k
        g[i] = (low if green < low else green) * k
        b[i] = (low if blue < low else blue) * k
        a[i] = one if alpha > one - trace else (zero if alpha < zero else alpha)


def only_channels(
    before: PremultipliedPicture, after: PremultipliedPicture, letters: str
) -> PremultipliedPicture:
    """The moved planes of the chosen channels with the others where they were."""
    if letters == "rgba":
        return after
    area = before.data_window.around(after.data_window)
    old, new = cut(before, area), cut(after, area)
    return old.with_planes({n: (new if n.lower() in letters else old)[n] for n in RGBA})
