"""ProRes 4444 XQ: as ProRes 4444 with more bits a second."""

from .base import CODE, Codec

CODEC = Codec(
    name="prores4444xq",
    title="ProRes 4444 XQ movie",
    help="As ProRes 4444, larger and nearer to the picture; alpha in 16 bits.",
    kind="movie",
    ending=".mov",
    alpha=True,
    bits=10,
    encoder="prores_ks",
    pixel_format="yuva444p10le",
    container="mov",
    options={"profile": "4444xq", "alpha_bits": "16", "vendor": "apl0"},
    colour_tolerance=4 * CODE,
    # far above what was measured (2/255) and far below a wrong picture
    colour_most=12 * CODE,
    alpha_tolerance=0.51 / 1023 + 1 / 4095,
)
