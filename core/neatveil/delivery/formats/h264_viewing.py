"""H.264 movie over black, for viewing."""

from .form import DeliveryForm, format_of

FORMAT = format_of(
    DeliveryForm(codec="h264", contents="rgb", alpha="premultiplied", encoding="rec709"),
    name="h264-viewing",
    purpose="viewing",
    title="H.264 movie over black, no alpha",
    help="For viewing anywhere: small, lossy, 8 bits. The alpha is not in it.",
)
