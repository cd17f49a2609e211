"""Random comp documents drawn from the whole schema.

Their numbers are a few values, so that a failing document shrinks to one that a person can read.
"""

from __future__ import annotations

from hypothesis import strategies as st
from neatveil.merge import OPERATORS

from .draws import filters, keyed, one_of, place, record, rotation, some
from .matte_draws import PARTS, mattes
from .pictures import DEPTH, ELEMENTS, HEIGHT, WIDTH
from .step_draws import FIELD, POINT

FRAMES = 6
#: A comp that layers show as they do elements: of another size, rate and frame range.
INNER = {
    "name": "inner", "width": 37, "height": 26, "rate": "50", "first": 3, "last": 7,
    "layers": [
        {"id": "far", "name": "far", "element": "plate", "opacity": 0.6, "last": 6},
        {"id": "near", "name": "near", "element": "moving", "transform": {"x": 5.5, "rotation": 20.0}},
    ],
}  # fmt: skip

through = record(
    "x",
    by=one_of("everywhere", "ellipse", "rectangle", "channel", "matte"),
    x=place,
    y=place,
    width=one_of(15.0, 30.0),
    height=one_of(12.0, 26.0),
    rotation=rotation,
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
        extra_channel=one_of("", "", "", DEPTH),
    ),
)
transforms = keyed(
    some(x=place, y=place, scale=one_of(0.23, 0.5, 0.9, 1.3, 2.1), rotation=rotation, filter=filters),
    x=(-11.0, 2.5, 8.0), scale=(0.4, 1.0, 1.3), rotation=(0.0, 17.0, 131.0),
)  # fmt: skip
repeats = some(
    count=one_of(1, 2, 3),
    x=place,
    scale=one_of(0.8, 1.3),
    rotation=rotation,
    time=one_of(0, 1, -1),
    opacity=one_of(0.5, 1.0),
    chance_y=one_of(0.0, 9.0),
    chance_scale=one_of(0.0, 0.4),
    chance_time=one_of(0, 2),
    chance_opacity=one_of(0.0, 0.6),
    seed=one_of(0, 7),
    order=one_of("first-behind", "first-in-front", "larger-in-front"),
)
#: A camera of three frames that comes nearer, of another rate, and one that stands still to the side.
CAMERAS = {
    "near": {
        "name": "near", "width": WIDTH, "height": HEIGHT, "rate": "50", "first": 11,
        "places": [[[1, 0, 0, x], [0, 1, 0, 0.3], [0, 0, 1, 9 - x]] for x in (0.0, 1.1, 2.3)],
        "yfov": [0.6, 0.65, 0.7],
    },
    "aside": {
        "name": "aside", "width": WIDTH // 2, "height": HEIGHT, "rate": "25", "first": 1,
        "places": [[[0.8, 0, 0.6, 5.2], [0, 1, 0, 1.0], [-0.6, 0, 0.8, 6.9]]], "yfov": [0.9],
    },
}  # fmt: skip
cards = keyed(
    some(
        camera=one_of("near", "aside"), x=one_of(-1.3, 0.4), y=one_of(-0.7, 0.9), z=one_of(-2.1, 6.3),
        anchor=one_of("centre", "foot"), width=one_of(0.9, 4.7), faces=one_of("as-turned", "camera"),
        turn=one_of(37.0, 71.0), tilt=one_of(24.0, 66.0), roll=one_of(13.0), offset=one_of(0, -1, 2),
    ),
    x=(-0.6, 0.2, 1.4), turn=(0.0, 33.0, 171.0), width=(0.7, 2.2, 5.3),
)  # fmt: skip
fields = {
    "card": st.none() | st.none() | st.none() | cards,
    "repeat": st.none() | st.none() | repeats,
    "transform": transforms,
    "steps": st.lists(steps, max_size=3),
    "matte": mattes,
    "operator": one_of(*OPERATORS),
    "opacity": one_of(0.3, 0.75),
    "shown": one_of(True, True, False),
    "offset": one_of(-1, 2),
    "beyond": one_of("hold", "loop", "ping-pong", "blank"),
    "speed": one_of(0.5, 2.0),
    "reverse": st.booleans(),
    "own_frame": one_of(2.0, 3.5, 7.25),
    "between": one_of("begun", "nearest", "blend"),
    "first": one_of(1, 2),
    "last": one_of(2, 6),
}
ANY = st.sampled_from([*sorted(ELEMENTS), "inner"])


