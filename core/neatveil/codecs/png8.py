"""PNG frames of 8 bits (PNG specification)."""

from .base import CODE, Codec

CODEC = Codec(
    name="png8",
    title="PNG frames, 8 bits",
    help="Small and lossless for 8-bit work; gradients may band.",
    kind="frames",
    ending=".png",
    alpha=True,
    bits=8,
    sample="uint8",
    colour_tolerance=0.6 * CODE,
    alpha_tolerance=0.6 * CODE,
)
