"""QuickTime Animation: run lengths of 8-bit ARGB."""

from .base import CODE, Codec

CODEC = Codec(
    name="animation",
    title="Animation RLE movie",
    help="Lossless, 8 bits; for old programs.",
    kind="movie",
    ending=".mov",
    alpha=True,
    bits=8,
    encoder="qtrle",
    pixel_format="argb",
    container="mov",
    colour_tolerance=0.6 * CODE,
    alpha_tolerance=0.6 * CODE,
)
