"""OpenEXR frames of 32-bit floating point."""

from .base import Codec
from .openexr import LOSSLESS, LOSSY

CODEC = Codec(
    name="exr32",
    title="OpenEXR frames, 32-bit float",
    help="All channels in full precision; twice the size of half.",
    kind="frames",
    ending=".exr",
    alpha=True,
    bits=32,
    floating=True,
    sample="float",
    compression="zip",
    compressions=(*LOSSLESS, *LOSSY),
    colour_tolerance=1e-06,
    alpha_tolerance=1e-06,
)
