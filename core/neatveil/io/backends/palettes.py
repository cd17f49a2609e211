"""Pictures of 255 colours and none: what GIF holds [Pillow]."""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray
from PIL import Image

#: The place in the palette of what is not covered.
NONE = 255


def with_palette(codes: NDArray[np.uint8]) -> tuple[NDArray[np.uint8], NDArray[np.uint32]]:
    """A frame by places in a palette of its own, chosen by median cut.

    Parameters
    ----------
    codes : ``(H, W, 3)`` R, G, B, or with a straight alpha ``(H, W, 4)``: below 128 a pixel is not covered.

    Returns
    -------
    Places ``(H, W)`` of which `NONE` is not covered, and 256 colours, each ``0xAARRGGBB``.
    """
    three = Image.fromarray(np.ascontiguousarray(codes[..., :3]))
    small: Any = three.quantize(NONE, method=Image.Quantize.MEDIANCUT, dither=Image.Dither.FLOYDSTEINBERG)
    places = np.array(small)
    found = np.array(small.getpalette(), np.uint32)[: 3 * NONE].reshape(-1, 3)
    # GIF has one colour that is nothing: those that are not used are none of it
    palette = np.full(256, 255 << 24, np.uint32)
    palette[NONE] = 0
    palette[: len(found)] = (255 << 24) | (found[:, 0] << 16) | (found[:, 1] << 8) | found[:, 2]
    if codes.shape[2] > 3:
        places[codes[..., 3] < 128] = NONE
    return places, palette