def animated(row):
    """A layer or group, some of whose own numbers have keys."""
    kept = keyed(row, opacity=(0.1, 0.5, 1.0), own_frame=(1.0, 3.5, 6.25))
    return kept.map(lambda x: {"own_frame": 1.0, **x} if "own_frame" in x.get("keys", {}) else x)


colours = st.tuples(*[one_of(0.0, 0.18, 0.7, 1.6)] * 3)
ends = some(
    alpha=one_of(0.0, 0.4, 1.0), to_alpha=one_of(0.3, 1.0), colour=colours, to_colour=colours, x=place,
    to_x=place, y=one_of(-7.0, 0.5), to_y=one_of(1.5, 11.0),
)  # fmt: skip
canvas = some(canvas_width=one_of(0, 31), canvas_height=one_of(0, 18))
kinds_made = st.one_of(
    keyed(record("solid", colour=colours, alpha=one_of(0.0, 0.4, 1.0)), alpha=(0.1, 0.5, 1.0)),
    st.builds(
        lambda a, b: {"kind": "gradient", **a, **b}, ends,
        some(
            form=one_of("linear", "radial"), mixed_in=one_of("light", "codes"),
            beyond=one_of("hold", "repeat", "mirror"),
        ),
    ),
    keyed(record(
        "shape", shape=one_of("ellipse", "rectangle"), x=place, y=place, width=one_of(9.0, 21.5),
        height=one_of(7.5, 16.0), rotation=rotation, corner=one_of(0.0, 3.0), outline=one_of(0.0, 1.7),
        soft_inside=one_of(0.0, 2.5), soft_outside=one_of(0.0, 4.0), colour=colours, alpha=one_of(0.4, 1.0),
    ), x=(-9.0, 0.0, 12.5), width=(6.0, 13.0, 30.0)),
    record(
        "text", text=one_of("Fe", "m,\nq"), size=one_of(11.0, 19.0), font=one_of("sans", "serif-italic"),
        weight=one_of(300.0, 700.0), align=one_of("left", "right"), outline=one_of(0.0, 1.2), colour=colours,
    ),
    record("checkerboard", square=one_of(3.0, 4.7), colour=colours),
    record("bars", level=one_of(0.75, 1.0)),
)  # fmt: skip
made = st.builds(lambda kind, size: {**kind, **size}, kinds_made, canvas)
layer = animated(
    st.one_of(
        *[st.fixed_dictionaries({"element": ANY}, optional=fields)] * 3,
        st.fixed_dictionaries({"kind": st.just("made"), "made": made}, optional=fields),
        st.fixed_dictionaries(
            {"kind": st.just("made"), "made": st.just({"kind": "beneath"})},
            optional={k: v for k, v in fields.items() if k != "repeat"},
        ),
    )
)
alphas = st.one_of(
    st.just({}),
    st.fixed_dictionaries({"by": st.just("member"), "member": st.integers(0, 5)}),
    st.fixed_dictionaries({"by": st.just("matte"), "matte": mattes}),
)


def in_frame(row):
    """A group with steps, of members that lie in its frame: the plain evaluation knows nothing beyond it."""
    if row.get("steps") or any(lies_on_others(x) for x in row["layers"]):
        return {**row, "layers": [resting(x) for x in row["layers"]]}
    return row


def lies_on_others(row):
    return row.get("made", {}).get("kind") == "beneath"


def resting(row):
    if "layers" in row:
        row = {**row, "layers": [resting(x) for x in row["layers"]]}
    return {k: v for k, v in row.items() if k not in {"transform", "steps", "repeat", "card"}}


def group_of(members):
    return animated(
        st.fixed_dictionaries(
            {"kind": st.just("group"), "layers": st.lists(members, min_size=1, max_size=3), "alpha": alphas},
            optional=fields,
        ).map(in_frame)
    )


#: A layer, or a group of layers and of groups.
nested = st.one_of(layer, group_of(layer), group_of(st.one_of(layer, group_of(layer))))


def document(layers):
    """A document of these layers; what layers name of the first one is left out of that one itself."""
    rows = [sensible(row, first=i == 0) for i, row in enumerate(numbered(layers, iter(range(99))))]
    elements = {k: {"file": k, "still": True, **v} for k, v in ELEMENTS.items()}
    return {
        "width": WIDTH,
        "height": HEIGHT,
        "first": 1,
        "last": FRAMES,
        "elements": elements,
        "comps": {"inner": {**INNER, "elements": elements}},
        "cameras": CAMERAS,
        "camera": "near",
        "layers": rows,
    }


