"""Layers of the comp in one OpenEXR file, read back by OpenEXR's own library [OpenEXR]."""

import json
from fractions import Fraction

import numpy as np
import OpenEXR
import pytest
from core.reference.documents import documents
from core.reference.pictures import Arrays, extra_planes, pictures
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from neatveil.cli import main
from neatveil.comp import Comp
from neatveil.comp.loading import parse_comp
from neatveil.delivery import (
    DeliveryForm,
    Take,
    Target,
    advice_for,
    format_of,
    prove,
    taken,
    write_frames,
)
from neatveil.errors import CannotHoldLayers, DocumentRefused, NameUnknown, ValueRefused
from neatveil.evaluate import Evaluator
from neatveil.io import LocalDecoder
from neatveil.picture import RGBA, whole_frame

EXR = {"alpha": "premultiplied", "encoding": "linear"}
HEIGHT, WIDTH = 20, 30


def scene(**lamp):
    """A plate, and a group with a lamp in it that has a depth; both layers have a dot in their names."""
    rng = np.random.default_rng(3)
    plate = np.ones((HEIGHT, WIDTH, 4), np.float32)
    plate[..., :3] = rng.random((HEIGHT, WIDTH, 3))
    sprite = np.zeros((10, 12, 4), np.float32)
    sprite[2:8, 2:10] = (4.0, 0.5, 0.25, 0.5)
    depth = rng.random((10, 12)).astype(np.float32) * 90000
    depth[0, 0], depth[3, 3] = np.inf, np.nan
    decoder = Arrays({"plate": [plate], "lamp": [sprite]}, {"lamp": {"depth.Z": depth}})
    still = {"still": True, "encoding": "linear", "reading": {"alpha": "premultiplied"}}
    comp = {
        "width": WIDTH, "height": HEIGHT, "last": 2,
        "elements": {n: {"file": n, **still} for n in ("plate", "lamp")},
        "layers": [
            {"id": "p", "name": "plate", "element": "plate"},
            {"id": "g", "name": "lamps", "kind": "group", "layers": [
                {"id": "l", "name": "lamp.v2", "element": "lamp", **lamp},
            ]},
        ],
    }  # fmt: skip
    return parse_comp(comp), decoder, depth


def delivered(folder, comp, decoder, take, **form):
    """What the files of the one frame hold, by channel; and the proof."""
    made = format_of(DeliveryForm(**{"codec": "exr", **EXR, **form}))
    take = taken(take, comp)
    source, target = take.source(Evaluator(decoder)), Target(folder / "shot.####.exr")
    write_frames(source, made, target, take.numbers, stamp=take.stamp())
    proof = prove(source, LocalDecoder(), made, target, take.numbers, Fraction(25), loss_accepted=True)
    with OpenEXR.File(str(target.frame_path(take.numbers[0])), separate_channels=True) as file:
        return {n: c.pixels for part in file.parts for n, c in part.channels.items()}, proof


def test_each_layer_is_what_it_is_alone_and_over_one_another_they_are_the_picture(tmp_path):
    comp, decoder, _ = scene(transform={"x": 3, "y": -2})
    found, proof = delivered(tmp_path, comp, decoder, Take(frames="1", layers=("p", "l", "g")), codec="exr32")
    assert proof.good
    assert set(found) == {*RGBA, *(f"{n}.{c}" for n in ("plate", "lamp_v2", "lamps") for c in RGBA)}
    evaluator = Evaluator(decoder)
    for identity, name in (("p", "plate"), ("l", "lamp_v2"), ("g", "lamps")):
        alone = whole_frame(evaluator.picture(comp, 1, only=identity))
        for c in RGBA:
            np.testing.assert_array_equal(found[f"{name}.{c}"], alone[c])
    for c in RGBA:  # Porter and Duff 1984
        over = found[f"lamp_v2.{c}"] + found[f"plate.{c}"] * (1 - found["lamp_v2.A"])
        np.testing.assert_allclose(found[c], over, atol=1e-6)


