"""Random parts of mattes, and mattes of them."""

from __future__ import annotations

from hypothesis import strategies as st

from .draws import keyed, number, one_of, place, record, rotation, sizes, some
from .pictures import DEPTH

limits = {"first": one_of(1, 2, 3), "last": one_of(3, 4, 6)}
part = {
    "combine": one_of("add", "subtract", "intersect", "exclude"),
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
        by=one_of("screen", "screen", "plate"),
        evenness=one_of("even", "uneven", "plate"),
        plate=one_of("card", "plate"),
        screen_colour=st.just((0.12, 0.55, 0.16)),
        balance=one_of(0.0, 0.5),
        black=one_of(0.0, 0.1),
        white=one_of(1.0, 0.8),
    ),
    record("object", **part, objects=st.lists(one_of("reed", "kite", "rope"), max_size=2)),
    record(
        "shape",
        **part,
        shape=one_of("ellipse", "rectangle"),
        x=place,
        y=place,
        width=one_of(14.0, 33.0),
        height=one_of(10.0, 25.0),
        rotation=rotation,
        soft_inside=st.just(8.0),
        soft_outside=one_of(8.0, 12.0),
    ).map(lambda d: {"soft_inside": 8.0, "soft_outside": 8.0, **d}),
    record(
        "paint",
        **{k: v for k, v in part.items() if k != "combine"},
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
        edge_colour=one_of("plain", "inside", "screen"),
        edge=one_of("made", "made", "natural"),
        band=one_of(0.5, 1.5),
        trust=one_of(0.3, 1.0),  # less lets rounding decide
        inside=one_of(0.613, 0.947),  # not what a part may keep exactly: there rounding decides
        **limits,
    ),
    grow=(-1.3, 0.0, 0.5),
)
