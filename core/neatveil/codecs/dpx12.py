"""DPX frames of 12 bits (SMPTE ST 268)."""

from .base import Codec

CODEC = Codec(
    name="dpx12",
    title="DPX frames, 12 bits",
    help="For film and grading desks; it holds no alpha.",
    kind="frames",
    ending=".dpx",
    alpha=False,
    bits=12,
    sample="uint16",
    header={"oiio:BitsPerSample": 12},
    colour_tolerance=0.6 / 4095,
)
