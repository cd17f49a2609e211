"""Documents as older versions wrote them: read today with every value where it belongs."""

import contextlib
import json
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st
from neatveil.comp.loading import VERSION, parse_comp
from neatveil.comp.upgrades import STEP_UPGRADES, UPGRADES, upgrade_comp, upgrade_steps
from neatveil.errors import DocumentRefused
from neatveil.scene.setup import parse_setup
from neatveil.scene.upgrades import UPGRADES as SETUP_UPGRADES
from neatveil.scene.upgrades import upgrade_setup

KEPT = Path(__file__).parents[2] / "data" / "documents"
#: Values that version 2 calls otherwise.
WORDS = {
    "swing": "ping-pong", "card": "screen", "fit": "uneven", "grade": "tone", "one": "own", "two": "second",
    "before-encoding": "linear", "after-encoding": "encoded", "apart": "separate-pass",
}  # fmt: skip

anything = st.recursive(
    st.none() | st.booleans() | st.integers() | st.text(max_size=5),
    lambda inner: (
        st.lists(inner, max_size=3)
        | st.dictionaries(
            st.sampled_from(
                ["layers", "elements", "steps", "matte", "parts", "keys", "kind", "through", "place"]
            ),
            inner,
            max_size=4,
        )
    ),
    max_leaves=20,
)


def kept(name):
    return json.loads((KEPT / name).read_text("utf-8"))


def leaves(data):
    if isinstance(data, dict):
        return [v for inner in data.values() for v in leaves(inner)]
    if isinstance(data, list):
        return [v for inner in data for v in leaves(inner)]
    return [data]


def sorted_leaves(data):
    return sorted(json.dumps(v) for v in leaves(data))


def test_there_is_an_upgrade_from_every_version_and_a_sample_of_each():
    assert list(UPGRADES) == list(range(1, VERSION))
    assert set(STEP_UPGRADES) <= set(UPGRADES)
    for version in UPGRADES:
        assert kept(f"comp-v{version}.json")["neatveil"] == version
    for version in SETUP_UPGRADES:
        assert kept(f"setup-v{version}.json")["neatveil_scene"] == version


@pytest.mark.parametrize(
    ("name", "upgrade", "version"), [("comp-v1.json", UPGRADES[1], 1), ("setup-v1.json", upgrade_setup, 1)]
)
def test_no_value_is_lost_or_made_up(name, upgrade, version):
    data = kept(name)
    before = json.dumps(data)
    words = [WORDS.get(v, v) if isinstance(v, str) else v for v in leaves(data)]
    expected = sorted(json.dumps(v) for v in words)
    expected.remove(json.dumps(version))
    got = sorted_leaves(upgrade(data))
    got.remove(json.dumps(version if upgrade is UPGRADES[1] else 2))
    assert got == expected
    assert json.dumps(data) == before, "what was given is not changed"


def test_version_1_of_a_comp_means_the_same():
    comp = parse_comp(kept("comp-v1.json"))
    element, (back, group) = comp.elements["a"], comp.layers
    assert (group.kind, group.name, group.alpha.by, group.operator) == ("group", "g", "members", "over")
    (front,) = group.layers
    assert (element.reading.multiplied, element.joined[0].beyond) == ("encoded", "hold")
    assert (back.beyond, front.beyond, front.opacity) == ("loop", "ping-pong", 0.5)
    place = front.transform
    assert (place.x, place.rotation, place.scale) == (4, 12, 0.8)
    assert (
        place.keys["rotation"].beyond == place.keys["x"].beyond == front.keys["opacity"].beyond == "ping-pong"
    )
    tone, hue, blur, patch, transform, falloff, levels, *_ = front.steps
    assert (tone.kind, tone.gain[1], tone.through.rotation) == ("tone", 1.2, 12)
    assert (hue.rotation, transform.rotation, falloff.rotation) == (30, 9, 4)
    assert set(hue.keys) == set(tone.through.keys) == {"rotation"}
    assert (blur.kernel, blur.extra_channel) == ("disc", "depth.Z")
    assert (patch.input_alpha, patch.output_alpha, patch.chroma_range) == (
        "premultiplied", "straight", "narrow",
    )  # fmt: skip
    assert {n: r.source for n, r in patch.routes.items()} == {"R": "second", "A": "own", "G": "constant"}
    assert levels.through.matte.edge_colour == "inside"
    key, channel, ellipse, free, objects, _, plate = front.matte.parts
    assert front.matte.edge_colour == "screen"
    assert front.matte.screen_key == key
    assert (key.screen_colour, key.evenness, key.by) == ((0.1, 0.5, 0.1), "uneven", "screen")
    assert (plate.by, plate.evenness, plate.plate) == ("plate", "plate", "b")
    assert [channel.combine, ellipse.combine, free.combine] == ["intersect", "subtract", "exclude"]
    assert (ellipse.rotation, ellipse.soft_inside, ellipse.soft_outside) == (20, 3, 2)
    assert set(ellipse.keys) == {"rotation", "soft_outside"}
    assert (objects.ranks, objects.objects) == ("ids", ("post",))
    again = json.loads(comp.model_dump_json())
    assert parse_comp(again) == comp


