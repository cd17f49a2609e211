"""Pictures: named planes, with the alpha's state in the type.

A plane is a C-contiguous float32 array ``(H, W)`` the size of the data window. The planes ``R``,
``G``, ``B`` and ``A`` are the picture and its alpha; further ones have names like ``depth.Z``.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Self, TypeAlias

import cv2
import numpy as np
from numpy.typing import NDArray

from ..errors import ValueRefused
from ..numeric.blocks import new_array
from ..numeric.pool import for_strips
from ..numeric.pyramid import Pyramid
from .box import Box

Plane: TypeAlias = NDArray[np.float32]
RGB = ("R", "G", "B")
RGBA = ("R", "G", "B", "A")


class Picture:
    """Named planes over a data window; immutable by convention: functions return new pictures.

    Parameters
    ----------
    planes : name to float32 array ``(data_window.height, data_window.width)``.
    data_window : where the planes lie; pixels outside hold 0 in every plane.
    display_window : the frame; defaults to the data window.
    data_planes : names of planes that hold data, not colour; never converted or premultiplied.

    Raises
    ------
    ValueRefused : a plane's shape or type does not fit.
    """

    __slots__ = (
        "_finite", "_interleaved", "data_planes", "data_window", "display_window", "planes", "pyramid",
        "pyramid_asked",
    )  # fmt: skip

    def __init__(
        self,
        planes: Mapping[str, Plane],
        data_window: Box | None = None,
        display_window: Box | None = None,
        *,
        data_planes: Iterable[str] = (),
    ) -> None:
        if data_window is None:
            height, width = next(iter(planes.values())).shape if planes else (0, 0)
            data_window = Box.sized(width, height)
        shape = (data_window.height, data_window.width)
        for name, plane in planes.items():
            if plane.dtype != np.float32 or plane.shape != shape:
                raise ValueRefused(f"Plane {name} is {plane.dtype} {plane.shape}; expected float32 {shape}.")
        self.planes = dict(planes)
        self.data_window = data_window
        self.display_window = display_window if display_window is not None else data_window
        self.data_planes = frozenset(data_planes)
        self._finite: bool | None = None
        self._interleaved: NDArray[np.float32] | None = None
        # of `frame_pyramid`
        self.pyramid: Pyramid | None = None
        self.pyramid_asked = False

    @property
    def bytes(self) -> int:
        kept = 0 if self._interleaved is None else self._interleaved.nbytes
        kept += 0 if self.pyramid is None else self.pyramid.pixels.nbytes
        return kept + sum(p.nbytes for p in self.planes.values())

    @property
    def has_alpha(self) -> bool:
        return "A" in self.planes

    def __getitem__(self, name: str) -> Plane:
        return self.planes[name]

    def with_planes(self, planes: Mapping[str, Plane]) -> Self:
        """The same windows with other planes."""
        return type(self)(planes, self.data_window, self.display_window, data_planes=self.data_planes)

    def rgba(self) -> NDArray[np.float32]:
        """``(H, W, 4)`` copy of R, G, B, A over the data window."""
        window = self.data_window
        pixels = new_array((window.height, window.width, len(RGBA)))
        return cv2.merge([self.planes[n] for n in RGBA], pixels)  # type: ignore[return-value]

    def interleaved(self) -> NDArray[np.float32]:
        """As `rgba`, kept with the picture: for resampling, which is faster on pixels than planes."""
        if self._interleaved is None:
            self._interleaved = self.rgba()
        return self._interleaved

    def finite(self) -> bool:
        """Whether R, G, B and A hold neither NaN nor infinity; looked through once."""
        if self._finite is None:
            found: list[bool] = []

            def strip(y0: int, y1: int) -> None:
                found.append(all(np.isfinite(self.planes[n][y0:y1].sum()) for n in RGBA))

            for_strips(self.data_window.height, self.data_window.width, strip)
            self._finite = all(found)
        return self._finite

    @classmethod
    def from_rgba(cls, rgba: NDArray[np.float32], display_window: Box | None = None) -> Self:
        """Planes from ``(H, W, 4)`` R, G, B, A."""
        planes = {n: np.ascontiguousarray(rgba[..., i], np.float32) for i, n in enumerate(RGBA)}
        return cls(planes, Box.sized(rgba.shape[1], rgba.shape[0]), display_window)


class StoredPicture(Picture):
    """Code values as a file holds them (integers scaled to 0..1); the reading is still to be applied."""


class StraightPicture(Picture):
    """Scene-linear; RGB is the surface colour, not multiplied by alpha."""


class PremultipliedPicture(Picture):
    """Scene-linear, premultiplied over black; RGB above 0 where alpha is 0 is light."""
