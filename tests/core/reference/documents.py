"""Random comp documents drawn from the whole schema, and pictures for their elements.

Numbers are drawn from a few values that no rounding makes ambiguous, so that a failing document shrinks to
one that a person can read.
"""

from __future__ import annotations

from types import SimpleNamespace

import numpy as np
from hypothesis import strategies as st
from neatveil.channels.identity import hash_as_float, name_hash
from neatveil.merge import OPERATORS
from neatveil.picture import Box, StoredPicture

WIDTH, HEIGHT, FRAMES = 44, 34, 6
DEPTH = "depth.Z"


class Arrays:
    """A decoder of arrays in memory, by file name: a list of ``(H, W, 4)`` frames, from ``first`` on.

    ``extra``: further planes of files with one frame.
    """

    def __init__(self, stored, extra=None, first=1):
        self.stored, self.extra, self.first = stored, extra or {}, first

    def read(self, source, frame, planes=None):
        rows, extra = self.stored[source], self.extra.get(source, {})
        rgba = np.asarray(rows[0] if len(rows) == 1 else rows[frame - self.first], np.float32)
        known = {n: rgba[..., i] for i, n in enumerate("RGBA")} | extra
        picture = {n: np.ascontiguousarray(known[n]) for n in planes or "RGBA" if n in known}
        data = set(picture) & set(extra)
        return StoredPicture(picture, Box.sized(rgba.shape[1], rgba.shape[0]), data_planes=data)

    def probe(self, source):
        """As much of a file's facts as is asked for: the names of its channels."""
        names = [*"RGBA", *self.extra.get(source, {})]
        return SimpleNamespace(channels=[SimpleNamespace(name=n) for n in names])

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
        "moving": [disc(rng, 22, 26, margin=0.15 + 0.05 * i) for i in range(4)],
    }


def extra_planes():
    """Of "glow": a depth, and two objects by their names that cover the picture from left to right."""
    y, x = np.mgrid[:HEIGHT, :WIDTH].astype(np.float32)
    share = np.clip((x - 20) / 5, 0, 1)
    ids = [np.full((HEIGHT, WIDTH), hash_as_float(name_hash(n)), np.float32) for n in ("reed", "kite")]
    return {
        "glow": {
            DEPTH: 0.2 + 0.02 * x + 0.01 * y,
            "objects00.R": ids[0], "objects00.G": 1 - share,
            "objects00.B": ids[1], "objects00.A": share,
        },
    }  # fmt: skip


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


def one_of(*values):
    return st.sampled_from(values)


def some(**fields):
    """A dictionary in which each field may be left out."""
    return st.fixed_dictionaries({}, optional=fields)


def record(kind, **fields):
    return some(**fields).map(lambda d: {"kind": kind, **d})


def keyed(kind, **fields):
    """The same, of which one of these numbers may have keys: name and values that it goes through."""
    key = st.fixed_dictionaries(
        {"frame": st.integers(0, 6), "value": st.integers(0, 2), "way": one_of(*WAYS)}
    )
    curve = st.tuples(
        st.sampled_from(sorted(fields)),
        st.lists(key, min_size=1, max_size=4, unique_by=lambda k: k["frame"]),
        one_of("hold", "loop", "swing"),
    ).map(
        lambda row: {
            row[0]: {
                "keys": [
                    {**k, "value": fields[row[0]][k["value"]]}
                    for k in sorted(row[1], key=lambda k: k["frame"])
                ],
                "beyond": row[2],
            }
        }
    )
    return st.tuples(kind, st.none() | st.none() | curve).map(
        lambda row: {**row[0], "keys": row[1]} if row[1] else row[0]
    )


