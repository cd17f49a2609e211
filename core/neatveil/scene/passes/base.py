"""What every pass is: its channels beside the function that fills them."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Literal

from ..lighting import lit
from ..model import Floats
from ..pixel_samples import PixelSamples


@dataclass(frozen=True)
class Glare:
    """Light over ``over`` is spread: ``strength`` of it, over ``size`` of the frame's height."""

    strength: float = 0.0
    size: float = 0.1
    over: float = 1.0


@dataclass(frozen=True)
class PassSettings:
    """What a set-up says to single passes.

    ``by_name``: numbers of objects, by the names of their nodes; children count with them.
    """

    by_name: Mapping[str, int]
    #: Pixels a frame that the codes of `motion_encoded` reach to.
    most_motion: float = 64.0
    glare: Glare = Glare()

    def of_nodes(self, pixels: PixelSamples) -> list[int | None]:
        """The number of each node of the scene: its own, or that of the nearest node above it."""
        found: list[int | None] = []
        for node in pixels.world.scene.nodes:
            above = None if node.parent is None else found[node.parent]
            found.append(self.by_name.get(node.name, above))
        return found


#: Fills the channels of a pass for one strip: name to ``(rows, width)``.
Fill = Callable[[PixelSamples, PassSettings], dict[str, Floats]]


def channels(layer: str, letters: str, values: Floats) -> dict[str, Floats]:
    """``(rows, width, n)`` as channels of a layer: ``normal.X``, or ``R`` where the layer has no name."""
    head = f"{layer}." if layer else ""
    return {head + letter: values[..., i] for i, letter in enumerate(letters)}


#: What a pass needs beside the scene, which the set-up has to give.
Need = Literal["uv", "later", "catcher", "plate", "sky", "glare"]


@dataclass(frozen=True)
class Pass:
    """One kind of pass.

    Attributes
    ----------
    kind : data is never colour-converted and never premultiplied.
    filtered : whether a pixel mixes its samples; where not, it holds one of them.
    sample : what the channels need: float for data that half would round.
    layer : what its channels begin with, where that is not its name.
    needs : what has to be there for it.
    coded : how its values become codes of 0..1 where a file holds no float: see `output`.
    unit : what its values are, in words.
    finish : what is done to its channels once they are whole, where strips alone do not do.
    """

    name: str
    help: str
    kind: Literal["colour", "data"]
    filtered: bool
    sample: Literal["half", "float"]
    fill: Fill
    layer: str | None = None
    needs: Need | None = None
    coded: Literal["light", "share", "range", "way", "no"] = "share"
    unit: str = "light, BT.709 primaries"
    finish: Callable[[dict[str, Floats], PassSettings], dict[str, Floats]] | None = None

    @property
    def channel_layer(self) -> str:
        """What the names of its channels begin with, before the dot; empty for R, G, B, A."""
        return self.name if self.layer is None else self.layer


def lighting_pass(name: str, help_: str, needs: Need | None = None) -> Pass:
    """A part of the beauty's sum: the field of that name of `Lit`."""

    def fill(pixels: PixelSamples, _: PassSettings) -> dict[str, Floats]:
        return channels(name, "RGB", pixels.light(pixels.each(lambda s: getattr(lit(s), name))))

    return Pass(name, help_, "colour", True, "half", fill, needs=needs, coded="light")
