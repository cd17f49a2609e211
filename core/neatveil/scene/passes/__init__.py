"""The passes: one file each, found by the table."""

from .base import Given, Pass
from .table import PASSES, pass_named

__all__ = ["PASSES", "Given", "Pass", "pass_named"]
