"""Random steps, each kind with the parameters that it has of its own."""

from __future__ import annotations

from hypothesis import strategies as st

from .draws import (
    any_channels,
    colour_channels,
    filters,
    keyed,
    length,
    lies,
    number,
    one_of,
    place,
    record,
    rotation,
    some,
    triple,
)
from .pictures import DEPTH

#: Data that go by the picture, and such that are the same everywhere.
DEPTH_OR_FAR = one_of(DEPTH, "far.Z")

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
        "tone",
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
    record("hue", channels=colour_channels, rotation=rotation, **space, **footing),
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
    source=one_of("own", "second"),
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
second = one_of("", "plate", "glow", "disc", "inner", "layer:l0")
FIELD = [
    record(
        "blur",
        **near,
        kernel=one_of("gaussian", "box", "disc"),
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
        rotation=rotation,
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
        rotation=rotation,
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
    record(
        "light_wrap",
        channels=colour_channels,
        second=second,
        **lies,
        size=one_of(0.8, 2.0),
        gain=number,
        blend=one_of("add", "screen"),
    ),
    record(
        "uv_map",
        second=second,
        laid=one_of("alone", "over"),
        coverage=one_of("", "objects00.G"),
        filtering=st.booleans(),
        between=one_of("linear", "cubic"),
        beyond=one_of("wrap", "mirror", "clamp", "clear"),
        swap=st.booleans(),
        flip_v=st.booleans(),
        turned=one_of("0", "90", "270"),
        scale_u=one_of(0.6, 2.3),
        offset_v=one_of(-0.35, 0.15),
    ),
    record(
        "motion_blur",
        channels=any_channels,
        shutter=one_of(1.0, 2.0),
        samples=one_of(2, 4),
        flip_x=st.booleans(),
        flip_y=st.booleans(),
        depth=one_of("", DEPTH),
        order=one_of("moving", "still"),
        border=one_of("continue", "clear"),
    ).map(lambda d: {"shutter": 1.0, "samples": 4, **d}),
    record(
        "depth_blur",
        channels=any_channels,
        focus=one_of(2.0, 4.0, 8.0),
        in_focus=one_of(0.0, 1.0),
        size=one_of(2.0, 6.0),
        near_amount=one_of(0.5, 1.0),
        largest=one_of(2.5, 40.0),
        border=one_of("continue", "clear"),
    ).map(lambda d: {"depth": "far.Z", "size": 2.0, "focus": 2.0, **d}),
    record(
        "fog",
        channels=colour_channels,
        depth=DEPTH_OR_FAR,
        colour=triple,
        by=one_of("density", "range"),
        start=number,
        end=one_of(0.8, 3.0),
        density=one_of(0.2, 1.0),
        most=one_of(0.6, 1.0),
        stored=one_of("distance", "inverse"),
    ),
    record(
        "relight",
        channels=colour_channels,
        x=DEPTH_OR_FAR,
        y=st.just("motion.Y"),
        z=st.just("far.Z"),
        azimuth=rotation,
        lamp=triple,
        stays=number,
    ).map(lambda d: {"x": "far.Z", "y": "motion.Y", "z": "far.Z", **d}),
    record("extend", channels=colour_channels, inside=one_of(0.5, 0.95)),
    record(
        "patch",
        routes=st.dictionaries(one_of("R", "G", "B", "A"), route, max_size=3),
        outputs=one_of("rgb", "rgb", "ycc"),
        weights=one_of("bt601", "bt709", "bt2020"),
        chroma_range=one_of("full", "narrow"),
        second=second,
        **lies,
        space=one_of("light", "codes"),
        input_alpha=one_of("straight", "premultiplied"),
        output_alpha=one_of("straight", "premultiplied"),
    ),
    record("patch", routes=hls_routes).map(lambda d: {**d, "outputs": "hls"}),
    record(
        "patch",
        routes=st.dictionaries(one_of("R", "G", "B"), route, min_size=1, max_size=2),
        space=one_of("light", "codes"),
        weights=one_of("bt601", "bt2020"),
        second=second,
    ).flatmap(lambda d: one_of("full", "narrow").map(lambda e: {**d, "outputs": "ycc", "chroma_range": e})),
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
        **lies,
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
