"""PNG frames, 16 bits, straight: the PNG specification allows no other state of alpha [PNG]."""

from ...alpha import Reading
from ...codecs import CODECS
from .base import DeliveryFormat

FORMAT = DeliveryFormat(
    name="png16-straight",
    title="PNG frames, 16-bit, straight",
    help="Safe for editors and graphics: the surface colour runs on past the edge. Light without "
    "coverage (glow at alpha 0) cannot be held.",
    codec=CODECS["png16"],
    reading=Reading(alpha="straight"),
    encoding="srgb",
    # half a step of 16 bits, and the rounding of float32
    colour_tolerance=0.51 / 65535,
    alpha_tolerance=0.51 / 65535,
)
