"""Layers that stand in a rendered scene: against the glTF camera, OpenCV's, and the pass renderer itself."""

import json
from fractions import Fraction

import cv2
import numpy as np
import pytest
from core.reference.pictures import Arrays
from core.scene.test_lighting import board
from hypothesis import given
from hypothesis import strategies as st
from neatveil.comp import Card, Comp, Element, Layer, SceneCamera
from neatveil.comp.loading import parse_comp
from neatveil.errors import DocumentRefused, NeatVeilError, ValueRefused
from neatveil.evaluate import Evaluator
from neatveil.evaluate.cards import card_matrix
from neatveil.scene.frames import render_frame
from neatveil.scene.manifest import manifest
from neatveil.scene.model import Camera, Material, Node, Scene, Texture
from neatveil.scene.render_camera import camera_of_manifest
from neatveil.scene.setup import parse_setup
from scipy.spatial.transform import Rotation

WIDTH, HEIGHT, SIZE = 160, 90, (96, 48)
degrees = st.floats(-170, 170)


def pattern():
    """Soft blobs of light with fine stripes, ``(H, W, 4)`` opaque."""
    y, x = np.mgrid[: SIZE[1], : SIZE[0]] / 8.0
    rgb = [0.5 + 0.4 * np.sin(x + k) * np.cos(0.7 * y - k) for k in range(3)]
    return np.stack([*rgb, np.ones_like(x)], -1).astype(np.float32)


def scene_of(turn, at, width):
    """A glowing board of the pattern, and nothing else; its width is 1, seen by a camera that is placed."""
    uv = np.array([[0, 1], [1, 1], [1, 0], [0, 0]], np.float32)
    glow = Material(
        "glow", (0, 0, 0), ior=1.0, metallic=0, emission=(1.0, 1.0, 1.0),
        emission_texture=Texture("p", pattern(), ("clamp", "clamp")),
    )  # fmt: skip
    quarter = tuple(Rotation.from_matrix(turn).as_quat())
    scale = (width, width * SIZE[1] / SIZE[0], 1.0)
    node = Node(
        "board", translation=at, rotation=quarter, scale=scale, meshes=(board(1.0, material=glow, uv=uv),)
    )
    return Scene("s", (node, Node("eye", translation=(0, 0, 4), camera=Camera("eye", 0.8, None, 0.1, None))))


def setup(**fields):
    base = {"width": WIDTH, "height": HEIGHT, "samples": 256, "rate": "25", "last": 3, "passes": ["beauty"]}
    return parse_setup({**base, "pixel_filter": "box", **fields})


def comp_of(camera, card, **fields):
    """The pattern as a card in a comp of the render's size."""
    given = {"e": Element(file="p", still=True, encoding="linear", reading={"alpha": "straight"})}
    row = Layer(id="a", name="a", element="e", card=card, **fields)
    return Comp(
        width=WIDTH, height=HEIGHT, rate="25", first=1, last=3, elements=given, cameras={"v1": camera},
        camera="v1", layers=(row,),
    )  # fmt: skip


def drawn(comp, frame=1, level=0):
    evaluator = Evaluator(Arrays({"p": [pattern()]}, {}))
    return evaluator.picture(comp, frame, level=level).rgba()


STANDS = [
    {"turn": 35.0, "tilt": -12.0, "roll": 8.0, "x": 0.2, "y": -0.1, "width": 2.2},
    {"turn": 68.0, "z": 1.5, "width": 2.5},  # seen from its side
    {"tilt": 80.0, "y": -0.5, "z": 1.0, "width": 4.0},  # a floor that reaches under the eye
    {"x": -0.6, "width": 1.7, "z": -6.0},
]


@pytest.mark.parametrize("row", STANDS)
@pytest.mark.parametrize("frame", [1, 3])
def test_a_card_is_seen_as_the_renderer_sees_a_board(row, frame):
    """Within 1/255 on average, and at the 99.9th percentile inside of it."""
    keys = [{"frame": 1, "value": 10}, {"frame": 3, "value": 22}]
    rows = setup(
        placed_camera={
            "azimuth": 10.0,
            "elevation": 9.0,
            "distance": 4.0,
            "keys": {"azimuth": {"keys": keys}},
        }
    )
    turn = Rotation.from_euler(
        "YXZ", [row.get("turn", 0), -row.get("tilt", 0), -row.get("roll", 0)], degrees=True
    ).as_matrix()
    scene = scene_of(turn, tuple(row.get(n, 0.0) for n in "xyz"), row["width"])
    truth = render_frame(scene, rows, frame)
    expected = np.stack([truth[n] for n in "RGBA"], -1)
    camera = camera_of_manifest(manifest(scene, rows, [1, 2, 3]), "s")
    got = drawn(comp_of(camera, Card(**row)), frame)
    assert expected[..., 3].mean() > 0.01, "it is in view"
    off = np.abs(got - expected)
    assert off.mean() < 1 / 255
    # a layer's edge is as soft as its own pixels, the board's as those of the frame
    whole = cv2.erode(expected[..., 3], np.ones((9, 9))) == 1
    assert whole.sum() > 50
    assert np.quantile(off[whole], 0.999) < 1 / 255


