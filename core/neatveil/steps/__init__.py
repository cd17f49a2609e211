"""Steps: changes to one layer, in order. One file a step; this table finds them.

To add a step, write a file here with a subclass of `Step` that names its ``kind``.
"""

from .base import Flat
from .table import STEPS, Step, StepUnion

__all__ = ["STEPS", "Flat", "Step", "StepUnion"]
