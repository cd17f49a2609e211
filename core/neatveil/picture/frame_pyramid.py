"""A picture's pyramid, kept with it where it is asked for again."""

from __future__ import annotations

from ..numeric.pyramid import Pyramid, pyramid_of
from .cut import whole_frame
from .finite import finite_picture
from .picture import RGBA, PremultipliedPicture


def frame_pyramid(picture: PremultipliedPicture, halved: bool) -> Pyramid:
    """R, G, B, A over the display window and, where ``halved``, its halves; values that are no numbers are 0.

    It takes a third more memory than the picture, so that of a moving picture, each of whose frames is asked
    for once, it is not kept: only from the second time on.
    """
    kept = picture.pyramid
    if kept is not None and (len(kept.begins) > 1 or not halved):
        return kept
    full = whole_frame(finite_picture(picture))
    made = pyramid_of([full[n] for n in RGBA], halved)
    if picture.pyramid_asked:
        picture.pyramid = made
    picture.pyramid_asked = True
    return made
