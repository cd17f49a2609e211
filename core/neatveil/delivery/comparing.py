"""A frame as its file holds it beside what was meant: how far it is off, and whether that is allowed."""

from __future__ import annotations

from collections.abc import Mapping
from typing import NamedTuple

import numpy as np
from pydantic import BaseModel, ConfigDict, Field

from ..numeric.jit import kernel
from ..numeric.pool import for_strips
from ..picture import Plane, PremultipliedPicture, StoredPicture
from .file_layers import split
from .formats import DeliveryFormat
from .losses import lost_in, range_of
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
    """Of each colour plane how far it is off, as it is seen, and of the alpha: 0 where none was meant. Alpha
    alone is among the colours."""

    colours: list[Plane]
    alpha: Plane


def differences(
    wanted: StoredPicture, found: StoredPicture, delivery_format: DeliveryFormat
) -> Differences | None:
    """Every pixel of the frame; None where the sizes differ."""
    if not _same_size(wanted, found):
        return None
    alpha = wanted.planes.get("A")
    share = alpha if delivery_format.reading.alpha == "straight" else None
    off = [
        _off_by(p, _read_plane(found.planes, n), share, delivery_format)
        for n, p in wanted.planes.items()
        if n != "A"
    ]
    if alpha is None:
        return Differences(off, np.zeros_like(off[0]))
    got = found.planes.get("A", np.ones_like(alpha))
    return Differences(off, _off_by(alpha, got, None, delivery_format))


def _same_size(wanted: StoredPicture, found: StoredPicture) -> bool:
    return all(p.shape == _read_plane(found.planes, n).shape for n, p in wanted.planes.items() if n != "A")


@kernel
def _off(want, got, share, shared, low, high, out):  # type: ignore[no-untyped-def]
    """`_off_by`, flat; ``share`` is looked at where it is ``shared``."""
    for i in range(want.size):
        off = abs(got[i] - min(max(want[i], low), high))
        if shared:
            off *= min(max(share[i], np.float32(0)), np.float32(1))
        out[i] = off


def _off_by(want: Plane, got: Plane, share: Plane | None, delivery_format: DeliveryFormat) -> Plane:
    """How far one plane is off what the format can hold of it; ``share``: the alpha that a straight colour is
    seen by."""
    low, high = (np.float32(v) for v in range_of(delivery_format))
    out = np.empty(want.shape, np.float32)
    flat = [p.reshape(-1) for p in (want, got, want if share is None else share)]
    _off(*flat, share is not None, low, high, out.reshape(-1))
    return out


@kernel
def _over(off, want, low, high, most, out):  # type: ignore[no-untyped-def]
    """How much more that is than the share ``most`` of what was meant; below 0 where it is less."""
    for i in range(want.size):
        out[i] = off[i] - most * max(abs(min(max(want[i], low), high)), np.float32(1e-4))


class _Measured(NamedTuple):
    """Of some rows: of each colour plane the largest difference and their sum, and whether each pixel is
    within what a lossless format may be off; of the alpha the largest, and the range of what was found."""

    largest: list[float]
    sums: list[float]
    exact: bool
    alpha: float
    alpha_low: float
    alpha_high: float


def _measured(
    wanted: Mapping[str, Plane], found: Mapping[str, Plane], delivery_format: DeliveryFormat
) -> _Measured:
    low, high = (np.float32(v) for v in range_of(delivery_format))
    most, relative = np.float32(delivery_format.colour_tolerance), delivery_format.relative
    alpha = wanted.get("A")
    share = alpha if delivery_format.reading.alpha == "straight" else None
    names = [n for n in wanted if n != "A"]
    largest, sums, exact = [], [], True
    for name in names:
        off = _off_by(wanted[name], _read_plane(found, name), share, delivery_format)
        largest.append(float(off.max()))
        sums.append(float(off.sum()))
        if relative:
            over = np.empty_like(off)
            _over(off.reshape(-1), wanted[name].reshape(-1), low, high, most, over.reshape(-1))
            exact = exact and bool(over.max() <= 0)
        else:
            exact = exact and bool(off.max() <= most)
    if alpha is None:
        alone = delivery_format.contents == "alpha"
        shown = _read_plane(found, names[0]) if alone else np.ones((1, 1), np.float32)
        error = max(largest) if alone else 0.0
    else:
        shown = found.get("A", np.ones_like(alpha))
        error = float(_off_by(alpha, shown, None, delivery_format).max())
    return _Measured(largest, sums, exact, error, float(shown.min()), float(shown.max()))


def _compare_one(
    wanted: StoredPicture, found: StoredPicture, delivery_format: DeliveryFormat, frame: int
) -> FrameProof:
    if not _same_size(wanted, found):
        return _unlike(found, frame)
    height, width = next(iter(wanted.planes.values())).shape
    by_row: dict[int, _Measured] = {}

    def strip(a: int, b: int) -> None:
        want, got = ({n: np.ascontiguousarray(p[a:b]) for n, p in x.planes.items()} for x in (wanted, found))
        by_row[a] = _measured(want, got, delivery_format)

    for_strips(height, width, strip)
    # in order: sums of rows in another order would differ in their last digit from run to run
    strips = [by_row[a] for a in sorted(by_row)]
    largest = np.max([s.largest for s in strips], axis=0)
    means = np.sum([s.sums for s in strips], axis=0) / (height * width)
    alpha_error = float(np.max([s.alpha for s in strips]))
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
