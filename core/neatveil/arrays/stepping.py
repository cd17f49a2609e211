"""Any step of a layer on an array."""

from __future__ import annotations

from typing import Any

from ..errors import unknown_name
from ..mattes import Matte
from ..picture import RGBA, Box, Plane, PremultipliedPicture, whole_frame
from ..steps import STEPS, Step
from ..steps.apply import apply_steps
from ..steps.levels import LevelsStep
from ._given import Array, model_of, picture_of, rgba_of


def steps() -> dict[str, type[Step]]:
    """Every step by its kind: a model whose fields are its parameters.

    Returns
    -------
    A new dictionary.

    Notes
    -----
    Each model's module states its source.

    Examples
    --------
    >>> steps()["blur"].title
    'Blur'
    """
    return dict(STEPS)


def step(kind: str, rgba: Array, second: Array | None = None, *, frame: int = 1, **fields: Any) -> Array:
    """Apply one step.

    Parameters
    ----------
    kind : a name in `steps`.
    rgba : ``(H, W, 4)`` R, G, B, A, scene-linear, premultiplied over black; alpha 0..1.
    second : the second picture of steps that take one, such as ``patch`` and ``combine``; in the state of
        ``rgba``, stretched to its size.
    frame : for steps that are another in every frame, such as grain.
    **fields : the step's parameters, by the names of its model; lengths in pixels.

    Returns
    -------
    ``(H, W, 4)`` in the state of ``rgba``; colour not clamped, alpha 0..1.

    Raises
    ------
    ValueRefused
        Not floating point, of another shape, or a parameter out of its range.
    NameUnknown
        There is no such step.

    Notes
    -----
    Source: stated by the step's own module, ``neatveil.steps``.

    Examples
    --------
    >>> rgba = np.array([[[0.5, 0.25, 0, 0.5]]], np.float32)
    >>> step("invert", rgba, channels="rgb").ravel().tolist()
    [0.0, 0.25, 0.5, 0.5]
    >>> step("combine", rgba, rgba, operation="add", overflow="clip").ravel().tolist()
    [0.5, 0.5, 0.0, 0.5]
    """
    if kind not in STEPS:
        raise unknown_name("step", kind, list(STEPS))
    if second is not None:
        fields = {"second": "second", **fields}
    return stepped(rgba, model_of(STEPS[kind], STEPS[kind].title, {"kind": kind, **fields}), second, frame)


def levels(
    rgba: Array,
    in_black: float = 0.0,
    in_white: float = 1.0,
    gamma: float = 1.0,
    out_black: float = 0.0,
    out_white: float = 1.0,
    channels: str = "rgb",
) -> Array:
    """Levels on straight colour, or on alpha: the colour is unpremultiplied, changed and premultiplied.

    Parameters
    ----------
    rgba : ``(H, W, 4)`` R, G, B, A, scene-linear, premultiplied over black; alpha 0..1.
    in_black, in_white : the values that become 0 and 1.
    gamma : exponent ``1/gamma`` between them.
    out_black, out_white : the values that 0 and 1 become then.
    channels : letters of the channels that are changed: r, g, b, a.

    Returns
    -------
    ``(H, W, 4)`` in the state of ``rgba``; colour not clamped, alpha 0..1.

    Raises
    ------
    ValueRefused
        Not floating point, of another shape, or a number out of its range.

    Notes
    -----
    Common practice, no source; the formula is that of `neatveil.steps.levels`.

    Examples
    --------
    >>> levels(np.array([[[0.25, 0.5, 1, 1]]], np.float32), in_white=0.5).ravel().tolist()
    [0.5, 1.0, 2.0, 1.0]
    """
    fields = {
        "in_black": in_black, "in_white": in_white, "gamma": gamma,
        "out_black": out_black, "out_white": out_white, "channels": channels,
    }  # fmt: skip
    return stepped(rgba, model_of(LevelsStep, "Levels", fields))


def stepped(rgba: Array, one: Step, second: Array | None = None, frame: int = 1) -> Array:
    given = rgba_of(rgba)
    if not given.size:
        return given.copy()
    other = None if second is None else picture_of(second, "second")
    return whole_frame(apply_steps(picture_of(given), [one], 0, frame, _Sources(other))).rgba()


class _Sources:
    """Finds the second picture, whatever name a step asks it by; mattes and extra channels there are none."""

    def __init__(self, second: PremultipliedPicture | None) -> None:
        self.second = second

    def __call__(self, name: str, planes: tuple[str, ...], /) -> PremultipliedPicture:
        if self.second is None or not name or planes:
            raise unknown_name("source", name or ", ".join(planes), ["second"] if self.second else [])
        return self.second

    def placed(self, name: str, planes: tuple[str, ...], window: Box, /) -> PremultipliedPicture:
        return self(name, planes)

    def unmixed(self, name: str, planes: tuple[str, ...], /) -> PremultipliedPicture:
        raise unknown_name("channel", planes[0], [*RGBA])

    def angle_of_view(self) -> float | None:
        return None

    def matte(self, matte: Matte, /) -> Plane:
        raise unknown_name("matte", "through", [])
