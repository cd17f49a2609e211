"""The film's comps as documents; elements are named by their keys."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from .cards import FRAMES

Document = dict[str, Any]


def _comp(name: str, frames: int, layers: list[Document]) -> Document:
    return {
        "name": name, "width": 1920, "height": 1080, "rate": "25", "first": 1, "last": frames,
        "layers": layers,
    }  # fmt: skip


def boardwalk(elements: Mapping[str, str], frames: int) -> Document:
    """Plate, kite, lantern, caption, from far to near."""
    layers = [
        {"id": "plate", "name": "plate", "element": elements["plate"]},
        {"id": "kite", "name": "kite", "element": elements["kite"],
         "transform": {"x": -380, "y": -180, "scale": 0.9}},
        {"id": "lantern", "name": "lantern", "element": elements["lantern"],
         "steps": [{"kind": "levels", "gamma": 1.2}]},
        {"id": "caption", "name": "caption", "element": elements["caption"], "first": min(9, frames),
         "offset": min(8, frames - 1)},
    ]  # fmt: skip
    return _comp("Boardwalk, dusk", frames, layers)


def whole_dusk(elements: Mapping[str, str], frames: int) -> Document:
    """Everything at once: eight layers with twenty steps and three mattes.

    The sky alone is warmed, the lantern stands behind the reeds, and the mist stays off the caption.
    """
    before_reeds = {"source": "layer:plate", "channel": "luma", "read": "placed", "low": 0.3, "high": 0.55}
    sky = {
        "by": "matte",
        "matte": {
            "parts": [{"source": "", "channel": "lightness", "low": 0.5, "high": 0.65}],
            "soften": 6,
        },
    }
    lens = {"by": "ellipse", "width": 1500, "height": 900, "soft": 500, "inverted": True}
    layers = [
        {"id": "plate", "name": "plate", "element": elements["plate"], "steps": [
            {"kind": "tone", "gain": [1.06, 1.0, 0.94], "contrast": 1.08, "through": sky},
            {"kind": "levels", "space": "codes", "in_white": 0.92, "gamma": 1.15},
            {"kind": "blur", "size": 2.5, "through": lens},
        ]},
        {"id": "far-kite", "name": "kite, far", "element": elements["kite"], "opacity": 0.8,
         "transform": {"x": 560, "y": -300, "scale": 0.4, "rotation": -14}, "steps": [
            {"kind": "exposure", "stops": -0.6},
            {"kind": "blur", "size": 1.5},
        ]},
        {"id": "kite", "name": "kite", "element": elements["kite"],
         "transform": {"x": -380, "y": -180, "scale": 0.9}, "steps": [
            {"kind": "levels", "space": "codes", "gamma": 1.1},
            {"kind": "grow_shrink", "size": -0.4},
            {"kind": "tone", "saturation": 0.85},
        ]},
        {"id": "feather", "name": "feather", "element": elements["feather"], "operator": "screen",
         "opacity": 0.5, "steps": [
            {"kind": "patch", "second": elements["feather alpha"],
             "routes": {"A": {"source": "second", "channel": "R"}}},
            {"kind": "levels", "space": "codes", "in_black": 0.1, "in_white": 0.8},
        ]},
        {"id": "far-lantern", "name": "lantern, far", "element": elements["lantern"],
         "transform": {"x": 610, "y": 90, "scale": 0.5}, "steps": [
            {"kind": "exposure", "stops": -1},
            {"kind": "hue", "rotation": 8},
        ]},
        {"id": "lantern", "name": "lantern", "element": elements["lantern"],
         "matte": {"parts": [before_reeds], "soften": 0.5}, "steps": [
            {"kind": "levels", "gamma": 1.2},
            {"kind": "glow", "size": 18, "gain": 0.4},
            {"kind": "sharpen", "size": 1.2, "amount": 0.4},
            {"kind": "grain", "amount": [0.02, 0.02, 0.02]},
            {"kind": "curve", "points": [[0, 0], [0.5, 0.54], [1, 1]]},
        ]},
        {"id": "mist", "name": "mist", "element": elements["plate"], "operator": "screen", "opacity": 0.15,
         "matte": {"parts": [{"source": "layer:caption", "read": "placed", "inverted": True}]}, "steps": [
            {"kind": "transform", "x": 40, "scale": 1.1},
            {"kind": "falloff", "y": 300, "width": 2200, "height": 500, "soft": 400},
        ]},
        {"id": "caption", "name": "caption", "element": elements["caption"], "first": min(9, frames),
         "offset": min(8, frames - 1), "steps": [
            {"kind": "tone", "gain": [1.0, 0.97, 0.9]},
        ]},
    ]  # fmt: skip
    return _comp("Boardwalk, everything", frames, layers)


def kites_at_dusk(elements: Mapping[str, str], frames: int) -> Document:
    """A crowd of kites from one clip, and a lantern graded inside its own alpha."""
    crowd = {
        "count": 40, "seed": 9, "chance_x": 860, "chance_y": 250, "chance_scale": 0.75, "chance_rotation": 16,
        "chance_time": 24, "order": "larger-in-front",
    }  # fmt: skip
    shade = [{"kind": "blur", "size": 14}, {"kind": "tone", "gain": [1.0, 0.8, 0.62]}]
    layers = [
        {"id": "plate", "name": "plate", "element": elements["plate"]},
        {"id": "kites", "name": "kites", "element": elements["kite"], "beyond": "ping-pong",
         "transform": {"y": -230, "scale": 0.22}, "repeat": crowd},
        {"kind": "group", "id": "lantern", "name": "lantern, graded",
         "alpha": {"by": "member", "member": "lit"}, "layers": [
            {"id": "lit", "name": "lantern", "element": elements["lantern"]},
            {"id": "shade", "name": "shade", "element": elements["lantern"], "operator": "multiply",
             "opacity": 0.6, "steps": shade},
        ]},
    ]  # fmt: skip
    return _comp("Kites over the marsh", frames, layers)


def end_title(elements: Mapping[str, str], frames: int) -> Document:
    """All made here but the plate: it is dimmed, the mark drawn large, two lines and a rule laid beneath."""
    cream = [0.887, 0.791, 0.584]
    dim = [{"kind": "blur", "size": 9}, {"kind": "tone", "gain": [0.30, 0.34, 0.38], "saturation": 0.7}]
    rise = {
        "kind": "text", "text": "Ferrow Marsh", "font": "serif", "size": 120, "weight": 500, "colour": cream,
    }  # fmt: skip
    line = {
        "kind": "text",
        "text": "A film of the reserve wardens",
        "size": 40,
        "colour": cream,
        "alpha": 0.85,
    }
    rule = {"kind": "shape", "shape": "rectangle", "width": 620, "height": 3, "colour": cream, "alpha": 0.6}
    layers = [
        {"id": "plate", "name": "plate", "element": elements["plate"]},
        {"kind": "made", "id": "dimmed", "name": "dimmed", "made": {"kind": "beneath"}, "steps": dim},
        {"id": "mark", "name": "mark", "element": elements["mark"],
         "transform": {"y": -190, "scale": 4.4}},
        {"kind": "made", "id": "title", "name": "title", "made": rise, "transform": {"y": 130}},
        {"kind": "made", "id": "rule", "name": "rule", "made": rule, "transform": {"y": 222}},
        {"kind": "made", "id": "line", "name": "line beneath", "made": line, "transform": {"y": 278}},
    ]  # fmt: skip
    return _comp("End title", frames, layers)


def to_stack_on(elements: Mapping[str, str], width: int, height: int) -> Document:
    """The plate at a render's size, for its passes to be laid on."""
    plate = {
        "id": "plate",
        "name": "plate",
        "element": elements["plate"],
        "transform": {"scale": width / 1920},
    }
    made = _comp("Lantern, stacked", 1, [plate])
    return {**made, "width": width, "height": height}


