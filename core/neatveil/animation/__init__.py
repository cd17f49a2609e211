"""Numbers that change from frame to frame: keys, the curves through them, and what carries them."""

from .animated import Animated
from .curve import Curve, Key

__all__ = ["Animated", "Curve", "Key"]
