"""Compile every kernel now, so that no one waits for it later: ``python -m neatveil.warm``."""

from __future__ import annotations

from typing import Any

import numpy as np

from .alpha import Reading, premultiply, read, store, unpremultiply
from .arrays import merge
from .channels.pick import PICKS, picked
from .colour import ENCODINGS
from .colour.codes import coded
from .colour.spaces import views_of
from .drawn.strokes import Stroke, painted
from .io.backends.png_writing import filtered as png_rows
from .io.backends.samples import fill_halved, fill_planes, to_codes
from .io.backends.yuv import to_rgb
from .made import MADE, Canvas
from .mattes import Drawn, Matte, PaintPart, Rows
from .mattes.channel import ChannelPart
from .mattes.key import KeyPart
from .mattes.matte import COMBINE
from .mattes.natural import colour_in_front, edge_found
from .mattes.shape import ShapePart
from .merge import OPERATORS, inside, merge_planes
from .numeric.defocus import defocused
from .numeric.edge_data import without_mixed_depth
from .numeric.pyramid import pyramid_of
from .numeric.texture import LookUp, Map, looked_up
from .numeric.vector_blur import vector_blurred
from .picture import RGBA, PremultipliedPicture, StoredPicture, trimmed
from .scene.illumination import Illumination
from .scene.lens import Focus, Lens
from .scene.model import Camera, Light, Material, Mesh, Node, Scene
from .scene.moment_samples import Later, Moment
from .scene.object_roles import ObjectRoles
from .scene.passes import PASSES, PassSettings
from .scene.passes.base import Glare
from .scene.plate import Plate
from .scene.render_tiles import Sampling, render_moments
from .scene.sky import Sky
from .scene.world import World
from .steps import STEPS
from .steps.apply import apply_steps
from .steps.blur import disc
from .steps.levels import LevelsStep
from .steps.through import Through
from .view import CHANNELS, Look, Screen, display, show


def main() -> None:
    """Call each kernel once on a tiny picture; with the cache on disk it is read from there."""
    rgba = np.full((2, 2, 4), 0.5, np.float32)
    stored = StoredPicture.from_rgba(rgba)
    for encoding in ENCODINGS:
        for alpha in ("straight", "premultiplied"):
            reading = Reading(alpha=alpha, multiplied="encoded")
            picture = read(stored, reading, encoding)
            store(picture, reading, encoding)
    premultiply(unpremultiply(picture))
    trimmed(picture)
    for name in OPERATORS:
        merge(name, rgba, rgba)
        merge_planes(name, picture.planes, picture.planes, dict(picture.planes), 1.0)
    warm_steps(picture)
    warm_surfaces(picture)
    for kind, made in MADE.items():
        made.model_validate({"kind": kind, **made.fresh}).drawn(Canvas(8, 8, 0))
    warm_rendering()
    warm_movies()
    for channel in CHANNELS:
        display(picture, Look(channel=channel))
    show(picture, Screen(Look(channel="rgb", through=views_of("cg")[0].name), picture.data_window, "bgr"))


def warm_steps(picture: PremultipliedPicture) -> None:
    """Every step far enough from rest to be done, on light and on codes, in part and through a shape."""
    moved: dict[str, Any] = {
        "blur": {"kernel": "disc"}, "crop": {"left": 1}, "transform": {"x": 0.5}, "levels": {"gamma": 2},
        "corner_pin": {"top_left": (0.5, 0)}, "tone": {"saturation": 0.5}, "hue": {"rotation": 9},
    }  # fmt: skip
    for kind, step in STEPS.items():
        one = step.model_validate({"kind": kind, **moved.get(kind, {})})
        apply_steps(picture, [one, one.model_copy(update={"mix": 0.5})], 0, 1)
    for shape in ("ellipse", "rectangle"):
        apply_steps(picture, [LevelsStep(space="codes", through=Through(by=shape))], 0, 1)
    apply_steps(picture, [LevelsStep(out_black=0.1, channels="a")], 0, 1)
    for pick in PICKS:
        picked(picture.planes, pick, code=coded)
    warm_mattes(picture)


def warm_surfaces(picture: PremultipliedPicture) -> None:
    """Pictures on maps, whole and at an edge, with surfaces told apart or not; passes inside an alpha."""
    r, g, b, a = (np.ascontiguousarray(picture[n]) for n in RGBA)
    edge = np.array([[1, 0.5], [1, 1]], np.float32)
    for surfaces in (None, r):
        there = Map.of(r, g, edge, surfaces)
        for filtered, between in ((True, "cubic"), (False, "linear"), (False, "cubic")):
            how = LookUp(np.eye(2, 3, dtype=np.float32), filtered, between, "wrap")
            looked_up(there, pyramid_of([r, g, b, a], filtered), how)
    for vector in (0.5, 5.0):  # in smooth movement, and where it jumps
        ways = np.array([[vector, 0], [0.5, 0]], np.float32)
        vector_blurred([r, g, b, edge], ways, ways, ways, np.array([-1, 1], np.float32), clear=False)
    without_mixed_depth(a)
    defocused([r, g, b, a], np.array([[-3, 0], [2, 9]], np.float32), disc, clear=False)
    front, back = (inside.Rows((r.copy(), g.copy(), b.copy(), a.copy()), 0, 0) for _ in range(2))
    for name in inside.FUSED:
        inside.merge_inside(name, front, back, a, (2, 2), 1.0)


