"""The camera and lights of a rendered set as a comp keeps them, out of the set's manifest."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

import numpy as np

from ..comp import SceneCamera, SceneLight
from ..errors import ValueRefused


def camera_of_manifest(listing: dict[str, Any], name: str) -> SceneCamera:
    """The camera of a set, frame by frame, and its lights.

    Parameters
    ----------
    listing : as `manifest` gives it.
    name : of the set.

    Returns
    -------
    Of the size that was ordered, also where a draft was rendered smaller. A frame that is not there has the
    place of the one before.

    Raises
    ------
    ValueRefused
        No frame of it is there.
    """
    there = {int(n): row for n, row in listing["frames"].items()}
    if not there:
        raise ValueRefused(f"{name} has no frame.", advice="Render it first.", where=name)
    first = min(there)
    rows: list[dict[str, Any]] = []
    for frame in range(first, max(there) + 1):
        rows.append(there.get(frame) or rows[-1])
    lights = tuple(
        SceneLight(
            name=n[:200] or x["kind"], kind=x["kind"], colour=x["colour"], intensity=x["intensity"],
            places=_places([r["lights"][n] for r in rows]),
        )
        for n, x in listing["lights"].items()
    )  # fmt: skip
    setup = listing["setup"]
    # manifests of the first version tell the angle once
    yfov = [float(r.get("yfov", listing["camera"]["yfov"])) for r in rows]
    return SceneCamera.model_validate(
        {
            "name": name, "width": setup["width"], "height": setup["height"], "rate": listing["rate"],
            "first": first, "places": _places([r["camera"] for r in rows]),
            "yfov": _once(yfov), "lights": lights,
        }
    )  # fmt: skip


def _places(matrices: Sequence[Any]) -> Any:
    """Without scale, as the standard asks of cameras and lights."""
    found = []
    for matrix in matrices:
        place = np.array(matrix, np.float64)[:3]
        place[:, :3] /= np.linalg.norm(place[:, :3], axis=0)
        found.append(tuple(tuple(float(v) for v in row) for row in place))
    return _once(found)


def _once(rows: list[Any]) -> tuple[Any, ...]:
    """One alone where all are the same."""
    return tuple(rows[:1]) if all(r == rows[0] for r in rows) else tuple(rows)
