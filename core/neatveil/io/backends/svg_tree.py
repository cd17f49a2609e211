"""SVG files made safe to draw: read with expat, checked element by element, and written anew [SVG2].

What is drawn is what was checked, not the file: it has no DOCTYPE, no entities and no comments, and a root
whose size is known.
"""

from __future__ import annotations

import base64
import binascii
import re
from dataclasses import dataclass, field
from pathlib import Path
from typing import NoReturn
from urllib.parse import unquote_to_bytes
from xml.parsers import expat
from xml.sax.saxutils import escape, quoteattr

from ...errors import FileDamaged, FileRefused, PictureTooLarge

SVG = "http://www.w3.org/2000/svg"

MOST_BYTES = 32 << 20
MOST_ELEMENTS = 200_000
MOST_DEPTH = 256
#: Drawing programs name their namespaces by entities: these are few and short, and hold no others.
MOST_ENTITIES, _LONGEST_ENTITY = 64, 256
#: Pictures in data addresses may be SVG files themselves, but not in turn hold others.
_MOST_NESTED = 1

#: CSS Values 4, 6.2 and 5.1.1: pixels of absolute units; em and ex of the initial font of 16 px.
_UNITS = {
    "": 1.0, "px": 1.0, "pt": 4 / 3, "pc": 16.0, "in": 96.0, "cm": 96 / 2.54, "mm": 96 / 25.4,
    "q": 96 / 101.6, "em": 16.0, "ex": 8.0,
}  # fmt: skip
_LENGTH = re.compile(r"\s*([+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?)\s*([a-zA-Z]*|%)\s*")
_URL = re.compile(r"url\(\s*['\"]?\s*([^'\")]*)", re.IGNORECASE)
_PICTURE = re.compile(r"data:image/(png|jpe?g|gif|webp|svg\+xml)\b", re.IGNORECASE)

_NOT_DRAWN = {
    "script": "Its scripts are not run.",
    "foreignObject": "It holds parts that are not SVG (foreignObject): they are not drawn.",
    "animate": "It moves: it is drawn as it is before it does.",
    "text": "It holds text, which is drawn in the fonts that ship here: turn letters into outlines to keep "
    "those of another font.",
}
_NOT_DRAWN |= dict.fromkeys(("animateTransform", "animateMotion", "set"), _NOT_DRAWN["animate"])


@dataclass
class Drawing:
    """A checked SVG file.

    Attributes
    ----------
    text : the file, UTF-8; its root has ``width`` and ``height`` in whole pixels and a ``viewBox``.
    width, height : pixels.
    elements : how many it has.
    notes : what a person should know, in sentences.
    """

    text: bytes
    width: int
    height: int
    elements: int
    notes: list[str] = field(default_factory=list)


def read_drawing(data: bytes, name: str, most_side: int) -> Drawing:
    """Read and check a file's bytes.

    ``most_side``: pixels that its longer side may have.

    Raises `FileDamaged` where it is no SVG, with line and column; `FileRefused` where it refers to something
    outside, has entities that could grow, or too much in it; `PictureTooLarge`.
    """
    checked = _Checked(name)
    checked.read(data)
    tag, root = checked.root
    prefix, _, local = tag.rpartition(":")
    space = root.get(f"xmlns:{prefix}" if prefix else "xmlns")
    if local != "svg" or space != SVG:
        raise FileDamaged(
            f"{name} is not SVG: its outermost element is {local}"
            + (", which lacks the namespace of SVG." if local == "svg" else "."),
            advice=f'An SVG file begins with <svg xmlns="{SVG}">.', where=name,
        )  # fmt: skip
    width, height = _sized(root, name, most_side)
    text = "".join([_opened(tag, root), *checked.written]).encode()
    return Drawing(text, width, height, checked.count, checked.notes)


