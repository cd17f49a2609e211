"""H.264 in MP4 (ITU-T H.264)."""

from .base import CODE, Codec

CODEC = Codec(
    name="h264",
    title="H.264 movie",
    help="For viewing anywhere; it cannot hold alpha.",
    kind="movie",
    ending=".mp4",
    alpha=False,
    bits=8,
    encoder="libx264",
    pixel_format="yuv420p",
    container="mp4",
    options={"crf": "16", "preset": "faster"},
    colour_tolerance=16 * CODE,
)
