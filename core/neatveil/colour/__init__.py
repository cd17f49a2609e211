"""Colour encodings: how stored code values relate to scene-linear light."""

from .encodings import ENCODINGS, Encoding, decode, encode, encoding_name, encoding_named

__all__ = ["ENCODINGS", "Encoding", "decode", "encode", "encoding_name", "encoding_named"]