@pytest.mark.parametrize("codec", ["exr", "exr32"])
def test_data_is_written_in_32_bits_as_it_stands_where_the_layer_lies(codec, tmp_path):
    """Values beyond half's range, an infinity and one that is no number; the picture beside it in half."""
    comp, decoder, depth = scene(transform={"x": 3, "y": -2})
    take = Take(frames="1", layers=("l:depth.Z",))
    found, proof = delivered(tmp_path, comp, decoder, take, codec=codec)
    assert proof.good
    assert proof.clipped == 0
    got = found["lamp_v2.depth.Z"]
    assert got.dtype == np.float32
    assert found["R"].dtype == (np.float16 if codec == "exr" else np.float32)
    wanted = np.zeros((HEIGHT, WIDTH), np.float32)
    top, left = (HEIGHT - 10) // 2 - 2, (WIDTH - 12) // 2 + 3
    wanted[top : top + 10, left : left + 12] = depth
    np.testing.assert_array_equal(got, wanted)


@pytest.mark.parametrize("compression", ["none", "rle", "zips", "zip", "piz"])
@pytest.mark.parametrize("tiles", [False, True])
@pytest.mark.parametrize("multipart", [False, True])
def test_tiles_and_parts_hold_the_same_by_openexrs_own_library(compression, tiles, multipart, tmp_path):
    """Sizes that no tile divides; one layer without data, one with it."""
    comp, decoder, _ = scene(transform={"x": 3})
    take = Take(frames="1", layers=("p", "l", "l:depth.Z"), size="given", width=131, height=70)
    plain, _ = delivered(tmp_path / "plain", comp, decoder, take, compression=compression)
    how = {"compression": compression, "tiles": tiles, "multipart": multipart}
    found, proof = delivered(tmp_path / "other", comp, decoder, take, **how)
    assert proof.good
    assert found.keys() == plain.keys()
    for name, pixels in plain.items():
        assert found[name].dtype == pixels.dtype
        np.testing.assert_array_equal(found[name], pixels)
    with OpenEXR.File(str(tmp_path / "other" / "shot.0001.exr"), separate_channels=True) as file:
        assert [p.name() for p in file.parts if multipart] == ["picture", "lamp_v2", "plate"] * multipart
        assert len(file.parts) == (3 if multipart else 1)
        for part in file.parts:
            assert (part.type() == OpenEXR.tiledimage) == tiles
            if tiles:
                there = part.header["tiles"]
                assert (there.xSize, there.ySize) == (64, 64)


def test_a_compression_that_shortens_data_is_refused_with_it():
    """PXR24 cuts 32-bit floats to 24 bits; halves are kept (OpenEXR's documentation of its compressions)."""
    comp, *_ = scene()
    made = format_of(DeliveryForm(codec="exr", compression="pxr24", **EXR))
    taken(Take(layers=("p", "l")), comp).refuse_format(made)
    with pytest.raises(CannotHoldLayers, match="24 of the 32 bits"):
        taken(Take(layers=("p", "l:depth.Z")), comp).refuse_format(made)


@pytest.mark.parametrize("how", ["tiles", "multipart"])
def test_other_formats_have_neither_tiles_nor_parts(how):
    with pytest.raises(ValueRefused, match="has no"):
        format_of(DeliveryForm(codec="tiff16", **{how: True}))


@pytest.mark.parametrize("place", [{}, {"rotation": 30}, {"scale": 2.5, "x": 4}])
@pytest.mark.parametrize("size", [{"size": "half"}, {"size": "given", "width": 47, "height": 33}])
def test_at_another_size_data_is_still_of_one_pixel_each(place, size, tmp_path):
    comp, decoder, depth = scene(transform=place)
    take = Take(frames="1", layers=("l:depth.Z", "p"), **size)
    found, proof = delivered(tmp_path, comp, decoder, take)
    assert proof.good
    assert found["lamp_v2.depth.Z"].shape == found["plate.R"].shape == found["R"].shape != (HEIGHT, WIDTH)
    finite = np.nan_to_num(found["lamp_v2.depth.Z"], nan=0)
    assert set(finite.ravel()) <= {0.0, *np.nan_to_num(depth, nan=0).ravel()}


@given(written=documents, data=st.data())
@settings(max_examples=15, deadline=None, suppress_health_check=list(HealthCheck))
def test_of_any_document_and_form_each_layer_comes_back(written, data, tmp_path_factory):
    comp = parse_comp(written)
    layers = data.draw(st.lists(st.sampled_from([x.id for x in comp.all_layers]), min_size=1, unique=True))
    form = {
        "codec": data.draw(st.sampled_from(["exr", "exr32"])),
        "alpha": data.draw(st.sampled_from(["straight", "premultiplied"])),
        "encoding": data.draw(st.sampled_from(["linear", "srgb", "linear@ap1"])),
        "light": data.draw(st.sampled_from(["lost", "raised"])),
        "tiles": data.draw(st.booleans()),
        "multipart": data.draw(st.booleans()),
    }
    decoder = Arrays(pictures(), extra_planes())
    take = Take(frames=str(comp.first), layers=tuple(layers))
    found, proof = delivered(tmp_path_factory.mktemp("any"), comp, decoder, take, **form)
    assert proof.problems == []
    assert len(found) == 4 * (len(layers) + 1)


