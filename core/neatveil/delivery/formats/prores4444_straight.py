"""ProRes 4444 movie, straight, BT.709 encoded."""

from .form import DeliveryForm, format_of

FORMAT = format_of(
    DeliveryForm(codec="prores4444", encoding="rec709"),
    name="prores4444-straight",
    purpose="editor",
    title="ProRes 4444 movie, straight",
    help="One movie with a 16-bit alpha for editors. Players that ignore alpha show ragged, strange "
    "colours outside the shape: that is what straight looks like there.",
)