WAYS = ("hold", "linear", "smooth", "eased")
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
    keyed(
        record("exposure", channels=any_channels, stops=one_of(-1.0, 0.5, 1.5), **space, **footing),
        stops=(-1.0, 0.3, 1.5),
    ),
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
    channel=one_of("R", "G", "B", "A", "luma", "min", "max", "lightness", "cb", "cr", DEPTH),
    inverted=st.booleans(),
    gain=one_of(1.0, 0.5, 1.3),
    offset=one_of(0.0, 0.1),
) | st.sampled_from([{"source": "constant", "channel": "1"}, {"source": "constant", "channel": "0"}])
#: Hue jumps from 1 to 0, and the saturation of greys is anything: only turned and scaled a little.
hls_routes = st.dictionaries(
    one_of("R", "G", "B"), some(offset=one_of(0.0, 0.1), gain=one_of(1.0, 0.8)), max_size=2
).map(
    lambda d: {
        n: {**r, "channel": c, **({"gain": 1.0} if n == "R" else {"offset": 0.0} if n == "B" else {})}
        for n, c in zip("RGB", ("hue", "lightness", "saturation"), strict=True)
        if (r := d.get(n)) is not None
    }
)
second = one_of("", "plate", "glow", "disc", "layer:l0")
sizes = {"fit": one_of("stretch", "centre")}
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
        outputs=one_of("rgb", "rgb", "ycc"),
        weights=one_of("bt601", "bt709", "bt2020"),
        extent=one_of("full", "narrow"),
        second=second,
        **sizes,
        space=one_of("light", "codes"),
        given=one_of("straight", "premultiplied"),
        made=one_of("straight", "premultiplied"),
    ),
    record("patch", routes=hls_routes).map(lambda d: {**d, "outputs": "hls"}),
    record(
        "patch",
        routes=st.dictionaries(one_of("R", "G", "B"), route, min_size=1, max_size=2),
        space=one_of("light", "codes"),
        weights=one_of("bt601", "bt2020"),
        second=second,
    ).flatmap(lambda d: one_of("full", "narrow").map(lambda e: {**d, "outputs": "ycc", "extent": e})),
    record(
        "grain",
        channels=colour_channels,
        amount=triple,
        size=one_of(0.0, 0.7, 1.4),
        tone=number,
        seed=one_of(1, 7),
    ),
    record(
        "combine",
        second=second,
        **sizes,
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

limits = {"first": one_of(1, 2, 3), "last": one_of(3, 4, 6)}
part = {
    "how": one_of("add", "subtract", "intersect", "exclude"),
    "inverted": st.booleans(),
    "on": one_of(True, True, True, False),
    **limits,
}
own_source = {
    "source": one_of("", "", "layer:l0", "disc"),
    "read": one_of("source", "steps", "placed"),
    **sizes,
}
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
            DEPTH,
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
        **own_source,
        by=one_of("card", "card", "plate"),
        uneven=one_of("even", "fit", "plate"),
        plate=one_of("card", "plate"),
        colour=st.just((0.12, 0.55, 0.16)),
        balance=one_of(0.0, 0.5),
        black=one_of(0.0, 0.1),
        white=one_of(1.0, 0.8),
    ),
    record("object", **part, names=st.lists(one_of("reed", "kite", "rope"), max_size=2)),
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
        **{k: v for k, v in part.items() if k != "how"},
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
mattes = keyed(
    some(
        parts=st.lists(st.one_of(PARTS), max_size=3),
        on=one_of(True, True, True, False),
        grow=one_of(-1.0, 0.5),
        soften=one_of(0.8, 2.0),
        inverted=st.booleans(),
        specks=st.just(12.0),
        holes=st.just(12.0),
        steady=st.just(1),
        edges=one_of("plain", "inside", "card"),
        inside=one_of(0.613, 0.947),  # not what a part may keep exactly: there rounding decides
        **limits,
    ),
    grow=(-1.3, 0.0, 0.5),
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
    some(
        mix=one_of(0.35, 0.8),
        through=through,
        on=one_of(True, True, False),
        further=one_of("", "", "", DEPTH),
    ),
)
transforms = keyed(
    some(x=place, y=place, scale=one_of(0.23, 0.5, 0.9, 1.3, 2.1), turn=turn, filter=filters),
    x=(-11.0, 2.5, 8.0), scale=(0.4, 1.0, 1.3), turn=(0.0, 17.0, 131.0),
)  # fmt: skip
layer = keyed(
    st.fixed_dictionaries(
        {"element": st.sampled_from(sorted(ELEMENTS))},
        optional={
            "place": transforms,
            "steps": st.lists(steps, max_size=3),
            "matte": mattes,
            "operator": one_of(*OPERATORS),
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
    ),
    opacity=(0.1, 0.5, 1.0),
)


def document(layers):
    """A document of these layers; what layers name of the first one is left out of that one itself."""
    rows = [{"id": f"l{i}", "name": f"l{i}", **row} for i, row in enumerate(layers)]
    rows = [sensible(row, first=i == 0) for i, row in enumerate(rows)]
    elements = {k: {"file": k, "still": True, **v} for k, v in ELEMENTS.items()}
    return {
        "width": WIDTH,
        "height": HEIGHT,
        "first": 1,
        "last": FRAMES,
        "elements": elements,
        "layers": rows,
    }


def sensible(value, *, element=None, first=False):
    """The same without what would be refused: a layer that takes itself, channels that are not there.

    ``first``: whether the first layer is meant, which the others may take; ``element``: that of the layer.
    """
    if isinstance(value, list):
        return [sensible(v, element=element, first=first) for v in value]
    if not isinstance(value, dict):
        return value
    element = value.get("element", element)
    there = element == "glow"
    found = {
        k: "" if first and v == "layer:l0" else "" if k == "further" and not there else v
        for k, v in value.items()
    }
    if found.get("kind") == "object" and not there:
        found = {k: v for k, v in found.items() if k != "names"} | {"kind": "channel"}
    if found.get("kind") == "channel" and found.get("channel") == DEPTH:
        found |= {"source": ""} if there else {"channel": "alpha"}
    if found.get("kind") == "key":
        found = {"plate": "card", **found}
        if found.get("uneven") == "fit" and (element != "card" or found.get("source")):
            found["uneven"] = "even"
    if found.get("kind") == "patch":
        known = {"one": there, "two": found.get("second") == "glow"}
        found["routes"] = {
            n: {**r, "channel": "A"} if r.get("channel") == DEPTH and not known[r.get("source", "one")] else r
            for n, r in found.get("routes", {}).items()
        }
    return {k: sensible(v, element=element, first=first) for k, v in found.items()}


#: One layer and its matte: what moves, what has a card, what has ranks of objects.
matted = st.tuples(
    one_of("card", "card", "glow", "moving", "disc"),
    mattes,
    st.lists(st.one_of(PARTS), min_size=1, max_size=2),
    one_of(*({}, {}, {"edges": "card"}, {"edges": "inside"}, {"steady": 1})),
    one_of(0, 0, 1),
).map(
    lambda row: document(
        [{"element": "disc"}] * row[4]
        + [{"element": row[0], "matte": {**row[1], "on": True, "parts": row[2], **row[3]}}]
    )
)

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
            "operator": one_of(*OPERATORS),
            "opacity": one_of(1.0, 1.0, 0.3),
            "group": one_of("", "a"),
            "place": transforms,
        }
    ),
    min_size=2,
    max_size=4,
).map(document)
