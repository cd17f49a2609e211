"""The arithmetic on plain NumPy arrays.

Arrays are ``(H, W, 4)`` float32, R G B A, premultiplied over black unless said otherwise; other
floating-point arrays are converted to float32 first. An array without pixels gives one without pixels.
Colour is not clamped, alpha that is made here lies within 0..1, and inputs are never changed. Errors are
those of `neatveil.errors`: `ValueRefused` for a wrong shape or type, `NameUnknown` for a name that is in no
table.
"""

from .channels import from_hls, from_ycc, luma, object_id, to_hls, to_ycc
from .colour import convert_primaries, decode, encode, encodings, primaries
from .convert import premultiply, read_as, store_as, suggest_reading, unpremultiply
from .data_passes import depth_blurred, motion_blurred, uv_mapped
from .files import picture_facts, read_picture, write_picture
from .matting import (
    cut_out,
    despill,
    difference_key,
    grow_shrink,
    matte,
    matte_errors,
    matte_parts,
    object_share,
)
from .merging import merge, operators
from .placing import extend_edge, transform, warp
from .stepping import levels, step, steps

__all__ = [
    "convert_primaries",
    "cut_out",
    "decode",
    "depth_blurred",
    "despill",
    "difference_key",
    "encode",
    "encodings",
    "extend_edge",
    "from_hls",
    "from_ycc",
    "grow_shrink",
    "levels",
    "luma",
    "matte",
    "matte_errors",
    "matte_parts",
    "merge",
    "motion_blurred",
    "object_id",
    "object_share",
    "operators",
    "picture_facts",
    "premultiply",
    "primaries",
    "read_as",
    "read_picture",
    "step",
    "steps",
    "store_as",
    "suggest_reading",
    "to_hls",
    "to_ycc",
    "transform",
    "unpremultiply",
    "uv_mapped",
    "warp",
    "write_picture",
]
