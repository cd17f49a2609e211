"""PNG frames, 16 bits, straight: the PNG specification allows no other state of alpha [PNG]."""

from .form import DeliveryForm, format_of

FORMAT = format_of(
    DeliveryForm(codec="png16"),
    name="png16-straight",
    purpose="editor",
    title="PNG frames, 16-bit, straight",
    help="Safe for editors and graphics: the surface colour runs on past the edge. Light without "
    "coverage (glow at alpha 0) cannot be held.",
)
