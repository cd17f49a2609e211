"""What a chosen form cannot hold, said before anything is ordered, with the nearest form that can."""

from __future__ import annotations

from fractions import Fraction
from typing import Any, Literal

from pydantic import BaseModel, ConfigDict, Field

from ..codecs import Codec, codec_named
from ..errors import CannotHoldAlpha, CannotHoldLayers, NeatVeilError, ValueRefused
from .formats import DeliveryForm, format_of
from .losses import Losses
from .take import Take, Taken


class Repair(BaseModel):
    """A change of the form, or of the take, under which nothing is lost."""

    model_config = ConfigDict(extra="forbid")

    label: str
    form: dict[str, Any] = {}
    take: dict[str, Any] = {}


class Advice(BaseModel):
    """One thing to be known before the order."""

    model_config = ConfigDict(extra="forbid")

    what: Literal["alpha", "layers", "light", "clipped", "lossy", "bits", "rate", "size", "form"]
    weight: Literal["refused", "lost", "told"] = Field(
        description="It cannot be ordered; something is lost; or it is only to be known."
    )
    message: str
    repairs: list[Repair] = []


_IN_LIGHT = {"alpha": "premultiplied", "matte": (0, 0, 0), "multiplied": "linear", "encoding": "linear"}
_EXR = Repair(label="OpenEXR, premultiplied", form={"codec": "exr", "contents": "rgba", **_IN_LIGHT})
_EXR32 = Repair(label="OpenEXR, 32-bit float", form={"codec": "exr32"})


def advice_for(form: DeliveryForm, taken: Taken, losses: Losses | None = None) -> list[Advice]:
    """What a form cannot hold of a take.

    Parameters
    ----------
    form : what is chosen.
    taken : what goes out.
    losses : counted in some of its frames, see `count_losses`; None says only what is known without looking.

    Returns
    -------
    Advice, what cannot be ordered first.

    Examples
    --------
    >>> from neatveil.comp import Comp
    >>> from neatveil.delivery import Take, taken
    >>> odd = taken(Take(), Comp(width=101, height=50))
    >>> advice_for(DeliveryForm(codec="h264", contents="rgb"), odd)[0].repairs[0].take
    {'size': 'given', 'width': 102, 'height': 50}
    """
    found = [*_refused(form, taken), *_known(form, taken)]
    if losses is not None:
        found += _counted(form, losses)
    order = ["refused", "lost", "told"]
    return sorted(found, key=lambda a: order.index(a.weight))


def _refused(form: DeliveryForm, taken: Taken) -> list[Advice]:
    codec = codec_named(form.codec)
    found = []
    try:
        for _, part in form.parts():
            format_of(part)
    except CannotHoldAlpha as error:
        apart = Repair(label="RGB and alpha apart", form={"contents": "apart"})
        alone = Repair(label="RGB alone", form={"contents": "rgb", "alpha": "premultiplied"})
        found.append(Advice(what="alpha", weight="refused", message=error.message, repairs=[apart, alone]))
    try:
        taken.refuse_format(format_of(form.parts()[0][1]))
    except (CannotHoldLayers, ValueRefused) as error:
        alone = Repair(label="The picture alone", take={"layers": []})
        # too many are too many in OpenEXR as well
        repairs = [_EXR, alone] if isinstance(error, CannotHoldLayers) else [alone]
        found.append(Advice(what="layers", weight="refused", message=error.message, repairs=repairs))
    except CannotHoldAlpha:
        pass  # it was said above
    try:
        codec.refuse_size(taken.width, taken.height, "It")
    except NeatVeilError as error:
        least_width, least_height = codec.least
        width, height = max(taken.width, least_width), max(taken.height, least_height)
        even = Take(size="given", width=width + width % 2, height=height + height % 2)
        size = even.model_dump(include={"size", "width", "height"})
        repair = Repair(label=f"{even.width} x {even.height}", take=size)
        found.append(Advice(what="size", weight="refused", message=error.message, repairs=[repair]))
    return found


