"""Steps: changes to one layer, in order. One file a step; this table finds them.

To add a step, write a file here with a subclass of `PointStep` or `FieldStep` (or of `CodedStep`,
`ValueStep`, `NeighbourhoodStep`) that has a title and a ``kind``.
"""

from .base import FieldStep, Flat, PointStep
from .table import STEPS, Step, StepUnion

__all__ = ["STEPS", "FieldStep", "Flat", "PointStep", "Step", "StepUnion"]
