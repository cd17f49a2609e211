"""GIF: 255 colours a frame, and pixels that are covered or not [GIF89a]."""

from fractions import Fraction

from .base import CODE, Codec

CODEC = Codec(
    name="gif",
    title="GIF",
    help="255 colours a frame, and an alpha of yes or no: for previews in mail and on web pages.",
    kind="movie",
    ending=".gif",
    alpha=True,
    bits=8,
    alpha_bits=1,
    encoder="gif",
    pixel_format="pal8",
    container="gif",
    muxing={"loop": "0"},
    # GIF89a, 23: delay times in hundredths of a second
    clock=Fraction(1, 100),
    most=(65535, 65535),
    colour_tolerance=0.06,
    alpha_tolerance=0.6 * CODE,
)
