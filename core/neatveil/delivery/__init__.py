"""Deliveries: what is written, writing it whole or not at all, and proving it."""

from .advice import Advice, Repair, advice_for
from .comparing import FrameProof
from .formats import (
    DELIVERY_FORMATS,
    DeliveryForm,
    DeliveryFormat,
    form_of,
    format_for_file,
    format_named,
    format_of,
)
from .hash_list import ListCheck, add_to_hash_list, verify_hash_list
from .losses import Losses, count_losses, lost_in
from .proof import Proof, prove, prove_together
from .take import Take, Taken, taken
from .timeline import write_clip
from .together import Output, write_frames, write_movie, write_together
from .write import Target, remove_parts

__all__ = [
    "DELIVERY_FORMATS",
    "Advice",
    "DeliveryForm",
    "DeliveryFormat",
    "FrameProof",
    "ListCheck",
    "Losses",
    "Output",
    "Proof",
    "Repair",
    "Take",
    "Taken",
    "Target",
    "add_to_hash_list",
    "advice_for",
    "count_losses",
    "form_of",
    "format_for_file",
    "format_named",
    "format_of",
    "lost_in",
    "prove",
    "prove_together",
    "remove_parts",
    "taken",
    "verify_hash_list",
    "write_clip",
    "write_frames",
    "write_movie",
    "write_together",
]
