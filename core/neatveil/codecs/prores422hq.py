"""ProRes 422 HQ: colour of half the width, 10 bits, no alpha."""

from .base import CODE, Codec

CODEC = Codec(
    name="prores422hq",
    title="ProRes 422 HQ movie",
    help="Opened by nearly every program; colour of half the width, slightly lossy; no alpha.",
    kind="movie",
    ending=".mov",
    alpha=False,
    bits=10,
    encoder="prores_ks",
    pixel_format="yuv422p10le",
    container="mov",
    options={"profile": "hq", "vendor": "apl0"},
    colour_tolerance=8 * CODE,
)
