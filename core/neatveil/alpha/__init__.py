"""Alpha: how it is read from files, and the conversions between its states."""

from .convert import premultiply, store, unpremultiply
from .read import light_planes, read
from .reading import Reading

__all__ = ["Reading", "light_planes", "premultiply", "read", "store", "unpremultiply"]
