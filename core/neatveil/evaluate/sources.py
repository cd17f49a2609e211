"""What layers are made of: frames of elements as light, halved and stepped, kept by content key."""

from __future__ import annotations

import threading
from collections import OrderedDict
from collections.abc import Callable, Sequence
from typing import Protocol

from ..alpha import light_planes, read
from ..comp import Element
from ..errors import NameUnknown
from ..io.decoder import Decoder
from ..io.formats import is_drawing
from ..picture import PremultipliedPicture, StoredPicture, trimmed
from ..steps import Step
from ..steps.apply import apply_steps, runs_of, steps_key
from ..steps.base import Fetch
from .cache import ByteCache, content_key
from .content import Content, ElementFrame
from .halve import halve, thinned
from .lasting import LastingPlanes
from .stored import files_of, halves_as_stored, read_stored

#: Files whose channels are remembered.
MOST_CHANNELS = 4096


class SourceNames(Protocol):
    """Finds what steps name besides their own layer, and keeps what was made of it."""

    def key(self, steps: Sequence[Step]) -> list[str]: ...

    def fetch(self, level: int) -> Fetch: ...

    def kept(self, key: str, make: Callable[[], PremultipliedPicture]) -> PremultipliedPicture: ...


class Sources:
    """Frames of elements through one decoder and one bounded cache; safe from many threads."""

    def __init__(
        self,
        decoder: Decoder,
        cache: ByteCache[PremultipliedPicture],
        stored_bytes: int,
        lasting: LastingPlanes | None = None,
    ) -> None:
        self.decoder = decoder
        self.cache = cache
        self.lasting = lasting
        # Files as stored, for the values instrument: a few frames are enough.
        self._stored: ByteCache[StoredPicture] = ByteCache(stored_bytes, lambda p: p.bytes)
        self._sizes: dict[str, tuple[int, int]] = {}
        self._sizes_lock = threading.Lock()
        # what a first frame's file was found to hold: probing it looks at its pixels too
        self._channels: OrderedDict[tuple[str, ...], frozenset[str]] = OrderedDict()

    def key(self, element: Element, frame: int) -> str:
        """Changes with the file's bytes (time and size), the frame, the reading and the encoding."""
        return content_key(
            element.file, _stamp(element, frame), frame,
            element.reading.model_dump_json(), element.encoding, _made_of(element),
        )  # fmt: skip

    def picture(
        self, element: Element, frame: int, level: int = 0, key: str | None = None
    ) -> PremultipliedPicture:
        """Scene-linear, premultiplied over black, halved ``level`` times. ``key``: where it is known.

        Below level 0 as it is drawn larger; of elements that are drawn (`draws`).
        """
        known = key or self.key(element, frame)

        def make() -> PremultipliedPicture:
            if level < 0:
                drawn = self.decoder.draw(element.file, frame, level)
                return trimmed(read(drawn, element.reading, element.encoding))
            if level == 0:
                return self._full(element, frame, known, trim=True)
            larger = self.cache.peek(content_key(known, level - 1))
            if larger is None and level == 1:
                # a full frame made only to be halved: looking for its empty borders is cheaper afterwards
                return trimmed(
                    self._read_halved(element, frame, known)
                    or halve(self._full(element, frame, known, trim=False))
                )
            return halve(larger or self._without_keeping_full(element, frame, level - 1, known))

        return self.cache.get(content_key(known, level), make)

    def draws(self, element: Element) -> bool:
        """Whether frames of an element are drawn at whatever size they are seen at."""
        return is_drawing(element.file) and not _made_of(element)

    def _full(self, element: Element, frame: int, key: str, *, trim: bool) -> PremultipliedPicture:
        """The frame in full size, read; ``trim`` leaves out its empty borders."""
        stored = read_stored(self.decoder, element, frame)
        empty_where = light_planes(stored, element.reading) if trim else None
        if empty_where:
            # before reading where that can be told: there is less to read then
            stored = trimmed(stored, empty_where)
        picture = read(stored, element.reading, element.encoding)
        self._keep_size(key, picture.display_window.width, picture.display_window.height)
        return trimmed(picture) if trim and not empty_where else picture

    def _read_halved(self, element: Element, frame: int, key: str) -> PremultipliedPicture | None:
        """The halved frame from halved code values, where those are light as they are stored."""
        if not halves_as_stored(element):
            return None
        stored = self.decoder.read_halved(element.file, frame)
        if stored is None:
            return None
        window = stored.display_window
        self._keep_size(key, window.width * 2, window.height * 2)
        return read(stored, element.reading, element.encoding)

    def _keep_size(self, key: str, width: int, height: int) -> None:
        with self._sizes_lock:
            self._sizes[key] = (width, height)

    def _without_keeping_full(
        self, element: Element, frame: int, level: int, key: str
    ) -> PremultipliedPicture:
        picture = self.picture(element, frame, level, key)
        if level == 0:
            # A full-size frame made only to be halved is not kept: it would push out many small ones.
            self.cache.drop(content_key(key, 0))
        return picture

    def stored(self, element: Element, frame: int, planes: list[str] | None = None) -> StoredPicture:
        """As the files hold it: R, G, B, A (or Y), or the planes that are named."""
        key = content_key(element.file, _stamp(element, frame), frame, _made_of(element), planes)
        return self._stored.get(key, lambda: read_stored(self.decoder, element, frame, planes))

    def view(
        self, element: Element, frame: int, level: int, what: list[object],
        make: Callable[[], PremultipliedPicture],
    ) -> PremultipliedPicture:  # fmt: skip
        """What is made of a frame to be looked at, halved ``level`` times and kept."""
        key = content_key(self.key(element, frame), "view", what)

        def halved() -> PremultipliedPicture:
            picture = make()
            for _ in range(level):
                picture = halve(picture)
            return picture

        return self.cache.get(content_key(key, level), halved)

    def channel_names(self, element: Element) -> frozenset[str]:
        """The channels of an element's own file."""
        key = (element.file, *map(str, _stamp(element, element.first)))
        with self._sizes_lock:
            known = self._channels.get(key)
        if known is None:
            known = frozenset(c.name for c in self.decoder.probe(element.file).channels)
            with self._sizes_lock:
                self._channels[key] = known
                while len(self._channels) > MOST_CHANNELS:
                    self._channels.popitem(last=False)
        return known

    def frame_of(self, element: Element, number: int, working: str) -> ElementFrame:
        """A frame of an element as the content of a layer, in a working space."""
        return ElementFrame(self, element, number, self.key(element, number), working)

    def known_size(self, key: str) -> tuple[int, int] | None:
        """The size of a frame that was read before; ``key``: its own."""
        with self._sizes_lock:
            return self._sizes.get(key)

    def full_size(self, frame: ElementFrame) -> tuple[int, int]:
        """Width and height of the frame's display window, unhalved."""
        known = self.known_size(frame.source_key)
        if known is None:
            window = frame.picture(0).display_window
            known = (window.width, window.height)
        return known

    def stepped(
        self, content: Content, level: int, steps: Sequence[Step], at: int, names: SourceNames
    ) -> PremultipliedPicture:
        """A layer's content after these steps, at one level; ``at``: the frame of the comp.

        ``names``: finds what steps take besides.
        What comes out of every run is kept, so that changing the last step does no other again.
        """
        runs = list(runs_of(steps))
        if not runs:
            return content.picture(level)
        last = runs[-1]
        earlier = steps[: len(steps) - (len(last) if isinstance(last, list) else 1)]

        def make() -> PremultipliedPicture:
            before = self.stepped(content, level, earlier, at, names)
            return apply_steps(before, steps[len(earlier) :], level, at, names.fetch(level))

        return names.kept(content_key(content.key, steps_key(steps, at), names.key(steps), level), make)

    def extra_planes(
        self, frame: ElementFrame, level: int, names: tuple[str, ...], *, mixed: bool = True
    ) -> PremultipliedPicture:
        """Extra planes of an element's frame, halved ``level`` times; as stored.

        Not ``mixed``: as `thinned` makes them smaller.
        """
        element, number = frame.element, frame.number

        def make() -> PremultipliedPicture:
            stored = self.stored(element, number, list(names))
            planes = {n: stored[n] for n in names if n in stored.planes}
            if len(planes) < len(names):
                gone = ", ".join(sorted(set(names) - set(planes)))
                raise NameUnknown(f"{element.name} has no channel {gone}.", where=element.name)
            return PremultipliedPicture(planes, stored.data_window, stored.display_window, data_planes=names)

        if mixed or not level:
            return self.view(element, number, level, ["data", list(names)], make)
        return self.view(
            element, number, 0, ["thinned", level, list(names)],
            lambda: thinned(self.view(element, number, 0, ["data", list(names)], make), level),
        )  # fmt: skip


def _made_of(element: Element) -> list[object]:
    """What else says how an element's frames are made; nothing for most."""
    if not element.joined and element.only is None and not element.kinds and element.gaps == "error":
        return []
    return [[p.model_dump_json() for p in element.joined], element.only, element.kinds, element.gaps]


def _stamp(element: Element, frame: int) -> list[int]:
    found = []
    for path in files_of(element, frame):
        try:
            stat = path.stat()
        except OSError:
            continue
        found += [stat.st_mtime_ns, stat.st_size]
    return found
