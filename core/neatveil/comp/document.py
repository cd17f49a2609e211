"""The comp document: readable JSON with a published schema, versioned.

Lengths are pixels of the comp, x to the right and y down; frame numbers are inclusive; colours are
scene-linear light in BT.709's primaries unless a field says code values.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from copy import copy
from typing import Annotated, Any, Literal

from pydantic import AfterValidator, Field, PrivateAttr, model_validator

from ..colour.encodings import NAME_PATTERN
from ..colour.working import LIGHT, to_work_in
from ..errors import DocumentRefused, NeatVeilError
from .cameras import SceneCamera
from .cards import Card
from .elements import DocumentModel, Element, Identifier, Name
from .layers import AnyLayer
from .notes import Note
from .rate import Rate, parse_rate
from .slot_place import Cell, Slot
from .tree import DEPTH, depth_of, find_loop, path_to, walk, with_changed


class Comp(DocumentModel):
    """Layers over a frame range, from the farthest (the plate) to the nearest.

    A tree, since a group is a layer that holds others.
    """

    neatveil: Literal[3] = Field(3, description="Version of this document's form.")
    name: Name = "comp"
    width: int = Field(1920, ge=1, le=16384)
    height: int = Field(1080, ge=1, le=16384)
    rate: Rate = Field(default_factory=lambda: parse_rate("25"))
    first: int = Field(1, ge=-1000000, le=1000000)
    last: int = Field(1, ge=-1000000, le=1000000)
    working: Annotated[str, AfterValidator(to_work_in)] = Field(
        LIGHT, pattern=NAME_PATTERN, title="Working space",
        description="Space of linear light in which layers are changed and merged: linear, which has the "
        "primaries of BT.709, linear with others, or a linear space of an OpenColorIO configuration.",
    )  # fmt: skip
    elements: dict[Identifier, Element] = {}
    comps: dict[Identifier, Comp] = Field(
        {}, title="Comps", description="Comps that layers show as they do elements, by their keys."
    )
    cameras: dict[Identifier, SceneCamera] = Field(
        {}, title="Cameras", description="Cameras and lights of rendered sets, by their keys."
    )
    camera: str = Field(
        "", max_length=64, title="Scene camera",
        description="Key of the camera that layers in the scene are seen by, where they name no other.",
    )  # fmt: skip
    layers: tuple[AnyLayer, ...] = ()
    slots: tuple[Slot, ...] = Field(
        (), max_length=200, title="Slots", description="Places that a row of the list fills."
    )
    rows: tuple[dict[str, Cell], ...] = Field(
        (), max_length=10000, title="List", description="Cells by the slots' names; empty is the default."
    )
    notes: tuple[Note, ...] = Field(
        (), max_length=500, title="Notes", description="Pinned to frames and places; they change no picture."
    )
    #: Why elements that are known cannot be used now, by their keys.
    _unready: dict[str, NeatVeilError] = PrivateAttr(default_factory=dict)

    @model_validator(mode="after")
    def _whole(self) -> Comp:
        self._check()
        return self

    def _check(self) -> None:
        """What no field can tell alone; `ValueError` where it is not so."""
        if self.last < self.first:
            raise ValueError(f"last frame {self.last} lies before first frame {self.first}")
        if depth_of(self.layers) > DEPTH:
            raise ValueError(f"groups lie in one another more than {DEPTH} deep")
        ids = [layer.id for layer in self.all_layers]
        twice = {i for i in ids if ids.count(i) > 1} if len(set(ids)) < len(ids) else set()
        if twice:
            raise ValueError(f"layer id {', '.join(sorted(twice))} is used twice")
        if loop := find_loop(self.layers):
            raise ValueError(f"layers take each other in a circle: {loop}")
        if self.comps and _nesting(self) > DEPTH:
            raise ValueError(f"comps lie in one another more than {DEPTH} deep")
        if both := sorted(set(self.comps) & set(self.elements)):
            raise ValueError(f"{', '.join(both)} is the key of an element and of a comp")

    def with_elements(
        self,
        elements: Mapping[str, Element],
        unready: Mapping[str, NeatVeilError] | None = None,
        comps: Mapping[str, Comp] | None = None,
        cameras: Mapping[str, SceneCamera] | None = None,
    ) -> Comp:
        """The comp with other elements, comps and cameras; ``unready``: why some cannot be used now."""
        given = {"elements": dict(elements), "comps": dict(comps or {}), "cameras": dict(cameras or {})}
        found = self.model_copy(update=given)
        found._unready = dict(unready or {})
        return found

    def knows(self, key: str) -> bool:
        return key in self.elements or key in self.comps or key in self._unready

    def source(self, key: str) -> Element | Comp:
        """What has that key; `DocumentRefused` where there is nothing, or why it cannot be used now."""
        if key in self._unready:
            raise copy(self._unready[key])
        if key in self.comps:
            return self.comps[key]
        if key not in self.elements:
            raise DocumentRefused(
                "Its element is not in the project any more.",
                advice="Choose another element for it or remove the layer.",
            )
        return self.elements[key]

    def element(self, key: str) -> Element:
        """As `source`; `DocumentRefused` for a comp, too."""
        found = self.source(key)
        if isinstance(found, Comp):
            raise DocumentRefused(
                f"{found.name} is a comp: it has no channels but colour and alpha.",
                advice="Take the channel of an element.",
            )
        return found

    def camera_of(self, card: Card) -> SceneCamera:
        """The camera that a card is seen by; `DocumentRefused` where there is none."""
        key = card.camera or self.camera
        if not key:
            raise DocumentRefused(
                "It stands in a scene, and the comp knows no camera.",
                advice="Choose the rendered set whose camera sees it, or lay it flat.",
            )
        if key not in self.cameras:
            raise DocumentRefused(
                "The camera that it is seen by is not in the project any more.",
                advice="Choose another rendered set's camera for it, or lay it flat.",
            )
        return self.cameras[key]

    @property
    def cameras_named(self) -> list[str]:
        """Keys of the cameras that layers, or the comp itself, name."""
        keys = [self.camera, *(x.card.camera for x in self.all_layers if x.card is not None)]
        return list(dict.fromkeys(k for k in keys if k))

    @property
    def needs_cameras(self) -> bool:
        """Whether a layer stands before one, or a step goes by the comp's."""
        return any(
            x.card is not None or any(s.on and getattr(s, "by_camera", False) for s in x.steps)
            for x in self.all_layers
        )

    @property
    def all_layers(self) -> list[AnyLayer]:
        """Every layer of the tree, groups before their members."""
        return list(walk(self.layers))

    def layer(self, layer_id: str) -> AnyLayer:
        """The layer of that id, at any depth; `DocumentRefused` where there is none."""
        if path := path_to(self.layers, layer_id):
            return path[-1]
        raise DocumentRefused(
            f"The comp has no layer {layer_id!r}.",
            advice=f"It has: {', '.join(x.id for x in self.all_layers) or 'none'}.",
        )

    def with_layers(self, changed: Iterable[AnyLayer]) -> Comp:
        """The comp with others in the place of some of its outermost layers, by their ids.

        Raises
        ------
        DocumentRefused : it has no such layer, or would be no valid comp with it.
        """
        given = {layer.id: layer for layer in changed}
        if unknown := sorted(set(given) - {layer.id for layer in self.layers}):
            raise DocumentRefused(f"The comp has no layer {', '.join(unknown)}.")
        layers = tuple(given.get(layer.id, layer) for layer in self.layers)
        found = self.model_copy(update={"layers": layers})
        try:
            found._check()
        except ValueError as error:
            raise DocumentRefused(f"The comp document is not valid: {error}.") from error
        return found

    def with_layer(self, layer_id: str, change: dict[str, Any]) -> Comp:
        """The comp with some fields of one layer changed."""
        return self.model_copy(update={"layers": with_changed(self.layers, layer_id, change)})


def _nesting(comp: Comp) -> int:
    """How many comps lie in one another, with the outermost."""
    return 1 + max(map(_nesting, comp.comps.values()), default=0)
