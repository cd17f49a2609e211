"""Two frames of the same layer mixed: what is seen at a time between them."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np

from ..numeric.pool import for_each
from ..picture import Plane, PremultipliedPicture, plane_over, trimmed
from .cache import content_key
from .content import Content, RenderContext, Way


@dataclass(frozen=True)
class BlendedFrames:
    """``first`` with ``share`` (0..1) of ``after`` in it, in linear light, premultiplied.

    Its extra channels are those of the frame with the larger share: data has no value between two others.
    """

    context: RenderContext
    first: Content
    after: Content
    share: float

    @property
    def key(self) -> str:
        return content_key("blend", self.first.key, self.after.key, self.share)

    @property
    def nearest(self) -> Content:
        """The one with the larger share."""
        return self.first if self.share < 0.5 else self.after

    def size(self) -> tuple[int, int]:
        return self.first.size()

    def known_size(self) -> tuple[int, int] | None:
        return self.first.known_size()

    def picture(self, level: int) -> PremultipliedPicture:
        return self.context.kept(content_key(self.key, level), lambda: self._mixed(level))

    def finest(self) -> int:
        return 0

    def way_to(self, channel: str) -> Way | None:
        return self.nearest.way_to(channel)

    def _mixed(self, level: int) -> PremultipliedPicture:
        first, after = self.first.picture(level), self.after.picture(level)
        area = first.data_window.around(after.data_window)
        planes: dict[str, Plane] = {}

        def mix(name: str) -> None:
            one = plane_over(first[name], first.data_window, area)
            other = plane_over(after[name], after.data_window, area)
            planes[name] = np.asarray(cv2.addWeighted(one, 1 - self.share, other, self.share, 0), np.float32)

        for_each(list(first.planes), mix)
        return trimmed(PremultipliedPicture(planes, area, first.display_window))