class _Checked:
    """What expat reads, checked and written again; names stay as the file has them.

    ``root``: name and attributes of the outermost element; ``written``: all that comes after its opening.
    """

    def __init__(self, name: str, nested: int = 0) -> None:
        self.name, self.nested = name, nested
        self.count = 0
        self.notes: list[str] = []
        self.root: tuple[str, dict[str, str]] = ("", {})
        self.written: list[str] = []
        self._entities = 0
        self._depth = 0
        self._style: list[str] | None = None

    def read(self, data: bytes) -> None:
        if len(data) > MOST_BYTES:
            self._refuse(f"it has {len(data) >> 20} MiB; at most {MOST_BYTES >> 20} are read")
        parser = self._parser = expat.ParserCreate()
        parser.buffer_text = True
        parser.StartElementHandler = self._start
        parser.EndElementHandler = self._end
        parser.CharacterDataHandler = self._data
        parser.EntityDeclHandler = self._entity
        parser.ProcessingInstructionHandler = self._instruction
        try:
            parser.Parse(data, True)
        except expat.ExpatError as error:
            what = expat.errors.messages.get(error.code, "not well-formed")
            if "amplification" in what:
                self._refuse("its entities grow out of all measure")
            raise FileDamaged(
                f"{self.name}, line {error.lineno}, column {error.offset + 1}: it is no SVG: {what}.",
                advice="Export it again.", where=self.name,
            ) from error  # fmt: skip

    def _refuse(self, why: str, advice: str = "Export it again with less in it.") -> NoReturn:
        line = self._parser.CurrentLineNumber if hasattr(self, "_parser") else 1
        raise FileRefused(f"{self.name}, line {line}: {why}.", advice=advice, where=self.name)

    def _start(self, name: str, attributes: dict[str, str]) -> None:
        self.count += 1
        self._depth += 1
        if self.count > MOST_ELEMENTS:
            self._refuse(f"it has more than {MOST_ELEMENTS:,} elements")
        if self._depth > MOST_DEPTH:
            self._refuse(f"its elements lie more than {MOST_DEPTH} deep in each other")
        tag = name.rpartition(":")[2]
        note = _NOT_DRAWN.get(tag)
        if note and note not in self.notes:
            self.notes.append(note)
        for key, value in attributes.items():
            if key.endswith("href") and tag != "a":
                self._check_reference(value)
            elif "(" in value or "\\" in value:
                self._check_style(value)
        if tag == "style":
            self._style = []
        if self._depth == 1:
            self.root = name, attributes
        else:
            self.written.append(_opened(name, attributes))

    def _end(self, name: str) -> None:
        self._depth -= 1
        if self._style is not None and name.rpartition(":")[2] == "style":
            self._check_style("".join(self._style))
            self._style = None
        self.written.append(f"</{name}>")

    def _data(self, text: str) -> None:
        if self._style is not None:
            self._style.append(text)
        self.written.append(escape(text))

    def _check_style(self, text: str) -> None:
        if "@import" in text.lower() or "\\" in text:
            self._refuse(
                "its style sheet takes in another one, or hides words behind backslashes",
                "Save it with its styles in the file.",
            )
        for address in _URL.findall(text):
            self._check_reference(address)

    def _check_reference(self, address: str) -> None:
        address = address.strip()
        if address.startswith("#") or not address:
            return
        if not _PICTURE.match(address):
            shown = address if len(address) <= 60 else address[:57] + "..."
            self._refuse(
                f"it refers to {shown}, which is outside the file", "Save it with everything embedded in it."
            )
        if "svg+xml" in address[:24].lower():
            self._check_nested(address)

    def _check_nested(self, address: str) -> None:
        """An SVG file inside the file is held to the same rules."""
        if self.nested >= _MOST_NESTED:
            self._refuse("it holds an SVG file that holds another one")
        head, _, body = address.partition(",")
        try:
            data = base64.b64decode(body) if head.endswith(";base64") else unquote_to_bytes(body)
        except binascii.Error:
            self._refuse("a picture in it cannot be read", "Export it again.")
        inner = _Checked(f"{self.name} (an SVG file in it)", self.nested + 1)
        inner.read(data)
        self.count += inner.count
        self.notes += [n for n in inner.notes if n not in self.notes]

    def _entity(
        self, name: str, parameter: bool, value: str | None, base: str | None, system: str | None,
        public: str | None, notation: str | None,
    ) -> None:  # fmt: skip
        del base, public, notation
        self._entities += 1
        if parameter or system is not None or value is None:
            self._refuse(
                f"the entity {name} is taken from outside the file", "Save it without entities of its own."
            )
        elif "&" in value or "%" in value or len(value) > _LONGEST_ENTITY or self._entities > MOST_ENTITIES:
            self._refuse(
                "it has entities that hold others, or many or long ones",
                "Save it without entities of its own.",
            )

    def _instruction(self, target: str, data: str) -> None:
        del data
        if target == "xml-stylesheet":
            self._refuse("its style sheet is another file", "Save it with its styles in the file.")


