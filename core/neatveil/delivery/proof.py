"""Proving a delivery: the written files are opened again and compared with the comp."""

from __future__ import annotations

from collections.abc import Sequence
from fractions import Fraction
from pathlib import Path

import numpy as np
import OpenEXR
import xxhash
from pydantic import AliasChoices, BaseModel, ConfigDict, Field

from ..errors import NeatVeilError
from ..io.decoder import Decoder
from ..numeric.ahead import unless
from ..numeric.half import HALF_MOST
from ..picture import RGBA, Plane, PremultipliedPicture, StoredPicture
from .file_layers import split
from .formats import DeliveryFormat
from .losses import lost_in
from .together import Asked, Output, Progress
from .write import FrameSource, Target, meant


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


class Proof(BaseModel):
    """What was found in the written files."""

    model_config = ConfigDict(extra="forbid")

    #: Name of the delivery format; proofs of before say ``form``.
    format: str = Field(validation_alias=AliasChoices("format", "form"))
    frames_meant: int
    frames_found: int
    missing: list[int] = []
    rate_meant: str | None = None
    rate_found: str | None = None
    width: int = 0
    height: int = 0
    alpha_low: float = 0.0
    alpha_high: float = 0.0
    colour_error: float = 0.0
    alpha_error: float = 0.0
    worst_frame: int | None = None
    lost_light: int = 0
    clipped: int = 0
    hashes: dict[str, str] = Field({}, description="File name to XXH64, hexadecimal.")
    problems: list[str] = []
    frames: list[FrameProof] = []

    @property
    def good(self) -> bool:
        return not self.problems


def prove(
    source: FrameSource, decoder: Decoder, delivery_format: DeliveryFormat, target: Target, frames: list[int],
    rate: Fraction, *, loss_accepted: bool = False, progress: Progress | None = None,
    cancelled: Asked | None = None,
) -> Proof:  # fmt: skip
    """Read every written frame back and compare it with what was meant.

    Parameters
    ----------
    source : gives the picture of a frame number, scene-linear, premultiplied over black.
    decoder : reads the files.
    delivery_format, target : of the delivery.
    frames : those that were written.
    rate : frames per second that a movie should have.
    loss_accepted : light that the format cannot hold is no problem.
    progress : called with each frame number once it is compared.
    cancelled : asked between frames.

    Returns
    -------
    Errors, hashes and problems. These are sentences: a missing or damaged file, a wrong rate or size, an
    error larger than the format's arithmetic allows, lost light. Clipped values are counted.

    Raises
    ------
    Cancelled
        ``cancelled`` said yes.

    Examples
    --------
    >>> import tempfile
    >>> from fractions import Fraction
    >>> from pathlib import Path
    >>> from neatveil.delivery import Target, format_named, write_frames
    >>> from neatveil.io import LocalDecoder
    >>> delivery_format = format_named("png16-straight")
    >>> grey = PremultipliedPicture.from_rgba(np.ones((4, 4, 4), np.float32))
    >>> with tempfile.TemporaryDirectory() as folder:
    ...     target = Target(Path(folder, "grey.####.png"))
    ...     write_frames(lambda n: grey, delivery_format, target, [1, 2])
    ...     prove(lambda n: grey, LocalDecoder(), delivery_format, target, [1, 2], Fraction(25)).problems
    []
    """
    (proof,) = prove_together(
        source, decoder, [Output(delivery_format, target)], frames, rate, loss_accepted=loss_accepted,
        progress=progress, cancelled=cancelled,
    )  # fmt: skip
    return proof


def prove_together(
    source: FrameSource, decoder: Decoder, outputs: Sequence[Output], frames: list[int], rate: Fraction, *,
    loss_accepted: bool = False, progress: Progress | None = None, cancelled: Asked | None = None,
) -> list[Proof]:  # fmt: skip
    """Prove several forms of the same frames; each frame is evaluated once.

    Parameters
    ----------
    source, decoder, frames, rate, loss_accepted, progress, cancelled : as of `prove`.
    outputs : forms and targets.

    Returns
    -------
    A proof for each output, in their order.

    Raises
    ------
    Cancelled
        ``cancelled`` said yes.

    Examples
    --------
    >>> import tempfile
    >>> from neatveil.delivery import Output, Target, format_named, write_together
    >>> from neatveil.io import LocalDecoder
    >>> grey = PremultipliedPicture.from_rgba(np.ones((4, 4, 4), np.float32))
    >>> with tempfile.TemporaryDirectory() as folder:
    ...     outputs = [
    ...         Output(format_named("png16-straight"), Target(Path(folder, "grey.####.png"))),
    ...         Output(format_named("exr-half-premultiplied"), Target(Path(folder, "grey.####.exr"))),
    ...     ]
    ...     write_together(lambda n: grey, outputs, [1, 2], Fraction(25))
    ...     proofs = prove_together(lambda n: grey, LocalDecoder(), outputs, [1, 2], Fraction(25))
    >>> [proof.good for proof in proofs]
    [True, True]
    """
    proofs = [_begun(one, decoder, frames, rate) for one in outputs]
    for index, frame in enumerate(unless(cancelled, frames, "The proof was cancelled.")):
        picture = source(frame)
        beside = [n for n in picture.planes if "." in n]
        for proof, (delivery_format, target) in zip(proofs, outputs, strict=True):
            found = _read_back(proof, decoder, delivery_format, target, (index, frame), beside)
            if found is not None:
                _add(proof, _compare(picture, found, delivery_format, frame))
        if progress is not None:
            progress(frame)
    for proof, one in zip(proofs, outputs, strict=True):
        _end(proof, one, frames, loss_accepted=loss_accepted)
    return proofs


