"""Delivering a comp in a form, and proving it at once."""

from __future__ import annotations

import argparse
import json
import sys
from fractions import Fraction
from pathlib import Path
from typing import Any

from .codecs import CODECS
from .comp.loading import load_comp
from .delivery import (
    DELIVERY_FORMATS,
    DeliveryForm,
    DeliveryFormat,
    Output,
    Proof,
    Take,
    Target,
    add_to_hash_list,
    count_losses,
    form_of,
    format_of,
    prove_together,
    taken,
    write_clip,
    write_together,
)
from .errors import ValueRefused, WouldLose, WriteFailed
from .evaluate import Evaluator
from .io import LocalDecoder
from .tokens import FRAME


def add_command(commands: Any, colour: Any) -> None:
    """``deliver``; ``colour``: how a colour is parsed."""
    deliver = commands.add_parser("deliver", help="write a comp, and prove what was written")
    deliver.add_argument("comp", metavar="COMP.json", type=Path)
    deliver.add_argument("--to", required=True, metavar="NAME", help="a path without its ending")
    deliver.add_argument(
        "--preset", choices=list(DELIVERY_FORMATS), action="append",
        help="several: each frame is evaluated once for all; {format} in NAME is the file format's name",
    )  # fmt: skip
    deliver.add_argument("--codec", choices=list(CODECS), help="a file format instead of the preset's")
    deliver.add_argument("--compression", help="of OpenEXR: none, rle, zips, zip, piz, pxr24, dwaa, dwab")
    deliver.add_argument("--tiles", action="store_true", default=None, help="OpenEXR in tiles of 64 x 64")
    deliver.add_argument("--multipart", action="store_true", default=None, help="OpenEXR's layers in parts")
    deliver.add_argument("--contents", choices=["rgba", "rgb", "alpha", "apart"])
    deliver.add_argument("--alpha", choices=["straight", "premultiplied"])
    deliver.add_argument("--matte", type=colour, help="colour that is premultiplied over: three code values")
    deliver.add_argument("--multiplied", choices=["linear", "encoded"])
    deliver.add_argument("--encoding", help="linear, srgb, rec709, cg/ACEScg, own/NAME ...")
    deliver.add_argument("--dither", choices=["none", "stable", "moving"], help="against bands in gradients")
    deliver.add_argument("--past-edge", type=int, metavar="PIXELS", help="that straight colour runs on")
    deliver.add_argument(
        "--light", choices=["lost", "raised"], help="where the alpha is 0, in straight files"
    )
    which = deliver.add_mutually_exclusive_group()
    which.add_argument(
        "--upto", metavar="LAYER", help="only what lies behind this layer, and itself: by its id"
    )
    which.add_argument("--layer", metavar="LAYER", help="only this layer or group")
    deliver.add_argument(
        "--layers", metavar="ID,ID:CHANNEL", default="",
        help="layers and groups, and data channels of them, that go into the same OpenEXR file",
    )  # fmt: skip
    deliver.add_argument("--frames", metavar="1-20,35", default="", help="default: the comp's range")
    deliver.add_argument("--size", type=_size, default={}, metavar="half|WxH")
    deliver.add_argument(
        "--filter", choices=["lanczos3", "catmull-rom", "triangle", "box"], default="lanczos3"
    )
    deliver.add_argument("--rate", default="", help="default: the comp's")
    deliver.add_argument(
        "--timing", choices=["frames", "time"], default="frames", help="what stays at that rate"
    )
    deliver.add_argument("--timecode", default="", metavar="01:00:00:00", help="of the first frame; ; drops")
    deliver.add_argument("--start", type=int, help="number of the first file")
    deliver.add_argument("--allow-loss", action="store_true", help="of light where the alpha is 0")
    deliver.add_argument("--json", action="store_true", help="print the proofs as JSON")
    deliver.set_defaults(command=_deliver)


def _size(text: str) -> dict[str, Any]:
    """Of a take: half, or width and height."""
    if text == "half":
        return {"size": "half"}
    width, _, height = text.partition("x")
    if not (width.isdigit() and height.isdigit()):
        raise argparse.ArgumentTypeError(f"{text!r} is no size; write half or 1920x1080")
    return {"size": "given", "width": int(width), "height": int(height)}


def _take(options: argparse.Namespace) -> Take:
    part = "upto" if options.upto else "layer" if options.layer else "comp"
    return Take(
        part=part, layer=options.upto or options.layer or "", frames=options.frames, **options.size,
        filter=options.filter, rate=options.rate, timing=options.timing, start=options.start,
        timecode=options.timecode, layers=[n.strip() for n in options.layers.split(",") if n.strip()],
    )  # fmt: skip


