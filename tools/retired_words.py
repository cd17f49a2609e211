"""Refuse words that the project no longer uses on screen and in prose; docs/GLOSSARY.md has those it does."""

from __future__ import annotations

import re
import subprocess
import sys
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
#: A retired word, and the one that took its place.
RETIRED = {
    r"\bReadings on trial\b": "Compare readings",
    r"\bIt alone\b|\bUp to it\b": "Layer, Up to layer",
    r"\b(black|white) end\b": "black point, white point",
    r"\b[Ss]urely (in|out)\b": "core matte, garbage matte",
    r"\b[Ww]ithout (the )?card\b": "Remove screen colour",
    r"\b(green|blue) cards?\b|\bcard's (light|colour|channel|noise)\b": "green screen, blue screen",
    r"\b[Tt]ake(s)? (the )?spill off\b": "despill",
    r"\b[Bb]ring (it |them |the files )?in\b|\b[Bb]rought in\b": "import",
    r"\b[Oo]ff the list\b": "remove from list",
    r"\b[Mm]ake anew\b": "render again",
    r"\b[Ff]rames a second\b": "frame rate (fps)",
    r"\b(Make|Leave) it\b": "Create, Cancel",
    r"\b[Gg]ive it up\b|\b[Tt]ake what came\b": "Discard, Import received files",
    r"\bforetell": "predict, explain",
    r"\b[Ff]urther (channels?|planes?)\b": "extra channel",
    r"\b[Ss]park limit\b": "firefly clamp",
    r"\bcatch(es)? shadows\b": "shadow catcher",
    r"\b(before|after) encoding\b": "in linear light, in encoded values",
    r"\b[Mm]erge operator\b|\bmeets what\b": "blend mode",
    r"\b[Tt]here and back beyond\b": "ping-pong",
    # names in code and documents
    r"\b\w*Rungs?\b|\brungs\b": "Section",
    r"\b[Ss]leeve\b": "group",
    r"\bspark_limit\b": "firefly_clamp",
    r"\b(before|after)-encoding\b": "linear, encoded",
    r"[\"']swing[\"']": "ping-pong",
    r"\b(Taker|TwoStep|NearStep|Casting|SurfaceMet)\b": "StripSink, SecondSourceStep, ObjectRoles and others",
    r"\b(do_steps|lay_in_strips|placed_rows|joined_over)\b": "apply_steps, place_rows and others",
    r"\bRewrite\w*\b|\brewrite_(form|element)\w*": "transcode",
    r"\bsteps[./](doing|two|near|further)\b": "apply, second_source, neighbourhood, extra_channels",
}  # fmt: skip
#: Where prose and strings stand; what is written by a program is left out.
PLACES = (
    "web/src",
    "core",
    "server",
    "docs/guide",
    "docs/*.md",
    "README.md",
    "ARCHITECTURE.md",
    "CHANGELOG.md",
    "tests/browser",
)
LEFT_OUT = {"web/src/api/schema.d.ts", "docs/readings-matrix.md"}
#: What reads documents of older versions says their words.
OLDER = ("/migrations/", "/upgrades/")


def in_text(name: str, text: str) -> list[str]:
    """Each retired word of a text, as ``name:line: word``, with what it is called now."""
    return [
        f"{name}:{number}: {match.group()!r} is now: {instead}"
        for number, line in enumerate(text.splitlines(), 1)
        for pattern, instead in RETIRED.items()
        for match in re.finditer(pattern, line)
    ]


def found() -> list[str]:
    """The retired words of the whole project."""
    command = ["git", "ls-files", *PLACES]
    listed = subprocess.run(command, cwd=ROOT, capture_output=True, text=True, check=True).stdout.split()
    rows = []
    for name in listed:
        path = ROOT / name
        if (
            name not in LEFT_OUT
            and not any(folder in name for folder in OLDER)
            and path.suffix in {".py", ".ts", ".tsx", ".md"}
            and path.exists()
        ):
            rows += in_text(name, path.read_text("utf-8"))
    return rows


if __name__ == "__main__":
    rows = found()
    print("\n".join(rows))
    sys.exit(1 if rows else 0)
