"""The command line: `neatveil probe | reading | convert | transcode | render | scene | verify | schema`.

Exit status 0 when all went well, 1 with one line on standard error when something is wrong, 2 for
a wrong call.
"""

from __future__ import annotations

import argparse
import json
import sys
from collections.abc import Callable, Sequence
from dataclasses import replace
from fractions import Fraction
from pathlib import Path

from .alpha import Reading, read
from .cli_deliver import add_command as add_deliver
from .cli_deliver import proof_lines
from .cli_elements import add_commands
from .cli_list import render_rows
from .colour import encoding_named
from .colour.configurations import give
from .comp import Comp, document_schema, load_comp
from .comp.rate import parse_rate
from .delivery import Target, format_for_file, lost_in, prove, verify_hash_list, write_frames, write_movie
from .delivery.write import meant, write_frame
from .drawn import font_files
from .errors import FileMissing, NeatVeilError, RateMissing, ValueRefused
from .evaluate import Evaluator
from .frame_list import parse_frames
from .io import Facts, LocalDecoder
from .picture import PremultipliedPicture
from .scene import read_scene
from .scene.parallel import Order, render_order
from .scene.setup import RenderSetup, load_setup, setup_schema


def main(arguments: Sequence[str] | None = None) -> int:
    """Run one command; returns the exit status."""
    options = _parser().parse_args(arguments)
    command: Callable[[argparse.Namespace], int] = options.command
    try:
        if options.config:
            options.own = give(options.config)
        for font in options.font:
            font_files.give(font)
        return command(options)
    except NeatVeilError as error:
        print(f"neatveil: {' '.join(str(error).split())}", file=sys.stderr)
    except (OSError, ValueError) as error:
        print(f"neatveil: {' '.join(str(error).split())}", file=sys.stderr)
    except KeyboardInterrupt:
        print("neatveil: stopped; files that were whole are kept.", file=sys.stderr)
    return 1


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(
        prog="neatveil", description="Pictures with transparency, by exact arithmetic."
    )
    parser.add_argument(
        "--config", metavar="FILE.ocio", type=Path, default=None,
        help="a configuration of OpenColorIO: its spaces are own/NAME, or as a comp names them",
    )  # fmt: skip
    parser.add_argument(
        "--font", metavar="FILE.ttf", type=Path, action="append", default=[],
        help="a font file that texts of a comp are set in; may be given several times",
    )  # fmt: skip
    commands = parser.add_subparsers(required=True, metavar="COMMAND")

    probe = commands.add_parser("probe", help="facts of a file or of a pattern such as shot.####.exr")
    probe.add_argument("source", metavar="FILE|PATTERN")
    probe.add_argument("--json", action="store_true", help="print the facts as JSON")
    probe.set_defaults(command=_probe)

    add_commands(commands, _rate)
    add_deliver(commands, _matte)

    convert = commands.add_parser("convert", help="read with one state of alpha, write with another")
    convert.add_argument("source", metavar="IN")
    convert.add_argument("target", metavar="OUT")
    convert.add_argument("--read", choices=["straight", "premultiplied", "none"], required=True)
    convert.add_argument(
        "--matte",
        metavar="R,G,B",
        type=_matte,
        default=(0.0, 0.0, 0.0),
        help="colour a premultiplied picture was multiplied over, code values 0..1",
    )
    convert.add_argument("--inverted", action="store_true", help="the file's alpha is inverted")
    convert.add_argument(
        "--multiplied",
        choices=["linear", "encoded"],
        help="default: encoded for display-encoded files",
    )
    convert.add_argument("--write", choices=["straight", "premultiplied"], required=True)
    convert.add_argument("--rate", type=_rate, help="rate of a movie written from frames")
    convert.set_defaults(command=_convert)

    render = commands.add_parser("render", help="evaluate a comp document and write its frames")
    render.add_argument("comp", metavar="COMP.json", type=Path)
    render.add_argument("--frames", metavar="A-B", type=_range, help="default: the comp's range")
    render.add_argument("--to", metavar="PATTERN", required=True, help="with {row} or {SLOT} for each row")
    render.add_argument("--list", metavar="ROWS.csv", type=Path, help="once for every row, filling the slots")
    render.add_argument(
        "--rows", metavar="1-20,35", type=_rows, help="of the list, or of the comp's own list"
    )
    render.set_defaults(command=_render)

    verify = commands.add_parser("verify", help="compare written files with a comp document, or a hash list")
    verify.add_argument("written", metavar="WRITTEN")
    against = verify.add_mutually_exclusive_group(required=True)
    against.add_argument("--against", metavar="COMP.json", type=Path)
    against.add_argument(
        "--mhl", action="store_true", help="hash a folder's files again, by its ASC MHL list"
    )
    verify.add_argument("--frames", metavar="A-B", type=_range, help="default: the comp's range")
    verify.add_argument("--json", action="store_true", help="print the proof as JSON")
    verify.set_defaults(command=_verify)

    scene = commands.add_parser("scene", help="render the passes of a glTF scene")
    scene.add_argument("scene", metavar="SCENE.glb", type=Path)
    scene.add_argument("--setup", metavar="SETUP.json", type=Path, required=True)
    scene.add_argument("--frames", metavar="A-B", type=_range, help="default: the set-up's range")
    scene.add_argument("--to", metavar="DIR", type=Path, required=True)
    scene.add_argument("--draft", action="store_true", help="small, coarse and fast, as the set-up says")
    scene.add_argument("--processes", type=int, metavar="N", help="default: one a processor")
    scene.set_defaults(command=_scene)

    schema = commands.add_parser("schema", help="print the JSON schema of the comp document")
    schema.add_argument("--setup", action="store_true", help="that of the render set-up instead")
    schema.set_defaults(command=_schema)
    return parser


