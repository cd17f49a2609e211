"""What can be written: codecs in their containers, kinds of frames; for delivery and transcoding alike."""

from .base import Codec
from .table import CODECS, codec_named

__all__ = ["CODECS", "Codec", "codec_named"]
