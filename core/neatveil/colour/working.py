"""The working space of a comp: the primaries in which its layers are changed and merged.

Pictures come in as light in BT.709's primaries, are brought to the working space by one matrix, and leave it
by the inverse. Laying one over another is the same in any primaries; what treats R, G and B each by itself is
not: levels, curves, channels of mattes, blend modes such as multiply. Colours that people choose stay light
in BT.709's primaries in the document, so that they look alike in every working space. Luma has the weights
that a step or matte names, whatever the space.
"""

from __future__ import annotations

from collections.abc import Mapping
from functools import lru_cache
from typing import Annotated, Any, TypeVar

import numpy as np
from pydantic import BaseModel

from ..errors import NameUnknown, ValueRefused
from ..picture import RGB, Picture, Plane
from .configurations import at_hand, configuration
from .encodings import encoding_name, encoding_named
from .primaries import PRIMARIES, Matrix, matrix_to_bt709, through_matrix
from .spaces import is_linear_space, is_space, space_light

P = TypeVar("P", bound=Picture)
M = TypeVar("M", bound=BaseModel)
#: Light in BT.709's primaries: nothing is converted.
LIGHT = "linear"
#: What a working space's matrix may miss a configuration's own transform by, of 1: rounding of its float32.
_ROUNDING = 2e-5
#: How far a matrix may lie from that of primaries that are known here; published ones are rounded.
_SAME = 2e-4


class IsLight:
    """Marks a parameter as a colour of light, in BT.709's primaries."""


#: R, G and B of light in BT.709's primaries, as a parameter that `in_working_space` converts.
LightColour = Annotated[tuple[float, float, float], IsLight()]


def to_work_in(name: str) -> str:
    """The name itself, of a space of linear light; ValueError for others, as models want it.

    A space of a configuration that is not at hand is taken as it is: the document can be opened without it.

    >>> to_work_in("linear@ap1")
    'linear@ap1'
    """
    if is_space(name) and not at_hand(name.partition("/")[0]):
        return name
    try:
        encoding = encoding_named(name)
    except NameUnknown as error:
        raise ValueError(str(error)) from error
    if not (is_linear_space(name) if is_space(name) else encoding.name == "linear"):
        raise ValueError(f"{name} is no working space: it has to be linear light, such as linear@ap1")
    return name


@lru_cache(maxsize=32)
def matrix_to_light(name: str) -> Matrix:
    """``(3, 3)``: R, G, B of a working space to light in BT.709's primaries.

    Parameters
    ----------
    name : ``linear``, with ``@`` and primaries where these are not of BT.709, or a linear space of a
        configuration.

    Returns
    -------
    The matrix; that of a configuration's space is what its own transform makes of red, green and blue.

    Raises
    ------
    NameUnknown
        There is no such space.
    ValueRefused
        It is not linear: its transform is no matrix.

    Examples
    --------
    >>> matrix_to_light("linear@ap1").round(4).tolist()[0]
    [1.7051, -0.6218, -0.0833]
    """
    if not is_space(name):
        return matrix_to_bt709(encoding_named(name).primaries)
    columns = _light_of(np.eye(3), name)
    asked = np.random.default_rng(1).uniform(-1, 8, (64, 3))
    if np.abs(_light_of(asked, name) - asked @ columns.T).max() > _ROUNDING * 8 * np.abs(columns).max():
        raise ValueRefused(
            f"{name.partition('/')[2]} cannot be worked in: it is not linear.",
            advice="Choose a space of linear light.", where=name,
        )  # fmt: skip
    return columns


def role_of(key: str) -> str | None:
    """The working space that a configuration asks for: its role ``scene_linear`` [OpenColorIO].

    Named by its primaries where these are known here, so that a document needs no configuration.

    Parameters
    ----------
    key : of a configuration.

    Returns
    -------
    The working space's name; None where the configuration has no such role, or one that is not linear.

    Examples
    --------
    >>> role_of("cg")
    'linear@ap1'
    """
    space = configuration(key).getColorSpace("scene_linear")
    if space is None or not is_linear_space(name := f"{key}/{space.getName()}"):
        return None
    try:
        matrix = matrix_to_light(name)
    except ValueRefused:
        return None
    for known in PRIMARIES:
        if np.abs(matrix - matrix_to_bt709(known)).max() < _SAME:
            return encoding_name("linear", known)
    return name


