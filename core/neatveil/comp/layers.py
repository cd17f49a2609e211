"""The layers of a comp: those that show an element, those made here, and groups of layers."""

from __future__ import annotations

from typing import Annotated, Any, Literal, Self

from pydantic import Discriminator, Field, PrivateAttr, Tag, model_validator

from ..animation import Animated
from ..colour.working import LIGHT, in_working_space
from ..errors import ValueRefused
from ..made import MadeUnion
from ..made.beneath import BeneathMade
from ..mattes import Matte
from ..merge import OPERATORS
from ..steps import StepUnion
from ..steps.foreign import ForeignStep
from ..steps.second_source import SecondStep
from .cards import Card
from .elements import DocumentModel, Identifier, Name
from .repeat import Repeat, copies_of


class Transform(Animated):
    """Where a layer lies. At rest its centre is the comp's, on whole pixels."""

    x: float = Field(
        0.0, ge=-100000, le=100000, title="x", description="Moved right by.", json_schema_extra={"unit": "px"}
    )
    y: float = Field(
        0.0, ge=-100000, le=100000, title="y", description="Moved down by.", json_schema_extra={"unit": "px"}
    )
    scale: float = Field(
        1.0,
        gt=0.001,
        le=100,
        title="scale",
        description="About the layer's centre.",
        json_schema_extra={"unit": "x"},
    )
    rotation: float = Field(
        0.0,
        ge=-36000,
        le=36000,
        title="rotation",
        description="Clockwise about the layer's centre.",
        json_schema_extra={"unit": "deg"},
    )
    filter: Literal["nearest", "linear", "cubic", "lanczos"] = Field(
        "cubic", title="filter", description="How pixels are resampled; whole-pixel moves never are."
    )

    @property
    def at_rest(self) -> bool:
        """Whether it moves nothing, at any frame."""
        return not self.keys and (self.x, self.y, self.scale, self.rotation % 360) == (0, 0, 1, 0)


