"""A delivery as a clip that editing programs open: OpenTimelineIO [OpenTimelineIO]."""

from __future__ import annotations

from collections.abc import Sequence
from fractions import Fraction
from pathlib import Path

import opentimelineio as otio

from ..io.sequences import Pattern
from .formats import DeliveryFormat
from .write import Target


def write_clip(
    path: Path, target: Target, delivery_format: DeliveryFormat, numbers: Sequence[int], rate: Fraction
) -> None:
    """Write a clip that refers to a delivery's files.

    Parameters
    ----------
    path : of the clip, beside the files; it ends in ``.otio``.
    target, delivery_format : of the delivery.
    numbers : of its frames, in order. A movie begins at the first one's time.
    rate : frames per second; the format holds it as a float.

    Examples
    --------
    >>> import tempfile
    >>> from neatveil.delivery import format_named
    >>> with tempfile.TemporaryDirectory() as name:
    ...     target = Target(Path(name, "dusk.####.png"))
    ...     clip = Path(name, "dusk.otio")
    ...     write_clip(clip, target, format_named("png16-straight"), [1, 2, 3], Fraction(25))
    ...     otio.adapters.read_from_file(str(clip)).source_range.duration.value
    3.0
    """
    fps = float(rate)
    first, last = numbers[0], numbers[-1]
    count = len(numbers) if delivery_format.kind == "movie" else last - first + 1
    held = otio.opentime.TimeRange(
        otio.opentime.RationalTime(first, fps), otio.opentime.RationalTime(count, fps)
    )
    if delivery_format.kind == "movie":
        media = otio.schema.ExternalReference(target.path.name, held)
    else:
        pattern = Pattern.parse(target.path)
        media = otio.schema.ImageSequenceReference(
            target_url_base="./", name_prefix=pattern.head, name_suffix=pattern.tail, start_frame=first,
            frame_step=1, rate=fps, frame_zero_padding=pattern.digits, available_range=held,
            missing_frame_policy=otio.schema.ImageSequenceReference.MissingFramePolicy.hold,
        )  # fmt: skip
    clip = otio.schema.Clip(name=path.stem, media_reference=media, source_range=held)
    clip.metadata["neatveil"] = {"rate": str(rate)}
    otio.adapters.write_to_file(clip, str(path))
