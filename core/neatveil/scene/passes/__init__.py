"""The passes: one file each, found by the table."""

from .base import Pass, PassSettings
from .table import PASSES, pass_named

__all__ = ["PASSES", "Pass", "PassSettings", "pass_named"]
