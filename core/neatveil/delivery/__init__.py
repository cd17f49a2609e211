"""Deliveries: what is written, writing it whole or not at all, and proving it."""

from .forms import FORMS, Form, form_for_file, form_named
from .losses import Losses, count_losses, lost_in
from .proof import FrameProof, Proof, prove
from .write import Target, remove_parts, write_frames, write_movie

__all__ = [
    "FORMS",
    "Form",
    "FrameProof",
    "Losses",
    "Proof",
    "Target",
    "count_losses",
    "form_for_file",
    "form_named",
    "lost_in",
    "prove",
    "remove_parts",
    "write_frames",
    "write_movie",
]
