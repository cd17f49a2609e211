"""Two changes of one document put together: what somebody takes back, beside what others did meanwhile.

Works on plain data. Objects are merged field by field; lists of things with an ``id``, such as layers, by it;
lists of equal length place by place; of anything else one side must have left it as it was.
"""

from __future__ import annotations

from typing import Any

_GONE = object()


def merge(base: Any, mine: Any, theirs: Any) -> tuple[Any, list[str]]:
    """``theirs`` with what changed from ``base`` to ``mine``; and the places where both changed otherwise.

    Those places keep what ``theirs`` has.

    >>> merge({"a": 1, "b": 1}, {"a": 2, "b": 1}, {"a": 1, "b": 3})
    ({'a': 2, 'b': 3}, [])
    >>> merge({"a": 1}, {"a": 2}, {"a": 3})
    ({'a': 3}, ['a'])
    """
    clashes: list[str] = []
    return _merged(base, mine, theirs, "", clashes), clashes


def _merged(base: Any, mine: Any, theirs: Any, path: str, clashes: list[str]) -> Any:
    if mine in (theirs, base):
        return theirs
    if theirs == base:
        return mine
    sides = (base, mine, theirs)
    if all(isinstance(s, dict) for s in sides):
        return _fields(base, mine, theirs, path, clashes)
    if all(isinstance(s, list) for s in sides):
        if all(_keyed(s) for s in sides):
            return _by_id(base, mine, theirs, path, clashes)
        if len(base) == len(mine) == len(theirs):
            return [
                _merged(b, m, t, _join(path, str(i)), clashes)
                for i, (b, m, t) in enumerate(zip(*sides, strict=True))
            ]
    clashes.append(path)
    return theirs


def _fields(
    base: dict[str, Any], mine: dict[str, Any], theirs: dict[str, Any], path: str, clashes: list[str]
) -> dict[str, Any]:
    found = {}
    for name in [*theirs, *(n for n in mine if n not in theirs)]:
        b, m, t = (s.get(name, _GONE) for s in (base, mine, theirs))
        value = _merged(b, m, t, _join(path, name), clashes)
        if value is not _GONE:
            found[name] = value
    return found


def _by_id(base: list[Any], mine: list[Any], theirs: list[Any], path: str, clashes: list[str]) -> list[Any]:
    items = [{x["id"]: x for x in side} for side in (base, mine, theirs)]
    orders = [list(side) for side in items]
    order = _order(*orders)
    if order is None:
        clashes.append(_join(path, "order"))
        order = [*orders[2], *(i for i in orders[1] if i not in items[2] and i not in items[0])]
    found = []
    for item in order:
        b, m, t = (side.get(item, _GONE) for side in items)
        value = _merged(b, m, t, _join(path, item), clashes)
        if value is not _GONE:
            found.append(value)
    return found


def _order(base: list[str], mine: list[str], theirs: list[str]) -> list[str] | None:
    """All that either side has; in the order of the side that moved something, None where both did."""

    def among(order: list[str], others: list[str]) -> list[str]:
        return [i for i in order if i in others]

    kept = [i for i in base if i in mine and i in theirs]
    if among(mine, kept) == kept:
        lead, rest = theirs, mine
    elif among(theirs, kept) == kept or among(theirs, kept) == among(mine, kept):
        lead, rest = mine, theirs
    else:
        return None
    order = list(lead)
    for at, item in enumerate(rest):
        if item not in order:  # after what stands before it on its own side
            before = next((i for i in reversed(rest[:at]) if i in order), None)
            order.insert(0 if before is None else order.index(before) + 1, item)
    return order


def _keyed(side: list[Any]) -> bool:
    return all(isinstance(x, dict) and "id" in x for x in side)


def _join(path: str, name: str) -> str:
    return f"{path}.{name}" if path else name
