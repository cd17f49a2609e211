"""Commands about elements: what the pixels say of a reading, and transcoding."""

from __future__ import annotations

import argparse
import sys
from collections.abc import Callable
from fractions import Fraction
from pathlib import Path
from typing import Any

from .cli_list import element_of_file
from .codecs import CODECS, codec_named
from .errors import RateMissing, ValueRefused, WouldLose
from .evaluate import Evaluator
from .evaluate.reading_trials import suggestion_for
from .io import LocalDecoder
from .transcode import check, dropped, narrowed, transcode


def add_commands(commands: Any, rate: Callable[[str], Fraction]) -> None:
    """``reading`` and ``transcode``; ``rate``: how a frame rate is parsed."""
    reading = commands.add_parser("reading", help="what the pixels say of how an alpha is meant")
    reading.add_argument("source", metavar="FILE|PATTERN")
    reading.add_argument("--json", action="store_true", help="print all that was found as JSON")
    reading.set_defaults(command=_reading)

    again = commands.add_parser(
        "transcode", help="write in another codec or as frames, and compare every frame"
    )
    again.add_argument("source", metavar="IN")
    again.add_argument("target", metavar="OUT", type=Path)
    again.add_argument("--format", choices=list(CODECS), required=True)
    again.add_argument("--rate", type=rate, help="of a movie written from frames that give none")
    again.add_argument("--alpha-may-go", action="store_true", help="allow a format that cannot hold it")
    again.add_argument("--allow-loss", action="store_true", help="allow a format that cannot hold everything")
    again.set_defaults(command=_transcode)


def _reading(options: argparse.Namespace) -> int:
    decoder = LocalDecoder()
    element, facts = element_of_file(options.source, decoder)
    found = suggestion_for(Evaluator(decoder), element, facts)
    if found is None:
        raise ValueRefused(f"{facts.name} has no alpha to be read.")
    if options.json:
        print(found.model_dump_json(indent=2))
        return 0
    print(found.reading.words() if found.reading else "cannot tell")
    print(found.reason)
    for candidate in found.candidates:
        score = "" if candidate.score is None else f"{candidate.score:6.1%}  "
        print(f"  {score}{candidate.reading.words()}")
    return 0


def _transcode(options: argparse.Namespace) -> int:
    decoder, codec = LocalDecoder(), codec_named(options.format)
    element, facts = element_of_file(options.source, decoder)
    given = options.rate or (Fraction(facts.rate) if facts.rate else None)
    if codec.kind == "movie" and given is None:
        raise RateMissing(f"{facts.name} gives no frame rate.", advice="Say --rate.", where=facts.name)
    frames = range(facts.first, facts.last + 1)
    lost = dropped(element, facts, codec)
    accepted = options.allow_loss or (options.alpha_may_go and len(lost) == 1)
    if lost and not accepted:
        raise WouldLose(
            " ".join(lost), advice="Choose another format, or say --allow-loss.", where=facts.name
        )
    for sentence in [*lost, *narrowed(element, facts, codec)]:
        print(f"neatveil: {sentence}", file=sys.stderr)
    transcode(
        element, decoder, codec, options.target, frames, rate=given or Fraction(25), allow_loss=accepted
    )
    report = check(element, decoder, codec, options.target, frames)
    off = (f"{v * 255:.4f}" for v in (report.colour_mean, report.colour_most, report.alpha_most))
    print(
        f"{report.frames_after} of {report.frames_before} frames; colour off by {next(off)} in the mean, "
        f"{next(off)} at most, alpha {next(off)} at most, of 255"
    )
    for problem in report.problems:
        print(problem)
    return 1 if report.problems else 0