def _known(form: DeliveryForm, taken: Taken) -> list[Advice]:
    codec, comp, take = codec_named(form.codec).packed(form.compression), taken.comp, taken.take
    found = []
    if taken.rate != comp.rate:
        found.append(_other_rate(taken, taken.rate / comp.rate))
    if codec.kind == "frames" and codec.name not in {"exr", "exr32"}:
        message = f"{codec.title} carry no rate: say {taken.rate} fps with them."
        found.append(Advice(what="rate", weight="told", message=message))
    if codec.clock and (1 / taken.rate / codec.clock).denominator > 1:
        tick = f"1/{round(1 / codec.clock)} s"
        message = (
            f"Its times are whole {tick}: at {taken.rate} fps frames begin up to half that early or late."
        )
        found.append(Advice(what="rate", weight="told", message=message))
    if taken.width * comp.height != taken.height * comp.width and take.size == "given":
        wide = round(taken.height * comp.width / comp.height)
        repair = Repair(label=f"{wide} x {taken.height}", take={"size": "given", "width": wide})
        message = "The picture is stretched: its sides are in another ratio than the comp's."
        found.append(Advice(what="size", weight="told", message=message, repairs=[repair]))
    if not codec.lossless:
        message = "It is lossy: colours come back close to what was meant, not the same."
        found.append(Advice(what="lossy", weight="told", message=message, repairs=[_lossless(form, codec)]))
    if codec.bits <= 8 and not codec.floating and form.dither == "none":
        repair = Repair(label="Dither", form={"dither": "stable"})
        message = "It holds 256 codes a channel: smooth gradients may show bands."
        found.append(Advice(what="bits", weight="told", message=message, repairs=[repair]))
    return found


def _lossless(form: DeliveryForm, codec: Codec) -> Repair:
    """The nearest form that loses nothing: of the same file format where it has one."""
    if form.compression:
        return Repair(label="Its own compression, lossless", form={"compression": ""})
    if codec.kind == "movie":
        return Repair(label="FFV1 movie, lossless", form={"codec": "ffv1"})
    return Repair(label="PNG frames, lossless", form={"codec": "png16"})


def _other_rate(taken: Taken, ratio: Fraction) -> Advice:
    shown = list(taken.frames.values())
    if taken.take.timing == "time":
        twice = len(shown) - len(set(shown))
        message = (
            f"It lasts as long as in the comp: {twice} frames are shown twice."
            if twice
            else f"It lasts as long as in the comp: {len(shown)} frames are left."
        )
        other = Repair(label="Same frames, another speed", take={"timing": "frames"})
    else:
        message = f"The same frames run {float(ratio):.4g} times as fast as in the comp."
        other = Repair(label="Same time", take={"timing": "time"})
    return Advice(what="rate", weight="told", message=message, repairs=[other])


def _counted(form: DeliveryForm, losses: Losses) -> list[Advice]:
    codec = codec_named(form.codec)
    looked = f"frames looked at: {', '.join(map(str, losses.frames))}"
    found = []
    if form.contents == "rgb" and losses.alpha_low < 1:
        how = "straight colour alone" if form.alpha == "straight" else "laid over its colour"
        holds = Repair(label="RGB and alpha", form={"contents": "rgba"})
        apart = Repair(label="RGB and alpha apart", form={"contents": "apart"})
        message = f"The alpha is not in the file: what goes out is {how}."
        repairs = [holds, apart] if codec.alpha else [apart]
        found.append(Advice(what="alpha", weight="lost", message=message, repairs=repairs))
    if losses.lost_light:
        raised = Repair(label="Raise the alpha to hold it", form={"light": "raised"})
        message = (
            f"{losses.lost_light:,} pixels of light where the alpha is 0, such as glow, "
            f"come out black ({looked})."
        )
        found.append(Advice(what="light", weight="lost", message=message, repairs=[_EXR, raised]))
    if losses.soft:
        holds = Repair(label="Animated PNG", form={"codec": "apng"})
        message = f"{losses.soft:,} pixels are covered in part: they become covered, or not ({looked})."
        found.append(Advice(what="alpha", weight="lost", message=message, repairs=[holds]))
    if losses.clipped:
        outside = "beyond 65504, half's largest value," if codec.floating else "outside 0 to 1"
        message = f"{losses.clipped:,} pixels hold values {outside} that are cut off ({looked})."
        repairs = [_EXR32] if codec.floating else [_EXR]
        found.append(Advice(what="clipped", weight="lost", message=message, repairs=repairs))
    return found
