"""Deliveries: what is written, writing it whole or not at all, and proving it."""

from .formats import (
    DELIVERY_FORMATS,
    DeliveryForm,
    DeliveryFormat,
    form_of,
    format_for_file,
    format_named,
    format_of,
)
from .losses import Losses, count_losses, lost_in
from .proof import FrameProof, Proof, prove
from .write import Target, remove_parts, write_frames, write_movie

__all__ = [
    "DELIVERY_FORMATS",
    "DeliveryForm",
    "DeliveryFormat",
    "FrameProof",
    "Losses",
    "Proof",
    "Target",
    "count_losses",
    "form_of",
    "format_for_file",
    "format_named",
    "format_of",
    "lost_in",
    "prove",
    "remove_parts",
    "write_frames",
    "write_movie",
]
