"""The ways in which OpenEXR packs pixels [OpenEXR]; their labels are the format's own names."""

from .base import Compression

LOSSLESS = (
    Compression("none", "None"),
    Compression("rle", "RLE"),
    Compression("zips", "ZIP, a row at once"),
    Compression("zip", "ZIP, 16 rows"),
    Compression("piz", "PIZ"),
)
#: Twice what a round trip of noise measured.
LOSSY = (
    Compression("dwaa", "DWAA, lossy", mean=0.005),
    Compression("dwab", "DWAB, lossy", mean=0.005),
)
