"""ProRes 4444 movie, straight, BT.709 encoded."""

from ...alpha import Reading
from ...codecs import CODECS
from .base import DeliveryFormat

FORMAT = DeliveryFormat(
    name="prores4444-straight",
    title="ProRes 4444 movie, straight",
    help="One movie with a 16-bit alpha for editors. Players that ignore alpha show ragged, strange "
    "colours outside the shape: that is what straight looks like there.",
    codec=CODECS["prores4444"],
    reading=Reading(alpha="straight"),
    encoding="rec709",
    # Colour is lossy: the bound is far above what was measured (2/255) and far below a wrong picture.
    # Alpha is coded without loss: half a step of 10 bits going in, one of 12 bits coming out.
    colour_tolerance=12 / 255,
    alpha_tolerance=0.51 / 1023 + 1 / 4095,
)
