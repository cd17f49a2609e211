"""H.265 in MP4 (ITU-T H.265)."""

from .base import CODE, Codec

CODEC = Codec(
    name="h265",
    title="H.265 movie",
    help="For viewing, smaller than H.264, 10 bits; it cannot hold alpha.",
    kind="movie",
    ending=".mp4",
    alpha=False,
    bits=10,
    encoder="libx265",
    pixel_format="yuv420p10le",
    container="mp4",
    # with frames out of order one movie in ten fails at its end, by the library's own error
    options={"crf": "18", "preset": "fast", "tag": "hvc1", "x265-params": "log-level=error:bframes=0"},
    colour_tolerance=16 * CODE,
)
