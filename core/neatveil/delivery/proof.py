"""Proving a delivery: the written files are opened again and compared with the comp."""

from __future__ import annotations

from collections.abc import Sequence
from contextlib import nullcontext
from fractions import Fraction
from pathlib import Path
from typing import NamedTuple, TypeAlias

import OpenEXR
import xxhash
from pydantic import AliasChoices, BaseModel, ConfigDict, Field

from ..errors import NeatVeilError
from ..io.decoder import Decoder
from ..io.facts import Facts
from ..numeric.ahead import ahead, unless
from ..numeric.pool import in_this_thread
from ..numeric.threads import workers
from ..picture import RGBA, PremultipliedPicture, StoredPicture
from .comparing import FrameProof, compare
from .formats import DeliveryFormat
from .together import Asked, Output, Progress
from .write import FrameSource, Target


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
    source : gives the picture of a frame number, scene-linear, premultiplied over black; called on threads.
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
    movies = [one for one in outputs if one.format.kind == "movie"]
    asked = unless(cancelled, range(len(frames)), "The proof was cancelled.")

    def compared(index: int) -> tuple[PremultipliedPicture, list[Compared | NeatVeilError | None]]:
        """What is meant, and of every form that is frames how its file differs from that."""
        frame = frames[index]
        with nullcontext() if movies else in_this_thread():
            picture = source(frame)
            beside = [n for n in picture.planes if "." in n]
            return picture, [
                _compared(one, _read_back(one, decoder, (index, frame), beside), picture, frame)
                for one in outputs
                if one.format.kind == "frames"
            ]

    def read(index: int) -> list[Back]:
        return [_read_back(one, decoder, (index, frames[index]), []) for one in movies]

    still = ahead(compared, asked, 1 if len(movies) > 1 else workers())
    # a movie is read in order, while the frame before is compared
    moving = ahead(read, range(len(frames)), 1)
    for frame, (picture, files), backs in zip(frames, still, moving, strict=True):
        of_files, of_movies = iter(files), iter(backs)
        for proof, one in zip(proofs, outputs, strict=True):
            if one.format.kind == "movie":
                _add(proof, frame, _compared(one, next(of_movies), picture, frame))
            else:
                _add(proof, frame, next(of_files))
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
        _facts(proof, decoder, target, rate, delivery_format)
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


def _same_rate(facts: Facts, rate: Fraction, clock: Fraction | None) -> bool:
    """Whether a movie has the rate that was meant; ``clock``: as of a codec."""
    if facts.rate is None or clock is None or not facts.count:
        return facts.rate == str(rate)
    return abs(facts.count / Fraction(facts.rate) - facts.count / rate) <= clock


def _facts(
    proof: Proof, decoder: Decoder, target: Target, rate: Fraction, delivery_format: DeliveryFormat
) -> None:
    proof.rate_meant = str(rate)
    try:
        facts = decoder.probe(str(target.path))
    except NeatVeilError as error:
        proof.problems.append(str(error))
        return
    proof.rate_found = facts.rate
    if not _same_rate(facts, rate, delivery_format.codec.clock):
        proof.problems.append(f"The rate is {facts.rate}, meant was {rate}.")
    if facts.count != proof.frames_meant:
        proof.problems.append(f"The movie has {facts.count} frames, meant were {proof.frames_meant}.")


#: A frame as it was read; why it cannot be; None where its file is not there.
Back: TypeAlias = StoredPicture | NeatVeilError | None


class Compared(NamedTuple):
    row: FrameProof
    width: int
    height: int


def _read_back(one: Output, decoder: Decoder, place: tuple[int, int], beside: list[str]) -> Back:
    """As `as_read`."""
    delivery_format, target = one
    path = target.path if delivery_format.kind == "movie" else target.frame_path(place[1])
    if not path.is_file():
        return None
    try:
        return as_read(decoder, delivery_format, target, place, beside)
    except NeatVeilError as error:
        return error


def _compared(
    one: Output, back: Back, picture: PremultipliedPicture, frame: int
) -> Compared | NeatVeilError | None:
    if not isinstance(back, StoredPicture):
        return back
    window = back.display_window
    return Compared(compare(picture, back, one.format, frame), window.width, window.height)


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


def _add(proof: Proof, frame: int, found: Compared | NeatVeilError | None) -> None:
    if found is None:
        proof.missing.append(frame)
    elif isinstance(found, NeatVeilError):
        proof.problems.append(str(found))
    else:
        proof.frames_found += 1
        proof.width, proof.height = found.width, found.height
        _add_row(proof, found.row)


def _add_row(proof: Proof, row: FrameProof) -> None:
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
