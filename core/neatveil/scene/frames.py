"""One frame of a scene by a set-up: the camera, the moments of the shutter, the light, the passes."""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction

import numpy as np

from ..alpha import store
from ..errors import SceneRefused
from ..picture import RGB, RGBA, Box, PremultipliedPicture, StoredPicture
from .illumination import Illumination
from .lens import Focus, Lens
from .model import Camera, Floats, Scene
from .moment_samples import Later, Moment
from .motion import Matrix, places_at
from .passes import PassSettings, pass_named
from .passes.base import Glare
from .placed import scene_with_lamps
from .plate import Plate
from .render_layers import RenderLayer, render_layers_of
from .render_tiles import Sampling, check, render_moments
from .setup import RenderSetup
from .sky import Sky
from .world import World

#: Light of a picture that a set-up names, ``(H, W, 3)``, at a frame.
Pictures = Callable[[str, int], Floats]


def camera_at(scene: Scene, setup: RenderSetup, seconds: float) -> tuple[Camera, Matrix]:
    """The set-up's camera and ``(4, 4)`` from its space to the world's; `SceneRefused` where it has none."""
    if setup.placed_camera is not None:
        placed = setup.placed_camera.at(setup.first + seconds * float(setup.rate))
        return placed.camera(), placed.place()
    number = camera_node(scene, setup)
    camera = scene.nodes[number].camera
    assert camera is not None
    return camera, places_at(scene, seconds)[number]


def camera_node(scene: Scene, setup: RenderSetup) -> int:
    """The node of the scene's camera that the set-up names; `SceneRefused` where there is none."""
    if not scene.cameras:
        raise SceneRefused(
            f"{scene.name} has no camera.",
            advice="Put one into the scene and export it again.",
            where=scene.name,
        )
    if setup.camera is None:
        return scene.cameras[0]
    for number in scene.cameras:
        if scene.nodes[number].name == setup.camera:
            return number
    names = ", ".join(scene.nodes[n].name for n in scene.cameras)
    raise SceneRefused(f"{scene.name} has no camera {setup.camera}; it has {names}.", where=setup.camera)


def seconds_of(setup: RenderSetup, frame: int, part: float = 0.0) -> float:
    """The scene's moment of a frame, or of a part of a frame later."""
    return float((frame - setup.first + Fraction(part)) / setup.rate)


def lens_at(scene: Scene, setup: RenderSetup, seconds: float) -> Lens:
    camera, place = camera_at(scene, setup, seconds)
    blur = setup.depth_of_field
    focus = None if blur is None else Focus(blur.distance, blur.aperture)
    return Lens.of(camera, place, setup.width, setup.height, focus)


def moments_of(scene: Scene, setup: RenderSetup, layer: RenderLayer, frame: int) -> list[Moment]:
    """The moments that the shutter is open, each with what it becomes a frame later where that is asked."""
    moves = any(pass_named(p).needs == "later" for p in setup.passes)
    found = []
    for part in _parts(setup):
        seconds, after = seconds_of(setup, frame, part), seconds_of(setup, frame, part + 1)
        world = World(scene_with_lamps(scene, setup.lamps, frame + part), seconds, layer.casting)
        later = Later.of(world, after, lens_at(scene, setup, after)) if moves else None
        found.append(Moment(world, lens_at(scene, setup, seconds), later))
    return found


def _parts(setup: RenderSetup) -> list[float]:
    """Parts of a frame after its moment: the middles of even spans of the time that the shutter is open."""
    if setup.shutter is None:
        return [0.0]
    open_for = setup.shutter.angle / 360
    begin = -open_for / 2 if setup.shutter.opens == "around" else 0.0
    count = min(setup.shutter.samples, setup.samples)
    return [begin + (i + 0.5) / count * open_for for i in range(count)]


