"""Planes kept in files: what was put in, bounded, and made again where a file is torn or cannot be."""

import os
from pathlib import Path

import numpy as np
import pytest
from core.evaluate.test_matte_kinds import cut
from core.evaluate.test_references import comp, files
from neatveil.evaluate import Evaluator
from neatveil.evaluate.lasting import LastingPlanes
from neatveil.io import LocalDecoder

__all__ = ["files"]

ELLIPSE = {"kind": "shape", "shape": "ellipse", "width": 24, "height": 20}


@pytest.fixture
def kept(tmp_path):
    return LastingPlanes(lambda: tmp_path / "edges", 1 << 20)


def test_a_plane_comes_back_bit_for_bit(kept):
    plane = np.random.default_rng(1).random((7, 5), np.float32)
    assert kept.get("a") is None
    kept.put("a", plane)
    np.testing.assert_array_equal(kept.get("a"), plane)
    assert kept.get("a").dtype == np.float32


def test_those_used_longest_ago_go_first(tmp_path):
    noise = np.random.default_rng(1).random((64, 64), np.float32)
    kept = LastingPlanes(lambda: tmp_path, 10 * noise.nbytes)
    for n in range(17):
        kept.put(f"p{n}", noise)
        os.utime(tmp_path / f"p{n}.z", (n, n))
        kept.get("p0")  # used all the time
    assert kept.get("p0") is not None
    assert kept.get("p1") is None
    assert kept.get("p16") is not None
    assert sum(f.stat().st_size for f in tmp_path.iterdir()) <= 10 * noise.nbytes


def test_a_torn_file_or_a_full_disk_loses_nothing_but_time(kept, tmp_path, monkeypatch):
    plane = np.ones((4, 4), np.float32)
    kept.put("a", plane)
    (tmp_path / "edges" / "a.z").write_bytes(b"PK\x03\x04 torn")
    assert kept.get("a") is None

    def full(*_, **__):
        raise OSError(28, "No space left on device")

    with monkeypatch.context() as during:
        during.setattr(Path, "write_bytes", full)
        kept.put("b", plane)
    assert kept.get("b") is None
    assert [f.name for f in (tmp_path / "edges").iterdir()] == ["a.z"], "nothing half written is left"


@pytest.mark.parametrize("level", [0, 1])
@pytest.mark.parametrize(("layer", "frame"), [("front", 2), ("back", 1)])
def test_an_edge_found_by_one_process_is_that_of_all(files, kept, monkeypatch, layer, frame, level):
    how = {"parts": [ELLIPSE], "edge": "natural", "band": 3}
    natural, steady = cut(comp(files), layer, **how), cut(comp(files), layer, **how, steady=1, grow=1)
    alone = Evaluator(LocalDecoder()).picture(natural, frame, only=layer, level=level)
    steadied = Evaluator(LocalDecoder()).picture(steady, frame, only=layer, level=level)
    first = Evaluator(LocalDecoder(), lasting=kept)
    first.picture(steady, frame, only=layer, level=level)
    monkeypatch.setattr("neatveil.evaluate.matting.edge_found", None)  # none is solved any more
    second = Evaluator(LocalDecoder(), lasting=kept)
    for document, expected in ((natural, alone), (steady, steadied)):
        got = second.picture(document, frame, only=layer, level=level)
        for name in "RGBA":
            np.testing.assert_array_equal(got[name], expected[name])
    monkeypatch.undo()
    # another band is another matte, and so is another frame of what moves
    wider = cut(comp(files), layer, **{**how, "band": 6})
    assert np.abs(second.picture(wider, frame, only=layer, level=level)["A"] - alone["A"]).max() > 0
