"""A picture made for another size: by the filters of OpenImageIO, as wide as the size asks for."""

from __future__ import annotations

from typing import Literal

import numpy as np
import OpenImageIO as oiio

from ..errors import WriteFailed
from ..picture import RGBA, Box, PremultipliedPicture, new_planes, whole_frame
from ..steps.warp import part

ResizeFilter = Literal["lanczos3", "catmull-rom", "triangle", "box"]


def resized(
    picture: PremultipliedPicture, width: int, height: int, how: ResizeFilter
) -> PremultipliedPicture:
    """The whole frame at another size.

    Parameters
    ----------
    picture : scene-linear, premultiplied over black.
    width, height : pixels of the result; the picture is stretched where its sides are in another ratio.
    how : the filter; it is widened where the picture shrinks, so that nothing shimmers.

    Returns
    -------
    R, G, B, A alone. Alpha stays within 0..1; a filter's ringing where nothing is, is left out.

    Raises
    ------
    WriteFailed
        The library refused it.

    Examples
    --------
    >>> grey = PremultipliedPicture.from_rgba(np.full((4, 4, 4), 0.5, np.float32))
    >>> float(resized(grey, 2, 2, "box")["A"][0, 0])
    0.5
    """
    whole = whole_frame(picture)
    frame = whole.display_window
    if (frame.width, frame.height) == (width, height):
        return whole
    pixels = np.ascontiguousarray(np.dstack([whole[n] for n in RGBA]), np.float32)
    target = oiio.ROI(0, width, 0, height, 0, 1, 0, 4)
    found = oiio.ImageBufAlgo.resize(oiio.ImageBuf(pixels), how, roi=target)
    if found.has_error:
        raise WriteFailed(f"The picture could not be resized: {found.geterror()}")
    box = Box(frame.x0, frame.y0, frame.x0 + width, frame.y0 + height)
    planes = new_planes(RGBA, height, width)
    # limited whatever the filter: the library's weights sum to 1 but for roundings
    part(np.ascontiguousarray(found.get_pixels(oiio.FLOAT)), "cubic", planes)
    return PremultipliedPicture(planes, box, box)
