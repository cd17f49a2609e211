"""OpenEXR frames of half floats [OpenEXR]."""

from .base import Codec, Compression
from .openexr import LOSSLESS, LOSSY

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
    # PXR24 loses nothing of half floats
    compressions=(*LOSSLESS, Compression("pxr24", "PXR24"), *LOSSY),
    colour_tolerance=1 / 1024,
    alpha_tolerance=1 / 1024,
)
