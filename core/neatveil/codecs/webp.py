"""WebP frames, lossless, of 8 bits [RFC9649]."""

from .base import CODE, Codec

CODEC = Codec(
    name="webp",
    title="WebP frames, lossless, 8 bits",
    help="Smaller than PNG, alpha too; for web pages.",
    kind="frames",
    ending=".webp",
    alpha=True,
    bits=8,
    sample="uint8",
    # RFC 9649, 3.4: width and height of 14 bits
    most=(16384, 16384),
    colour_tolerance=0.6 * CODE,
    alpha_tolerance=0.6 * CODE,
)
