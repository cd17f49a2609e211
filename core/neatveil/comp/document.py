"""The comp document: readable JSON with a published schema, versioned.

Lengths are pixels of the comp, x to the right and y down; frame numbers are inclusive; colours are
scene-linear light unless a field says code values.
"""

from __future__ import annotations

import json
from collections.abc import Mapping
from copy import copy
from pathlib import Path
from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field, PrivateAttr, ValidationError, model_validator

from ..alpha import Reading
from ..animation import Animated
from ..colour.encodings import NAME_PATTERN
from ..errors import DocumentRefused, FileMissing, NeatVeilError
from ..mattes import Matte
from ..merge import OPERATORS
from ..steps import StepUnion
from ..steps.foreign import ForeignStep
from ..steps.second_source import SecondSourceStep
from .rate import Rate
from .upgrades import upgrade_comp

VERSION = 2

Identifier = Annotated[str, Field(pattern=r"^[A-Za-z0-9_-]{1,64}$")]
Encoding = Annotated[str, Field(pattern=NAME_PATTERN)]
Name = Annotated[str, Field(min_length=1, max_length=200)]


class _Part(BaseModel):
    model_config = ConfigDict(extra="forbid", frozen=True)


class Carried(_Part):
    """A channel that an element carries along from a file of its own: an alpha, a depth, a mask."""

    name: Name = Field(title="Channel", description="What it becomes: A, or a name such as depth.Z.")
    file: str = Field(title="File", description="A file or a pattern, as of an element.")
    channel: str = Field(
        "", title="Taken from", description="Channel of that file; empty takes its grey, or its luma."
    )
    first: int = Field(0, title="First frame")
    last: int = Field(0, title="Last frame", description="Inclusive.")
    still: bool = Field(False, title="Still")
    offset: int = Field(
        0, title="Offset", description="Frames by which it starts later than the element's first frame."
    )
    beyond: Literal["hold", "blank", "error"] = Field(
        "error", title="Beyond its frames", description="What stands in where it has no frame."
    )
    inverted: bool = Field(False, title="Inverted")
    data: bool = Field(False, title="Data", description="Holds data, not colour or coverage.")


class Element(_Part):
    """An imported file or sequence: where its pixels are and how they are read."""

    name: Name = Field("element", title="Name")
    file: str = Field(
        title="File",
        description="A file, or a pattern such as shot.####.exr; relative to the document.",
    )
    first: int = Field(0, title="First frame", description="First frame number of the file.")
    last: int = Field(0, title="Last frame", description="Last frame number, inclusive.")
    still: bool = Field(False, title="Still", description="One picture for all frames.")
    rate: Rate | None = Field(None, title="Frame rate", description="None takes the comp's.")
    reading: Reading = Field(default_factory=lambda: Reading(), title="Reading")
    encoding: Encoding = Field("srgb", title="Colour encoding")
    gaps: Literal["error", "hold", "black"] = Field(
        "error",
        title="Missing frames",
        description="error: an error where it is used; hold: the frame before; black: black and clear.",
    )
    only: tuple[str, ...] | None = Field(
        None, title="Only", description="The channels of the file that are used; None uses all."
    )
    joined: tuple[Carried, ...] = Field((), title="Carried along")
    kinds: dict[str, Literal["colour", "data"]] = Field(
        {}, title="Kinds", description="Channels that are data or colour against what their name says."
    )


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


