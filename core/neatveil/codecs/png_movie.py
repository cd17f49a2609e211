"""PNG pictures in a QuickTime movie."""

from .base import Codec

CODEC = Codec(
    name="png-movie",
    title="PNG frames in a movie",
    help="Lossless, 16 bits; large.",
    kind="movie",
    ending=".mov",
    alpha=True,
    bits=16,
    encoder="png",
    pixel_format="rgba64be",
    container="mov",
    options={"compression_level": "1"},
    colour_tolerance=0.6 / 65535,
    alpha_tolerance=0.6 / 65535,
)
