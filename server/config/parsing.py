"""Request bodies: JSON in which every number is finite and every text can be stored."""

from __future__ import annotations

import json
import math
import re
from typing import Any

from django.http import HttpRequest
from neatveil.errors import ValueRefused
from ninja.parser import Parser

#: Control characters and those that turn the direction of writing: a name with them shows as another one.
_UNSEEN = re.compile(r"[\x00-\x1f\x7f-\x9f\u061c\u200e\u200f\u202a-\u202e\u2066-\u2069]")
#: Fields that hold one line for people to read.
_NAMES = {"name", "place", "group", "title", "label", "what"}


def one_line(text: str) -> str:
    """The text without control characters and direction marks, as names are kept.

    >>> one_line("kite\\r\\n.png")
    'kite.png'
    """
    return _UNSEEN.sub("", text)


class StrictParser(Parser):
    """As the framework's, but what no database or document can hold is refused with its place."""

    def parse_body(self, request: HttpRequest) -> Any:
        return parsed_json(request.body)


def parsed_json(body: str | bytes) -> Any:
    """The JSON of a body; `ValueRefused` for what no document can hold, `ValueError` for no JSON."""
    return _checked(json.loads(body, parse_float=_finite, parse_constant=_not_finite), "")


def _finite(text: str) -> float:
    value = float(text)
    if not math.isfinite(value):
        raise ValueRefused(f"{text} is beyond what a number can hold.")
    return value


def _not_finite(text: str) -> float:
    raise ValueRefused(f"{text} is not a number that can be used here.")


def _checked(value: Any, where: str) -> Any:
    if isinstance(value, str):
        return _text(value, where)
    if isinstance(value, list):
        return [_checked(v, where) for v in value]
    if isinstance(value, dict):
        return {_text(k, where): _checked(v, k) for k, v in value.items()}
    if isinstance(value, int) and not isinstance(value, bool) and abs(value) >= 1 << 63:
        raise ValueRefused(f"{str(value)[:20]}... is beyond what a number can hold.", where=where)
    return value


def _text(text: str, where: str) -> str:
    if "\0" in text or any("\ud800" <= c <= "\udfff" for c in text):
        raise ValueRefused("A text holds a character that cannot be stored.", where=where)
    return one_line(text) if where in _NAMES else text