def to_working(picture: P, name: str) -> P:
    """A picture of light, as it is in a working space; data stays as it is.

    Parameters
    ----------
    picture : R, G, B in BT.709's primaries, straight or premultiplied over black.
    name : of the working space.

    Returns
    -------
    R, G, B in the working space's primaries, the rest as it was; the same object where nothing is converted.

    Examples
    --------
    >>> from neatveil.picture import PremultipliedPicture
    >>> grey = PremultipliedPicture.from_rgba(np.full((1, 1, 4), 0.5, np.float32))
    >>> to_working(grey, "linear@ap1").rgba().round(4).ravel().tolist()
    [0.5, 0.5, 0.5, 0.5]
    """
    return _converted(picture, name, inverse=True)


def from_working(picture: P, name: str) -> P:
    """The way back from `to_working`.

    Parameters
    ----------
    picture : R, G, B in the working space's primaries, straight or premultiplied over black.
    name : of the working space.

    Returns
    -------
    R, G, B in BT.709's primaries; the same object where nothing is converted.

    Examples
    --------
    >>> from neatveil.picture import PremultipliedPicture
    >>> red = PremultipliedPicture.from_rgba(np.array([[[1, 0, 0, 1]]], np.float32))
    >>> [round(float(v), 4) for v in from_working(red, "linear@ap1").rgba().ravel()]
    [1.7051, -0.1303, -0.024, 1.0]
    """
    return _converted(picture, name, inverse=False)


def planes_from_working(planes: Mapping[str, Plane], name: str) -> dict[str, Plane]:
    """R, G and B of a working space, ``(H, W)`` each, as light in BT.709's primaries.

    >>> float(planes_from_working(dict.fromkeys("RGB", np.ones((1, 1), np.float32)), "linear@ap1")["G"][0, 0])
    1.0
    """
    return through_matrix(planes, matrix_to_light(name))


def colour_from_working(colour: tuple[float, float, float], name: str) -> tuple[float, float, float]:
    """A colour that was measured in a working space, as light in BT.709's primaries.

    >>> [round(c, 4) for c in colour_from_working((1.0, 0.0, 0.0), "linear@ap1")]
    [1.7051, -0.1303, -0.024]
    """
    return colour if name == LIGHT else _triple(matrix_to_light(name) @ colour)


def in_working_space(model: M, name: str) -> M:
    """A model whose colours of light are those of a working space, in the models within it too.

    Parameters
    ----------
    model : parameters, with colours in BT.709's primaries where `IsLight` marks them.
    name : of the working space.

    Returns
    -------
    A copy; the same object where it has no such colour.
    """
    if name == LIGHT:
        return model
    changes: dict[str, Any] = {}
    for field, info in type(model).model_fields.items():
        value = getattr(model, field)
        if any(isinstance(m, IsLight) for m in info.metadata):
            changes[field] = _triple(np.linalg.solve(matrix_to_light(name), value))
        elif (found := _within(value, name)) is not value:
            changes[field] = found
    return model.model_copy(update=changes) if changes else model


def _within(value: Any, name: str) -> Any:
    if isinstance(value, BaseModel):
        return in_working_space(value, name)
    if isinstance(value, tuple) and any(isinstance(v, BaseModel) for v in value):
        found = tuple(_within(v, name) for v in value)
        return value if all(a is b for a, b in zip(found, value, strict=True)) else found
    return value


def _converted(picture: P, name: str, *, inverse: bool) -> P:
    if name == LIGHT or picture.data_planes & {*RGB} or not {*RGB} <= set(picture.planes):
        return picture
    matrix = matrix_to_light(name)
    rows = np.asarray(np.linalg.inv(matrix)) if inverse else matrix
    return picture.with_planes({**picture.planes, **through_matrix(picture.planes, rows)})


def _light_of(colours: Matrix, name: str) -> Matrix:
    """``(N, 3)`` of a configuration's space as columns ``(3, N)`` of light, or rows of them for many."""
    planes = {n: np.ascontiguousarray(colours[:, c : c + 1], np.float32) for c, n in enumerate(RGB)}
    light = space_light(planes, name)
    found = np.column_stack([light[n][:, 0] for n in RGB]).astype(np.float64)
    return found.T if colours.shape == (3, 3) else found


def _triple(values: Any) -> tuple[float, float, float]:
    r, g, b = (float(v) for v in values)
    return r, g, b
