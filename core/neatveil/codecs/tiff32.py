"""TIFF frames of 32-bit floating point (TIFF 6.0, SampleFormat 3)."""

from .base import Codec

CODEC = Codec(
    name="tiff32",
    title="TIFF frames, 32-bit float",
    help="Light above white is kept, to the last bit of a float.",
    kind="frames",
    ending=".tif",
    alpha=True,
    bits=32,
    floating=True,
    sample="float",
    compression="zip",
    colour_tolerance=1e-06,
    alpha_tolerance=1e-06,
)