def test_version_2_of_a_comp_means_the_same():
    data = kept("comp-v2.json")
    comp = parse_comp(data)
    _, group = comp.layers
    assert [x.id for x in group.layers] == ["low", data["layers"][2]["id"]]
    old = [{**x, "kind": "element"} for x in data["layers"]]
    now = json.loads(comp.model_dump_json())["layers"]
    for was, layer in zip(old, [now[0], *now[1]["layers"]], strict=True):
        was.pop("group")
        was.update(repeat=None, own_frame=None, between="begun", card=None, locked=False)  # came later
        for matte in (was["matte"], *(s["through"]["matte"] for s in was["steps"] if s.get("through"))):
            if matte:
                matte.update(edge="made", band=3.0, trust=0.001)
        assert layer == was
    assert parse_comp(json.loads(comp.model_dump_json())) == comp


def layers_named(*names):
    return [{"id": f"l{i}", "name": f"l{i}", "element": "a", "group": n} for i, n in enumerate(names)]


@pytest.mark.parametrize(
    ("names", "tree"),
    [
        (["", "a", "a", ""], ["l0", ["l1", "l2"], "l3"]),
        (["a", "b", "a"], [["l0"], ["l1"], ["l2"]]),
        (["a", "", "a"], [["l0"], "l1", ["l2"]]),
        ([], []),
    ],
)
def test_neighbours_of_one_name_become_members_of_a_group(names, tree):
    layers = UPGRADES[2]({"neatveil": 2, "layers": layers_named(*names)})["layers"]
    assert [[m["id"] for m in x["layers"]] if "layers" in x else x["id"] for x in layers] == tree
    ids = [x["id"] for x in layers]
    assert len(set(ids)) == len(ids)


def test_version_1_of_a_setup_means_the_same():
    setup = parse_setup(kept("setup-v1.json"))
    assert (setup.firefly_clamp, setup.shadow_catchers, setup.shadows) == (2, ("shore",), "separate-pass")
    assert (setup.environment.rotation, setup.shutter.samples) == (30, 5)
    assert (setup.depth_of_field.aperture, setup.output.format) == (0.1, "exr-each")


def test_steps_that_are_kept_by_themselves():
    old = [
        {"kind": "grade", "gain": [2, 2, 2]},
        {"kind": "blur", "form": "box"},
        {"kind": "other", "x": 1},
    ]
    assert [s["kind"] for s in upgrade_steps(old, 1)] == ["tone", "blur", "other"]
    assert upgrade_steps(old, VERSION) == old


@given(anything)
def test_what_is_no_document_is_left_to_be_refused(data):
    for version in UPGRADES:
        given_data = {**data, "neatveil": version} if isinstance(data, dict) else data
        upgrade_comp(given_data)
        with contextlib.suppress(DocumentRefused):  # and nothing else
            parse_comp(given_data, lenient=True)
