"""JPEG 2000 frames, reversible (ITU-T T.800)."""

from .base import Codec

CODEC = Codec(
    name="jpeg2000",
    title="JPEG 2000 frames, 16 bits",
    help="Lossless and smaller than TIFF or PNG, but slow to pack and to open.",
    kind="frames",
    ending=".jp2",
    alpha=True,
    bits=16,
    sample="uint16",
    # five halvings, as the library always makes them
    least=(32, 32),
    colour_tolerance=0.6 / 65535,
    alpha_tolerance=0.6 / 65535,
)
