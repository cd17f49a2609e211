"""TIFF frames, 16 bits, unassociated alpha (TIFF 6.0, ExtraSamples = 2) [TIFF6]."""

from ...alpha import Reading
from ...codecs import CODECS
from .base import DeliveryFormat

FORMAT = DeliveryFormat(
    name="tiff16-straight",
    title="TIFF frames, 16-bit, straight",
    help="As the PNG frames, for programs that prefer TIFF; the file says that its alpha is straight.",
    codec=CODECS["tiff16"],
    reading=Reading(alpha="straight"),
    encoding="srgb",
    colour_tolerance=0.51 / 65535,
    alpha_tolerance=0.51 / 65535,
)
