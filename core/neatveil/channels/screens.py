"""The channels of a green or blue screen."""

from __future__ import annotations

#: The screen's own channel and the two others, by their places among R, G, B.
SCREENS: dict[str, tuple[int, int, int]] = {"green": (1, 0, 2), "blue": (2, 0, 1)}