@pytest.mark.parametrize("off", ["lamp_v2.G", "plate.A", "lamp_v2.depth.Z"])
def test_a_file_in_which_one_layer_is_off_is_not_proved_and_the_layer_is_named(off, tmp_path):
    comp, decoder, _ = scene()
    asked = taken(Take(frames="1", layers=("p", "l", "l:depth.Z")), comp)
    made, target = format_of(DeliveryForm(codec="exr", **EXR)), Target(tmp_path / "shot.####.exr")
    source = asked.source(Evaluator(decoder))

    def changed(number):
        picture = source(number)
        return picture.with_planes({**picture.planes, off: picture[off] * np.float32(0.9)})

    write_frames(changed, made, target, [1])
    (told,) = prove(source, LocalDecoder(), made, target, [1], Fraction(25)).problems
    of = ": the data channel lamp_v2.depth.Z does not hold" if "depth" in off else f" of {off[:-2]} differs"
    assert told.startswith(f"Frame 1{of}")


def test_what_cannot_be_is_refused_before_it_is_written(tmp_path):
    comp, decoder, _ = scene()
    beside = taken(Take(layers=("l",)), comp)
    for form in ({"codec": "png16"}, {"codec": "prores4444"}, {"codec": "exr", "contents": "rgb"}):
        with pytest.raises(CannotHoldLayers, match="no layers beside the picture"):
            beside.refuse_format(format_of(DeliveryForm(**form)))
        told = next(a for a in advice_for(DeliveryForm(**form), beside) if a.what == "layers")
        assert told.weight == "refused"
        for repair in told.repairs:
            mended = DeliveryForm.model_validate({**DeliveryForm(**form).model_dump(), **repair.form})
            again = taken(Take.model_validate({"layers": ["l"], **repair.take}), comp)
            assert not [a for a in advice_for(mended, again) if a.what == "layers"]
    with pytest.raises(DocumentRefused, match="no layer 'x'"):
        taken(Take(layers=("x",)), comp)
    with pytest.raises(NameUnknown, match=r"has no channel depth\.W"):
        taken(Take(layers=("l:depth.W",)), comp).source(Evaluator(decoder))(1)
    assert "with 1 layer beside it" in taken(Take(layers=("l", "l:depth.Z")), comp).in_words()


def test_more_than_fits_into_memory_is_refused_before_it_is_drawn():
    comp, _, _ = scene()
    exr = DeliveryForm(codec="exr", **EXR)
    large = {"size": "given", "width": 8192, "height": 4320}
    taken(Take(layers=("l:depth.Z", "l:far.Z", "l:near.Z"), **large), comp).refuse_format(format_of(exr))
    beside = taken(Take(layers=("l",), **large), comp)
    with pytest.raises(ValueRefused, match="at most 3 go into a file"):
        beside.refuse_format(format_of(exr))
    (told,) = (a for a in advice_for(exr, beside) if a.what == "layers")
    assert (told.weight, told.repairs[0].take) == ("refused", {"layers": []})


def test_the_command_line_writes_them_too(tmp_path, capsys):
    comp = Comp(width=8, height=6, last=1).model_dump(mode="json")
    comp["layers"] = [
        {"id": n, "name": n, "kind": "made", "made": {"kind": "shape", "width": 4, "height": 3}} for n in "ab"
    ]
    (tmp_path / "c.json").write_text(json.dumps(comp))
    args = ["deliver", str(tmp_path / "c.json"), "--to", str(tmp_path / "out"), "--layers", "a,b"]
    assert main([*args, "--preset", "exr-half-premultiplied"]) == 0
    assert "proved" in capsys.readouterr().out
    with OpenEXR.File(str(tmp_path / "out.0001.exr"), separate_channels=True) as file:
        assert {"a.R", "a.A", "b.G", "A"} <= set(file.channels())
    assert main([*args, "--preset", "png16-straight"]) == 1
    assert "no layers beside the picture" in capsys.readouterr().err
