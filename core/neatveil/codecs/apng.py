"""Animated PNG of 8 bits, played without end (PNG, third edition)."""

from .base import CODE, Codec

CODEC = Codec(
    name="apng",
    title="Animated PNG",
    help="Lossless, 8 bits, alpha too; plays without end in web pages.",
    kind="movie",
    ending=".apng",
    alpha=True,
    bits=8,
    encoder="apng",
    pixel_format="rgba",
    container="apng",
    muxing={"plays": "0"},
    colour_tolerance=0.6 * CODE,
    alpha_tolerance=0.6 * CODE,
)
