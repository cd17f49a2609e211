"""DPX frames of 10 bits (SMPTE ST 268)."""

from .base import Codec

CODEC = Codec(
    name="dpx10",
    title="DPX frames, 10 bits",
    help="For film and grading desks; it holds no alpha.",
    kind="frames",
    ending=".dpx",
    alpha=False,
    bits=10,
    sample="uint16",
    header={"oiio:BitsPerSample": 10},
    colour_tolerance=0.6 / 1023,
)