def numbered(layers, numbers):
    """Ids and names in the order of the tree; a group's alpha is that of one of its members."""
    found = []
    for row in layers:
        name = f"l{next(numbers)}"
        row = {"id": name, "name": name, **row}
        if row.get("kind") == "group":
            members = numbered(row["layers"], numbers)
            row["layers"] = members
            # an adjustment gives no alpha to what it is made of, and lies in no group with that of a matte
            givers = [x for x in members if not lies_on_others(x)]
            if row["alpha"].get("by") == "member":
                found_in = givers or [{"id": ""}]
                chosen = found_in[row["alpha"]["member"] % len(found_in)]
                row["alpha"] = {"by": "member", "member": chosen["id"]} if chosen["id"] else {}
            elif len(givers) < len(members):
                row["alpha"] = {}
        found.append(row)
    return found


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
        k: "" if first and v == "layer:l0" else "" if k == "extra_channel" and not there else v
        for k, v in value.items()
    }
    if found.get("kind") == "object" and not there:
        found = {k: v for k, v in found.items() if k != "objects"} | {"kind": "channel"}
    if found.get("kind") == "channel" and found.get("channel") == DEPTH:
        found |= {"source": ""} if there else {"channel": "alpha"}
    if found.get("kind") == "uv_map" and not there:  # only that one has places
        found |= {"second": "", "coverage": ""}
    if found.get("kind") == "motion_blur" and not there:
        found |= {"shutter": 0.0}
    if found.get("kind") == "depth_blur" and not there:
        found |= {"size": 0.0}
    if found.get("kind") == "fog" and not there:
        found |= {"most": 0.0}
    if found.get("kind") == "relight" and not there:
        found |= {"stays": 1.0, "lamp": [0, 0, 0]}
    if found.get("kind") == "key":
        found = {"plate": "card", **found}
        if found.get("evenness") == "uneven" and (element != "card" or found.get("source")):
            found["evenness"] = "even"
    if found.get("kind") == "patch":
        known = {"own": there, "second": found.get("second") == "glow"}
        found["routes"] = {
            n: {**r, "channel": "A"} if r.get("channel") == DEPTH and not known[r.get("source", "own")] else r
            for n, r in found.get("routes", {}).items()
        }
    return {k: sensible(v, element=element, first=first) for k, v in found.items()}


#: One layer and its matte: what moves, what has a card, what has ranks of objects.
matted = st.tuples(
    one_of("card", "card", "glow", "moving", "disc"),
    mattes,
    st.lists(st.one_of(PARTS), min_size=1, max_size=2),
    one_of(
        *({}, {}, {"edge_colour": "screen"}, {"edge_colour": "inside"}, {"steady": 1}, {"edge": "natural"})
    ),
    one_of(0, 0, 1),
).map(
    lambda row: document(
        [{"element": "disc"}] * row[4]
        + [{"element": row[0], "matte": {**row[1], "on": True, "parts": row[2], **row[3]}}]
    )
)

documents = st.lists(nested, min_size=1, max_size=4).map(document)

#: One layer with a step or two over a plate: every step meets every element, place and level often enough.
single = st.tuples(
    st.sampled_from(sorted(ELEMENTS)), st.lists(steps, min_size=1, max_size=2), transforms, one_of(0, 0, 1)
).map(
    lambda row: document(
        [{"element": "plate"}] * row[3] + [{"element": row[0], "steps": row[1], "transform": row[2]}]
    )
)

plain = {
    "card": st.none() | st.none() | cards,
    "operator": one_of(*OPERATORS),
    "opacity": one_of(1.0, 1.0, 0.3),
    "transform": transforms,
}
bare = st.fixed_dictionaries({"element": ANY, **plain})
bare_groups = st.fixed_dictionaries(
    {"kind": st.just("group"), "alpha": alphas, "layers": st.lists(bare, min_size=1, max_size=3), **plain}
)
#: Layers and groups without steps: every operator meets groups, opacity, places and whatever lies below.
piles = st.lists(st.one_of(bare, bare_groups), min_size=2, max_size=4).map(document)
