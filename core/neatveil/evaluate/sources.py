"""What layers are made of: frames of elements as light, halved and stepped, kept by content key."""

from __future__ import annotations

import threading
from collections.abc import Callable

import numpy as np

from ..alpha import light_planes, read
from ..comp import Element
from ..io.decoder import Decoder
from ..numeric.pool import for_strips
from ..picture import RGBA, Plane, PremultipliedPicture, StoredPicture, new_planes, trimmed
from ..steps import Flat, Step
from .cache import ByteCache, content_key
from .halve import halve
from .stored import files_of, halves_as_stored, read_stored

_scratch = threading.local()


class Sources:
    """Frames of elements through one decoder and one bounded cache; safe from many threads."""

    def __init__(self, decoder: Decoder, cache: ByteCache[PremultipliedPicture], stored_bytes: int) -> None:
        self.decoder = decoder
        self.cache = cache
        # Files as stored, for the values instrument: a few frames are enough.
        self._stored: ByteCache[StoredPicture] = ByteCache(stored_bytes, lambda p: p.bytes)
        self._sizes: dict[str, tuple[int, int]] = {}
        self._sizes_lock = threading.Lock()

    def key(self, element: Element, frame: int) -> str:
        """Changes with the file's bytes (time and size), the frame, the reading and the encoding."""
        return content_key(
            element.file, _stamp(element, frame), frame,
            element.reading.model_dump(), element.encoding, _made_of(element),
        )  # fmt: skip

    def picture(
        self, element: Element, frame: int, level: int = 0, key: str | None = None
    ) -> PremultipliedPicture:
        """Scene-linear, premultiplied over black, halved ``level`` times. ``key``: where it is known."""
        known = key or self.key(element, frame)

        def make() -> PremultipliedPicture:
            if level == 0:
                return self._full(element, frame, known, trim=True)
            larger = self.cache.peek(content_key(known, level - 1))
            if larger is None and level == 1:
                # a full frame made only to be halved: looking for its empty borders is cheaper afterwards
                return trimmed(
                    self._at_half(element, frame, known)
                    or halve(self._full(element, frame, known, trim=False))
                )
            return halve(larger or self._passing(element, frame, level - 1, known))

        return self.cache.get(content_key(known, level), make)

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

    def _at_half(self, element: Element, frame: int, key: str) -> PremultipliedPicture | None:
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

    def _passing(self, element: Element, frame: int, level: int, key: str) -> PremultipliedPicture:
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

    def full_size(self, element: Element, frame: int, key: str) -> tuple[int, int]:
        """Width and height of the frame's display window, unhalved."""
        with self._sizes_lock:
            known = self._sizes.get(key)
        if known is None:
            window = self.picture(element, frame, 0, key).display_window
            known = (window.width, window.height)
        return known

    def stepped(
        self, element: Element, frame: int, level: int, key: str, steps: list[Step]
    ) -> PremultipliedPicture:
        """The frame after these steps, at one level."""
        if not steps:
            return self.picture(element, frame, level, key)

        def make() -> PremultipliedPicture:
            source = self.picture(element, frame, level, key)
            planes = new_planes(RGBA, *source["A"].shape)

            def strip(y0: int, y1: int) -> None:
                given = [source[n][y0:y1].reshape(-1) for n in RGBA]
                for name, result in zip(RGBA, apply_steps(steps, given), strict=True):
                    planes[name][y0:y1].reshape(-1)[:] = result

            height, width = source["A"].shape
            for_strips(height, width, strip)
            return source.with_planes(planes)

        return self.cache.get(content_key(key, [s.model_dump() for s in steps], level), make)


def apply_steps(steps: list[Step], given: Flat) -> Flat:
    """Steps on flat premultiplied planes, in this thread; ``given`` is not changed.

    What changes is returned in this thread's scratch planes, which the next call uses again.
    """
    size = given[0].size
    one, other = scratch_planes("one", size), scratch_planes("other", size)
    for step in steps:
        free = [b if plane is a else a for plane, a, b in zip(given, one, other, strict=True)]
        given = step.apply(given, free)
    return given


def scratch_planes(name: str, size: int) -> list[Plane]:
    """Four flat planes of this thread under a name, used again and again."""
    held = getattr(_scratch, name, None)
    if held is None or held[0].size < size:
        held = [np.empty(size, np.float32) for _ in RGBA]
        setattr(_scratch, name, held)
    return [plane[:size] for plane in held]


def _made_of(element: Element) -> list[object]:
    """What else says how an element's frames are made; nothing for most."""
    if not element.parts and element.only is None and not element.kinds and element.gaps == "error":
        return []
    return [[p.model_dump() for p in element.parts], element.only, element.kinds, element.gaps]


def _stamp(element: Element, frame: int) -> list[int]:
    found = []
    for path in files_of(element, frame):
        try:
            stat = path.stat()
        except OSError:
            continue
        found += [stat.st_mtime_ns, stat.st_size]
    return found
