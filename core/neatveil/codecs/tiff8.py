"""TIFF frames of 8 bits (TIFF 6.0)."""

from .base import CODE, Codec

CODEC = Codec(
    name="tiff8",
    title="TIFF frames, 8 bits",
    help="Lossless for 8-bit work; gradients may band.",
    kind="frames",
    ending=".tif",
    alpha=True,
    bits=8,
    sample="uint8",
    compression="zip",
    colour_tolerance=0.6 * CODE,
    alpha_tolerance=0.6 * CODE,
)
