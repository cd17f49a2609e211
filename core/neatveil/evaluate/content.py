"""What layers show before their steps: a frame of an element, what is made here, or a group merged."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from math import floor, log2
from typing import TYPE_CHECKING, Any, NamedTuple, Protocol

from ..colour.working import LIGHT, to_working
from ..comp import Comp, Element, Group
from ..comp.layers import AnyLayer
from ..errors import Cancelled, NeatVeilError
from ..io.formats import MOST_DRAWN_SIDE
from ..made import Canvas, Made
from ..made.base import MOST_PIXELS
from ..picture import RGB, PremultipliedPicture, trimmed
from .cache import content_key

if TYPE_CHECKING:
    from .sources import Sources

#: What was found, by what it was found for; with the objects that are told apart by their identity there.
Lookups = dict[tuple[object, ...], Any]
#: The levels that what is made here, and files, are drawn at where they are largest: 16 and 256 times as
#: wide, since files of marks may say that they are small.
MOST_ENLARGED, MOST_ENLARGED_FILE = -4, -8


class Content(Protocol):
    """A layer's picture before its steps, at one frame. ``key`` changes with everything it is made of."""

    @property
    def key(self) -> str: ...

    def size(self) -> tuple[int, int]:
        """Width and height of its frame, unhalved."""
        ...

    def known_size(self) -> tuple[int, int] | None:
        """The same where it is known without reading anything."""
        ...

    def picture(self, level: int) -> PremultipliedPicture:
        """Scene-linear, premultiplied over black, halved ``level`` times."""
        ...

    def way_to(self, channel: str) -> Way | None:
        """The element's frame that holds a channel; None where there is none."""
        ...

    def finest(self) -> int:
        """The lowest level that its picture can be had at: below 0 where it is drawn larger than its size."""
        ...


class Way(NamedTuple):
    """The element's frame that holds a channel, and the layers it is seen through, the innermost first.

    Each layer comes with the size of its content.
    """

    frame: ElementFrame
    layers: list[tuple[AnyLayer, tuple[int, int]]]


@dataclass(frozen=True)
class ElementFrame:
    """A frame of an element."""

    sources: Sources
    element: Element
    number: int
    source_key: str
    working: str = LIGHT

    @property
    def key(self) -> str:
        return content_key(self.source_key, self.working) if self.working != LIGHT else self.source_key

    @property
    def is_data(self) -> bool:
        """Whether its R, G and B are data, which no working space changes."""
        return all(self.element.kinds.get(n) == "data" for n in RGB)

    def size(self) -> tuple[int, int]:
        return self.sources.full_size(self)

    def known_size(self) -> tuple[int, int] | None:
        return self.sources.known_size(self.source_key)

    def picture(self, level: int) -> PremultipliedPicture:
        def light() -> PremultipliedPicture:
            return self.sources.picture(self.element, self.number, level, self.source_key)

        if self.working == LIGHT:
            return light()
        return self.sources.cache.get(content_key(self.key, level), lambda: to_working(light(), self.working))

    def way_to(self, channel: str) -> Way | None:
        del channel  # whether it has it is found out when it is read
        return Way(self, [])

    def finest(self) -> int:
        if not self.sources.draws(self.element):
            return 0
        size = self.size()
        by_side = -floor(log2(MOST_DRAWN_SIDE / max(size)))
        return max(_finest_of(size, MOST_ENLARGED_FILE), by_side)

    def has(self, channel: str) -> bool:
        element = self.element
        if element.only is not None and channel not in element.only:
            return False
        if any(c.name == channel for c in element.joined):
            return True
        return channel in self.sources.channel_names(element)


def _finest_of(size: tuple[int, int], most: int) -> int:
    """The lowest level, not below ``most``, at which a picture has no more pixels than are drawn."""
    return min(0, max(most, -floor(log2(MOST_PIXELS / (size[0] * size[1])) / 2)))


class LayerRow(NamedTuple):
    """A layer that shows, as it is at the frame, and its content. ``key`` changes with all that it draws."""

    layer: AnyLayer
    content: Content
    key: str