def waymark_boards(elements: Mapping[str, str], sign: str, width: int, height: int, frames: int) -> Document:
    """A rendered sign whose board is a slot: twelve rows, each with artwork of its own.

    ``sign``: the element of the render, whose data are extra channels.
    """
    from .boards import BOARDS, FILES

    routes = {n: {"channel": f"reflection.{n}"} for n in "RGB"} | {
        "A": {"source": "constant", "channel": "0"}
    }
    on_board = {"by": "matte", "matte": {"parts": [{"kind": "channel", "channel": "mask.1"}]}}
    layers = [
        {"id": "plate", "name": "plate", "element": elements["plate"], "transform": {"scale": width / 1920}},
        {"kind": "group", "id": "sign", "name": "waymark", "alpha": {"by": "member", "member": "board"},
         "steps": [{"kind": "motion_blur", "shutter": 0.5, "depth": "depth.Z"}],
         "layers": [
            {"id": "board", "name": "board", "element": sign, "steps": [
                {"kind": "uv_map", "second": elements[BOARDS[0][0]], "coverage": "mask.1", "beyond": "clamp"},
                {"kind": "tone", "gain": [0.62, 0.5, 0.42], "through": on_board},
            ]},
            {"id": "shine", "name": "reflection", "element": sign, "operator": "plus", "steps": [
                {"kind": "patch", "routes": routes, "input_alpha": "premultiplied",
                 "output_alpha": "premultiplied"},
            ]},
        ]},
        {"kind": "group", "id": "lower-third", "name": "lower third", "transform": {"y": height * 0.4},
         "layers": [
            {"kind": "made", "id": "strip", "name": "strip", "made": {
                "kind": "shape", "shape": "rectangle", "width": width * 0.62, "height": 34, "corner": 17,
                "colour": [0.008, 0.012, 0.016], "alpha": 0.72,
            }},
            {"kind": "made", "id": "caption", "name": "caption", "made": {
                "kind": "text", "text": BOARDS[0][1], "size": 19, "weight": 600, "colour": [0.81, 0.73, 0.51],
            }},
        ]},
    ]  # fmt: skip
    made = _comp("Waymark, twelve boards", frames, layers)
    slots = [
        {"name": "board", "layer": "board", "step": 0, "field": "second"},
        {"name": "light", "layer": "board", "step": 1, "field": "gain"},
        {"name": "caption", "layer": "caption", "field": "text"},
    ]
    rows: list[Document] = [
        {"board": FILES[name], "caption": f"{first}: {' '.join(second.split())}"}
        for name, first, second, _ in BOARDS
    ]
    rows[5]["light"] = "0.9 0.7 0.45"
    rows[10]["light"] = "0.3 0.3 0.4"
    return {**made, "width": width, "height": height, "slots": slots, "rows": rows}


def to_be_matted(elements: Mapping[str, str]) -> list[Document]:
    """Three short comps that wait for a matte: a sky, a card, a caption."""
    frames = len(FRAMES)

    def layer(name: str, element: str, **more: Any) -> Document:
        return {"id": name.replace(" ", "-"), "name": name, "element": elements[element], **more}

    return [
        _comp("Reeds before another sky", frames, [layer("dawn sky", "dawn sky"), layer("reeds", "reeds")]),
        _comp("Puppet on the boardwalk", frames, [layer("plate", "plate"), layer("puppet", "puppet")]),
        _comp("Water in letters", frames, [
            layer("plate", "plate"), layer("water", "ripples", beyond="loop"),
            layer("caption", "caption", offset=-14, beyond="hold", shown=False),
        ]),
    ]  # fmt: skip
