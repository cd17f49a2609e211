"""OpenEXR frames, half, premultiplied, scene-linear: as OpenEXR defines its alpha [OpenEXR]."""

from ...alpha import Reading
from ...codecs import CODECS
from .base import DeliveryFormat

FORMAT = DeliveryFormat(
    name="exr-half-premultiplied",
    title="OpenEXR frames, half, premultiplied",
    help="For further compositing: linear light, values above 1 and light without coverage are kept.",
    codec=CODECS["exr"],
    reading=Reading(alpha="premultiplied"),
    encoding="linear",
    # half has 11 significant bits: rounding is within 2^-12 of the value
    colour_tolerance=2.0**-11,
    alpha_tolerance=2.0**-11,
    relative=True,
)
