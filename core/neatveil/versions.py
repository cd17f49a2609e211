"""Documents of older versions: brought to today's, one step after another.

Every kind of document keeps its version under a key of its own and has a folder ``upgrades/`` with one file a
step between two versions. A step is a function from plain JSON data to new JSON data: it knows nothing of
today's models, so that it never has to change.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any

#: From a version to the next one.
Upgrade = Callable[[dict[str, Any]], dict[str, Any]]


def upgrade_document(data: Any, key: str, upgrades: Mapping[int, Upgrade]) -> Any:
    """The document in the newest version that the upgrades lead to.

    Parameters
    ----------
    data : plain JSON data. What is no document, names no version or is of a newer one is returned unchanged.
    key : the field that holds the version.
    upgrades : by the version that they begin with.
    """
    while isinstance(data, dict) and isinstance(data.get(key), int) and data[key] in upgrades:
        version = data[key]
        data = {**upgrades[version](data), key: version + 1}
    return data


def renamed(data: Any, names: Mapping[str, str]) -> Any:
    """An object with some of its fields under new names, also where they are animated."""
    if not isinstance(data, dict):
        return data
    found = {names.get(k, k): v for k, v in data.items()}
    if isinstance(found.get("keys"), dict):
        found["keys"] = {names.get(k, k): v for k, v in found["keys"].items()}
    return found


def replaced(data: Any, field: str, values: Mapping[str, str]) -> Any:
    """An object with other words in one of its fields."""
    if not isinstance(data, dict) or not isinstance(data.get(field), str):
        return data
    return {**data, field: values.get(data[field], data[field])}


def each(data: Any, field: str, work: Callable[[Any], Any]) -> Any:
    """An object with the members of one of its lists, or of one of its objects, changed."""
    if not isinstance(data, dict):
        return data
    inner = data.get(field)
    if isinstance(inner, list):
        return {**data, field: [work(v) for v in inner]}
    if isinstance(inner, dict):
        return {**data, field: {k: work(v) for k, v in inner.items()}}
    return data


def within(data: Any, field: str, work: Callable[[Any], Any]) -> Any:
    """An object with one of its fields changed, where it has it."""
    if not isinstance(data, dict) or data.get(field) is None:
        return data
    return {**data, field: work(data[field])}
