"""Writing lossless WebP through Pillow: OpenImageIO's own does not give every code back [Pillow]."""

from __future__ import annotations

from io import BytesIO
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray
from PIL import Image


def save(path: Path | BytesIO, codes: NDArray[np.uint8]) -> None:
    """``codes``: ``(H, W, C)``: grey, grey and alpha, R, G, B, or these and a straight alpha.

    WebP holds no grey: it becomes three channels alike. Colour under alpha 0 is kept. Raises `OSError`.
    """
    count = codes.shape[2]
    if count < 3:
        codes = np.concatenate([codes[..., :1].repeat(3, axis=2), codes[..., 1:]], axis=2)
    options: dict[str, Any] = {"lossless": True, "exact": True, "quality": 25, "method": 1}
    Image.fromarray(np.ascontiguousarray(codes)).save(path, "WEBP", **options)
