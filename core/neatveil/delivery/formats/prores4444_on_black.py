"""ProRes 4444 movie, premultiplied over black, BT.709 encoded."""

from .form import DeliveryForm, format_of

FORMAT = format_of(
    DeliveryForm(codec="prores4444", alpha="premultiplied", multiplied="encoded", encoding="rec709"),
    name="prores4444-on-black",
    purpose="player",
    title="ProRes 4444 movie, premultiplied",
    help="For players that ignore alpha: they show the picture over black. Its reader has to be told "
    "that it is premultiplied over black.",
)
