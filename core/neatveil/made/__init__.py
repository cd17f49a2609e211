"""What layers show that is made here: plain colours, gradients, shapes, text, test patterns.

One file a kind; the table finds them. To add one, write a file here with a subclass of `Made` that has a
title and a ``kind``.
"""

from .base import Canvas, Made
from .table import MADE, MadeUnion

__all__ = ["MADE", "Canvas", "Made", "MadeUnion"]
