"""ProRes 4444: colour in 4:4:4 of 10 bits, alpha coded without loss."""

from .base import CODE, Codec

CODEC = Codec(
    name="prores4444",
    title="ProRes 4444 movie",
    help="Opened by nearly every program; alpha in 16 bits, colour slightly lossy.",
    kind="movie",
    ending=".mov",
    alpha=True,
    bits=10,
    encoder="prores_ks",
    pixel_format="yuva444p10le",
    container="mov",
    options={"profile": "4444", "alpha_bits": "16", "vendor": "apl0"},
    colour_tolerance=4 * CODE,
    # far above what was measured (2/255) and far below a wrong picture
    colour_most=12 * CODE,
    # half a step of 10 bits going in, one of 12 bits coming out
    alpha_tolerance=0.51 / 1023 + 1 / 4095,
)
