"""Evaluating a comp: pulled by frame, region and scale, kept by content key."""

from .cache import ByteCache
from .evaluator import Evaluator

__all__ = ["ByteCache", "Evaluator"]
