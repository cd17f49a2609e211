"""Evaluating a comp: pulled by frame, region and scale, kept by content key."""

from .cache import ByteCache
from .evaluator import Evaluator
from .placement import frame_box

__all__ = ["ByteCache", "Evaluator", "frame_box"]
