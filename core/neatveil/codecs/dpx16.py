"""DPX frames of 16 bits (SMPTE ST 268)."""

from .base import Codec

CODEC = Codec(
    name="dpx16",
    title="DPX frames, 16 bits",
    help="For film and grading desks; it holds no alpha.",
    kind="frames",
    ending=".dpx",
    alpha=False,
    bits=16,
    sample="uint16",
    header={"oiio:BitsPerSample": 16},
    colour_tolerance=0.6 / 65535,
)
