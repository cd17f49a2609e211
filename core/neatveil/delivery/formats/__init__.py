"""The formats of delivery: one file each, found by reading this folder."""

from .base import DeliveryFormat, Purpose
from .form import PAST_EDGE, DeliveryForm, form_of, format_of
from .table import DELIVERY_FORMATS, format_for_file, format_named

__all__ = [
    "DELIVERY_FORMATS",
    "PAST_EDGE",
    "DeliveryForm",
    "DeliveryFormat",
    "Purpose",
    "form_of",
    "format_for_file",
    "format_named",
    "format_of",
]  # fmt: skip
