"""Moving WebP, lossless, of 8 bits [RFC9649]: every frame by itself."""

from fractions import Fraction

from .base import CODE, Codec

CODEC = Codec(
    name="webp-moving",
    title="Moving WebP, lossless, 8 bits",
    help="Smaller than animated PNG, alpha too; plays without end in web pages.",
    kind="movie",
    ending=".webp",
    alpha=True,
    bits=8,
    container="webp",
    # RFC 9649, 2.7.1.1: durations in milliseconds
    clock=Fraction(1, 1000),
    # RFC 9649, 3.4: width and height of 14 bits
    most=(16384, 16384),
    colour_tolerance=0.6 * CODE,
    alpha_tolerance=0.6 * CODE,
)
