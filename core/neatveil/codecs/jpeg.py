"""JPEG frames (ITU-T T.81)."""

from .base import CODE, Codec

CODEC = Codec(
    name="jpeg",
    title="JPEG frames",
    help="For viewing; lossy, 8 bits, no alpha.",
    kind="frames",
    ending=".jpg",
    alpha=False,
    bits=8,
    sample="uint8",
    compression="jpeg:95",
    header={"jpeg:subsampling": "4:4:4"},
    colour_tolerance=6 * CODE,
)
