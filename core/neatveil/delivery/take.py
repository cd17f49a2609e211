"""What of a comp goes out: which layers and frames, how large, at which rate, and numbered from where."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from fractions import Fraction
from math import floor
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from ..comp import Comp
from ..comp.rate import parse_rate
from ..errors import CannotHoldLayers, ValueRefused
from ..evaluate import Evaluator
from ..frame_list import MOST, frames_in_words, parse_frames
from ..picture import RGBA, Plane, PremultipliedPicture, whole_frame
from .file_layers import PATTERN, file_layers, joined, layer_planes, nearest_pixels, split
from .formats import DeliveryFormat
from .resized import ResizeFilter, resized
from .timecode import Timecode
from .write import Stamp

#: Of all channels of one frame that layers go with; it is held some three times over while it is written.
MOST_BYTES = 1 << 30


class Take(BaseModel):
    """Everything has a default: all frames of the whole comp, as they are."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    part: Literal["comp", "upto", "layer"] = Field(
        "comp", title="Of it", description="The whole comp, all up to a layer, or one layer or group alone."
    )
    layer: str = Field("", max_length=64, title="Layer", description="The id of the layer or group.")
    frames: str = Field(
        "", max_length=2000, title="Frames", description="Such as 1-20,35; empty is the comp's range."
    )
    size: Literal["full", "half", "given"] = Field("full", title="Size")
    width: int = Field(1920, ge=1, le=16384, title="Width")
    height: int = Field(1080, ge=1, le=16384, title="Height")
    filter: ResizeFilter = Field("lanczos3", title="Resized by")
    rate: str = Field("", max_length=20, title="Rate", description="In fps; empty is the comp's.")
    timing: Literal["frames", "time"] = Field(
        "frames", title="At another rate",
        description="The same frames at another speed, or the same time with frames left out or shown twice.",
    )  # fmt: skip
    timecode: str = Field(
        "", max_length=11, title="Timecode from",
        description="The first frame's, as 01:00:00:00, or 01:00:00;00 for drop-frame; empty writes none.",
    )  # fmt: skip
    layers: tuple[Annotated[str, Field(pattern=PATTERN)], ...] = Field(
        (), max_length=200, title="Layers in the file",
        description="Ids of layers and groups that are written beside the picture as layers of the same "
        "OpenEXR file; with a colon, a data channel of what one shows, as lamp:depth.Z.",
    )  # fmt: skip
    start: int | None = Field(
        None, ge=-1000000, le=1000000, title="Numbered from",
        description="The first file's number; empty keeps the comp's own numbers.",
    )  # fmt: skip


