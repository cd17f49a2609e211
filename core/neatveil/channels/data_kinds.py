"""What data a file holds by itself: depth, UV, motion, normals or position, told by its names.

Common practice, no source: renderers put the word at the end of a file's name, before version and frame, or
give it to the layer of the channels.
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class DataKind:
    """One kind of data: ``channels`` are the names that an element carries it along by."""

    name: str
    title: str
    words: frozenset[str]
    channels: tuple[str, ...]


DATA_KINDS = {
    kind.name: kind
    for kind in (
        DataKind("depth", "Depth", frozenset({"depth", "z", "zdepth"}), ("depth.Z",)),
        DataKind("uv", "UV", frozenset({"uv", "uvs", "st"}), ("uv.U", "uv.V")),
        DataKind(
            "motion", "Motion",
            frozenset({"mv", "mvec", "motionvector", "motionvectors", "vector", "vectors", "velocity",
                       "motion"}),
            ("motion.X", "motion.Y"),
        ),
        DataKind(
            "normals", "Normals", frozenset({"normal", "normals", "nrm"}),
            ("normal.X", "normal.Y", "normal.Z"),
        ),
        DataKind(
            "position", "Position", frozenset({"position", "positions", "pos", "worldpos"}),
            ("position.X", "position.Y", "position.Z"),
        ),
    )
}  # fmt: skip
#: Data of which nothing more is known.
OTHER_DATA = "data"

_ENDING = re.compile(r"\.[A-Za-z0-9]+$")
_WORDS = re.compile(r"[^a-z0-9#]+")
_COUNT = re.compile(r"#+|v?\d+")


def words_of(name: str) -> list[str]:
    """The words of a file's name without its ending, version and frame number.

    >>> words_of("waymark_motion-vectors_v012.####.exr")
    ['waymark', 'motion', 'vectors']
    """
    bare = _ENDING.sub("", re.sub(r"%0?\d*d", "#", name.lower()))
    return [w for w in _WORDS.split(bare) if w and not _COUNT.fullmatch(w)]


def parted_name(name: str) -> tuple[tuple[str, ...], str]:
    """The words before the one that says what data a file holds, and the kind's name; "" for colour.

    >>> parted_name("waymark_motion-vectors_v012.####.exr"), parted_name("motion_title.mov")
    ((('waymark',), 'motion'), (('motion', 'title'), ''))
    """
    words = words_of(name)
    for kind in DATA_KINDS.values():
        if words and words[-1] in kind.words:
            doubled = len(words) > 1 and words[-2] in kind.words
            return tuple(words[: -2 if doubled else -1]), kind.name
    return tuple(words), ""


def data_kind(name: str, channels: Sequence[tuple[str, bool]]) -> tuple[str, str]:
    """The kind of data that a file of this name holds, and what says so; both empty for colour.

    Parameters
    ----------
    channels : name of each, and whether the name by itself means data.

    Returns
    -------
    A name in `DATA_KINDS`, or ``data`` where only data is there and nothing tells of what kind.

    Examples
    --------
    >>> data_kind("waymark_uv.exr", [("R", False), ("G", False), ("A", False)])
    ('uv', "the file's name")
    >>> data_kind("waymark.exr", [("depth.Z", True)])
    ('depth', 'its channels')
    """
    own = [(c, data) for c, data in channels if c != "A"]
    if own and all(data for _, data in own):
        words = {_layer_word(c) for c, _ in own}
        kinds = [k.name for k in DATA_KINDS.values() if words <= k.words]
        return (kinds[0] if kinds else OTHER_DATA), "its channels"
    plain = {c for c, _ in own} <= {"R", "G", "B", "Y"}
    kind = parted_name(name)[1] if own and plain else ""
    return kind, "the file's name" if kind else ""


def carried_names(kind: str, channels: Sequence[str]) -> list[tuple[str, str]]:
    """What a file's channels become when another element carries them: pairs of new name and channel.

    Empty where they are too few, or the kind is not known.

    >>> carried_names("uv", ["R", "G", "B", "A"])
    [('uv.U', 'R'), ('uv.V', 'G')]
    """
    known = DATA_KINDS.get(kind)
    own = sorted((c for c in channels if c != "A"), key=lambda c: "RGB".find(c))  # else as they stand
    if known is None or len(own) < len(known.channels):
        return []
    return list(zip(known.channels, own, strict=False))


def shown_channels(kind: str, channels: Sequence[str]) -> list[str]:
    """The channels that such a file's picture is made of: one as grey, two or three as colours.

    >>> shown_channels("depth", ["R", "G", "B"]), shown_channels("data", ["R", "G", "B", "A"])
    (['R'], ['R', 'G', 'B'])
    """
    return [c for _, c in carried_names(kind, channels)] or [c for c in channels if c != "A"][:3]


def _layer_word(channel: str) -> str:
    """Of ``depth.Z`` depth, of ``Z`` alone z."""
    layer, _, letter = channel.lower().rpartition(".")
    return (layer.rpartition(".")[2] if layer else letter).rstrip("0123456789")
