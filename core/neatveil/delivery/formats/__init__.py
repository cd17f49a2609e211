"""The formats of delivery: one file each, found by reading this folder."""

from .base import DeliveryFormat
from .table import DELIVERY_FORMATS, format_for_file, format_named

__all__ = ["DELIVERY_FORMATS", "DeliveryFormat", "format_for_file", "format_named"]