@dataclass(frozen=True, slots=True)
class Taken:
    """A take of a certain comp, checked.

    Attributes
    ----------
    frames : the comp's frame by the number under which it goes out, in order.
    rate : frame rate of what goes out, in fps.
    width, height : of what goes out, in pixels.
    """

    comp: Comp
    take: Take
    frames: dict[int, int]
    rate: Fraction
    width: int
    height: int

    @property
    def numbers(self) -> list[int]:
        """Under which frames go out."""
        return list(self.frames)

    @property
    def places(self) -> dict[int, int]:
        """How many-eth a number is, from 1: numbers may have gaps."""
        return {number: place for place, number in enumerate(self.frames, 1)}

    @property
    def layer_name(self) -> str:
        """Of the layer that is taken; empty for the whole comp."""
        return "" if self.take.part == "comp" else self.comp.layer(self.take.layer).name

    def source(self, evaluator: Evaluator) -> Callable[[int], PremultipliedPicture]:
        """Gives the picture of a number at the size that goes out: scene-linear, premultiplied over black."""
        upto = self.take.layer if self.take.part == "upto" else None
        only = self.take.layer if self.take.part == "layer" else None

        beside = file_layers(self.comp, self.take.layers)

        def picture(number: int) -> PremultipliedPicture:
            frame = self.frames[number]
            found = evaluator.picture(self.comp, frame, upto=upto, only=only, keep=False)
            if beside:
                planes: dict[str, Plane] = {}
                for one in beside:
                    planes |= layer_planes(evaluator, self.comp, frame, one)
                data = [n for one in beside if one.channel for n in one.channels]
                whole = whole_frame(found)
                window = whole.data_window
                found = PremultipliedPicture({**whole.planes, **planes}, window, window, data_planes=data)
            if (self.width, self.height) == (self.comp.width, self.comp.height):
                return found
            return self._resized(found)

        return picture

    def _resized(self, picture: PremultipliedPicture) -> PremultipliedPicture:
        """Data is never mixed."""
        main, layers, data = split(picture)
        size = self.width, self.height
        return joined(
            resized(main, *size, self.take.filter),
            {n: resized(one, *size, self.take.filter) for n, one in layers.items()},
            {n: nearest_pixels(plane, *size) for n, plane in data.items()},
        )

    def refuse_format(self, delivery_format: DeliveryFormat) -> None:
        """`CannotHoldLayers` for a format that holds the picture alone, or not all of the data, where layers
        go with it.

        `ValueRefused` where they are too many for one file.
        """
        if not self.take.layers:
            return
        if not delivery_format.holds_layers:
            raise CannotHoldLayers(
                f"{delivery_format.title} holds no layers beside the picture.",
                advice="Choose OpenEXR with RGB and alpha in one file, or take the layers out.", where="form",
            )  # fmt: skip
        if delivery_format.codec.compression == "pxr24" and any(":" in one for one in self.take.layers):
            raise CannotHoldLayers(
                "PXR24 keeps 24 of the 32 bits of data.",
                advice="Choose another compression, such as ZIP, or take the data out.", where="form",
            )  # fmt: skip
        channels = sum(len(one.channels) for one in file_layers(self.comp, self.take.layers))
        most = max(0, MOST_BYTES // (4 * self.width * self.height) - len(RGBA))
        if channels > most:
            raise ValueRefused(
                f"{channels} channels of layers at {self.width} x {self.height} take more memory than a "
                f"frame may; at most {most} go into a file.",
                advice="Take fewer layers, in several deliveries, or a smaller size.", where="layers",
            )  # fmt: skip

    def at_most_as_large(self) -> Taken:
        """The same at the comp's own size where it goes out larger: to be looked at, not to be delivered."""
        if self.width * self.height <= self.comp.width * self.comp.height:
            return self
        return replace(self, width=self.comp.width, height=self.comp.height)

    def stamp(self, source: str = "") -> Stamp:
        """What headers say besides; ``source``: a hash of what is delivered."""
        text = self.take.timecode.strip()
        code = Timecode.parse(text, self.rate) if text else None
        return Stamp(self.rate, self.numbers[0], code, source)

    def in_words(self) -> str:
        """What is taken that is not the whole comp as it stands; empty where all is."""
        said = []
        if self.take.part != "comp":
            said.append(f"{'up to' if self.take.part == 'upto' else 'only'} {self.layer_name}")
        if (self.width, self.height) != (self.comp.width, self.comp.height):
            said.append(f"{self.width} x {self.height}")
        if self.take.layers:
            count = len({one.name for one in file_layers(self.comp, self.take.layers)})
            said.append(f"with {count} layer{'s' if count > 1 else ''} beside it")
        if self.rate != self.comp.rate:
            said.append(f"{'same time' if self.take.timing == 'time' else 'same frames'} at {self.rate}")
        return ", ".join(said)


def taken(take: Take, comp: Comp) -> Taken:
    """A take of a comp.

    Parameters
    ----------
    take : what was asked.
    comp : with its elements.

    Returns
    -------
    What goes out: numbers, frames, rate and size.

    Raises
    ------
    ValueRefused
        Frames lie outside the comp's range or are too many, or the rate is none.
    DocumentRefused
        The comp has no such layer.

    Examples
    --------
    >>> from neatveil.comp import Comp
    >>> taken(Take(frames="1-2,5", start=1001), Comp(last=9)).frames
    {1001: 1, 1002: 2, 1003: 5}
    """
    if take.part != "comp":
        comp.layer(take.layer)
    file_layers(comp, take.layers)
    frames = parse_frames(take.frames) if take.frames.strip() else list(range(comp.first, comp.last + 1))
    if frames[0] < comp.first or frames[-1] > comp.last:
        raise ValueRefused(
            f"Frames {frames_in_words(frames)} were asked; the comp has {comp.first} to {comp.last}.",
            advice="Choose frames inside the comp's range.", where="frames",
        )  # fmt: skip
    rate = _rate(take, comp)
    sampled = _at_rate(frames, comp.rate / rate) if take.timing == "time" else frames
    own = take.start is None and sampled is frames
    start = sampled[0] if take.start is None else take.start
    numbers = frames if own else range(start, start + len(sampled))
    width, height = {
        "full": (comp.width, comp.height),
        "half": ((comp.width + 1) // 2, (comp.height + 1) // 2),
        "given": (take.width, take.height),
    }[take.size]
    found = Taken(comp, take, dict(zip(numbers, sampled, strict=True)), rate, width, height)
    found.stamp()  # a timecode that is none is refused here
    return found


def _rate(take: Take, comp: Comp) -> Fraction:
    try:
        return parse_rate(take.rate) if take.rate.strip() else comp.rate
    except ValueError as error:
        raise ValueRefused(str(error), where="rate") from error


def _at_rate(frames: list[int], step: Fraction) -> list[int]:
    """Those that are seen at moments ``step`` of a frame apart, as long as the frames last."""
    count = max(1, round(len(frames) / step))
    if count > MOST:
        raise ValueRefused(
            f"That rate makes {count:,} frames of {len(frames):,}.",
            advice="Choose a lower rate.",
            where="rate",
        )
    return [frames[min(floor(i * step), len(frames) - 1)] for i in range(count)]
