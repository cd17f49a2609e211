"""TIFF frames of 16 bits [TIFF6]."""

from .base import Codec

CODEC = Codec(
    name="tiff16",
    title="TIFF frames, 16 bits",
    help="Lossless.",
    kind="frames",
    ending=".tif",
    alpha=True,
    bits=16,
    sample="uint16",
    compression="zip",
    colour_tolerance=0.6 / 65535,
    alpha_tolerance=0.6 / 65535,
)
