"""What people look at: pictures as 8-bit display values, and the numbers under a pixel."""

from .display import BACKGROUNDS, CHANNELS, Look, Screen, display, show
from .values import Sample, sample, sample_element

__all__ = [
    "BACKGROUNDS",
    "CHANNELS",
    "Look",
    "Sample",
    "Screen",
    "display",
    "sample",
    "sample_element",
    "show",
]
