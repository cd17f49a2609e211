"""DNxHR 444 (SMPTE ST 2019-1): full colour, 10 bits."""

from .base import CODE, Codec

CODEC = Codec(
    name="dnxhr-444",
    title="DNxHR 444 movie",
    help="For editing and grading; full colour, 10 bits, slightly lossy; no alpha.",
    kind="movie",
    ending=".mov",
    alpha=False,
    bits=10,
    encoder="dnxhd",
    pixel_format="yuv444p10le",
    container="mov",
    # of the resolution-independent profiles, as FFmpeg writes them
    least=(256, 120),
    options={"profile": "dnxhr_444"},
    colour_tolerance=4 * CODE,
)
