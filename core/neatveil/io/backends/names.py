"""Channel names that mean data, by the conventions of the trade."""

from __future__ import annotations

# Common practice, no source: names that renderers give to passes which hold data.
_DATA_WORDS = (
    "depth", "z", "uv", "normal", "normals", "n", "position", "p", "motion", "velocity",
    "vector", "mask", "id", "objectid", "objects", "crypto", "st", "occlusion", "shadow", "caught",
)  # fmt: skip


def is_data_channel(name: str) -> bool:
    """Whether a channel such as ``depth.Z`` holds data rather than colour.

    >>> [is_data_channel(n) for n in ("R", "depth.Z", "Z", "diffuse.R", "depth_filtered.Z")]
    [False, True, True, False, True]
    """
    layer, _, channel = name.lower().rpartition(".")
    word = layer.rpartition(".")[2] if layer else channel
    return word.rstrip("0123456789").partition("_")[0] in _DATA_WORDS
