"""A frame as its file holds it beside what was meant: how far it is off, and whether that is allowed."""

from __future__ import annotations

from collections.abc import Mapping
from typing import NamedTuple

import numpy as np
from pydantic import BaseModel, ConfigDict, Field

from ..numeric.half import HALF_MOST
from ..numeric.pool import for_strips
from ..picture import Plane, PremultipliedPicture, StoredPicture
from .file_layers import split
from .formats import DeliveryFormat
from .losses import lost_in
from .write import meant


class FrameProof(BaseModel):
    """One frame, compared. Errors are in code values 0..1 of the written format."""

    model_config = ConfigDict(extra="forbid")

    frame: int
    colour_error: float = Field(description="Largest difference of R, G, B, as it is seen (times alpha).")
    alpha_error: float = Field(description="Largest difference of alpha.")
    colour_mean: float = Field(0.0, description="Mean difference of the worst colour channel.")
    alpha_low: float
    alpha_high: float
    lost_light: int = Field(0, description="Pixels whose light without coverage the format cannot hold.")
    clipped: int = Field(0, description="Pixels with values outside what the format can hold.")
    within: bool = Field(description="Within what the format's arithmetic allows.")
    layer: str = Field("", description="Of the layers in the file the first that is off.")
    data: str = Field("", description="The first channel of data that does not hold what was meant.")


def compare(
    picture: PremultipliedPicture, found: StoredPicture, delivery_format: DeliveryFormat, frame: int
) -> FrameProof:
    """The picture and each layer beside it; what is said is the worst of them, and which that is.

    Parameters
    ----------
    picture : what is delivered, scene-linear, premultiplied over black.
    found : what the file holds, in code values.
    delivery_format : of the file.
    frame : its number.

    Returns
    -------
    What is off. Where the sizes differ everything is.
    """
    wanted = meant(picture, delivery_format, frame)
    lost, clipped = lost_in(picture, wanted, delivery_format)
    main, layers, data = split(wanted)
    row = _compare_one(main, found, delivery_format, frame)
    for name, layer in layers.items():
        there = {n: found.planes[f"{name}.{n}"] for n in layer.planes if f"{name}.{n}" in found.planes}
        row = _worse(row, name, _of_layer(layer, there, found, delivery_format, frame))
    for name, plane in data.items():
        if name not in found.planes or not np.array_equal(found[name], plane, equal_nan=True):
            row = row.model_copy(update={"data": row.data or name})
    return row.model_copy(update={"lost_light": lost, "clipped": clipped})


def _of_layer(
    layer: StoredPicture, there: dict[str, Plane], found: StoredPicture, delivery_format: DeliveryFormat,
    frame: int,
) -> FrameProof:  # fmt: skip
    if len(there) < len(layer.planes):  # a channel is not in the file
        return _unlike(found, frame)
    picture = StoredPicture(there, found.data_window, found.display_window)
    return _compare_one(layer, picture, delivery_format, frame)


def _worse(row: FrameProof, name: str, other: FrameProof) -> FrameProof:
    """Both together: the larger errors; the picture's own alpha stands for the frame's."""
    off = row.within and not other.within
    return row.model_copy(
        update={
            "colour_error": max(row.colour_error, other.colour_error),
            "alpha_error": max(row.alpha_error, other.alpha_error),
            "colour_mean": max(row.colour_mean, other.colour_mean),
            "within": row.within and other.within, "layer": name if off else row.layer,
        }
    )  # fmt: skip


class Differences(NamedTuple):
    """Of each colour plane how far it is off, as it is seen, and what was meant; of the alpha how far it is
    off, and what was found. Alpha alone is among the colours; the alpha is 0 off where none was meant."""

    colours: list[tuple[Plane, Plane]]
    alpha: Plane
    alpha_found: Plane


def differences(
    wanted: StoredPicture, found: StoredPicture, delivery_format: DeliveryFormat
) -> Differences | None:
    """Every pixel of the frame; None where the sizes differ."""
    if not _same_size(wanted, found):
        return None
    return _differences(wanted.planes, found.planes, delivery_format)


def _same_size(wanted: StoredPicture, found: StoredPicture) -> bool:
    return all(p.shape == _read_plane(found.planes, n).shape for n, p in wanted.planes.items() if n != "A")


