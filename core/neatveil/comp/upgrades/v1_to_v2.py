"""Version 2 takes the trade's words: transform, rotation, beyond, combine, screen, tone and others."""

from __future__ import annotations

from typing import Any

from ...versions import each, renamed, replaced, within

_ROTATION = {"turn": "rotation"}
_BEYOND = {"ends": "beyond"}
_PING_PONG = {"swing": "ping-pong"}
_STEPS = {
    "patch": {"given": "input_alpha", "made": "output_alpha", "extent": "chroma_range"},
    "blur": {"form": "kernel"},
}  # fmt: skip
_PARTS = {
    "key": {"colour": "screen_colour", "uneven": "evenness"},
    "shape": {**_ROTATION, "inside": "soft_inside", "outside": "soft_outside"},
    "object": {"layer": "ranks", "names": "objects"},
}


def upgrade(data: dict[str, Any]) -> dict[str, Any]:
    """A whole document."""
    upgraded: dict[str, Any] = each(each(data, "elements", _element), "layers", _layer)
    return upgraded


def upgrade_step(step: Any) -> Any:
    """One step of a layer, or of a set that is kept by itself."""
    step = _with_curves(renamed(step, {**_ROTATION, "further": "extra_channel"}))
    if not isinstance(step, dict):
        return step
    step = renamed(step, _STEPS.get(str(step.get("kind")), {}))
    if step.get("kind") == "patch":
        sides = {"one": "own", "two": "second"}
        step = each(step, "routes", lambda route: replaced(route, "source", sides))
    return within(replaced(step, "kind", {"grade": "tone"}), "through", _through)


def upgrade_reading(reading: Any) -> Any:
    """How the alpha of an element is meant."""
    return replaced(reading, "multiplied", {"before-encoding": "linear", "after-encoding": "encoded"})


def _element(element: Any) -> Any:
    element = within(renamed(element, {"parts": "joined"}), "reading", upgrade_reading)
    return each(element, "joined", lambda channel: renamed(channel, _BEYOND))


def _layer(layer: Any) -> Any:
    layer = _with_curves(renamed(layer, {**_BEYOND, "place": "transform"}))
    layer = replaced(layer, "beyond", _PING_PONG)
    layer = within(layer, "transform", lambda t: _with_curves(renamed(t, _ROTATION)))
    return within(each(layer, "steps", upgrade_step), "matte", _matte)


def _through(through: Any) -> Any:
    return within(_with_curves(renamed(through, _ROTATION)), "matte", _matte)


def _matte(matte: Any) -> Any:
    matte = replaced(renamed(matte, {"edges": "edge_colour"}), "edge_colour", {"card": "screen"})
    return each(_with_curves(matte), "parts", _part)


def _part(part: Any) -> Any:
    if not isinstance(part, dict):
        return part
    part = renamed(part, {"how": "combine", **_PARTS.get(str(part.get("kind")), {})})
    if part.get("kind") == "key":
        part = replaced(part, "by", {"card": "screen"})
        part = replaced(part, "evenness", {"fit": "uneven"})
    return _with_curves(part)


def _with_curves(animated: Any) -> Any:
    """What carries keys, with its curves repeated back and forth under their new word."""
    return within(animated, "keys", _curves)


def _curves(keys: Any) -> Any:
    if not isinstance(keys, dict):
        return keys
    return {name: replaced(curve, "beyond", _PING_PONG) for name, curve in keys.items()}