class LayerBase(Animated):
    """What every layer has: when it is seen, its steps and matte, its transform and how it is merged."""

    id: Identifier
    name: Name
    shown: bool = Field(True, title="Shown")
    locked: bool = Field(
        False, title="Locked",
        description="Kept as it is: on the page nobody chooses it in the picture or changes it.",
    )  # fmt: skip
    first: int | None = Field(None, title="In frame", description="First comp frame it is seen on.")
    last: int | None = Field(None, title="Out frame", description="Last comp frame it is seen on.")
    offset: int = Field(0, title="Time offset", description="Frames by which its own frames start late.")
    beyond: Literal["hold", "loop", "ping-pong", "blank"] = Field(
        "hold", title="Beyond its frames",
        description="What is seen before and after its own frames; ping-pong runs back and forth.",
    )  # fmt: skip
    speed: float = Field(1.0, ge=0.001, le=1000, title="Speed", description="2 is twice as fast.")
    reverse: bool = Field(False, title="Reverse", description="Its last frame comes first.")
    own_frame: float | None = Field(
        None, ge=-1000000, le=1000000, title="Own frame",
        description="The frame of its own that is seen, in place of a speed: one frame frozen, or a curve. "
        "Between two frames counts to a thousandth; the time offset is taken off.",
    )  # fmt: skip
    between: Literal["begun", "nearest", "blend"] = Field(
        "begun", title="Between its frames",
        description="What is seen at a time between two of its frames: the one that has begun, the nearest, "
        "or both blended.",
    )  # fmt: skip
    steps: tuple[StepUnion, ...] = Field((), title="Steps")
    matte: Matte | None = Field(
        None, title="Matte", description="What is kept of it after its steps; None keeps all."
    )
    transform: Transform = Field(default_factory=lambda: Transform(), title="Transform")
    card: Card | None = Field(
        None, title="In the scene",
        description="Where it stands in the scene of a rendered set, seen by its camera; the transform then "
        "moves what the camera sees. None is flat in the comp.",
    )  # fmt: skip
    operator: str = Field("over", title="Blend mode", json_schema_extra={"enum": list(OPERATORS)})
    opacity: float = Field(1.0, ge=0, le=1, title="opacity", description="Strength of the merge.")
    repeat: Repeat | None = Field(None, title="Repeat", description="Copies of it; None is the layer once.")
    #: Which copy of a repeated layer it is, where it was made as one.
    _copy: int = PrivateAttr(default=0)
    #: The working space that its colours were brought to.
    _working: str = PrivateAttr(default=LIGHT)

    @model_validator(mode="after")
    def _known(self) -> Self:
        if set(self.keys) - {"opacity", "own_frame"}:
            raise ValueError(
                "of a layer itself only opacity and own_frame have keys; place and steps have their own"
            )
        if self.operator not in OPERATORS:
            raise ValueError(f"operator {self.operator!r}; valid: {', '.join(OPERATORS)}")
        if self.first is not None and self.last is not None and self.last < self.first:
            raise ValueError(f"out frame {self.last} lies before in frame {self.first}")
        return self

    @property
    def of_beneath(self) -> bool:
        """Whether it shows what lies beneath it."""
        return False

    @property
    def adjusts(self) -> bool:
        """Whether it takes the place of what lies beneath it: unmoved, and laid over."""
        flat = self.transform.at_rest and self.card is None
        return self.of_beneath and flat and self.operator == "over"

    @property
    def cut(self) -> Matte | None:
        """Its matte, where that may remove anything."""
        return self.matte if self.matte is not None and self.matte.works else None

    def in_space(self, working: str) -> Self:
        """The layer with the colours of its steps and mattes in a working space; its members as they are."""
        if working == LIGHT or self._working != LIGHT:
            return self
        members = getattr(self, "layers", None)
        found = in_working_space(self if members is None else self.model_copy(update={"layers": ()}), working)
        if found is not self:
            found = found if members is None else found.model_copy(update={"layers": members})
            found._working = working
        return found

    def at(self, frame: float) -> Self:
        """The layer with everything animated as it is at a frame of the comp."""
        now = super().at(frame)
        transform, steps = self.transform.at(frame), tuple(s.at(frame) for s in self.steps)
        matte = self.matte and self.matte.at(frame)
        card = self.card and self.card.at(frame)
        same = transform is self.transform and matte is self.matte and card is None
        if same and all(a is b for a, b in zip(steps, self.steps, strict=True)):
            return now
        return now.model_copy(update={"transform": transform, "steps": steps, "matte": matte, "card": card})


class Layer(LayerBase):
    """A layer that shows an element's frames."""

    kind: Literal["element"] = "element"
    element: Identifier = Field(description="Key in the document's elements.")


class MadeLayer(LayerBase):
    """A layer whose picture is made here. It has no frames of its own: its keys are on the comp's frames."""

    kind: Literal["made"] = "made"
    made: MadeUnion = Field(title="Made", description="What it is: one colour, text, a shape.")

    @model_validator(mode="after")
    def _once(self) -> Self:
        if self.of_beneath and self.repeat is not None:
            raise ValueError("an adjustment is not repeated: repeat a group of what it changes")
        return self

    @property
    def of_beneath(self) -> bool:
        return isinstance(self.made, BeneathMade)

    def at(self, frame: float) -> Self:
        now, made = super().at(frame), self.made.at(frame)
        return now if made is self.made else now.model_copy(update={"made": made})


class GroupAlpha(DocumentModel):
    """What the alpha of a group is: merged from all members, or given by one of them or by a matte.

    Where it is given, the members' colours are stacked inside it: an alpha that they have in common counts
    once, and a blend mode acts on what is there alone.
    """

    by: Literal["members", "member", "matte"] = Field("members", title="Alpha from")
    member: str = Field("", max_length=64, title="Member", description="Id of the member that gives it.")
    matte: Matte | None = Field(None, title="Matte", description="The matte that gives it.")


