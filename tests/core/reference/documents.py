"""Random comp documents drawn from the whole schema, and pictures for their elements.

Numbers are drawn from a few values that no rounding makes ambiguous, so that a failing document shrinks to
one that a person can read.
"""

from __future__ import annotations

import json

import numpy as np
from hypothesis import strategies as st
from neatveil.merge import OPERATORS
from neatveil.picture import Box, StoredPicture

WIDTH, HEIGHT, FRAMES = 44, 34, 6
#: Without those that divide by what may be next to nothing, as the saturation of greys: `tests/core/merge`.
SMOOTH = sorted(set(OPERATORS) - {"divide", "color-dodge", "color-burn", "hue", "saturation"})


class Arrays:
    """A decoder of arrays in memory, by file name: a list of ``(H, W, 4)`` frames, from ``first`` on."""

    def __init__(self, stored, first=1):
        self.stored, self.first = stored, first

    def read(self, source, frame, planes=None):
        rows = self.stored[source]
        rgba = np.asarray(rows[0] if len(rows) == 1 else rows[frame - self.first], np.float32)
        names = [n for n in planes or "RGBA" if n in "RGBA"]
        picture = {n: np.ascontiguousarray(rgba[..., "RGBA".index(n)]) for n in names}
        return StoredPicture(picture, Box.sized(rgba.shape[1], rgba.shape[0]))

    def read_halved(self, source, frame):
        return None


