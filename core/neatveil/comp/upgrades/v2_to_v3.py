"""Version 3 makes groups layers: neighbours that bore one group's name become the members of a group."""

from __future__ import annotations

from typing import Any


def upgrade(data: dict[str, Any]) -> dict[str, Any]:
    """A whole document.

    Version 2 looked for neighbours among the layers that were shown on a frame; here they are those that
    stand side by side in the document.
    """
    layers = data.get("layers")
    if not isinstance(layers, list):
        return data
    taken = {x["id"] for x in layers if isinstance(x, dict) and isinstance(x.get("id"), str)}
    found: list[Any] = []
    last = ""
    for layer in layers:
        if not isinstance(layer, dict):
            found.append(layer)
            last = ""
            continue
        name = layer.get("group")
        member = {k: v for k, v in layer.items() if k != "group"}
        if not isinstance(name, str) or not name:
            found.append(member)
            last = ""
            continue
        if name != last:
            found.append({"kind": "group", "id": _new_id(taken), "name": name, "layers": []})
        found[-1]["layers"].append(member)
        last = name
    return {**data, "layers": found}


def _new_id(taken: set[str]) -> str:
    number = 1
    while f"group{number}" in taken:
        number += 1
    taken.add(f"group{number}")
    return f"group{number}"