def _differences(
    wanted: Mapping[str, Plane], found: Mapping[str, Plane], delivery_format: DeliveryFormat
) -> Differences:
    names = [n for n in wanted if n != "A"]
    pairs = [(_as_held(wanted[n], delivery_format), _read_plane(found, n)) for n in names]
    first = pairs[0][1]
    if "A" not in wanted:
        seen = [(np.abs(got - want), want) for want, got in pairs]
        alone = delivery_format.contents == "alpha"
        return Differences(seen, np.zeros_like(first), first if alone else np.ones_like(first))
    alpha = wanted["A"]
    straight = delivery_format.reading.alpha == "straight"
    share = np.clip(alpha, 0, 1) if straight else np.float32(1)
    got_alpha = found.get("A", np.ones_like(alpha))
    off = np.abs(got_alpha - _as_held(alpha, delivery_format))
    return Differences([(np.abs(got - want) * share, want) for want, got in pairs], off, got_alpha)


class _Measured(NamedTuple):
    """Of some rows: of each colour plane the largest difference, their sum, and whether each pixel is within
    what a lossless format may be off; of the alpha the largest, and the range of what was found."""

    largest: list[float]
    sums: list[float]
    exact: bool
    alpha: float
    alpha_low: float
    alpha_high: float


def _measured(off: Differences, delivery_format: DeliveryFormat) -> _Measured:
    most = delivery_format.colour_tolerance
    limits = [
        most * np.maximum(np.abs(want), 1e-4) if delivery_format.relative else most for _, want in off.colours
    ]
    return _Measured(
        [float(e.max(initial=0)) for e, _ in off.colours],
        [float(e.sum(dtype=np.float64)) for e, _ in off.colours],
        all(bool(np.all(e <= limit)) for (e, _), limit in zip(off.colours, limits, strict=True)),
        float(off.alpha.max(initial=0)),
        float(off.alpha_found.min()),
        float(off.alpha_found.max()),
    )


def _compare_one(
    wanted: StoredPicture, found: StoredPicture, delivery_format: DeliveryFormat, frame: int
) -> FrameProof:
    if not _same_size(wanted, found):
        return _unlike(found, frame)
    height, width = next(iter(wanted.planes.values())).shape
    by_row: dict[int, _Measured] = {}

    def strip(a: int, b: int) -> None:
        want, got = ({n: p[a:b] for n, p in one.planes.items()} for one in (wanted, found))
        by_row[a] = _measured(_differences(want, got, delivery_format), delivery_format)

    for_strips(height, width, strip)
    # in order: sums of rows in another order would differ in their last digit from run to run
    strips = [by_row[a] for a in sorted(by_row)]
    largest = np.max([s.largest for s in strips], axis=0)
    means = np.sum([s.sums for s in strips], axis=0) / (height * width)
    alpha_error = float(np.max([s.alpha for s in strips]))
    if delivery_format.contents == "alpha":
        alpha_error = float(np.max(largest))
    codec = delivery_format.codec
    if codec.lossless:
        within = all(s.exact for s in strips)
    else:
        single = codec.colour_most or np.inf
        within = bool(np.all(means <= delivery_format.colour_tolerance) and np.all(largest <= single))
    return FrameProof(
        frame=frame, colour_error=float(np.max(largest)), alpha_error=alpha_error,
        colour_mean=float(np.max(means)), alpha_low=float(np.min([s.alpha_low for s in strips])),
        alpha_high=float(np.max([s.alpha_high for s in strips])),
        within=within and ("A" not in wanted.planes or alpha_error <= delivery_format.alpha_tolerance),
    )  # fmt: skip


def _as_held(plane: Plane, delivery_format: DeliveryFormat) -> Plane:
    """Cut off where the format's range ends: that is counted by itself."""
    if not delivery_format.codec.floating:
        return np.clip(plane, 0, 1)
    if delivery_format.codec.sample == "half":
        return np.clip(plane, -HALF_MOST, HALF_MOST)
    return plane


def _read_plane(found: Mapping[str, Plane], name: str) -> Plane:
    """A plane of what was read; grey and three alike stand for one another."""
    plane = found.get(name)
    return plane if plane is not None else found.get("Y", next(iter(found.values())))


def _unlike(found: StoredPicture, frame: int) -> FrameProof:
    any_plane = next(iter(found.planes.values()))
    alpha = found.planes.get("A", np.ones_like(any_plane))
    return FrameProof(
        frame=frame, colour_error=1.0, alpha_error=1.0, alpha_low=float(alpha.min()),
        alpha_high=float(alpha.max()), within=False,
    )  # fmt: skip
