"""OpenEXR frames, half, premultiplied, scene-linear: as OpenEXR defines its alpha [OpenEXR]."""

from .form import DeliveryForm, format_of

FORMAT = format_of(
    DeliveryForm(codec="exr", alpha="premultiplied", encoding="linear"),
    name="exr-half-premultiplied",
    purpose="compositor",
    title="OpenEXR frames, half, premultiplied",
    help="For further compositing: linear light, values above 1 and light without coverage are kept.",
)
