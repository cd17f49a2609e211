"""VP9 in WebM, its alpha beside the colour."""

from .base import CODE, Codec

CODEC = Codec(
    name="vp9",
    title="VP9 movie for the web",
    help="Small and lossy, alpha too; for showing, not for work.",
    kind="movie",
    ending=".webm",
    alpha=True,
    bits=8,
    encoder="libvpx-vp9",
    pixel_format="yuva420p",
    container="webm",
    options={"crf": "15", "b": "0", "cpu-used": "6", "row-mt": "1", "auto-alt-ref": "0"},
    colour_tolerance=16 * CODE,
    alpha_tolerance=60 * CODE,
)