@given(degrees, st.floats(-85, 85), degrees, st.tuples(*[st.floats(-2, 2)] * 3), st.floats(0.3, 1.6))
def test_corners_lie_where_the_camera_of_gltf_and_that_of_opencv_put_them(turn, tilt, roll, at, yfov):
    """glTF 2.0, 3.10.3.2: infinite perspective projection; OpenCV's pinhole looks along +Z, y down."""
    x, y, z = at
    eye = np.array([0.5, 0.25, 7.0])
    lens = SceneCamera(
        name="v", width=WIDTH, height=HEIGHT, rate=Fraction(25), first=1, yfov=(yfov,),
        places=(tuple((*row, e) for row, e in zip(np.eye(3).tolist(), eye, strict=True)),),
    )  # fmt: skip
    card = Card(x=x, y=y, z=z, turn=turn, tilt=tilt, roll=roll, width=1.5)
    found = card_matrix(comp_of(lens, card), card.at(1), SIZE)
    own = np.array([[0, 0], [SIZE[0], 0], [SIZE[0], SIZE[1]], [0, SIZE[1]], [SIZE[0] / 2, SIZE[1] / 2]])
    got = np.column_stack([own, np.ones(5)]) @ found.T
    got = got[:, :2] / got[:, 2:]
    r = Rotation.from_euler("YXZ", [turn, -tilt, -roll], degrees=True)
    flat = (own - np.array(SIZE) / 2) * (1, -1) * 1.5 / SIZE[0]
    world = r.apply(np.column_stack([flat, np.zeros(5)])) + at
    near, aspect = 0.1, WIDTH / HEIGHT
    gltf = np.array(
        [[1 / (aspect * np.tan(yfov / 2)), 0, 0, 0], [0, 1 / np.tan(yfov / 2), 0, 0],
         [0, 0, -1, -2 * near], [0, 0, -1, 0]]
    )  # fmt: skip
    clip = np.column_stack([world - eye, np.ones(5)]) @ gltf.T
    device = clip[:, :2] / clip[:, 3:]
    expected = (device * (1, -1) + 1) / 2 * (WIDTH, HEIGHT)
    np.testing.assert_allclose(got, expected, atol=1e-3, rtol=1e-6)
    focal = HEIGHT / 2 / np.tan(yfov / 2)
    pinhole = np.array([[focal, 0, WIDTH / 2], [0, focal, HEIGHT / 2], [0, 0, 1.0]])
    flipped, _ = cv2.projectPoints((world - eye) * (1, -1, -1), np.zeros(3), np.zeros(3), pinhole, None)
    np.testing.assert_allclose(got, flipped[:, 0], atol=1e-3, rtol=1e-6)


def still_camera(**fields):
    place = ((1, 0, 0, 0), (0, 1, 0, 0), (0, 0, 1, 4))
    given = {"name": "v", "width": WIDTH, "height": HEIGHT, "rate": "25", "first": 1, "yfov": (0.8,)}
    return SceneCamera.model_validate({**given, "places": (place,), **fields})


@pytest.mark.parametrize("behind", [{"z": 9.0}, {"z": 4.0, "tilt": 90.0, "x": 30.0}, {"x": 50.0}])
@pytest.mark.parametrize("how", ["nearest", "linear", "cubic"])
def test_what_is_behind_or_beside_the_eye_is_not_seen(behind, how):
    done = drawn(comp_of(still_camera(), Card(width=2.0, **behind), transform={"filter": how}))
    assert not done.any()


