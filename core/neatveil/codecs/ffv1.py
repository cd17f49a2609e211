"""FFV1 in Matroska (RFC 9043)."""

from .base import Codec

CODEC = Codec(
    name="ffv1",
    title="FFV1 movie",
    help="Lossless, 16 bits; for keeping.",
    kind="movie",
    ending=".mkv",
    alpha=True,
    bits=16,
    encoder="ffv1",
    pixel_format="gbrap16le",
    container="matroska",
    options={"level": "3", "slices": "12"},
    colour_tolerance=0.6 / 65535,
    alpha_tolerance=0.6 / 65535,
)
