"""Deliveries: what is written, writing it whole or not at all, and proving it."""

from .forms import FORMS, Form, form_for_file, form_named
from .proof import FrameProof, Proof, prove
from .write import Target, remove_parts, write_frames, write_movie

__all__ = [
    "FORMS",
    "Form",
    "FrameProof",
    "Proof",
    "Target",
    "form_for_file",
    "form_named",
    "prove",
    "remove_parts",
    "write_frames",
    "write_movie",
]