class Group(LayerBase):
    """A layer made of other layers: merged by themselves over nothing, then treated as one picture.

    Its picture has the comp's frame. Members lie and are timed in it as layers do in the comp.
    """

    kind: Literal["group"] = "group"
    layers: tuple[AnyLayer, ...] = Field((), description="Its members, from the farthest to the nearest.")
    alpha: GroupAlpha = Field(default_factory=lambda: GroupAlpha(), title="Alpha")
    alternatives: tuple[str, ...] = Field(
        (), max_length=16, title="Alternatives",
        description="Ids of members that are ways to the same picture, such as a beauty and its passes added "
        "up; the one that is shown is drawn.",
    )  # fmt: skip

    @model_validator(mode="after")
    def _no_adjustment_in_a_matte(self) -> Self:
        if self.alpha.by == "matte" and any(x.of_beneath for x in self.layers):
            raise ValueError(
                "a group whose alpha comes from a matte holds no adjustment: put those beneath it, and it, "
                "into a group of their own inside"
            )
        return self

    def at(self, frame: float) -> Self:
        now = super().at(frame)
        matte = self.alpha.matte and self.alpha.matte.at(frame)
        if matte is self.alpha.matte:
            return now
        return now.model_copy(update={"alpha": self.alpha.model_copy(update={"matte": matte})})


def _kind_of(data: Any) -> str:
    kind = data.get("kind", "element") if isinstance(data, dict) else getattr(data, "kind", "element")
    return str(kind)


AnyLayer = Annotated[
    Annotated[Layer, Tag("element")] | Annotated[MadeLayer, Tag("made")] | Annotated[Group, Tag("group")],
    Discriminator(
        _kind_of,
        custom_error_type="layer_kind",
        custom_error_message="kind of a layer; valid: element, made, group",
    ),
]

Group.model_rebuild()


def with_copies(layer: AnyLayer) -> AnyLayer:
    """A layer as it is drawn at a frame: one that is repeated as a group of its copies.

    The copies keep its id, by which others know it, its steps and its matte; the group blends as it would.
    """
    repeat = layer.repeat
    if repeat is None:
        return layer
    place, copies = layer.transform, []
    for copy in copies_of(repeat):
        moved = {"x": place.x + copy.x, "y": place.y + copy.y, "rotation": place.rotation + copy.rotation}
        scale = min(100.0, max(0.0011, place.scale * copy.scale))
        made = layer.model_copy(
            update={
                "transform": place.model_copy(update={**moved, "scale": scale}),
                "offset": layer.offset + copy.time, "opacity": copy.opacity, "operator": "over",
                "repeat": None, "shown": True, "first": None, "last": None,
            }
        )  # fmt: skip
        made._copy = copy.number
        copies.append(made)
    return Group(
        id=layer.id, name=layer.name, shown=layer.shown, first=layer.first, last=layer.last,
        operator=layer.operator, opacity=layer.opacity, layers=tuple(copies),
    )  # fmt: skip


#: Whose matte is meant: the layer's own (None), that of a step by its place, or that of a group's alpha.
MatteOwner = int | Literal["alpha"] | None


def matte_of(layer: LayerBase, owner: MatteOwner) -> Matte:
    """A layer's matte, or that of one of its steps or of its alpha; `ValueRefused` where there is no such.

    An empty one where nothing was made yet.
    """
    if owner is None:
        return layer.matte or Matte()
    if owner == "alpha":
        if not isinstance(layer, Group):
            raise ValueRefused(f"Layer {layer.name} is no group: its alpha is its own.")
        return layer.alpha.matte or Matte()
    if owner >= len(layer.steps) or isinstance(layer.steps[owner], ForeignStep):
        raise ValueRefused(f"Layer {layer.name} has no step {owner + 1} with a matte.")
    return layer.steps[owner].through.matte


def sources_named(layer: LayerBase) -> list[str]:
    """What a layer's steps and mattes take besides its element: ``layer:`` and an id, or an element's key."""
    steps = [s for s in layer.steps if not isinstance(s, ForeignStep)]
    mattes = [s.through.matte for s in steps if s.through.by == "matte"] + [layer.matte or Matte()]
    if isinstance(layer, Group):
        mattes.append(layer.alpha.matte or Matte())
    names = [s.second for s in steps if isinstance(s, SecondStep)]
    return [n for n in [*names, *(n for m in mattes for p in m.parts for n in p.sources)] if n]


def is_by_itself(layer: AnyLayer) -> bool:
    """Whether nothing that is no finer than its file takes part: it can be drawn larger than its size."""
    return not sources_named(layer) and not any(s.extra_channel for s in layer.steps if s.on)
