"""Channels: luma, colour models, the patch from channel to channel."""

from .luma import LUMA_WEIGHTS, luma

__all__ = ["LUMA_WEIGHTS", "luma"]
