"""The edge of a rough matte, found in the picture itself: natural alpha matting.

What the rough matte keeps for certain, less a band, is the core; what it removes for certain, less the band,
is gone. Between them every pixel is a mixture of two colours that change little from one pixel to the next;
of all alphas the one that fits best is solved for. The rough matte itself counts a little there, so that what
has no core, a hair or a stalk, is not lost.

Sources: closed form, Levin, Lischinski & Weiss 2008 [Levin2008]; the colour in front, Germer and others 2020
[Germer2020]; both as PyMatting carries them, but for the factor that its solver goes by (`factor.py`). The
rough matte as a weak constraint: common practice, no source.
"""

# mypy: disable-error-code="import-untyped"

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, NamedTuple

import cv2
import numpy as np
from numpy.typing import NDArray

from ..errors import ValueRefused
from ..picture import RGB, Plane
from .factor import factor_of, order_of
from .morphology import grown

#: Of what is found: raised where the same sketch comes to another matte, so that none is kept from before.
EDITION = 3
#: From where a rough matte keeps, and up to where it removes, for certain.
KEPT, GONE = 0.95, 0.05
#: The narrowest band, in pixels.
NARROWEST = 0.5
#: More unknown pixels are solved at half the size: a solve takes about 1 kB for each.
MOST_UNKNOWN = 1_200_000
#: What the colours of a neighbourhood vary by at least, squared.
EPSILON = 1e-6
#: Least that the rough matte counts: without it the system may have no single answer.
LEAST_TRUST = 1e-5
#: Largest residual, as a share of what is to be solved: on the demo's reeds it leaves 0.004 of alpha in the
#: worst pixel and 0.0003 in one of a thousand; ten times as much leaves 0.027 and 0.003, a tenth sooner.
#: Where few are unknown it costs nothing to go on.
RESIDUAL, FINE_RESIDUAL, FEW = 1e-5, 1e-6, 20_000
#: Pixels about the unknown ones that are looked at: neighbourhoods are 3 x 3.
MARGIN = 2


class Sketch(NamedTuple):
    """``(H, W)`` each: what is kept for certain, and what is neither kept nor gone for certain."""

    core: NDArray[np.bool_]
    unknown: NDArray[np.bool_]


def sketch_of(rough: Plane, band: float) -> Sketch:
    """``band``: how far both certain parts are shrunk, in pixels.

    Halved as long as it leaves nothing that is kept, or nothing that is removed: what walks out of the frame
    has less and less of a core.

    Raises
    ------
    ValueRefused
        There is no such part without a band either, though some pixels lie between the two.
    """
    while True:
        core, gone = grown(rough, -band) >= KEPT, grown(rough, band) <= GONE
        unknown = ~(core | gone)
        if not unknown.any() or (core.any() and gone.any()):
            return Sketch(core, unknown)
        if band < 2 * NARROWEST:
            what, how = ("removed", "black") if core.any() else ("kept", "white")
            raise ValueRefused(
                f"Its edge cannot be found in the picture: nothing is {what} for certain.",
                advice=f"Paint or draw some {how} where all is {what}.",
            )
        band /= 2


def edge_found(planes: Mapping[str, Plane], rough: Plane, band: float, trust: float) -> Plane:
    """The matte whose edge is found in a picture.

    Parameters
    ----------
    planes : R, G, B, ``(H, W)``: scene-linear, straight.
    rough : ``(H, W)`` 0..1.
    band : how far from its edge the rough matte is uncertain, in pixels.
    trust : how much the rough matte counts where it is uncertain, beside the picture.

    Returns
    -------
    ``(H, W)`` 0..1, a new plane.

    Raises
    ------
    ValueRefused
        As of `sketch_of`.
    """
    sketch = sketch_of(rough, max(band, NARROWEST))
    if not sketch.unknown.any():
        return sketch.core.astype(np.float32)
    light = np.nan_to_num(np.stack([planes[n] for n in RGB], axis=-1), posinf=0, neginf=0)
    # light far above white would weigh more than all the rest, and leave the system without an answer
    white = max(1.0, float(np.quantile(light[::4, ::4], 0.999)))
    return _found(np.clip(light / np.float32(white), 0, 1), sketch, rough, max(trust, LEAST_TRUST))


