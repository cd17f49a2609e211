"""ID mattes after the open specification: hashes, ranks and what the header says."""

import json
from itertools import pairwise

import mmh3
import numpy as np
import pytest
import trimesh
from core.scene.test_passes import disc, lens, world
from neatveil.channels.identity import hash_as_float, name_hash
from neatveil.scene.identity import metadata
from neatveil.scene.render_tiles import Sampling, render


@pytest.mark.parametrize(
    ("name", "number"),
    [
        # test vectors that accompany MurmurHash3 implementations (x86, 32 bits, seed 0); from memory
        ("hello", 0x248BFA47),
        ("hello, world", 0x149BBB7F),
        ("The quick brown fox jumps over the lazy dog", 0x2E4FF723),
        ("test", 0xBA6BD213),
    ],
)
def test_published_hashes(name, number):
    assert name_hash(name) == number


def test_every_hash_is_a_normal_float_and_keeps_its_bits():
    fixed = 0
    for n in range(20_000):
        number = name_hash(f"reed{n}")
        value = hash_as_float(number)
        assert np.isfinite(value)
        assert abs(value) >= np.finfo(np.float32).tiny
        assert int(value.view(np.uint32)) == number
        plain = mmh3.hash(f"reed{n}", signed=False)
        fixed += plain != number
        assert plain in (number, number ^ (1 << 23))
    # two of 256 exponents are not usable
    assert fixed == pytest.approx(20_000 / 128, rel=0.3)


def test_names_of_other_alphabets_are_hashed_as_utf_8():
    assert name_hash("Gänsedistel") == mmh3.hash("Gänsedistel".encode(), signed=False)


def matte(picture, name):
    """The matte of one name, as the specification says to extract it."""
    wanted = hash_as_float(name_hash(name))
    total = np.zeros_like(picture["objects00.R"])
    for layer in range(3):
        for identity, coverage in (("R", "G"), ("B", "A")):
            here = picture[f"objects{layer:02d}.{identity}"] == wanted
            total += np.where(here, picture[f"objects{layer:02d}.{coverage}"], 0)
    return total


def test_mattes_are_the_objects_coverage_and_add_up_to_the_alpha(tmp_path):
    shapes = [disc(0.8), disc(0.8), trimesh.creation.icosphere(4, radius=0.5)]
    for i, shape in enumerate(shapes):
        shape.apply_translation([1.1 * (i - 1), 0.2 * i, -0.01 * i])
    names = ["goose", "gander", "float"]
    numbers = {n: i for i, n in enumerate(names)}
    where = world(tmp_path, *shapes, names=names)
    got = render(where, lens(), ["alpha", "ids", "masks"], Sampling(16), numbers)
    for name, number in numbers.items():
        np.testing.assert_allclose(matte(got, name), got[f"mask.{number}"], atol=1e-6)
    np.testing.assert_allclose(sum(matte(got, n) for n in names), got["A"], atol=1e-6)
    assert not matte(got, "swan").any()


def test_larger_shares_come_first(tmp_path):
    shapes = [disc(1.0), disc(0.9)]
    shapes[1].apply_translation([0.1, 0, 0.001])
    got = render(world(tmp_path, *shapes), lens(), ["ids"], Sampling(16))
    shares = [got[f"objects{n // 2:02d}.{'G' if n % 2 == 0 else 'A'}"] for n in range(6)]
    for larger, smaller in pairwise(shares):
        assert (larger >= smaller).all()
    assert shares[1].any()


def test_the_header_names_every_object():
    found = metadata(["goose", "reed"])
    assert {k.split("/")[0] for k in found} == {"cryptomatte"}
    (key,) = {k.split("/")[1] for k in found}
    assert key == f"{name_hash('objects'):08x}"[:7]
    manifest = json.loads(found[f"cryptomatte/{key}/manifest"])
    assert manifest == {"goose": f"{name_hash('goose'):08x}", "reed": f"{name_hash('reed'):08x}"}
    assert found[f"cryptomatte/{key}/conversion"] == "uint32_to_float32"
