"""Rectangles of whole pixels."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Box:
    """Pixels x0 <= x < x1, y0 <= y < y1; x to the right, y down. Empty when it has no pixels.

    >>> Box(0, 0, 4, 3).intersect(Box(2, 1, 9, 9))
    Box(x0=2, y0=1, x1=4, y1=3)
    """

    x0: int
    y0: int
    x1: int
    y1: int

    @classmethod
    def sized(cls, width: int, height: int) -> Box:
        return cls(0, 0, width, height)

    @property
    def width(self) -> int:
        return max(0, self.x1 - self.x0)

    @property
    def height(self) -> int:
        return max(0, self.y1 - self.y0)

    @property
    def empty(self) -> bool:
        return self.x1 <= self.x0 or self.y1 <= self.y0

    def intersect(self, other: Box) -> Box:
        return Box(
            max(self.x0, other.x0),
            max(self.y0, other.y0),
            min(self.x1, other.x1),
            min(self.y1, other.y1),
        )

    def around(self, other: Box) -> Box:
        """The smallest box that holds both."""
        return Box(
            min(self.x0, other.x0), min(self.y0, other.y0), max(self.x1, other.x1), max(self.y1, other.y1)
        )

    def shift(self, dx: int, dy: int) -> Box:
        return Box(self.x0 + dx, self.y0 + dy, self.x1 + dx, self.y1 + dy)

    def contains(self, other: Box) -> bool:
        return self.x0 <= other.x0 and self.y0 <= other.y0 and self.x1 >= other.x1 and self.y1 >= other.y1

    def halved(self, times: int) -> Box:
        """The pixels of a picture halved ``times`` times that this box touches."""
        n = 1 << times
        return Box(self.x0 // n, self.y0 // n, -(-self.x1 // n), -(-self.y1 // n))

    def as_list(self) -> list[int]:
        return [self.x0, self.y0, self.x1, self.y1]
