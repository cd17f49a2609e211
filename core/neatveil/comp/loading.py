"""Reading comp documents: of any version, from plain data or a file."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

from pydantic import ValidationError

from ..errors import DocumentRefused, FileMissing
from .document import Comp
from .layers import Layer
from .upgrades import upgrade_comp

VERSION = 3


def parse_comp(data: Any, where: str = "", *, lenient: bool = False) -> Comp:
    """A comp from plain data of this version or an older one; `DocumentRefused` names every wrong field.

    ``lenient``: to show what can be shown. A document of a newer version is read as far as it is known here,
    and steps that are not valid are kept as `ForeignStep`. Never write such a comp back over its document:
    see `is_newer`.
    """
    data = upgrade_comp(data)
    newer = is_newer(data)
    if newer:
        if not lenient:
            raise DocumentRefused(
                f"The comp document is of version {data['neatveil']}; this program knows {VERSION}.",
                advice="Use the version of Neat Veil that made it, or a newer one.", where=where,
            )  # fmt: skip
        data = {**data, "neatveil": VERSION}
    try:
        return Comp.model_validate(data, extra="ignore" if newer else None, context={"lenient": lenient})
    except ValidationError as error:
        lines = [f"{'.'.join(str(p) for p in e['loc']) or 'document'}: {e['msg']}" for e in error.errors()]
        raise DocumentRefused(
            f"The comp document is not valid: {'; '.join(lines[:5])}.",
            advice="Compare it with `neatveil schema`.",
            where=where,
        ) from error


def is_newer(data: Any) -> bool:
    """Whether plain data is a comp document of a newer version than this program's."""
    version = data.get("neatveil") if isinstance(data, dict) else None
    return isinstance(version, int) and version > VERSION


def read_json(path: Path) -> Any:
    """What a document's file holds; `FileMissing`, or `DocumentRefused` where it is not JSON."""
    try:
        return json.loads(path.read_text("utf-8"))
    except FileNotFoundError:
        raise FileMissing(f"{path} is not there.", where=str(path)) from None
    except (ValueError, OSError) as error:
        raise DocumentRefused(f"{path} is not JSON: {error}", where=str(path)) from error


def load_comp(path: Path) -> Comp:
    """A comp from a JSON file.

    Parameters
    ----------
    path : of the document; files of its elements become absolute, seen from there.

    Returns
    -------
    The document in today's version.

    Raises
    ------
    DocumentRefused
        It is no comp, or something in it is wrong; the error names what.
    FileMissing
        It is not there.

    Examples
    --------
    >>> import tempfile
    >>> with tempfile.TemporaryDirectory() as folder:
    ...     path = Path(folder, "dusk.json")
    ...     _ = path.write_text('{"neatveil": 3, "name": "dusk", "layers": []}')
    ...     load_comp(path).name
    'dusk'
    """
    return _found_from(parse_comp(read_json(path), str(path)), path)


def _found_from(comp: Comp, path: Path) -> Comp:
    """The comp, and those in it, with the files of their elements seen from the document's place."""
    elements = {
        k: e.model_copy(update={"file": str((path.parent / e.file).resolve())})
        for k, e in comp.elements.items()
    }
    comps = {k: _found_from(c, path) for k, c in comp.comps.items()}
    named = {x.element for x in comp.all_layers if isinstance(x, Layer)}
    if missing := sorted(named - set(elements) - set(comps)):
        raise DocumentRefused(
            f"{path.name} has layers of elements that it does not list: {', '.join(missing)}.",
            where=str(path),
        )
    return comp.with_elements(elements, comps=comps, cameras=comp.cameras)


def document_schema() -> dict[str, Any]:
    """The JSON schema of the comp document.

    Returns
    -------
    As JSON Schema 2020-12 has it.

    Examples
    --------
    >>> "layers" in document_schema()["properties"]
    True
    """
    schema = Comp.model_json_schema()
    # a comp can hold comps: its own schema stands among the definitions, and here for readers
    whole = {**schema["$defs"]["Comp"], "$defs": schema["$defs"]}
    return {"$schema": "https://json-schema.org/draft/2020-12/schema", **whole}
