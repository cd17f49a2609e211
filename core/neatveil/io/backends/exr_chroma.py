"""OpenEXR pictures of luminance and subsampled chroma, through the OpenEXR library [OpenEXR].

OpenImageIO refuses subsampled channels. Y is luminance; RY = (R - Y) / Y and BY = (B - Y) / Y are
stored for every second pixel of every second line; A, where it is there, for every pixel.

Source: OpenEXR technical introduction, "Luminance/Chroma Images"; ImfRgbaYca.h.
"""

from __future__ import annotations

from pathlib import Path
from typing import Any

import numpy as np
import OpenEXR

from ...channels.luma import LUMA_WEIGHTS
from ...errors import FileDamaged, NameUnknown
from ...numeric.resample import resample
from ...picture import Box, Plane, StoredPicture
from ..facts import ChannelFact, Facts

_MARK = (b"RY\0", b"BY\0")


def is_chroma(path: Path) -> bool:
    """Whether the header lists both chroma channels; told from its first bytes, without a library."""
    if path.suffix.lower() != ".exr":
        return False
    try:
        with path.open("rb") as file:
            head = file.read(4096)
    except OSError:
        return False
    at = head.find(b"channels\0chlist\0")
    return at >= 0 and all(mark in head[at : at + 512] for mark in _MARK)


def size_of(path: Path) -> tuple[int, int]:
    """Width and height of the frame, from the header alone."""
    display = _windows(_opened(path, pixels=False)[0])[1]
    return display.width, display.height


def probe(path: Path) -> Facts:
    """Facts from the header alone."""
    header, channels = _opened(path, pixels=False)
    data, display = _windows(header)
    alpha = "A" in channels
    names = ["R", "G", "B", *(["A"] if alpha else [])]
    return Facts(
        kind="still", name=path.name, format="OpenEXR", width=display.width, height=display.height,
        data_window=data.as_list() if data != display else None,
        codec=str(header.get("compression", "")).rpartition(".")[2].removesuffix("_COMPRESSION").lower(),
        pixel_format="half", bit_depth=16,
        channels=[ChannelFact(name=n, sample="half") for n in names], alpha=alpha,
        alpha_use="unknown" if alpha else "none", alpha_claim="premultiplied" if alpha else None,
        alpha_claim_by="OpenEXR: alpha is premultiplied" if alpha else "", encoding="linear",
        encoding_by="floating-point samples", bytes=path.stat().st_size,
        notes=["Stored as luminance and subsampled chroma: colour has half the width and height."],
    )  # fmt: skip


def read(path: Path, names: list[str] | None = None) -> StoredPicture:
    """R, G, B and A in linear light over the data window; `FileDamaged` where it breaks off."""
    header, channels = _opened(path, pixels=True)
    data, display = _windows(header)
    luminance = _plane(channels["Y"])
    shape = luminance.shape
    red, blue = (_spread(_plane(channels[n]), shape) for n in ("RY", "BY"))
    kr, kg, kb = (np.float32(w) for w in _weights(header))
    r, b = (red + 1) * luminance, (blue + 1) * luminance
    planes = {"R": r, "G": (luminance - r * kr - b * kb) / kg, "B": b}
    if "A" in channels:
        planes["A"] = _plane(channels["A"])
    unknown = [n for n in names or [] if n not in planes]
    if unknown:
        raise NameUnknown(
            f"{path.name} has no channel {', '.join(unknown)}.", advice=f"It has {', '.join(planes)}.",
            where=path.name,
        )  # fmt: skip
    chosen = {n: np.ascontiguousarray(planes[n], np.float32) for n in names or planes}
    return StoredPicture(chosen, data, display)


def _opened(path: Path, pixels: bool) -> tuple[dict[str, Any], dict[str, Any]]:
    try:
        with OpenEXR.File(str(path), separate_channels=True, header_only=not pixels) as file:
            return dict(file.header()), dict(file.channels())
    except Exception as error:
        raise FileDamaged(
            f"{path.name} breaks off or is damaged: {error}",
            advice="Copy or render it again.",
            where=path.name,
        ) from error


def _windows(header: dict[str, Any]) -> tuple[Box, Box]:
    (dx0, dy0), (dx1, dy1) = header["dataWindow"]
    (fx0, fy0), (fx1, fy1) = header["displayWindow"]
    display = Box.sized(int(fx1 - fx0) + 1, int(fy1 - fy0) + 1)
    data = Box(int(dx0 - fx0), int(dy0 - fy0), int(dx1 - fx0) + 1, int(dy1 - fy0) + 1)
    return data, display


def _plane(channel: Any) -> Plane:
    return np.asarray(channel.pixels, np.float32)


def _spread(chroma: Plane, shape: tuple[int, ...]) -> Plane:
    """Chroma for every pixel: its samples lie on the even pixels."""
    if chroma.shape == shape:
        return chroma
    height, width = shape
    # beyond the border the last samples again
    wide = np.ascontiguousarray(np.pad(np.nan_to_num(chroma), 3, mode="edge"))
    back = np.array([[chroma.shape[1] / width, 0, 3], [0, chroma.shape[0] / height, 3], [0, 0, 1]])
    spread: Plane = np.empty((height, width), np.float32)
    resample(wide, back, spread, "cubic")
    return spread


def _weights(header: dict[str, Any]) -> tuple[float, float, float]:
    """Luminance of the primaries: the file's own chromaticities, or those of BT.709."""
    said = header.get("chromaticities")
    if said is None:
        return LUMA_WEIGHTS["bt709"]
    values = [float(v) for v in np.asarray(said).ravel()][:8]
    xy = np.array(values).reshape(4, 2)
    columns = np.stack([xy[:, 0] / xy[:, 1], np.ones(4), (1 - xy.sum(1)) / xy[:, 1]])
    scale = np.linalg.solve(columns[:, :3], columns[:, 3])
    r, g, b = (float(v) for v in scale)
    return r, g, b
