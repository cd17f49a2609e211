"""Lists: tables whose rows fill a comp's slots, and what is wrong with them, cell by cell.

Source: RFC 4180, comma-separated values [RFC4180]; a tab or a semicolon separates as well, as spreadsheets
copy and some of them write.
"""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Mapping, Sequence
from pathlib import Path
from typing import NamedTuple

from ..errors import FileMissing, NeatVeilError, ValueRefused
from .document import Comp
from .slots import Pictures, columns_of, filled_by_kind

Row = Mapping[str, str]
#: Rows that a list may have.
MOST_ROWS = 10_000


class CellProblem(NamedTuple):
    """``row``: from 1; ``column``: a slot's name."""

    row: int
    column: str
    message: str
    advice: str


def parse_rows(text: str) -> list[dict[str, str]]:
    """Rows of a table whose first line names the columns.

    Parameters
    ----------
    text : comma-separated values by RFC 4180; or separated by tabs, or semicolons.

    Returns
    -------
    Cells by column, spaces around them taken away. Lines without a cell are left out.

    Raises
    ------
    ValueRefused
        A line has more cells than there are columns, a quote is not closed, a name is given twice, or there
        are more than 10,000 rows; the message names the line.

    Notes
    -----
    Source: RFC 4180 [RFC4180].

    Examples
    --------
    >>> parse_rows('artwork,tint\\r\\n"dusk, wide.png",#ff0000\\r\\n')
    [{'artwork': 'dusk, wide.png', 'tint': '#ff0000'}]
    """
    text = text.removeprefix("\ufeff")
    first = text.partition("\n")[0]
    separator = max(",\t;", key=lambda s: (first.count(s), s == ","))
    reader = csv.reader(io.StringIO(text, newline=""), delimiter=separator, strict=True)
    names: list[str] = []
    found: list[dict[str, str]] = []
    try:
        for cells in reader:
            row = [c.strip() for c in cells]
            if not any(row):
                continue
            if not names:
                names = _names(row)
            elif len(row) > len(names):
                raise ValueRefused(
                    f"Line {reader.line_num} has {len(row)} cells; the first line names {len(names)}.",
                    advice="Put text that holds a separator in quotes.", where=str(reader.line_num),
                )  # fmt: skip
            else:
                if len(found) == MOST_ROWS:
                    raise ValueRefused(f"There are more than {MOST_ROWS:,} rows.", advice="Cut the list.")
                found.append(dict(zip(names, row + [""] * (len(names) - len(row)), strict=True)))
    except csv.Error as error:
        raise ValueRefused(
            f"Line {reader.line_num} cannot be read: {error}.",
            advice="A quote inside quotes is written twice.", where=str(reader.line_num),
        ) from error  # fmt: skip
    return found


def _names(row: Sequence[str]) -> list[str]:
    named = [n for n in row if n]
    if twice := sorted({n for n in named if named.count(n) > 1}):
        raise ValueRefused(
            f"The column {twice[0]} is there twice.", advice="Name each column once.", where="1"
        )
    return list(row)


def load_rows(path: Path) -> list[dict[str, str]]:
    """As `parse_rows`, of a file in UTF-8; `FileMissing` where it is not there."""
    try:
        text = path.read_bytes().decode("utf-8")
    except FileNotFoundError:
        raise FileMissing(f"{path} is not there.", where=str(path)) from None
    except UnicodeDecodeError as error:
        raise ValueRefused(
            f"{path} is not UTF-8 text.", advice="Save it as UTF-8.", where=str(path)
        ) from error
    return parse_rows(text)


def problems_of(comp: Comp, rows: Sequence[Row], pictures: Pictures) -> list[CellProblem]:
    """What is wrong, before anything is drawn; columns that are no slot once, with row 0."""
    slots = columns_of(comp)
    columns = dict.fromkeys(c for row in rows for c in row)
    found = [
        CellProblem(
            0,
            c,
            f"There is no slot {c}.",
            f"Slots are {', '.join(slots) or 'not made yet'}.",
        )
        for c in columns
        if c and c not in slots
    ]
    for number, row in enumerate(rows, 1):
        for name in slots:
            if not row.get(name, "").strip():
                continue
            try:
                filled_by_kind(comp, {name: row[name]}, slots, pictures)
            except NeatVeilError as error:
                found.append(CellProblem(number, name, error.message, error.advice))
    return found


def row_tokens(row: Row, number: int, count: int) -> dict[str, str]:
    """What stands for ``{row}`` and for every slot by its name in the names of a row's files.

    A picture's name is without its ending; a cell that is empty has no value.
    """
    cells = {n: re.sub(r"\.[A-Za-z0-9]{1,5}$", "", Path(c).name) for n, c in row.items() if c}
    return {**cells, "row": f"{number:0{len(str(count))}d}"}
