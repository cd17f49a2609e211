"""Pictures of the proof: what a written file holds, and where it differs from what was meant."""

from __future__ import annotations

from typing import Literal

import cv2
import numpy as np
from numpy.typing import NDArray

from ..errors import ValueRefused
from ..io.decoder import Decoder
from ..picture import PremultipliedPicture, StoredPicture
from .comparing import differences
from .formats import DeliveryFormat
from .looks import WIDTH, on_screen, png_bytes, small
from .proof import as_read
from .write import Target, meant

#: Over grey checks; the alpha as grey; the difference, raised so that the largest is white.
ProofShown = Literal["checks", "alpha", "difference"]


def proof_png(
    decoder: Decoder, delivery_format: DeliveryFormat, target: Target, place: tuple[int, int],
    shown: ProofShown, wanted: PremultipliedPicture | None = None,
) -> bytes:  # fmt: skip
    """A small PNG, RGB, of one frame of a delivery as its file holds it.

    Parameters
    ----------
    decoder : reads the file.
    delivery_format, target : of the delivery.
    place : how many-eth frame it is, from 0, and its number.
    shown : see `ProofShown`. Files without an alpha are opaque.
    wanted : of a difference the picture that was meant: scene-linear, premultiplied over black.

    Returns
    -------
    The file's bytes.

    Raises
    ------
    NeatVeilError
        The file is not there or cannot be read.
    ValueRefused
        A difference was asked for of files of another size, or without what was meant.

    Examples
    --------
    >>> import tempfile
    >>> from pathlib import Path
    >>> from neatveil.delivery import Target, format_named, write_frames
    >>> from neatveil.io import LocalDecoder
    >>> png = format_named("png16-straight")
    >>> grey = PremultipliedPicture.from_rgba(np.ones((4, 4, 4), np.float32))
    >>> with tempfile.TemporaryDirectory() as folder:
    ...     target = Target(Path(folder, "grey.####.png"))
    ...     write_frames(lambda n: grey, png, target, [7])
    ...     proof_png(LocalDecoder(), png, target, (0, 7), "alpha")[:4]
    b'\\x89PNG'
    """
    found = as_read(decoder, delivery_format, target, place, [])
    if shown == "checks":
        return png_bytes(small(on_screen(found, delivery_format, checks=True)))
    if shown == "alpha":
        return png_bytes(small(np.repeat(_alpha(found, delivery_format)[..., None], 3, axis=2)))
    if wanted is None:
        raise ValueRefused("A difference needs the picture that was meant.", where="shown")
    off = _raised(found, meant(wanted, delivery_format, place[1]), delivery_format)
    return png_bytes(np.asarray(np.rint(_small_by_largest(off) * 255), np.uint8))


def _alpha(found: StoredPicture, delivery_format: DeliveryFormat) -> NDArray[np.float32]:
    first = next(iter(found.planes.values()))
    if delivery_format.contents == "alpha":
        return np.clip(first, 0, 1)
    return np.clip(found.planes.get("A", np.ones_like(first)), 0, 1)


def _raised(
    found: StoredPicture, wanted: StoredPicture, delivery_format: DeliveryFormat
) -> NDArray[np.float32]:
    """R, G, B by their differences; that of the alpha is in all three."""
    errors = differences(wanted, found, delivery_format)
    if errors is None:
        raise ValueRefused("The file is of another size than was meant.", where="shown")
    planes = errors.colours * (3 if len(errors.colours) == 1 else 1)
    off = np.maximum(np.dstack(planes[:3]), errors.alpha[..., None])
    return np.asarray(off / max(float(off.max(initial=0)), 1e-12), np.float32)


def _small_by_largest(off: NDArray[np.float32]) -> NDArray[np.float32]:
    """So that a single pixel that is off is still seen."""
    step = -(-off.shape[1] // WIDTH)
    if step == 1:
        return off
    largest = cv2.dilate(off, np.ones((step, step), np.uint8), anchor=(0, 0))
    return np.asarray(largest[::step, ::step], np.float32)
