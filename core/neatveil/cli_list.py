"""Rendering a comp once for every row of a list."""

from __future__ import annotations

import argparse
import hashlib
import sys
from collections.abc import Callable, Sequence
from pathlib import Path

from .comp import Comp, Element
from .comp.rows import Row, load_rows, problems_of, row_tokens
from .comp.slots import filled
from .comp.starting import element_of_facts
from .errors import FileMissing, ValueRefused
from .io import Facts, LocalDecoder
from .tokens import named_by


def element_of_file(source: str, decoder: LocalDecoder) -> tuple[Element, Facts]:
    """A file as an element that is read as it says of itself, with its facts."""
    facts = decoder.probe(source)
    return element_of_facts(facts, source), facts


class ListedPictures:
    """Finds what cells name: the comp's own elements and comps, by key or name, or files beside the list."""

    def __init__(self, comp: Comp, folder: Path, decoder: LocalDecoder) -> None:
        self._folder, self._decoder = folder, decoder
        named = [(k, x.name) for k, x in comp.elements.items()] + [(k, x.name) for k, x in comp.comps.items()]
        self._known = {name: key for key, name in reversed(named)} | {key: key for key, _ in named}
        self._files: dict[str, tuple[str, Element]] = {}

    def __call__(self, cell: str) -> tuple[str, Element | None]:
        if cell in self._known:
            return self._known[cell], None
        if cell not in self._files:
            path = self._folder / cell
            if "#" not in cell and not path.is_file():
                raise FileMissing(
                    f"{cell} is neither an element of the comp nor a file beside the list.",
                    advice="Give a path that is seen from the list's folder.", where=cell,
                )  # fmt: skip
            key = "row-" + hashlib.sha256(str(path).encode()).hexdigest()[:16]
            self._files[cell] = key, element_of_file(str(path), self._decoder)[0]
        return self._files[cell]


def render_rows(
    options: argparse.Namespace, comp: Comp, decoder: LocalDecoder, render: Callable[[Comp, str], None]
) -> int:
    """Render every chosen row; nothing where a cell is wrong. ``render``: one comp to a file or a pattern."""
    rows: Sequence[Row] = load_rows(options.list) if options.list else comp.rows
    folder = (options.list or options.comp).parent
    if not rows:
        raise ValueRefused(
            "The list has no rows.", advice="Its first line names the slots, each other is a row."
        )
    chosen = options.rows or range(1, len(rows) + 1)
    if beyond := [n for n in chosen if not 1 <= n <= len(rows)]:
        raise ValueRefused(f"Row {beyond[0]} was asked; the list has {len(rows)}.")
    pictures = ListedPictures(comp, folder, decoder)
    problems = [p for p in problems_of(comp, rows, pictures) if p.row in (0, *chosen)]
    for problem in problems:
        place = f"row {problem.row}, {problem.column}" if problem.row else problem.column
        print(f"neatveil: {place}: {problem.message} {problem.advice}", file=sys.stderr)
    if problems:
        return 1
    targets = {n: named_by(options.to, row_tokens(rows[n - 1], n, len(rows))) for n in chosen}
    if len(set(targets.values())) < len(targets):
        raise ValueRefused(
            f"Rows would be written over each other as {options.to}.",
            advice="Put {row} or a slot's name in braces into it.",
        )
    for number, target in targets.items():
        if sys.stderr.isatty():
            print(f"\rrow {number} of {len(rows)}", end="", file=sys.stderr)
        render(filled(comp, rows[number - 1], pictures), target)
    return 0
