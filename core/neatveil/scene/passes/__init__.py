"""The passes: one file each, found by the table."""

from .base import Numbering, Pass
from .table import PASSES, pass_named

__all__ = ["PASSES", "Numbering", "Pass", "pass_named"]
