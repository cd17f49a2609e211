"""Files: probing, reading and writing stills, numbered sequences and movies."""

from .decoder import Decoder, LocalDecoder
from .facts import ChannelFact, Facts
from .sequences import Pattern, find_sequences

__all__ = ["ChannelFact", "Decoder", "Facts", "LocalDecoder", "Pattern", "find_sequences"]
