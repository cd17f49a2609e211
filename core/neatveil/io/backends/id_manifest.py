"""Names of objects in the header of a file with ID ranks.

Source: Friedman & Jones 2015, open specification for ID mattes, version 1.2.0 [FriedmanJones2015]: attributes
``cryptomatte/<id>/name`` and ``/manifest``, the latter JSON of names and hashes.
"""

from __future__ import annotations

import json
from collections.abc import Iterable
from typing import Any

#: Names that are kept of one layer.
MOST = 5000


def named_objects(specs: Iterable[Any]) -> dict[str, list[str]]:
    """Names by the layer that holds them; what cannot be read is left out."""
    texts: dict[str, dict[str, str]] = {}
    for spec in specs:
        for row in spec.extra_attribs:
            head, _, rest = row.name.partition("/")
            number, _, field = rest.partition("/")
            if head == "cryptomatte" and field in {"name", "manifest"}:
                texts.setdefault(number, {})[field] = str(row.value)
    found = {}
    for row in texts.values():
        try:
            manifest = json.loads(row.get("manifest", ""))
        except ValueError:
            continue
        if isinstance(manifest, dict) and row.get("name"):
            found[row["name"]] = sorted(str(n) for n in manifest)[:MOST]
    return found