def _deliver(options: argparse.Namespace) -> int:
    decoder = LocalDecoder()
    take = taken(_take(options), load_comp(options.comp))
    source, frames, rate = take.source(Evaluator(decoder)), take.numbers, take.rate
    outputs = _outputs(options, frames)
    for made, _ in outputs:
        made.codec.refuse_size(take.width, take.height, options.to)
        take.refuse_format(made)
    formats = [made for made, _ in outputs]
    for made, losses in zip(formats, count_losses(source, formats, frames), strict=True):
        if losses.lost_light and not options.allow_loss:
            raise WouldLose(losses.words(made), advice="Deliver premultiplied, or say --allow-loss.")
    write_together(source, outputs, frames, rate, stamp=take.stamp())
    proofs = prove_together(source, decoder, outputs, frames, rate, loss_accepted=options.allow_loss)
    for made, target in outputs:
        name = target.path.name.removesuffix(made.ending).replace(FRAME, "").rstrip(".")
        write_clip(target.path.parent / f"{name}.otio", target, made, frames, rate)
        add_to_hash_list(target.path.parent, target.files(made, frames))
    _say(proofs, [o.target for o in outputs], rate, options.json)
    return 0 if all(p.good for p in proofs) else 1


def _outputs(options: argparse.Namespace, frames: list[int]) -> list[Output]:
    """`ValueRefused` where two forms would be written over each other."""
    found: list[Output] = []
    for preset in options.preset or ["png16-straight"]:
        for suffix, part in _form(options, preset).parts():
            made = format_of(part)
            target = _target(options.to.replace("{format}", made.codec.name) + suffix, made, frames)
            if any(o.target == target for o in found):
                raise ValueRefused(
                    f"Two forms would be written over each other as {target.path.name}.",
                    advice="Put {format} into the name.", where="to",
                )  # fmt: skip
            found.append(Output(made, target))
    return found


def _form(options: argparse.Namespace, preset: str) -> DeliveryForm:
    """The preset's, with what was said otherwise."""
    said = {
        name: getattr(options, name)
        for name in (
            "codec",
            "compression",
            "tiles",
            "multipart",
            "contents",
            "alpha",
            "matte",
            "multiplied",
            "encoding",
            "past_edge",
            "dither",
            "light",
        )
        if getattr(options, name) is not None
    }
    encoding = said.get("encoding", "")
    if options.config and encoding.startswith("own/"):
        said["encoding"] = f"{options.own}/{encoding.removeprefix('own/')}"
    return DeliveryForm.model_validate({**form_of(DELIVERY_FORMATS[preset]).model_dump(), **said})


def _target(to: str, made: DeliveryFormat, frames: list[int]) -> Target:
    """`WriteFailed` where something is there already: nothing is written over."""
    name = to.removesuffix(made.ending)
    marked = name if made.kind == "movie" or "#" in name else f"{name}.####"
    target = Target(Path(f"{marked}{made.ending}")).checked(made)
    there = next((p for p in target.files(made, frames) if p.exists()), None)
    if there is not None:
        raise WriteFailed(
            f"{there.name} is there already.", advice="Choose another name; nothing is written over.",
            where=str(there),
        )  # fmt: skip
    return target


def _say(proofs: list[Proof], targets: list[Target], rate: Fraction, as_json: bool) -> None:
    if as_json:
        print(json.dumps([{**p.model_dump(), "good": p.good} for p in proofs], indent=2))
        return
    for proof, target in zip(proofs, targets, strict=True):
        print(f"{target.path.name}: {'proved' if proof.good else 'not as meant'}")
        print("\n".join(proof_lines(proof, rate)))
        for problem in proof.problems:
            print(f"neatveil: {problem}", file=sys.stderr)


def proof_lines(proof: Proof, rate: Fraction) -> list[str]:
    """What a proof found; ``rate``: as it was meant, for frames, which carry none."""
    return [
        f"frames       {proof.frames_found} of {proof.frames_meant}",
        f"rate         {proof.rate_found or rate}",
        f"alpha        {proof.alpha_low:.6f} to {proof.alpha_high:.6f}",
        f"largest error  colour {proof.colour_error:.8f}, alpha {proof.alpha_error:.8f}",
        f"light lost   {proof.lost_light} pixels; clipped {proof.clipped} pixels",
    ]