class Layer(Animated):
    """One layer of the comp: an element's frames, its steps and matte, its transform, timing and blend."""

    id: Identifier
    name: Name
    element: Identifier = Field(description="Key in the document's elements.")
    shown: bool = Field(True, title="Shown")
    first: int | None = Field(None, title="In frame", description="First comp frame it is seen on.")
    last: int | None = Field(None, title="Out frame", description="Last comp frame it is seen on.")
    offset: int = Field(0, title="Time offset", description="Frames by which the element starts late.")
    beyond: Literal["hold", "loop", "ping-pong", "blank"] = Field(
        "hold", title="Beyond its frames",
        description="What is seen before and after the element's frames; ping-pong runs back and forth.",
    )  # fmt: skip
    speed: float = Field(1.0, ge=0.001, le=1000, title="Speed", description="2 is twice as fast.")
    reverse: bool = Field(False, title="Reverse", description="Its last frame comes first.")
    steps: tuple[StepUnion, ...] = Field((), title="Steps")
    matte: Matte | None = Field(
        None, title="Matte", description="What is kept of it after its steps; None keeps all."
    )
    transform: Transform = Field(default_factory=lambda: Transform(), title="Transform")
    group: str = Field(
        "", max_length=60, title="Group",
        description="Neighbours of one group are laid together first: what cuts there cuts nothing else.",
    )  # fmt: skip
    operator: str = Field("over", title="Blend mode", json_schema_extra={"enum": list(OPERATORS)})
    opacity: float = Field(1.0, ge=0, le=1, title="opacity", description="Strength of the merge.")

    @model_validator(mode="after")
    def _known(self) -> Layer:
        if set(self.keys) - {"opacity"}:
            raise ValueError("of a layer itself only opacity has keys; place and steps have their own")
        if self.operator not in OPERATORS:
            raise ValueError(f"operator {self.operator!r}; valid: {', '.join(OPERATORS)}")
        if self.first is not None and self.last is not None and self.last < self.first:
            raise ValueError(f"out frame {self.last} lies before in frame {self.first}")
        return self

    @property
    def cut(self) -> Matte | None:
        """Its matte, where that may remove anything."""
        return self.matte if self.matte is not None and self.matte.works else None

    def at(self, frame: float) -> Layer:
        """The layer with everything animated as it is at a frame of the comp."""
        now = super().at(frame)
        transform, steps = self.transform.at(frame), tuple(s.at(frame) for s in self.steps)
        matte = self.matte and self.matte.at(frame)
        same = transform is self.transform and matte is self.matte
        if same and all(a is b for a, b in zip(steps, self.steps, strict=True)):
            return now
        return now.model_copy(update={"transform": transform, "steps": steps, "matte": matte})


class Comp(_Part):
    """Layers over a frame range. ``layers`` runs from the farthest (the plate) to the nearest."""

    neatveil: Literal[2] = Field(2, description="Version of this document's form.")
    name: Name = "comp"
    width: int = Field(1920, ge=1, le=16384)
    height: int = Field(1080, ge=1, le=16384)
    rate: Rate = Field(default_factory=lambda: _rate("25"))
    first: int = Field(1, ge=-1000000, le=1000000)
    last: int = Field(1, ge=-1000000, le=1000000)
    elements: dict[Identifier, Element] = {}
    layers: tuple[Layer, ...] = ()
    #: Why elements that are known cannot be used now, by their keys.
    _unready: dict[str, NeatVeilError] = PrivateAttr(default_factory=dict)

    @model_validator(mode="after")
    def _whole(self) -> Comp:
        if self.last < self.first:
            raise ValueError(f"last frame {self.last} lies before first frame {self.first}")
        ids = [layer.id for layer in self.layers]
        twice = {i for i in ids if ids.count(i) > 1}
        if twice:
            raise ValueError(f"layer id {', '.join(sorted(twice))} is used twice")
        if loop := _loop({x.id: _takes(x) for x in self.layers}):
            names = {x.id: x.name for x in self.layers}
            raise ValueError(
                "layers take each other in a circle: " + " takes ".join(names.get(i, i) for i in loop)
            )
        return self

    def with_elements(
        self, elements: Mapping[str, Element], unready: Mapping[str, NeatVeilError] | None = None
    ) -> Comp:
        """The comp with other elements; ``unready``: instead of some that cannot be used now, why."""
        found = self.model_copy(update={"elements": dict(elements)})
        found._unready = dict(unready or {})
        return found

    def knows(self, key: str) -> bool:
        return key in self.elements or key in self._unready

    def element(self, key: str) -> Element:
        """The element of that key; `DocumentRefused` where there is none, or why it cannot be used now."""
        if key in self._unready:
            raise copy(self._unready[key])
        if key not in self.elements:
            raise DocumentRefused(
                "Its element is not in the project any more.",
                advice="Choose another element for it or remove the layer.",
            )
        return self.elements[key]

    def layer(self, layer_id: str) -> Layer:
        for layer in self.layers:
            if layer.id == layer_id:
                return layer
        raise DocumentRefused(
            f"The comp has no layer {layer_id!r}.",
            advice=f"It has: {', '.join(x.id for x in self.layers) or 'none'}.",
        )


