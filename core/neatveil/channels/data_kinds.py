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
    """One kind of data: ``channels`` are the names that an element carries it along by.

    ``words`` say it in a file's name; ``ordinary`` ones are words of other pictures too, such as a vector
    logo, and say it only of stills with samples of 16 bits or more.
    """

    name: str
    title: str
    words: frozenset[str]
    ordinary: frozenset[str]
    channels: tuple[str, ...]


def _kind(name: str, title: str, words: str, ordinary: str, channels: str) -> DataKind:
    sure, other = (frozenset(w.split()) for w in (words, ordinary))
    return DataKind(name, title, sure, other, tuple(channels.split()))


DATA_KINDS = {
    kind.name: kind
    for kind in (
        _kind("depth", "Depth", "depth zdepth", "z", "depth.Z"),
        _kind("uv", "UV", "uv uvs", "st", "uv.U uv.V"),
        _kind("motion", "Motion", "mv mvec motionvector motionvectors", "motion vector vectors velocity",
              "motion.X motion.Y"),
        _kind("normals", "Normals", "normals nrm", "normal", "normal.X normal.Y normal.Z"),
        _kind("position", "Position", "worldpos", "position positions pos",
              "position.X position.Y position.Z"),
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
    return [w for w in _all_words(name) if not _COUNT.fullmatch(w)]


def versions_of(name: str) -> list[str]:
    """The versions in a file's name: files of one picture have the same.

    >>> versions_of("waymark_depth_v012.####.exr")
    ['v012']
    """
    return [w for w in _all_words(name) if _COUNT.fullmatch(w) and w.startswith("v")]


def _all_words(name: str) -> list[str]:
    bare = _ENDING.sub("", re.sub(r"%0?\d*d", "#", name.lower()))
    return [w for w in _WORDS.split(bare) if w]


def parted_name(name: str, plain: bool = False) -> tuple[tuple[str, ...], str]:
    """The words before the one that says what data a file holds, and the kind's name; "" for colour.

    ``plain``: words that other pictures have too say nothing.

    >>> parted_name("waymark_motion-vectors_v012.####.exr"), parted_name("motion_title.mov")
    ((('waymark',), 'motion'), (('motion', 'title'), ''))
    """
    words = words_of(name)
    for kind in DATA_KINDS.values():
        every = kind.words | kind.ordinary
        if not words or words[-1] not in every:
            continue
        doubled = len(words) > 1 and words[-2] in every
        if words[-1] in kind.words or doubled or not plain:
            return tuple(words[: -2 if doubled else -1]), kind.name
    return tuple(words), ""


def data_kind(name: str, channels: Sequence[tuple[str, bool]], fine: bool = True) -> tuple[str, str]:
    """The kind of data that a file of this name holds, and what says so; both empty for colour.

    Parameters
    ----------
    channels : name of each, and whether the name by itself means data.
    fine : it is of stills with samples of 16 bits or more.

    Returns
    -------
    A name in `DATA_KINDS`, or ``data`` where only data is there and nothing tells of what kind.

    Examples
    --------
    >>> data_kind("waymark_uv.exr", [("R", False), ("G", False), ("A", False)])
    ('uv', "the file's name")
    >>> data_kind("waymark.exr", [("depth.Z", True)])
    ('depth', 'its channels')
    >>> data_kind("logo_vector.png", [("R", False), ("G", False), ("B", False)], fine=False)
    ('', '')
    """
    own = [(c, data) for c, data in channels if c != "A"]
    if own and all(data for _, data in own):
        words = {_layer_word(c) for c, _ in own}
        kinds = [k.name for k in DATA_KINDS.values() if words <= k.words | k.ordinary]
        return (kinds[0] if kinds else OTHER_DATA), "its channels"
    colours = {c for c, _ in own} <= {"R", "G", "B", "Y"}
    kind = parted_name(name, plain=not fine)[1] if own and colours else ""
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
