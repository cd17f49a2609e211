"""Ut Video in AVI: lossless, 8 bits."""

from .base import CODE, Codec

CODEC = Codec(
    name="utvideo",
    title="Ut Video movie",
    help="Lossless, 8 bits, alpha too; quick to write and to read.",
    kind="movie",
    ending=".avi",
    alpha=True,
    bits=8,
    encoder="utvideo",
    pixel_format="gbrap",
    container="avi",
    colour_tolerance=0.6 * CODE,
    alpha_tolerance=1.1 * CODE,
)