def warm_mattes(picture: PremultipliedPicture) -> None:
    """Parts of every kind, put together in every way."""
    grey, rows = picture["A"], Rows(picture.planes, picture.planes, 0, 2)
    for shape, passes in (("ramp", 1), ("ramp", 2), ("range", 1)):
        ChannelPart(shape=shape, passes=passes).kept(grey)
    for how in COMBINE:
        parts = (ChannelPart(), ChannelPart(combine=how), PaintPart())
        shares = [Drawn(grey), Drawn(grey), Drawn(grey, grey)]
        Matte(parts=parts, specks=9).refined(Matte(parts=parts).joined(shares), 0)
    Matte().steadied([grey] * 3)
    rough = np.linspace(0, 1, 400, dtype=np.float32).reshape(1, -1).repeat(20, 0)
    planes = dict.fromkeys("RGBA", np.ascontiguousarray(rough))
    colour_in_front(np.stack([rough] * 3, -1), edge_found(planes, rough, 2.0, 0.01))
    for key in (KeyPart(), KeyPart(evenness="plate", plate="a"), KeyPart(by="plate", plate="a")):
        key.kept(key.values(rows))
    uneven = rows._replace(survey=(1.0, 0, 0, 0, 0, 0))
    KeyPart().values(uneven)
    KeyPart().remove_screen(uneven)
    triangle = [v for x in (-9, 0, 9) for v in (x, x * x, 0, 0, 0, 0)]
    ShapePart(shape="free", points=tuple(triangle), soft_outside=2).drawn(4, 4, 0)
    painted([Stroke(points=(0, 0))], 4, 4, 0)


def warm_movies() -> None:
    """Frames of 8 and of more bits, with a stride as decoders give them."""
    for bits, kind in ((8, np.uint8), (10, np.uint16)):
        codes: Any = np.frombuffer(bytes(np.zeros((4, 8), kind)), kind).reshape(4, 8)
        to_rgb(codes[:, :6], codes[:, :3], codes[:, :3], bits, "bt709", False)
    to_codes([np.zeros((2, 2), np.float32)], np.uint8)
    to_codes([np.zeros((2, 2), np.float32)], np.uint16)
    png_rows(np.zeros((2, 2, 4), np.uint16))
    fill_halved({"A": np.empty((1, 1), np.float32)}, np.zeros((2, 2, 4), np.float16), [0])
    for sample in (np.uint8, np.uint16, np.float16):
        whole = np.empty((4, 6), np.float32)
        fill_planes([np.empty((2, 3), np.float32)], np.zeros((2, 3, 4), sample), [1])
        fill_planes([whole[1:3, 1:4]], np.zeros((2, 3, 4), sample), [1])


def warm_rendering() -> None:
    """The kernels of the pass renderer: a few pixels with everything in them."""
    corners = np.array([[-9, -9, -1], [9, -9, -1], [0, 9, -1]], np.float32)
    uv, order = np.zeros((3, 2), np.float32), np.array([[0, 1, 2]], np.int32)
    mesh = Mesh("", corners, corners, uv, order, Material("", alpha=0.5, blended=True))
    pane = Material("glass", transmission=1.0, metallic=0.0, solid=True)
    glass = Mesh(
        "", mesh.positions + np.array([0, 0, 0.5], np.float32), mesh.normals, mesh.uv, mesh.triangles, pane
    )
    nodes = (
        Node("a", meshes=(mesh,)), Node("ground", meshes=(mesh,)), Node("glass", meshes=(glass,)),
        Node("lamp", light=Light("", "point")),
    )  # fmt: skip
    lens = Lens.of(Camera("", 1.0, None, 0.1, None), np.eye(4), 4, 4, Focus(1.0, 0.1))
    world = World(Scene("", nodes), casting=ObjectRoles(catchers=frozenset({"ground"})))
    pixels = np.ones((2, 4, 3), np.float32)
    light = Illumination(sky=Sky(pixels), sky_seen=True, plate=Plate(pixels))
    moments = [Moment(world, lens, Later.of(world, 0.0, lens))]
    given = PassSettings({"a": 1}, glare=Glare(0.1))
    render_moments(moments, PASSES, Sampling(4, "gaussian"), given, light)


if __name__ == "__main__":
    main()