@pytest.mark.parametrize("how", ["nearest", "linear", "cubic", "lanczos"])
def test_a_floor_under_the_eye_ends_at_the_horizon(how):
    """Of a floor below the eye nothing is seen above the middle of the frame, behind the eye or before it."""
    floor = Card(tilt=90.0, y=-0.5, z=4.0, width=40.0)
    done = drawn(comp_of(still_camera(), floor, transform={"filter": how}))
    assert not done[: HEIGHT // 2].any()
    assert done[-5:, :, 3].min() == 1, "it reaches under the camera"


def test_it_turns_to_the_camera():
    """One that faces the camera is seen without perspective, wherever the camera stands."""
    aside = Rotation.from_euler("YX", [50, -20], degrees=True).as_matrix()
    place = np.column_stack([aside, aside @ [0, 0, 4]])
    camera = still_camera(places=(place.tolist(),))
    card = Card(faces="camera", width=1.2)
    there = drawn(comp_of(camera, card))
    np.testing.assert_allclose(there, drawn(comp_of(still_camera(), card)), atol=1e-4)


def test_its_foot_stands_on_the_place():
    standing = drawn(comp_of(still_camera(), Card(anchor="foot", width=1.0)))
    raised = drawn(comp_of(still_camera(), Card(y=SIZE[1] / SIZE[0] / 2, width=1.0)))
    np.testing.assert_array_equal(standing, raised)


def test_its_transform_moves_what_the_camera_sees():
    card = Card(turn=40.0, width=1.5)
    moved = drawn(comp_of(still_camera(), card, transform={"x": 7, "y": -3}))
    np.testing.assert_allclose(moved[:-3, 7:], drawn(comp_of(still_camera(), card))[3:, :-7], atol=1e-5)


def test_the_camera_s_frames_are_conformed_to_the_comp():
    """Twice its rate: every second frame; late by its offset; held at its ends."""
    places = tuple(((1, 0, 0, n), (0, 1, 0, 0), (0, 0, 1, 4)) for n in range(5))
    camera = still_camera(rate="50", first=11, places=places)

    def seen_from(frame, **fields):
        return drawn(comp_of(camera, Card(width=2.0, **fields)), frame)

    def from_place(n):
        return drawn(comp_of(still_camera(places=(places[n],)), Card(width=2.0)))

    for frame, fields, place in (
        (2, {}, 2),
        (3, {}, 4),
        (3, {"offset": -2}, 4),
        (3, {"offset": 1}, 2),
        (1, {"offset": 1}, 0),
    ):
        np.testing.assert_array_equal(seen_from(frame, **fields), from_place(place))


def test_a_level_is_the_whole_picture_halved():
    card = Card(turn=30.0, width=3.0)
    whole, half = (drawn(comp_of(still_camera(), card), level=n) for n in (0, 1))
    shrunk = cv2.resize(whole, (WIDTH // 2, HEIGHT // 2), interpolation=cv2.INTER_AREA)
    assert np.abs(half - shrunk).mean() < 0.004


def test_a_draft_sees_the_size_that_was_ordered():
    scene = scene_of(np.eye(3), (0, 0, 0), 1.0)
    ordered = setup(use="draft", draft={"shrink": 2, "samples": 4})
    listing = manifest(scene, ordered, [1])
    assert listing["size"] != [WIDTH, HEIGHT]
    camera = camera_of_manifest(listing, "s")
    assert (camera.width, camera.height) == (WIDTH, HEIGHT)


def test_a_missing_frame_has_the_place_before_it_and_no_frame_is_refused():
    scene = scene_of(np.eye(3), (0, 0, 0), 1.0)
    keys = [{"frame": 1, "value": 0}, {"frame": 3, "value": 20}]
    rows = setup(placed_camera={"keys": {"azimuth": {"keys": keys}}})
    whole = camera_of_manifest(manifest(scene, rows, [1, 2, 3]), "s")
    gap = camera_of_manifest(manifest(scene, rows, [1, 3]), "s")
    assert gap.places == (whole.places[0], whole.places[0], whole.places[2])
    older = manifest(scene, rows, [1, 2, 3])
    for row in older["frames"].values():
        del row["yfov"]
    assert camera_of_manifest(older, "s").yfov == whole.yfov
    assert len(whole.yfov) == 1, "what does not change is told once"
    with pytest.raises(ValueRefused):
        camera_of_manifest(manifest(scene, rows, []), "s")


def test_without_its_camera_the_layer_is_named_and_the_rest_is_drawn():
    comp = comp_of(still_camera(), Card(width=1.0))
    plate = Layer(id="p", name="plate", element="e")
    lost = comp.model_copy(update={"cameras": {}, "layers": (plate, *comp.layers)})
    failed: list[NeatVeilError] = []
    done = Evaluator(Arrays({"p": [pattern()]}, {})).picture(lost, 1, failed=failed).rgba()
    assert done.any()
    assert "Layer a" in failed[0].message
    nameless = lost.model_copy(update={"camera": ""})
    with pytest.raises(DocumentRefused, match="knows no camera"):
        nameless.camera_of(Card())


def test_a_document_keeps_cameras_and_cards():
    comp = comp_of(still_camera(), Card(turn=3.0, keys={"x": {"keys": [{"frame": 1, "value": 0.5}]}}))
    again = parse_comp(json.loads(comp.model_dump_json()))
    np.testing.assert_array_equal(drawn(again), drawn(comp))
    with pytest.raises(DocumentRefused, match="different numbers of frames"):
        parse_comp(
            {**json.loads(comp.model_dump_json()),
             "cameras": {"v1": {**still_camera().model_dump(mode="json"), "yfov": [0.5, 0.6],
                                "places": [still_camera().places[0]] * 3}}}
        )  # fmt: skip
