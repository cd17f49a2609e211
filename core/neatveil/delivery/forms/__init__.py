"""The forms a delivery can take: one file each, found by reading this folder."""

from .base import Form
from .table import FORMS, form_for_file, form_named

__all__ = ["FORMS", "Form", "form_for_file", "form_named"]
