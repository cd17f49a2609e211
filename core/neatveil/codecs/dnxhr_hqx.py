"""DNxHR HQX (SMPTE ST 2019-1): colour of half the width, 10 bits."""

from .base import CODE, Codec

CODEC = Codec(
    name="dnxhr-hqx",
    title="DNxHR HQX movie",
    help="For editing; colour of half the width, 10 bits, slightly lossy; no alpha.",
    kind="movie",
    ending=".mov",
    alpha=False,
    bits=10,
    encoder="dnxhd",
    pixel_format="yuv422p10le",
    container="mov",
    # of the resolution-independent profiles, as FFmpeg writes them
    least=(256, 120),
    options={"profile": "dnxhr_hqx"},
    colour_tolerance=8 * CODE,
)