def soft_noise(rng, height, width, size):
    """Smooth noise within 0..1."""
    small = rng.random((height // size + 3, width // size + 3))
    y, x = np.mgrid[:height, :width] / size
    iy, ix = y.astype(int), x.astype(int)
    fy, fx = y - iy, x - ix
    top = small[iy, ix] * (1 - fx) + small[iy, ix + 1] * fx
    return top * (1 - fy) + (small[iy + 1, ix] * (1 - fx) + small[iy + 1, ix + 1] * fx) * fy


def disc(rng, height, width, *, light=False, margin=0.32):
    """Straight: a soft disc of smooth colour with an empty border; with light beyond its edge if asked."""
    y, x = np.mgrid[:height, :width]
    away = np.hypot(x - width / 2 + 0.5, y - height / 2 + 0.5)
    alpha = np.clip((min(height, width) * margin - away) / 3, 0, 1)
    out = np.stack([*(0.1 + 0.8 * soft_noise(rng, height, width, 7) for _ in range(3)), alpha], -1)
    if light:  # premultiplied, in light: a glow that goes past the edge, and an alpha that overshoots
        out[..., :3] *= alpha[..., None]
        out[..., :3] += (0.3 * np.exp(-((away / height * 4) ** 2)) * (away < height * 0.42))[..., None]
        out[..., 3] *= 1.04
    return out


def pictures():
    rng = np.random.default_rng(11)
    plate = np.stack([*(soft_noise(rng, HEIGHT, WIDTH, 5) for _ in range(3)), np.ones((HEIGHT, WIDTH))], -1)
    card = np.stack([np.full((HEIGHT, WIDTH), v) for v in (0.12, 0.55, 0.16, 1.0)], -1)
    puppet = disc(rng, HEIGHT, WIDTH)
    card[..., :3] = (
        card[..., :3] * (1 - puppet[..., 3:]) + puppet[..., :3] * (0.9, 0.6, 0.7) * puppet[..., 3:]
    )
    white = disc(rng, 25, 31)
    white[..., :3] = white[..., :3] * white[..., 3:] + 1 - white[..., 3:]
    upside = disc(rng, HEIGHT, WIDTH)
    upside[..., 3] = 1 - upside[..., 3]
    return {
        "plate": [plate],
        "card": [card],
        "disc": [disc(rng, 30, 36)],
        "glow": [disc(rng, HEIGHT, WIDTH, light=True, margin=0.2)],
        "odd": [white],
        "upside": [upside],
        "moving": [disc(rng, 28, 28, margin=0.15 + 0.05 * i) for i in range(4)],
    }


ELEMENTS = {
    "plate": {"encoding": "rec709", "reading": {"alpha": "none"}},
    "card": {"encoding": "linear", "reading": {"alpha": "none"}},
    "disc": {"encoding": "srgb", "reading": {"alpha": "straight"}},
    "glow": {"encoding": "linear", "reading": {"alpha": "premultiplied"}},
    "odd": {
        "encoding": "srgb",
        "reading": {"alpha": "premultiplied", "matte": [1, 1, 1], "multiplied": "after-encoding"},
    },
    "upside": {"encoding": "srgb", "reading": {"alpha": "straight", "inverted": True}},
    "moving": {"encoding": "srgb", "reading": {"alpha": "straight"}, "still": False, "first": 1, "last": 4},
}
LARGE = ("plate", "card", "glow", "upside")


def one_of(*values):
    return st.sampled_from(values)


def some(**fields):
    """A dictionary in which each field may be left out."""
    return st.fixed_dictionaries({}, optional=fields)


def record(kind, **fields):
    return some(**fields).map(lambda d: {"kind": kind, **d})


number = one_of(0.0, 0.13, 0.37, 0.62, 0.9)
length = one_of(0.7, 1.0, 2.3)
triple = st.tuples(number, number, number)
colour_channels = one_of("rgb", "r", "gb")
any_channels = one_of("rgb", "rgba", "a", "rb", "ga")
place = one_of(-11.0, -3.25, 0.0, 2.5, 8.0)
turn = one_of(0.0, 17.0, 96.0, -140.0)  # not 90: a border on pixel centres is a matter of rounding
filters = one_of("linear", "cubic", "lanczos")
space = {"space": one_of("light", "codes"), "mixed": one_of("light", "codes")}
footing = {"on_premultiplied": st.booleans()}

POINT = [
    record(
        "levels",
        channels=any_channels,
        in_black=number,
        in_white=one_of(1.0, 0.95, 1.7),
        gamma=one_of(0.6, 1.0, 1.8),
        out_black=number,
        out_white=one_of(1.0, 0.4, 1.5),
        **space,
        **footing,
    ),
    record(
        "curve",
        channels=any_channels,
        points=one_of([[0, 0.1], [0.4, 0.5], [1, 0.9]], [[0, 0], [0.3, 0.6], [0.7, 0.5], [1, 1]]),
        **space,
        **footing,
    ),
    record(
        "grade",
        channels=any_channels,
        gain=triple,
        offset=triple,
        contrast=one_of(0.5, 1.0, 1.6),
        pivot=number,
        saturation=one_of(0.0, 1.0, 1.8),
        **space,
        **footing,
    ),
    record("exposure", channels=any_channels, stops=one_of(-1.0, 0.5, 1.5), **space, **footing),
    record("hue", channels=colour_channels, turn=turn, **space, **footing),
    record("clamp", channels=any_channels, low=one_of(0.0, 0.2), high=one_of(0.6, 1.0), **space, **footing),
    record("invert", channels=any_channels, **space, **footing),
    record(
        "despill",
        screen=one_of("green", "blue"),
        limit=one_of("greater", "mean"),
        balance=number,
        amount=number,
        **footing,
    ),
]
near = {"channels": any_channels, "border": one_of("continue", "clear")}
straight = {"on_straight": st.booleans()}
route = some(
    source=one_of("one", "two"),
    channel=one_of("R", "G", "B", "A", "luma", "min", "max"),
    inverted=st.booleans(),
    gain=one_of(1.0, 0.5, 1.3),
    offset=one_of(0.0, 0.1),
) | st.sampled_from([{"source": "constant", "channel": "1"}, {"source": "constant", "channel": "0"}])
second = one_of("", "plate", "glow", "layer:l0")
FIELD = [
    record(
        "blur",
        **near,
        form=one_of("gaussian", "box", "disc"),
        size=length,
        axes=one_of("both", "across", "down"),
        **straight,
    ),
    record("sharpen", **near, size=length, amount=one_of(0.4, 1.5), **straight),
    record("median", **near, size=one_of(1, 2)),
    record("grow_shrink", **near, size=one_of(-2.0, -0.6, 0.4, 1.0, 2.5)),
    record(
        "crop",
        channels=any_channels,
        left=number,
        top=one_of(0.0, 3.5),
        right=one_of(0.0, 6.25),
        bottom=number,
    ),
    record(
        "falloff",
        channels=any_channels,
        shape=one_of("ellipse", "rectangle"),
        x=place,
        y=place,
        width=one_of(12.0, 30.0),
        height=one_of(9.0, 40.0),
        turn=turn,
        soft=one_of(17.0, 22.0),
        inverted=st.booleans(),
    ).map(lambda d: {"soft": 17.0, **d}),
    record("flip", channels=any_channels, across=st.booleans(), down=st.booleans()),
    record(
        "transform",
        channels=any_channels,
        x=place,
        y=place,
        scale=one_of(0.31, 0.8, 1.0, 1.7),
        stretch=one_of(1.0, 1.2),
        turn=turn,
        anchor_x=place,
        filter=filters,
    ),
    record(
        "corner_pin",
        channels=any_channels,
        top_left=one_of((0, 0), (3.2, 2.1)),
        bottom_right=one_of((0, 0), (-4.4, 1.3)),
        filter=filters,
    ),
    record("tile", channels=any_channels, columns=one_of(1, 2, 3), rows=one_of(1, 2), mirrored=st.booleans()),
    record(
        "glow", channels=colour_channels, size=one_of(0.8, 2.0), threshold=number, gain=number, tint=triple
    ),
    record("extend", channels=colour_channels, inside=one_of(0.5, 0.95)),
    record(
        "patch",
        routes=st.dictionaries(one_of("R", "G", "B", "A"), route, max_size=3),
        second=second,
        space=one_of("light", "codes"),
        given=one_of("straight", "premultiplied"),
        made=one_of("straight", "premultiplied"),
    ),
    record(
        "combine",
        second=second,
        channels=colour_channels,
        overflow=one_of("keep", "clip", "rescale"),
        space=one_of("light", "codes"),
        operation=one_of(
            "add",
            "subtract",
            "multiply",
            "divide",
            "screen",
            "overlay",
            "lighten",
            "darken",
            "difference",
            "average",
        ),
        transparency=one_of("first", "both"),
    ),
]

part = {
    "how": one_of("add", "subtract", "intersect", "exclude"),
    "inverted": st.booleans(),
    "on": one_of(True, True, True, False),
}
own_source = {"source": one_of("", "", "layer:l0"), "read": one_of("source", "steps", "placed")}
PARTS = [
    record(
        "channel",
        **part,
        **own_source,
        channel=one_of(
            "alpha",
            "luma",
            "red",
            "green",
            "blue",
            "min",
            "max",
            "lightness",
            "red-green",
            "green-difference",
        ),
        weights=one_of("bt601", "bt709", "mean"),
        space=one_of("codes", "light"),
        shape=one_of("ramp", "range"),
        low=one_of(0.0, 0.2),
        high=one_of(0.7, 1.0),
        soft=one_of(0.1, 0.3),
        passes=one_of(1, 2),
    ),
    record(
        "key",
        **part,
        colour=st.just((0.12, 0.55, 0.16)),
        balance=one_of(0.0, 0.5),
        black=one_of(0.0, 0.1),
        white=one_of(1.0, 0.8),
    ),
    record(
        "shape",
        **part,
        shape=one_of("ellipse", "rectangle"),
        x=place,
        y=place,
        width=one_of(14.0, 33.0),
        height=one_of(10.0, 25.0),
        turn=turn,
        inside=st.just(8.0),
        outside=one_of(8.0, 12.0),
    ).map(lambda d: {"inside": 8.0, "outside": 8.0, **d}),
    record(
        "paint",
        on=st.just(True),
        inverted=st.booleans(),
        strokes=st.lists(
            st.fixed_dictionaries(
                {
                    "points": st.lists(place, min_size=2, max_size=6).filter(lambda p: len(p) % 2 == 0),
                    "size": one_of(6.0, 13.0),
                    "soft": number,
                    "value": number,
                    "erase": st.booleans(),
                }
            ),
            max_size=3,
        ),
    ),
]
mattes = some(
    parts=st.lists(st.one_of(PARTS), max_size=3),
    grow=one_of(-1.0, 0.5),
    soften=one_of(0.8, 2.0),
    inverted=st.booleans(),
    specks=st.just(12.0),
    holes=st.just(12.0),
)
through = record(
    "x",
    by=one_of("everywhere", "ellipse", "rectangle", "channel", "matte"),
    x=place,
    y=place,
    width=one_of(15.0, 30.0),
    height=one_of(12.0, 26.0),
    turn=turn,
    channel=one_of("alpha", "luma", "red"),
    inverted=st.booleans(),
    matte=mattes,
).map(lambda d: {"soft": 17.0, **{k: v for k, v in d.items() if k != "kind"}})
steps = st.builds(
    lambda step, common: {**step, **common},
    st.one_of(*POINT, *FIELD),
    some(mix=one_of(0.35, 0.8), through=through, on=one_of(True, True, False)),
)
transforms = some(x=place, y=place, scale=one_of(0.23, 0.5, 0.9, 1.3, 2.1), turn=turn, filter=filters)
layer = st.fixed_dictionaries(
    {"element": st.sampled_from(sorted(ELEMENTS))},
    optional={
        "place": transforms,
        "steps": st.lists(steps, max_size=3),
        "matte": mattes,
        "operator": one_of(*SMOOTH),
        "opacity": one_of(0.3, 0.75),
        "group": one_of("", "a", "a", "b"),
        "shown": one_of(True, True, False),
        "offset": one_of(-1, 2),
        "ends": one_of("hold", "loop", "swing", "blank"),
        "speed": one_of(0.5, 2.0),
        "reverse": st.booleans(),
        "first": one_of(1, 2),
        "last": one_of(2, 6),
    },
)


def document(layers):
    """A document of these layers; what layers name of the first one is left out of that one itself."""
    rows = [{"id": f"l{i}", "name": f"l{i}", **row} for i, row in enumerate(layers)]
    for row in rows:
        # straight colour under next to no alpha, as a step before may leave, is anything in float32
        later = [{k: v for k, v in step.items() if k != "on_straight"} for step in row.get("steps", [])[1:]]
        if later:
            row["steps"] = [*row["steps"][:1], *later]
    if rows:
        rows[0] = without_names(rows[0])
    for row in rows:
        if row["element"] not in LARGE:  # sizes that differ are stretched by a library's filter
            rows[rows.index(row)] = without_names(row)
    elements = {k: {"file": k, "still": True, **v} for k, v in ELEMENTS.items()}
    if rows and rows[0]["element"] not in LARGE:
        rows[1:] = [without_names(row) for row in rows[1:]]
    if '"glow"' in json.dumps(rows):
        # beside light a trace of alpha, as lobes of a filter leave, decides what a blend mode does
        rows = with_filter(rows, "linear")
    return {
        "width": WIDTH,
        "height": HEIGHT,
        "first": 1,
        "last": FRAMES,
        "elements": elements,
        "layers": rows,
    }


def with_filter(value, name):
    if isinstance(value, dict):
        return {k: name if k == "filter" else with_filter(v, name) for k, v in value.items()}
    return [with_filter(v, name) for v in value] if isinstance(value, list | tuple) else value


def without_names(value):
    """The same without sources: the layer takes itself."""
    if isinstance(value, dict):
        return {
            k: ""
            if k in {"source", "second"} and (not v or v.startswith("layer:") or v in ELEMENTS)
            else without_names(v)
            for k, v in value.items()
        }
    return [without_names(v) for v in value] if isinstance(value, list) else value


documents = st.lists(layer, min_size=1, max_size=4).map(document)

#: One layer with a step or two over a plate: every step meets every element, place and level often enough.
single = st.tuples(
    st.sampled_from(sorted(ELEMENTS)), st.lists(steps, min_size=1, max_size=2), transforms, one_of(0, 0, 1)
).map(
    lambda row: document(
        [{"element": "plate"}] * row[3] + [{"element": row[0], "steps": row[1], "place": row[2]}]
    )
)

#: Layers without steps: every operator meets groups, opacity, places and whatever lies below.
piles = st.lists(
    st.fixed_dictionaries(
        {
            "element": st.sampled_from(sorted(ELEMENTS)),
            "operator": one_of(*SMOOTH),
            "opacity": one_of(1.0, 1.0, 0.3),
            "group": one_of("", "a"),
            "place": transforms,
        }
    ),
    min_size=2,
    max_size=4,
).map(document)