def illumination_of(setup: RenderSetup, pictures: Pictures, frame: int) -> Illumination:
    """What lights the scene; the named pictures are read."""
    around, sky = setup.environment and setup.environment.at(frame), None
    if around is not None:
        sky = Sky(pictures(around.picture, frame), around.strength, float(np.radians(around.rotation)))
    plate = None
    if setup.plate is not None and "composite" in setup.passes:
        plate = Plate(pictures(setup.plate, frame))
    return Illumination(
        lamps=setup.lights, indirect=setup.indirect, bounces=setup.bounces, sky=sky,
        sky_seen=around is not None and around.visible, clear_glass=setup.refraction_in_alpha,
        plate=plate, most=setup.firefly_clamp,
    )  # fmt: skip


def sampling_of(setup: RenderSetup, frame: int) -> Sampling:
    return Sampling(setup.samples, setup.pixel_filter, setup.seed + frame, setup.noise)


def given_of(setup: RenderSetup) -> PassSettings:
    """What the set-up says to single passes."""
    glare = setup.glare
    spread = Glare() if glare is None else Glare(glare.strength, glare.size, glare.over)
    return PassSettings(setup.numbers, setup.most_motion, spread)


def check_scene(scene: Scene, setup: RenderSetup, pictures: Pictures) -> None:
    """Raise what would be wrong with the first frame, before any long work."""
    for layer in render_layers_of(scene, setup):
        moment = moments_of(scene, setup.model_copy(update={"shutter": None}), layer, setup.first)[0]
        light = illumination_of(setup, pictures, setup.first)
        sampling, given = sampling_of(setup, setup.first), given_of(setup)
        check(moment, [pass_named(p) for p in setup.passes], sampling, light, given)


def render_layer(
    scene: Scene, setup: RenderSetup, layer: RenderLayer, frame: int, pictures: Pictures,
    cancelled: Callable[[], bool] | None = None, window: Box | None = None,
) -> StoredPicture:  # fmt: skip
    """All passes of one frame: the beauty as the set-up says, light premultiplied, data as it is."""
    moments = moments_of(scene, setup, layer, frame)
    light = illumination_of(setup, pictures, frame)
    joined = setup.shadows == "in-alpha" and "beauty" in setup.passes and bool(setup.shadow_catchers)
    lit = [p for p in ("beauty", "composite") if p in setup.passes]
    spread = setup.glare is not None and bool(lit)
    carried = setup.output.alpha_with_passes and not {"beauty", "alpha"} & set(setup.passes)
    needed = [
        *(["alpha"] if carried else []),
        *(["caught"] if joined else []),
        *(["glare"] if spread else []),
    ]
    wanted = list(dict.fromkeys([*setup.passes, *needed]))
    picture = render_moments(
        moments, wanted, sampling_of(setup, frame), given_of(setup), light, cancelled, window
    )
    planes = dict(picture.planes)
    if joined:
        # a shadow is black that covers what it falls on
        planes["A"] = planes["A"] + planes["caught.A"]
    if spread:
        for name in (c for p in lit for c in _colour_of(p)):
            planes[name] = planes[name] + planes[f"glare.{name[-1]}"]
    for extra in set(needed) - set(setup.passes):
        planes = {c: p for c, p in planes.items() if not c.startswith(f"{extra}.")}
    if "beauty" in setup.passes:
        planes |= _stored(setup, planes)
    return picture.with_planes(planes)


def _colour_of(name: str) -> list[str]:
    """The colour channels of the beauty, or of the composite."""
    return list(RGB) if name == "beauty" else [f"{name}.{n}" for n in RGB]


def _stored(setup: RenderSetup, planes: dict[str, Floats]) -> dict[str, Floats]:
    if setup.environment is not None and setup.environment.visible:
        return {n: planes[n] for n in RGB}
    beauty = PremultipliedPicture({n: planes[n] for n in RGBA})
    return dict(store(beauty, setup.reading, "linear").planes)


def render_frame(
    scene: Scene, setup: RenderSetup, frame: int, pictures: Pictures | None = None
) -> StoredPicture:
    """The frame's first sheet: everything, where the set-up has no layers."""
    layer = render_layers_of(scene, setup)[0]
    return render_layer(scene, setup.effective(), layer, frame, pictures or no_pictures)


def no_pictures(name: str, frame: int) -> Floats:
    raise SceneRefused(f"The picture {name} is not at hand.", where=name)
