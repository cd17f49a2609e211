"""Transcoding: an element in another codec or as frames, its code values and its alpha kept."""

from .losses import channels_of, data_channels, dropped, extra_channels, narrowed
from .transcode import FrameCheck, TranscodeReport, as_held, check, reading_after, transcode

__all__ = [
    "FrameCheck",
    "TranscodeReport",
    "as_held",
    "channels_of",
    "check",
    "data_channels",
    "dropped",
    "extra_channels",
    "narrowed",
    "reading_after",
    "transcode",
]
