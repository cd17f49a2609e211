"""What covers a pixel by rank, as channels and as a file's header.

Source: Friedman & Jones 2015, open specification for ID mattes, version 1.2.0 [FriedmanJones2015].
"""

from __future__ import annotations

import json
from collections.abc import Iterable

import numpy as np
from numpy.typing import NDArray

from ..channels.identity import name_hash
from .model import Floats

#: The layer's name: its channels are ``objects00.R`` and so on.
LAYER = "objects"
#: Ranks kept of each pixel; two to a layer of four channels.
RANKS = 6


def ranked(ids: NDArray[np.uint32], samples: NDArray[np.bool_]) -> dict[str, Floats]:
    """Channels of the ranks, largest share first: identity and coverage by turns.

    Parameters
    ----------
    ids : ``(H, W, S)`` hashes of what each sample met.
    samples : ``(H, W, S)`` whether it met anything.
    """
    height, width, count = ids.shape
    flat = np.where(samples, ids, 0).reshape(-1, count)
    known = np.unique(flat)
    known = known[known != 0]
    shares = (
        np.stack([(flat == k).sum(axis=1) for k in known], axis=1) if len(known) else np.zeros((len(flat), 0))
    )
    order = np.argsort(-shares, axis=1, kind="stable")[:, :RANKS]
    identity = np.zeros((len(flat), RANKS), np.float32)
    coverage = np.zeros((len(flat), RANKS), np.float32)
    found = np.take_along_axis(shares, order, axis=1)
    coverage[:, : found.shape[1]] = found / count
    identity[:, : found.shape[1]] = np.where(found > 0, known.astype(np.uint32).view(np.float32)[order], 0)
    channels: dict[str, Floats] = {}
    for rank in range(RANKS):
        layer = f"{LAYER}{rank // 2:02d}"
        first = rank % 2 == 0
        channels[f"{layer}.{'R' if first else 'B'}"] = identity[:, rank].reshape(height, width)
        channels[f"{layer}.{'G' if first else 'A'}"] = coverage[:, rank].reshape(height, width)
    return channels


def metadata(names: Iterable[str]) -> dict[str, str]:
    """What the file's header says of the layer: conversion, hash, name and manifest."""
    key = f"cryptomatte/{name_hash(LAYER):08x}"[:19]
    manifest = {name: f"{name_hash(name):08x}" for name in sorted(set(names))}
    return {
        f"{key}/name": LAYER,
        f"{key}/hash": "MurmurHash3_32",
        f"{key}/conversion": "uint32_to_float32",
        f"{key}/manifest": json.dumps(manifest, ensure_ascii=False, separators=(",", ":")),
    }