def sources_named(layer: Layer) -> list[str]:
    """What a layer's steps and mattes take besides its element: ``layer:`` and an id, or an element's key."""
    steps = [s for s in layer.steps if not isinstance(s, ForeignStep)]
    mattes = [s.through.matte for s in steps if s.through.by == "matte"] + [layer.matte or Matte()]
    names = [s.second for s in steps if isinstance(s, SecondSourceStep)]
    return [n for n in [*names, *(n for m in mattes for p in m.parts for n in p.sources)] if n]


def _takes(layer: Layer) -> list[str]:
    return [n.removeprefix("layer:") for n in sources_named(layer) if n.startswith("layer:")]


def _loop(takes: dict[str, list[str]]) -> list[str]:
    """A way from a layer back to itself, or nothing."""

    def follow(way: list[str]) -> list[str]:
        for after in takes.get(way[-1], []):
            if after in way:
                return [*way[way.index(after) :], after]
            if found := follow([*way, after]):
                return found
        return []

    return next((found for start in takes if (found := follow([start]))), [])


def _rate(text: str) -> Any:
    from .rate import parse_rate

    return parse_rate(text)


def parse_comp(data: Any, where: str = "", *, lenient: bool = False) -> Comp:
    """A comp from plain data of this version or an older one; `DocumentRefused` names every wrong field.

    ``lenient``: to show what can be shown. A document of a newer version is read as far as it is known here,
    and steps that are not valid are kept as `ForeignStep`. Never write such a comp back over its document:
    see `is_newer`.
    """
    data = upgrade_comp(data)
    newer = is_newer(data)
    if newer:
        if not lenient:
            raise DocumentRefused(
                f"The comp document is of version {data['neatveil']}; this program knows {VERSION}.",
                advice="Use the version of Neat Veil that made it, or a newer one.", where=where,
            )  # fmt: skip
        data = {**data, "neatveil": VERSION}
    try:
        return Comp.model_validate(data, extra="ignore" if newer else None, context={"lenient": lenient})
    except ValidationError as error:
        lines = [f"{'.'.join(str(p) for p in e['loc']) or 'document'}: {e['msg']}" for e in error.errors()]
        raise DocumentRefused(
            f"The comp document is not valid: {'; '.join(lines[:5])}.",
            advice="Compare it with `neatveil schema`.",
            where=where,
        ) from error


def is_newer(data: Any) -> bool:
    """Whether plain data is a comp document of a newer version than this program's."""
    version = data.get("neatveil") if isinstance(data, dict) else None
    return isinstance(version, int) and version > VERSION


def read_json(path: Path) -> Any:
    """What a document's file holds; `FileMissing`, or `DocumentRefused` where it is not JSON."""
    try:
        return json.loads(path.read_text("utf-8"))
    except FileNotFoundError:
        raise FileMissing(f"{path} is not there.", where=str(path)) from None
    except (ValueError, OSError) as error:
        raise DocumentRefused(f"{path} is not JSON: {error}", where=str(path)) from error


def load_comp(path: Path) -> Comp:
    """A comp from a JSON file.

    Parameters
    ----------
    path : of the document; files of its elements become absolute, seen from there.

    Returns
    -------
    The document in today's version.

    Raises
    ------
    DocumentRefused
        It is no comp, or something in it is wrong; the error names what.
    FileMissing
        It is not there.

    Examples
    --------
    >>> import tempfile
    >>> with tempfile.TemporaryDirectory() as folder:
    ...     path = Path(folder, "dusk.json")
    ...     _ = path.write_text('{"neatveil": 2, "name": "dusk", "layers": []}')
    ...     load_comp(path).name
    'dusk'
    """
    comp = parse_comp(read_json(path), str(path))
    elements = {
        k: e.model_copy(update={"file": str((path.parent / e.file).resolve())})
        for k, e in comp.elements.items()
    }
    missing = sorted({x.element for x in comp.layers} - set(elements))
    if missing:
        raise DocumentRefused(
            f"{path.name} has layers of elements that it does not list: {', '.join(missing)}.",
            where=str(path),
        )
    return comp.model_copy(update={"elements": elements})


def document_schema() -> dict[str, Any]:
    """The JSON schema of the comp document.

    Returns
    -------
    As JSON Schema 2020-12 has it.

    Examples
    --------
    >>> "layers" in document_schema()["properties"]
    True
    """
    schema = Comp.model_json_schema()
    return {"$schema": "https://json-schema.org/draft/2020-12/schema", **schema}