def _matte(text: str) -> tuple[float, float, float]:
    try:
        r, g, b = (float(v) for v in text.split(","))
    except ValueError:
        raise argparse.ArgumentTypeError(f"{text!r} is not a colour; write R,G,B such as 0,1,0") from None
    if not all(0 <= v <= 1 for v in (r, g, b)):
        raise argparse.ArgumentTypeError(f"{text!r}: code values go from 0 to 1")
    return (r, g, b)


def _rate(text: str) -> Fraction:
    try:
        return parse_rate(text)
    except ValueError as error:
        raise argparse.ArgumentTypeError(str(error)) from None


def _range(text: str) -> range:
    first, dash, last = text.partition("-")
    try:
        frames = range(int(first), int(last if dash else first) + 1)
    except ValueError:
        raise argparse.ArgumentTypeError(f"{text!r} is not a frame range; write 1-48") from None
    if not frames:
        raise argparse.ArgumentTypeError(f"{text!r}: the last frame lies before the first")
    return frames


def _rows(text: str) -> list[int]:
    try:
        return parse_frames(text)
    except ValueRefused as error:
        raise argparse.ArgumentTypeError(str(error)) from None


def _probe(options: argparse.Namespace) -> int:
    facts = LocalDecoder().probe(options.source)
    if options.json:
        print(json.dumps(facts.model_dump(), indent=2))
        return 0
    for label, value in fact_lines(facts):
        print(f"{label:<12} {value}")
    return 0


def fact_lines(facts: Facts) -> list[tuple[str, str]]:
    """The facts as label and words."""
    lines = [
        ("name", facts.name),
        ("kind", f"{facts.kind}, {facts.format}"),
        ("size", f"{facts.width} x {facts.height}"),
        ("frames", f"{facts.count} ({facts.first} to {facts.last})"),
        ("rate", facts.rate or "not given"),
        ("codec", facts.codec or "none"),
        ("samples", f"{facts.pixel_format}, {facts.bit_depth} bits"),
        ("channels", ", ".join(c.name + (" (data)" if c.data else "") for c in facts.channels)),
        ("alpha", facts.alpha_use),
        ("claim", f"{facts.alpha_claim} ({facts.alpha_claim_by})" if facts.alpha_claim else "none"),
        ("encoding", f"{facts.encoding} ({facts.encoding_by})"),
    ]
    if facts.data_window:
        lines.append(("data window", " ".join(map(str, facts.data_window))))
    return lines + [("note", n) for n in facts.notes]


def _convert(options: argparse.Namespace) -> int:
    decoder = LocalDecoder()
    facts = decoder.probe(options.source)
    transfer = encoding_named(facts.encoding).name
    encoded = transfer != "linear"
    multiplied = options.multiplied or ("encoded" if encoded else "linear")
    reading = Reading(
        alpha=options.read, matte=options.matte, inverted=options.inverted, multiplied=multiplied
    )
    delivery_format = format_for_file(options.target)
    # as it is read by default, so that what was written comes back to itself
    usual = "linear" if delivery_format.encoding == "linear" else "encoded"
    written = usual if delivery_format.encoding == "linear" else options.multiplied or usual
    delivery_format = replace(delivery_format, reading=Reading(alpha=options.write, multiplied=written))
    if delivery_format.encoding != "linear" and encoded:
        delivery_format = replace(delivery_format, encoding=transfer)
    if delivery_format.name.startswith("exr") and facts.bit_depth > 16:
        delivery_format = replace(delivery_format, codec=replace(delivery_format.codec, sample="float"))

    lost = [0, 0]

    def frame(number: int) -> PremultipliedPicture:
        picture = read(decoder.read(options.source, number), reading, facts.encoding)
        light, clipped = lost_in(picture, meant(picture, delivery_format), delivery_format)
        lost[0], lost[1] = (
            lost[0] + light,
            lost[1] + (clipped if delivery_format.codec.sample == "half" else 0),
        )
        return picture

    if facts.kind == "still" and delivery_format.kind == "frames":
        write_frame(frame(0), delivery_format, Path(options.target))
        return _say_lost(*lost)
    numbers = [n for n in range(facts.first, facts.last + 1) if n not in set(facts.missing)]
    if facts.missing:
        print(f"neatveil: frames missing: {', '.join(map(str, facts.missing))}", file=sys.stderr)
    if delivery_format.kind == "frames":
        write_frames(frame, delivery_format, Target(Path(options.target)), numbers)
        return max(_say_lost(*lost), int(bool(facts.missing)))
    rate = options.rate or (parse_rate(facts.rate) if facts.rate else None)
    if rate is None:
        raise RateMissing(f"{facts.name} has no frame rate.", advice="Give one with --rate.")
    write_movie(frame, delivery_format, Target(Path(options.target)), numbers, rate)
    return max(_say_lost(*lost), int(bool(facts.missing)))