def _found(light: NDArray[np.float32], sketch: Sketch, rough: Plane, trust: float) -> Plane:
    """``light``: ``(H, W, 3)`` straight, 0..1."""
    out = sketch.core.astype(np.float32)
    rows, columns = (np.flatnonzero(sketch.unknown.any(axis)) for axis in (1, 0))
    box = (
        slice(max(0, rows[0] - MARGIN), rows[-1] + MARGIN + 1),
        slice(max(0, columns[0] - MARGIN), columns[-1] + MARGIN + 1),
    )
    light, rough, part = light[box], rough[box], Sketch(*(p[box] for p in sketch))
    if part.unknown.sum() > MOST_UNKNOWN and min(part.unknown.shape) > 2 * MARGIN:
        solved = _at_half(light, part, rough, trust)
    else:
        solved = _solved(light, part, rough, trust)
    out[box][part.unknown] = solved[part.unknown]
    return out


def _at_half(light: NDArray[np.float32], sketch: Sketch, rough: Plane, trust: float) -> Plane:
    height, width = rough.shape
    size = max(1, width // 2), max(1, height // 2)

    def halved(values: NDArray[np.float32]) -> NDArray[np.float32]:
        return np.asarray(cv2.resize(values, size, interpolation=cv2.INTER_AREA), np.float32)

    share = halved(sketch.unknown.astype(np.float32))
    small = Sketch((halved(sketch.core.astype(np.float32)) >= 1) & (share == 0), share > 0)
    found = _found(halved(np.ascontiguousarray(light)), small, halved(rough), trust)
    return np.asarray(cv2.resize(found, (width, height), interpolation=cv2.INTER_LINEAR), np.float32)


def _solved(light: NDArray[np.float32], sketch: Sketch, rough: Plane, trust: float) -> Plane:
    # loaded where it is needed: its kernels take a second to come
    from pymatting.laplacian.cf_laplacian import cf_laplacian
    from pymatting.solver.cg import cg

    order = order_of(sketch.unknown)
    unknown = order.pixels
    whole = cf_laplacian(light.astype(np.float64), EPSILON, is_known=~sketch.unknown.reshape(-1)).tocsr()[
        unknown
    ]
    guess = np.clip(rough.reshape(-1)[unknown].astype(np.float64), 0, 1)
    known = np.where(sketch.unknown, 0, sketch.core).reshape(-1).astype(np.float64)
    system = _among(whole, unknown, trust)
    wanted = trust * guess - whole @ known
    near = factor_of(system, order.ends)
    residual = FINE_RESIDUAL if len(unknown) <= FEW else RESIDUAL
    found = cg(system, wanted, x0=guess, M=near, rtol=residual, maxiter=2000)
    out = known.astype(np.float32)
    out[unknown] = np.clip(found, 0, 1)
    return out.reshape(rough.shape)


def _among(whole: Any, unknown: NDArray[np.intp], trust: float) -> Any:
    """The columns of the unknown pixels in their order, and the trust on the diagonal.

    ``whole``: their rows of the Laplacian, SciPy's sparse matrix by rows. SciPy's own choice of columns takes
    four times as long.
    """
    from scipy.sparse import csc_matrix

    place = np.full(whole.shape[1], -1, np.int32)
    place[unknown] = np.arange(len(unknown), dtype=np.int32)
    columns = place[whole.indices]
    inside = columns >= 0
    ends = np.concatenate(([0], np.cumsum(inside)))[whole.indptr]
    columns, values = columns[inside], whole.data[inside]
    rows = np.repeat(np.arange(len(unknown), dtype=np.int32), np.diff(ends))
    values[columns == rows] += trust
    # symmetric: by rows it is what it is by columns
    return csc_matrix((values, columns, ends), shape=(len(unknown),) * 2)


def colour_in_front(light: NDArray[np.float32], matte: Plane) -> NDArray[np.float32]:
    """The colour of what a matte keeps, freed of what lay behind it where it keeps in part.

    ``light``: ``(H, W, 3)``, linear, straight; ``matte``: ``(H, W)`` 0..1. Returns ``(H, W, 3)``, straight.
    Linear in the light: of any size.
    """
    from pymatting.foreground.estimate_foreground_ml import estimate_foreground_ml

    # it clips to 0..1
    most = max(1.0, float(light.max(initial=0)))
    return np.asarray(
        estimate_foreground_ml(light.astype(np.float32) / np.float32(most), matte) * np.float32(most),
        np.float32,
    )