@dataclass(frozen=True)
class RenderContext:
    """What all that is drawn for one picture of a comp has in common.

    Parameters
    ----------
    layer_bytes : most bytes of the layers composited in one batch.
    render_group : merges the members of a group at a level.
    render_comp : draws another comp at a level.
    cancelled : asked between layers; evaluation ends with `Cancelled` once it says yes.
    failed : collects the errors of layers that cannot be computed; they are left out of the picture. And what
        layers do without.
    lookups : what was found for the same picture before.
    failures : all that was reported while it was made, in comps inside the comp too.
    """

    sources: Sources
    comp: Comp
    layer_bytes: int
    render_group: Callable[[GroupContent, int], PremultipliedPicture]
    render_comp: Callable[[CompContent, int], PremultipliedPicture]
    cancelled: Callable[[], bool] | None = None
    failed: list[NeatVeilError] | None = None
    lookups: Lookups = field(default_factory=dict, compare=False, repr=False)
    failures: list[NeatVeilError] = field(default_factory=list, compare=False, repr=False)
    #: Whether the comp is drawn for a layer of another one.
    inside: bool = False
    #: The comp with all that it shows, where some of it alone is drawn.
    whole: Comp | None = None

    def layer_at(self, layer: AnyLayer, frame: float) -> AnyLayer:
        """A layer as it is at a frame, its colours in the comp's working space."""
        return layer.at(frame).in_space(self.comp.working)

    def kept(self, key: str, make: Callable[[], PremultipliedPicture]) -> PremultipliedPicture:
        """From the cache, or made. What something was said of while it was made is not: it is said again."""
        before = len(self.failures)
        return self.sources.cache.get(key, make, lambda: len(self.failures) == before)

    def report(self, error: NeatVeilError, layer: AnyLayer) -> None:
        """The error with the layer's name: into the list, or raised where there is none."""
        if isinstance(error, Cancelled):
            raise error
        self._name(error, layer)
        if self.failed is None:
            raise error
        self._tell(error)

    def remark(self, error: NeatVeilError, layer: AnyLayer) -> None:
        """What a layer does without and is drawn all the same: into the list, if there is one."""
        self._name(error, layer)
        self._tell(error)

    def _name(self, error: NeatVeilError, layer: AnyLayer) -> None:
        if not error.message.startswith("Layer "):
            of = f" of comp {self.comp.name}" if self.inside else ""
            error.message = f"Layer {layer.name}{of}: {error.message}"
            error.where = layer.name

    def _tell(self, error: NeatVeilError) -> None:
        self.failures.append(error)
        if self.failed is not None and all(f.message != error.message for f in self.failed):
            self.failed.append(error)


class _InCompsFrame:
    """What fills the frame of its context's comp."""

    context: RenderContext

    def size(self) -> tuple[int, int]:
        return self.context.comp.width, self.context.comp.height

    def known_size(self) -> tuple[int, int] | None:
        return self.size()

    def finest(self) -> int:
        return 0


@dataclass(frozen=True)
class MadeContent:
    """What is made here, as it is at a frame."""

    context: RenderContext
    made: Made
    key: str

    def size(self) -> tuple[int, int]:
        return self.made.canvas_size((self.context.comp.width, self.context.comp.height))

    def known_size(self) -> tuple[int, int] | None:
        return self.size()

    def picture(self, level: int) -> PremultipliedPicture:
        canvas = Canvas(*self.size(), level)
        return self.context.kept(content_key(self.key, level), lambda: self._drawn(canvas))

    def _drawn(self, canvas: Canvas) -> PremultipliedPicture:
        return to_working(trimmed(self.made.drawn(canvas)), self.context.comp.working)

    def way_to(self, channel: str) -> Way | None:
        """What is made here has colour and alpha alone."""
        return None

    def finest(self) -> int:
        return _finest_of(self.size(), MOST_ENLARGED)

    def finest_bare(self) -> int:
        """As `finest`, of a layer that shows it as it is: only where it draws does it take memory.

        Steps may fill its whole canvas.
        """
        whole = Canvas(*self.size(), 0)
        box = self.made.reach(whole).intersect(whole.frame)
        return _finest_of((max(1, box.width), max(1, box.height)), MOST_ENLARGED)


@dataclass(frozen=True)
class GroupContent(_InCompsFrame):
    """The members of a group, merged over nothing in the comp's frame.

    Parameters
    ----------
    group : as it is at ``frame``, a frame of what holds it.
    root : the frame of the comp.
    inner : the frame that its members are seen at.
    wide : whether what lies beyond the frame may come into view.
    rows : the members that show.
    members : gives all of them, hidden ones too.
    alpha_row : the member that gives the alpha, shown or not; None where none does, or it ends blank.
    """

    context: RenderContext
    group: Group
    root: int
    frame: int
    inner: int
    wide: bool
    rows: list[LayerRow]
    members: Callable[[], list[LayerRow]]
    alpha_row: LayerRow | None
    key: str

    def picture(self, level: int) -> PremultipliedPicture:
        context = self.context
        return context.kept(content_key(self.key, level), lambda: context.render_group(self, level))

    def way_to(self, channel: str) -> Way | None:
        for row in self.members():
            way = row.content.way_to(channel)
            if way is not None and way.frame.has(channel):
                return Way(way.frame, [*way.layers, (row.layer, row.content.size())])
        return None


@dataclass(frozen=True)
class CompContent(_InCompsFrame):
    """A frame of another comp: its layers merged over nothing, in its own frame and size.

    Parameters
    ----------
    context : of that comp.
    frame : of that comp.
    rows : its layers that show.
    working : the working space of the comp that shows it.
    """

    context: RenderContext
    frame: int
    rows: list[LayerRow]
    key: str
    working: str = LIGHT

    def picture(self, level: int) -> PremultipliedPicture:
        context = self.context
        return context.kept(content_key(self.key, level), lambda: context.render_comp(self, level))

    def way_to(self, channel: str) -> Way | None:
        """A comp has colour and alpha alone."""
        return None
