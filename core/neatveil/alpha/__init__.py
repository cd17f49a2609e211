"""Alpha: how it is read from files, and the conversions between its states."""

from .convert import premultiply, store, unpremultiply
from .read import read
from .reading import Reading

__all__ = ["Reading", "premultiply", "read", "store", "unpremultiply"]
