"""OpenEXR frames of half floats [OpenEXR]."""

from .base import Codec

CODEC = Codec(
    name="exr",
    title="OpenEXR frames, half",
    help="Light above white and all extra channels are kept.",
    kind="frames",
    ending=".exr",
    alpha=True,
    bits=16,
    floating=True,
    sample="half",
    compression="zip",
    colour_tolerance=1 / 1024,
    alpha_tolerance=1 / 1024,
)
