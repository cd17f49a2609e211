"""The table of codecs: every module of this folder that has a ``CODEC``."""

from __future__ import annotations

import importlib
import pkgutil
from pathlib import Path

from ..errors import unknown_name
from .base import Codec

#: The order in which they are offered.
_ORDER = (
    "prores4444", "prores4444xq", "prores422hq", "dnxhr-444", "dnxhr-hqx", "png-movie", "ffv1", "utvideo",
    "animation", "vp9", "apng", "webp-moving", "gif", "h264", "h265", "png16", "png8", "tiff16",
    "tiff8", "tiff32", "exr", "exr32", "dpx10", "dpx12", "dpx16", "jpeg2000", "webp", "jpeg",
)  # fmt: skip


def _find() -> dict[str, Codec]:
    package = __name__.rpartition(".")[0]
    found = []
    for module in pkgutil.iter_modules([str(Path(__file__).parent)]):
        if module.name != "table":
            codec: Codec | None = getattr(importlib.import_module(f"{package}.{module.name}"), "CODEC", None)
            if codec is not None:
                found.append(codec)
    place = {name: i for i, name in enumerate(_ORDER)}
    return {c.name: c for c in sorted(found, key=lambda c: (place.get(c.name, len(place)), c.name))}


CODECS: dict[str, Codec] = _find()


def codec_named(name: str) -> Codec:
    """The codec of that name; `NameUnknown` with the valid names otherwise."""
    try:
        return CODECS[name]
    except KeyError:
        raise unknown_name("format to transcode to", name, list(CODECS)) from None
