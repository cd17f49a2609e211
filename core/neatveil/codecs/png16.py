"""PNG frames of 16 bits [PNG]."""

from .base import Codec

CODEC = Codec(
    name="png16",
    title="PNG frames, 16 bits",
    help="Lossless; read by everything.",
    kind="frames",
    ending=".png",
    alpha=True,
    bits=16,
    sample="uint16",
    colour_tolerance=0.6 / 65535,
    alpha_tolerance=0.6 / 65535,
)