def _say_lost(light: int, beyond_half: int) -> int:
    """The exit status, after saying what could not be held."""
    if light:
        print(f"neatveil: {light} pixels of light where the alpha is 0 could not be held", file=sys.stderr)
    if beyond_half:
        print(
            f"neatveil: {beyond_half} pixels are beyond what a half holds and were cut off at 65504",
            file=sys.stderr,
        )
    return int(bool(light or beyond_half))


def _frames(options: argparse.Namespace, of: Comp | RenderSetup) -> list[int]:
    frames = options.frames or range(of.first, of.last + 1)
    first, last = min(frames), max(frames)
    if first < of.first or last > of.last:
        asked = f"Frames {first} to {last} were asked"
        name = "comp" if isinstance(of, Comp) else "set-up"
        raise ValueRefused(f"{asked}; the {name} has {of.first} to {of.last}.")
    return list(frames)


def _render(options: argparse.Namespace) -> int:
    comp, decoder = load_comp(options.comp), LocalDecoder()
    evaluator = Evaluator(decoder)
    format_for_file(options.to)
    if options.list or options.rows:
        return render_rows(options, comp, decoder, lambda c, to: _render_one(options, evaluator, c, to))
    _render_one(options, evaluator, comp, options.to)
    return 0


def _render_one(options: argparse.Namespace, evaluator: Evaluator, comp: Comp, to: str) -> None:
    delivery_format, target = format_for_file(to), Target(Path(to))
    frames = _frames(options, comp)

    def progress(frame: int) -> None:
        if sys.stderr.isatty():
            print(f"\r{frame} of {frames[0]} to {frames[-1]}", end="", file=sys.stderr)

    def source(frame: int) -> PremultipliedPicture:
        return evaluator.picture(comp, frame, keep=False)

    if delivery_format.kind == "movie":
        write_movie(source, delivery_format, target, frames, comp.rate, progress=progress)
    else:
        write_frames(source, delivery_format, target, frames, progress=progress)


def _verify_list(options: argparse.Namespace) -> int:
    check = verify_hash_list(Path(options.written))
    if options.json:
        print(json.dumps({**check.model_dump(), "good": check.good}, indent=2))
    else:
        print(f"{check.files} files in {check.generations} generations")
    for what, names in (("changed", check.changed), ("missing", check.missing)):
        for name in names:
            print(f"neatveil: {name} is {what}", file=sys.stderr)
    return 0 if check.good else 1


def _verify(options: argparse.Namespace) -> int:
    if options.mhl:
        return _verify_list(options)
    comp = load_comp(options.against)
    decoder = LocalDecoder()
    evaluator = Evaluator(decoder)
    delivery_format, target = format_for_file(options.written), Target(Path(options.written))
    target.checked(delivery_format)
    frames = _frames(options, comp)
    if not any(p.is_file() for p in target.files(delivery_format, frames)):
        raise FileMissing(f"No file of {target.path} is there.", where=str(target.path))
    proof = prove(
        lambda f: evaluator.picture(comp, f, keep=False), decoder, delivery_format, target, frames, comp.rate
    )
    if options.json:
        print(json.dumps({**proof.model_dump(), "good": proof.good}, indent=2))
    else:
        print("\n".join(proof_lines(proof, comp.rate)))
        for name, digest in proof.hashes.items():
            print(f"{digest}  {name}")
    if not proof.good:
        print(f"neatveil: {proof.problems[0]}", file=sys.stderr)
    return 0 if proof.good else 1


def _scene(options: argparse.Namespace) -> int:
    setup, scene = load_setup(options.setup), read_scene(options.scene)
    if options.draft:
        setup = setup.model_copy(update={"use": "draft"})
    frames = _frames(options, setup)
    for note in scene.notes:
        print(f"neatveil: {note}", file=sys.stderr)
    done = 0

    def progress(frame: int) -> None:
        nonlocal done
        done += 1
        if sys.stderr.isatty():
            print(f"\r{done} of {len(frames)} frames", end="", file=sys.stderr)

    order = Order(options.scene, setup, options.setup.parent, options.to)
    render_order(order, frames, processes=options.processes, progress=progress)
    return 0


def _schema(options: argparse.Namespace) -> int:
    print(json.dumps(setup_schema() if options.setup else document_schema(), indent=2))
    return 0


if __name__ == "__main__":
    sys.exit(main())
