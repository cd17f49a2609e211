"""What a still's header claims of its alpha and of its colour encoding."""

from __future__ import annotations

import struct
from pathlib import Path
from typing import Any

from ...colour.encodings import encoding_name, gamma_name
from ...colour.primaries import primaries_of_xy
from ..formats import Format
from . import h273, icc

Claim = tuple[str | None, str]


def alpha_claim(path: Path, file_format: Format) -> Claim:
    """straight, premultiplied or None, and what says so."""
    if file_format.alpha in {"straight", "premultiplied"}:
        return file_format.alpha, file_format.alpha_by
    if file_format.alpha == "declared":
        kind = _tiff_extra_sample(path) if file_format.name == "TIFF" else _targa_attribute(path)
        return kind, file_format.alpha_by if kind else ""
    return None, ""


def _tiff_extra_sample(path: Path) -> str | None:
    """TIFF 6.0, section 18, ExtraSamples (338): 1 is associated, 2 unassociated, 0 unspecified."""
    try:
        with path.open("rb") as file:
            kind = _tiff_tag(file, 338)
    except (OSError, struct.error):
        return None
    return {1: "premultiplied", 2: "straight"}.get(kind)  # type: ignore[arg-type]


def _tiff_tag(file: Any, tag: int) -> int | None:
    """First value of a SHORT tag in the first directory, of a TIFF or BigTIFF."""
    order = {b"II": "<", b"MM": ">"}.get(file.read(2))
    if order is None:
        return None
    (version,) = struct.unpack(order + "H", file.read(2))
    big = version == 43
    if big:
        file.read(4)
    (at,) = struct.unpack(order + ("Q" if big else "I"), file.read(8 if big else 4))
    file.seek(at)
    (count,) = struct.unpack(order + ("Q" if big else "H"), file.read(8 if big else 2))
    for _ in range(min(count, 4096)):
        entry = file.read(20 if big else 12)
        number, kind = struct.unpack(order + "HH", entry[:4])
        if number == tag and kind == 3:
            values = entry[12:] if big else entry[8:]
            many = struct.unpack(order + ("Q" if big else "I"), entry[4 : 12 if big else 8])[0]
            if many * 2 > len(values):
                file.seek(struct.unpack(order + ("Q" if big else "I"), values)[0])
                values = file.read(2)
            return int(struct.unpack(order + "H", values[:2])[0])
    return None


def _targa_attribute(path: Path) -> str | None:
    """TGA 2.0, extension area, attributes type: 3 is useful alpha, 4 premultiplied."""
    try:
        with path.open("rb") as file:
            file.seek(-26, 2)
            footer = file.read(26)
            if footer[8:24] != b"TRUEVISION-XFILE":
                return None
            (extension,) = struct.unpack("<I", footer[:4])
            if not extension:
                return None
            file.seek(extension + 494)
            kind = file.read(1)
    except OSError:
        return None
    return {b"\x03": "straight", b"\x04": "premultiplied"}.get(kind)


def colour_encoding(file_format: Format, spec: Any, sample: str) -> tuple[str, str, list[str]]:
    """The encoding, what says so, and notes: of a profile that is not understood.

    A profile goes before what else a header says; floating-point samples are linear whatever it says.
    """
    notes: list[str] = []
    codes = spec.getattribute("CICP")
    if codes is not None:  # in PNG it goes before all else (third edition, 11.3.2.6)
        encoding, said = h273.encoding_of(int(codes[1]), int(codes[0]), "srgb")
        if said:
            return encoding, "the file", notes
    floating = sample in {"half", "float", "double"}
    data = spec.getattribute("ICCProfile")
    profile = icc.profile_of(bytes(data)) if data is not None else None
    if data is not None and (profile is None or not (profile.primaries and profile.encoding)):
        name = str(spec.get_string_attribute("ICCProfile:profile_description")) or "without a name"
        missed = "primaries" if profile and profile.encoding else "curves"
        notes.append(f"Its colour profile, {name}, is of no usual {missed}; they are taken as sRGB's.")
    primaries = (profile and profile.primaries) or _header_primaries(spec, notes) or "bt709"
    transfer, by = ("linear", "floating-point samples") if floating else _transfer(file_format, spec)
    if profile and profile.encoding and not floating:
        transfer, by = profile.encoding, "its profile"
    return encoding_name(transfer, primaries), by, notes


def _header_primaries(spec: Any, notes: list[str]) -> str | None:
    """Of OpenEXR's attribute chromaticities: x, y of red, green, blue and white."""
    said = spec.getattribute("chromaticities")
    if said is None:
        return None
    name = primaries_of_xy([float(v) for v in said])
    if name is None:
        notes.append("Its chromaticities are of no usual primaries; they are taken as those of BT.709.")
    return name


def _transfer(file_format: Format, spec: Any) -> tuple[str, str]:
    """What else a header says, and what says so; the format's usual one where nothing does."""
    space = str(spec.get_string_attribute("oiio:ColorSpace")).lower()
    gamma = float(spec.get_float_attribute("oiio:Gamma", 0.0))
    if gamma > 0 and abs(gamma - 1) > 0.01 and not space.startswith("srgb"):
        return gamma_name(gamma), "the file"
    if "srgb" in space:
        return "srgb", "the file"
    if space.startswith("lin"):
        return "linear", "the file"
    if "709" in space and not space.startswith("g"):
        return "rec709", "the file"
    return file_format.encoding, f"usual for {file_format.name}"