def _opened(name: str, attributes: dict[str, str]) -> str:
    return f"<{name}{''.join(f' {k}={quoteattr(v)}' for k, v in attributes.items())}>"


def _sized(root: dict[str, str], name: str, most_side: int) -> tuple[int, int]:
    """Give the root its size in whole pixels and a view box; its drawing fits into it."""
    box = _view_box(root.get("viewBox"), name)
    width, height = (_length(root.get(side), name) for side in ("width", "height"))
    if box is None:
        if width is None or height is None:
            raise FileDamaged(
                f"{name} does not say how large it is.",
                advice="Give it a width and a height, or a viewBox.", where=name,
            )  # fmt: skip
        box = (0.0, 0.0, width, height)
    share = box[2] / box[3]
    if width is None:
        width = height * share if height is not None else box[2]
    if height is None:
        height = width / share
    if not 0 < max(width, height) <= most_side:
        raise PictureTooLarge(
            f"{name} says it is {width:g} x {height:g} pixels; at most {most_side:,} are drawn along a side.",
            advice="Give it a smaller width and height: it is drawn sharp at every size all the same.",
            where=name,
        )
    whole = max(1, round(width)), max(1, round(height))
    view = " ".join(f"{v:.9g}" for v in box)
    root |= {"width": str(whole[0]), "height": str(whole[1]), "viewBox": view}
    return whole


def _length(text: str | None, name: str) -> float | None:
    """Pixels of a length; None where there is none, or it is a share of what is around the file."""
    if text is None or text.strip() in {"", "auto"}:
        return None
    m = _LENGTH.fullmatch(text)
    if m and m[2] == "%":
        return None
    if not m or m[2].lower() not in _UNITS or float(m[1]) <= 0:
        raise FileDamaged(
            f"{name} says that it is {text} wide or high, which is no size.",
            advice="A size is a number above 0, in px, pt, pc, mm, cm, in or without a unit.", where=name,
        )  # fmt: skip
    return float(m[1]) * _UNITS[m[2].lower()]


def _view_box(text: str | None, name: str) -> tuple[float, float, float, float] | None:
    if text is None:
        return None
    try:
        x, y, width, height = (float(v) for v in text.replace(",", " ").split())
    except ValueError:
        x = y = width = height = 0.0
    if not (width > 0 and height > 0 and max(abs(v) for v in (x, y, width, height)) < 1e9):
        raise FileDamaged(
            f"{name} has the viewBox {text}, which is no area.",
            advice="A viewBox is four numbers: x, y, width and height, the last two above 0.", where=name,
        )  # fmt: skip
    return x, y, width, height


def drawing_of(path: Path, most_side: int) -> Drawing:
    """As `read_drawing`, of a file."""
    return read_drawing(path.read_bytes(), path.name, most_side)