def _begun(one: Output, decoder: Decoder, frames: list[int], rate: Fraction) -> Proof:
    """What files say of themselves."""
    delivery_format, target = one
    proof = Proof(format=delivery_format.name, frames_meant=len(frames), frames_found=0)
    if delivery_format.kind == "movie":
        _facts(proof, decoder, target, rate)
    else:
        _header(proof, [p for p in target.files(delivery_format, frames[:1]) if p.suffix == ".exr"], rate)
    return proof


def _end(proof: Proof, one: Output, frames: list[int], *, loss_accepted: bool) -> None:
    for path in one.target.files(one.format, frames):
        if path.is_file():
            proof.hashes[path.name] = xxh64(path)
    if proof.lost_light and not loss_accepted:
        proof.problems.append(
            f"{proof.lost_light:,} pixels of light where the alpha is 0 came out black: "
            f"{one.format.title} cannot hold them. "
            "Deliver premultiplied, or accept the loss when ordering."
        )
    if proof.missing:
        shown = ", ".join(map(str, proof.missing[:8]))
        proof.problems.append(f"{len(proof.missing)} frames are missing: {shown}.")


def xxh64(path: Path) -> str:
    """XXH64 of a file's bytes, 16 hexadecimal digits."""
    digest = xxhash.xxh64()
    with path.open("rb") as file:
        while piece := file.read(1 << 20):
            digest.update(piece)
    return digest.hexdigest()


def _header(proof: Proof, files: list[Path], rate: Fraction) -> None:
    """The rate that OpenEXR files hold, read by its own library: another one than wrote them."""
    for path in files:
        try:
            with OpenEXR.File(str(path), header_only=True) as file:
                found = file.header().get("framesPerSecond")
        except (RuntimeError, ValueError, OSError):
            return  # what cannot be read is told of its frame
        if isinstance(found, Fraction):
            proof.rate_meant, proof.rate_found = str(rate), str(found)
            if found != rate:
                proof.problems.append(f"The rate is {found}, meant was {rate}.")


def _facts(proof: Proof, decoder: Decoder, target: Target, rate: Fraction) -> None:
    proof.rate_meant = str(rate)
    try:
        facts = decoder.probe(str(target.path))
    except NeatVeilError as error:
        proof.problems.append(str(error))
        return
    proof.rate_found = facts.rate
    if facts.rate != str(rate):
        proof.problems.append(f"The rate is {facts.rate}, meant was {rate}.")
    if facts.count != proof.frames_meant:
        proof.problems.append(f"The movie has {facts.count} frames, meant were {proof.frames_meant}.")


def _read_back(
    proof: Proof, decoder: Decoder, delivery_format: DeliveryFormat, target: Target, place: tuple[int, int],
    beside: list[str],
) -> StoredPicture | None:  # fmt: skip
    """As `as_read`; None where that cannot be, which the proof tells."""
    path = target.path if delivery_format.kind == "movie" else target.frame_path(place[1])
    if not path.is_file():
        proof.missing.append(place[1])
        return None
    try:
        found = as_read(decoder, delivery_format, target, place, beside)
    except NeatVeilError as error:
        proof.problems.append(str(error))
        return None
    proof.frames_found += 1
    proof.width, proof.height = found.display_window.width, found.display_window.height
    return found


def as_read(
    decoder: Decoder, delivery_format: DeliveryFormat, target: Target, place: tuple[int, int],
    beside: list[str],
) -> StoredPicture:  # fmt: skip
    """One frame of the files.

    ``place``: how many-eth it is, from 0, and its number; ``beside``: channels of layers in the file.
    """
    index, frame = place
    movie = delivery_format.kind == "movie"
    path, number = (target.path, index) if movie else (target.frame_path(frame), 0)
    return decoder.read(str(path), number, [*RGBA, *beside] if beside else None)


def _compare(
    picture: PremultipliedPicture, found: StoredPicture, delivery_format: DeliveryFormat, frame: int
) -> FrameProof:
    """The picture and each layer beside it; what is said is the worst of them, and which that is."""
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


