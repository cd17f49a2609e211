"""TIFF frames, 16 bits, unassociated alpha (TIFF 6.0, ExtraSamples = 2) [TIFF6]."""

from .form import DeliveryForm, format_of

FORMAT = format_of(
    DeliveryForm(codec="tiff16"),
    name="tiff16-straight",
    purpose="editor",
    title="TIFF frames, 16-bit, straight",
    help="As the PNG frames, for programs that prefer TIFF; the file says that its alpha is straight.",
)