def differences(
    wanted: StoredPicture, found: StoredPicture, delivery_format: DeliveryFormat
) -> tuple[list[tuple[Plane, Plane]], Plane] | None:
    """Of each colour plane how far it is off, as it is seen, with what was meant; and of the alpha.

    None where the sizes differ. Alpha alone is among the colours; the alpha is 0 where none was meant.
    """
    names = [n for n in wanted.planes if n != "A"]
    pairs = [(_as_held(wanted[n], delivery_format), _read_plane(found, n)) for n in names]
    if any(want.shape != got.shape for want, got in pairs):
        return None
    if "A" not in wanted.planes:
        return [(np.abs(got - want), want) for want, got in pairs], np.zeros_like(pairs[0][0])
    alpha = wanted["A"]
    straight = delivery_format.reading.alpha == "straight"
    share = np.clip(alpha, 0, 1) if straight else np.float32(1)
    off = np.abs(found.planes.get("A", np.ones_like(alpha)) - _as_held(alpha, delivery_format))
    return [(np.abs(got - want) * share, want) for want, got in pairs], off


def _compare_one(
    wanted: StoredPicture, found: StoredPicture, delivery_format: DeliveryFormat, frame: int
) -> FrameProof:
    off = differences(wanted, found, delivery_format)
    if off is None:
        return _unlike(found, frame)
    errors, alpha_off = off
    got = np.ones_like(alpha_off)
    if "A" in wanted.planes:
        got = found.planes.get("A", got)
    alpha_error = float(alpha_off.max(initial=0))
    if delivery_format.contents == "alpha":
        got = _read_plane(found, next(iter(wanted.planes)))
        alpha_error = max(float(e.max(initial=0)) for e, _ in errors)
    return FrameProof(
        frame=frame, colour_error=max(float(e.max(initial=0)) for e, _ in errors), alpha_error=alpha_error,
        colour_mean=max(float(e.mean(dtype=np.float64)) for e, _ in errors),
        alpha_low=float(got.min()), alpha_high=float(got.max()),
        within=_colours_within(errors, delivery_format)
        and ("A" not in wanted.planes or alpha_error <= delivery_format.alpha_tolerance),
    )  # fmt: skip


def _colours_within(errors: list[tuple[Plane, Plane]], delivery_format: DeliveryFormat) -> bool:
    """Every pixel where nothing is to be lost; the mean of a lossy codec, and what a pixel may be off by."""
    most, codec = delivery_format.colour_tolerance, delivery_format.codec
    if not codec.lossless:
        single = codec.colour_most or np.inf
        return all(float(e.mean(dtype=np.float64)) <= most and float(e.max()) <= single for e, _ in errors)
    if delivery_format.relative:
        return all(bool(np.all(e <= most * np.maximum(np.abs(want), 1e-4))) for e, want in errors)
    return all(bool(np.all(e <= most)) for e, _ in errors)


def _as_held(plane: Plane, delivery_format: DeliveryFormat) -> Plane:
    """Cut off where the format's range ends: that is counted by itself."""
    if not delivery_format.codec.floating:
        return np.clip(plane, 0, 1)
    if delivery_format.codec.sample == "half":
        return np.clip(plane, -HALF_MOST, HALF_MOST)
    return plane


def _read_plane(found: StoredPicture, name: str) -> Plane:
    """A plane of what was read; grey and three alike stand for one another."""
    plane = found.planes.get(name)
    return plane if plane is not None else found.planes.get("Y", next(iter(found.planes.values())))


def _unlike(found: StoredPicture, frame: int) -> FrameProof:
    any_plane = next(iter(found.planes.values()))
    alpha = found.planes.get("A", np.ones_like(any_plane))
    return FrameProof(
        frame=frame, colour_error=1.0, alpha_error=1.0, alpha_low=float(alpha.min()),
        alpha_high=float(alpha.max()), within=False,
    )  # fmt: skip


def _add(proof: Proof, row: FrameProof) -> None:
    first = not proof.frames
    proof.alpha_low = row.alpha_low if first else min(proof.alpha_low, row.alpha_low)
    proof.alpha_high = row.alpha_high if first else max(proof.alpha_high, row.alpha_high)
    if first or row.colour_error > proof.colour_error:
        proof.worst_frame = row.frame
    proof.colour_error = max(proof.colour_error, row.colour_error)
    proof.alpha_error = max(proof.alpha_error, row.alpha_error)
    proof.lost_light += row.lost_light
    proof.clipped += row.clipped
    proof.frames.append(row)
    if row.data:
        proof.problems.append(f"Frame {row.frame}: the data channel {row.data} does not hold what was meant.")
    if not row.within:
        of = f" of {row.layer}" if row.layer else ""
        proof.problems.append(
            f"Frame {row.frame}{of} differs from what was meant by {row.colour_error:.6f} in colour and "
            f"{row.alpha_error:.6f} in alpha, more than {proof.format} allows."
        )
