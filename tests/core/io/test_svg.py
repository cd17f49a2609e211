"""SVG files: against closed forms, a second renderer, the units of CSS, and what hostile files try."""

import base64
import io
import random
import time

import numpy as np
import pytest
import resvg_py
from neatveil.comp import Comp, Element, Layer, Transform
from neatveil.errors import FileDamaged, FileRefused, NeatVeilError, PictureTooLarge
from neatveil.evaluate import Evaluator
from neatveil.io.decoder import LocalDecoder
from neatveil.io.isolated import IsolatedDecoder
from PIL import Image

NAMESPACE = 'xmlns="http://www.w3.org/2000/svg"'


def svg(inside, head='width="64" height="48"'):
    return f'<svg {NAMESPACE} xmlns:xlink="http://www.w3.org/1999/xlink" {head}>{inside}</svg>'


def written(folder, text, name="mark.svg"):
    path = folder / name
    path.write_text(text, encoding="utf-8")
    return str(path)


def drawn(folder, text, level=0):
    return LocalDecoder().draw(written(folder, text), 0, level).rgba()


@pytest.mark.parametrize("level", [0, -1, -3])
def test_a_disc_covers_its_area(tmp_path, level):
    alpha = drawn(tmp_path, svg('<circle cx="32.3" cy="24.1" r="17.5"/>'), level)[..., 3]
    share = 2**-level
    assert alpha.shape == (48 * share, 64 * share)
    assert alpha.sum() == pytest.approx(np.pi * (17.5 * share) ** 2, rel=2e-3)


def test_a_slanted_edge_has_the_coverage_that_is_its_area(tmp_path):
    text = svg('<path d="M0 10 L400 14 V20 H0Z"/>', 'width="400" height="20"')
    alpha = drawn(tmp_path, text)[..., 3]
    y, edge = np.arange(20)[:, None], 10 + (np.arange(400) + 0.5) / 100
    assert np.abs(alpha - np.clip(y + 1 - edge, 0, 1)).max() < 0.03


def shapes(seed):
    """What marks are made of: fills, strokes, gradients, clips, opacity, transforms."""
    rng = random.Random(seed)

    def number(low, high):
        return round(rng.uniform(low, high), 2)

    rows = [
        '<defs><linearGradient id="g"><stop stop-color="#e83"/><stop offset="1" stop-color="#248" '
        'stop-opacity=".4"/></linearGradient><radialGradient id="r"><stop stop-color="#fff"/>'
        '<stop offset="1" stop-color="#063"/></radialGradient>'
        '<clipPath id="c"><circle cx="100" cy="75" r="60"/></clipPath></defs>'
    ]
    for _ in range(14):
        fill = rng.choice(["#a31", "#2b6", "url(#g)", "url(#r)", "none"])
        look = f'fill="{fill}" fill-opacity="{number(0.3, 1)}" stroke="#123" stroke-width="{number(0, 6)}"'
        turn = f'transform="rotate({number(-40, 40)} {number(50, 150)} 75)"'
        clip = rng.choice(["", 'clip-path="url(#c)"'])
        x, y, w, h = number(0, 150), number(0, 100), number(10, 80), number(10, 60)
        rows.append(
            rng.choice(
                [
                    f'<rect x="{x}" y="{y}" width="{w}" height="{h}" rx="4" {look} {turn} {clip}/>',
                    f'<ellipse cx="{x}" cy="{y}" rx="{w / 2}" ry="{h / 2}" {look} {turn}/>',
                    f'<path d="M{x} {y}c{w} 0 0 {h} {w} {h}s-40 20 -60 -20z" {look} {clip}/>',
                    f'<g opacity=".6"><path d="M{x} {y}l{w} {h}h-30z" {look} stroke-linejoin="round"/></g>',
                ]
            )
        )
    return svg("".join(rows), 'width="200" height="150"')


@pytest.mark.parametrize("level", [0, -2])
@pytest.mark.parametrize("seed", range(4))
def test_another_renderer_draws_the_same(tmp_path, seed, level):
    """resvg, which shares no code with librsvg: the mean differs by no more than 0.3 % of the range."""
    text = shapes(seed)
    ours = drawn(tmp_path, text, level)
    ours[..., :3] *= ours[..., 3:]
    theirs = (
        np.asarray(Image.open(io.BytesIO(resvg_py.svg_to_bytes(svg_string=text, zoom=2.0**-level)))) / 255
    )
    theirs[..., :3] *= theirs[..., 3:]
    assert ours.shape == theirs.shape
    assert np.abs(ours - theirs).mean() < 0.003
    assert np.quantile(np.abs(ours - theirs), 0.99) < 0.1


@pytest.mark.parametrize(
    ("head", "size"),
    [
        ('width="96" height="48"', (96, 48)),
        ('width="1in" height="2.54cm"', (96, 96)),
        ('width="72pt" height="6pc"', (96, 96)),
        ('width="25.4mm" height="101.6Q"', (96, 96)),
        ('viewBox="0 0 30 20"', (30, 20)),
        ('width="60" viewBox="0 0 30 20"', (60, 40)),
        ('height="10" viewBox="5 5 30 20"', (15, 10)),
        ('width="100%" height="100%" viewBox="0 0 40 20"', (40, 20)),
        ('width="10.4" height="6.5" viewBox="0 0 10.4 6.5"', (10, 6)),
    ],
)  # fmt: skip
def test_it_is_as_large_as_it_says(tmp_path, head, size):
    """CSS Values 4, 6.2: 1in = 2.54cm = 25.4mm = 101.6Q = 72pt = 6pc = 96px; SVG 2, 7.2 and 8.2."""
    decoder = LocalDecoder()
    path = written(tmp_path, svg('<rect width="1000" height="1000"/>', head))
    facts = decoder.probe(path)
    assert (facts.width, facts.height) == size
    for level in (0, -2):
        assert decoder.draw(path, 0, level)["A"].shape == (size[1] << -level, size[0] << -level)


def test_facts_are_those_of_a_straight_picture_in_srgb(tmp_path):
    facts = LocalDecoder().probe(written(tmp_path, svg('<circle cx="30" cy="20" r="9" fill="#f80"/>')))
    assert (facts.kind, facts.format, facts.encoding) == ("still", "SVG", "srgb")
    assert (facts.alpha_claim, facts.alpha_use) == ("straight", "used")
    assert [c.name for c in facts.channels] == ["R", "G", "B", "A"]


def test_the_colour_of_an_edge_is_that_of_what_it_belongs_to(tmp_path):
    rgba = drawn(tmp_path, svg('<circle cx="30" cy="20" r="9" fill="#f80"/>'))
    edge = (rgba[..., 3] > 0.1) & (rgba[..., 3] < 0.9)
    assert np.abs(rgba[edge][:, :3] - np.array([255, 136, 0]) / 255).max() < 0.02


def a_million_uses():
    rows = ['<g id="a0"><rect width="1" height="1"/></g>']
    rows += [f'<g id="a{i + 1}">' + f'<use href="#a{i}"/>' * 10 + "</g>" for i in range(8)]
    return svg(f"<defs>{''.join(rows)}</defs><use href='#a8'/>")


SVG_IN_IT = base64.b64encode(svg('<image href="file:///etc/hostname"/>').encode()).decode()
HOSTILE = {
    "an outside picture": (svg('<image href="file:///etc/hostname" width="9" height="9"/>'), "/etc/hostname"),
    "an address": (svg('<image xlink:href="https://example.org/a.png"/>'), "https://example.org/a.png"),
    "a file beside it": (svg('<use href="other.svg#a"/>'), "other.svg#a"),
    "a filter's picture": (svg('<filter id="f"><feImage href="a.png"/></filter>'), "a.png"),
    "a style's address": (svg('<style>rect{fill:url("a.svg#g")}</style>'), "a.svg#g"),
    "an attribute's address": (svg('<rect fill="url(//example.org/x#g)"/>'), "example.org"),
    "a style sheet": (svg("<style>@import 'a.css';</style>"), "style sheet"),
    "words behind backslashes": (svg('<rect style="fill:u\\72l(a.svg#g)"/>'), "backslashes"),
    "a style sheet beside it": (f'<?xml-stylesheet href="a.css"?>{svg("")}', "style sheet is another file"),
    "an outside entity": (
        f'<!DOCTYPE svg [<!ENTITY x SYSTEM "file:///etc/hostname">]>{svg("<text>&x;</text>")}', "entity x",
    ),
    "entities in entities": (
        '<!DOCTYPE svg [<!ENTITY a "ha"><!ENTITY b "&a;&a;&a;">]>' + svg("<text>&b;</text>"), "hold others",
    ),
    "a parameter entity": (f'<!DOCTYPE svg [<!ENTITY % p "x">]>{svg("")}', "entity p"),
    "a million nodes": (svg("<g/>" * 1_000_000), "more than 200,000 elements"),
    "deep nesting": (svg("<g>" * 300 + "</g>" * 300), "256 deep"),
    "an SVG file in it": (svg(f'<image href="data:image/svg+xml;base64,{SVG_IN_IT}"/>'), "/etc/hostname"),
}  # fmt: skip


@pytest.mark.parametrize("what", HOSTILE)
def test_a_hostile_file_is_refused_and_says_why(tmp_path, what):
    text, words = HOSTILE[what]
    with pytest.raises(FileRefused) as caught:
        LocalDecoder().probe(written(tmp_path, text))
    assert words in caught.value.message
    assert "mark.svg" in caught.value.message
    assert caught.value.advice


DAMAGED = {
    "cut off": (svg('<circle cx="3" cy="3" r="2"/>')[:-8], FileDamaged, "line 1"),
    "not XML": ("a picture, honestly", FileDamaged, "line 1, column 1"),
    "another XML": ('<html xmlns="http://www.w3.org/1999/xhtml"/>', FileDamaged, "outermost element is html"),
    "no namespace": ('<svg width="4" height="4"/>', FileDamaged, "lacks the namespace"),
    "no size": (f'<svg {NAMESPACE}><rect width="3" height="3"/></svg>', FileDamaged, "how large it is"),
    "no area": (svg("", 'viewBox="0 0 0 10"'), FileDamaged, "no area"),
    "a size in words": (svg("", 'width="wide" height="4"'), FileDamaged, "no size"),
    "too large": (svg("", 'width="99999" height="4"'), PictureTooLarge, "16,384"),
}


@pytest.mark.parametrize("what", DAMAGED)
def test_a_damaged_file_says_where(tmp_path, what):
    text, kind, words = DAMAGED[what]
    with pytest.raises(kind, match=words):
        LocalDecoder().probe(written(tmp_path, text))


def test_uses_that_multiply_end_in_the_limited_process(tmp_path):
    """Ten to the eighth rectangles by `use`: the library refuses, or the process is ended by its time."""
    decoder = IsolatedDecoder(1, read_seconds=5, probe_seconds=5)
    began = time.monotonic()
    with pytest.raises(NeatVeilError):
        decoder.probe(written(tmp_path, a_million_uses()))
    assert time.monotonic() - began < 20
    # and the next file is drawn all the same
    assert decoder.probe(written(tmp_path, svg('<circle r="9"/>'), "next.svg")).width == 64
    decoder.close()


def test_what_is_not_drawn_is_said(tmp_path):
    text = svg('<script>alert(1)</script><text y="30">Ferrow</text><animate/><foreignObject/>')
    notes = " ".join(LocalDecoder().probe(written(tmp_path, text)).notes)
    assert "scripts are not run" in notes
    assert "fonts that ship here" in notes
    assert "It moves" in notes
    assert "not drawn" in notes


def test_names_of_namespaces_by_entities_are_read(tmp_path):
    """As drawing programs write them (common practice, no source)."""
    text = (
        '<!DOCTYPE svg PUBLIC "-//W3C//DTD SVG 1.1//EN" "http://www.w3.org/Graphics/SVG/1.1/DTD/svg11.dtd" ['
        '<!ENTITY ns_svg "http://www.w3.org/2000/svg">]>'
        '<svg xmlns="&ns_svg;" width="8" height="8"><rect width="8" height="8"/></svg>'
    )
    assert drawn(tmp_path, text)[..., 3].min() == 1


def test_links_lead_outside_but_draw_nothing_from_there(tmp_path):
    text = svg('<a href="https://example.org/"><rect width="64" height="48"/></a>')
    assert drawn(tmp_path, text)[..., 3].min() == 1


# --- in a comp


def comp_with(path, *layers, **elements):
    mark = Element(file=path, still=True)
    return Comp(width=256, height=192, elements={"mark": mark, **elements}, layers=layers)


def test_enlarged_it_is_drawn_anew_and_not_resampled(tmp_path):
    path = written(tmp_path, svg('<circle cx="16.2" cy="12.3" r="9.4"/>', 'width="32" height="24"'))
    layer = Layer(id="a", name="a", element="mark", transform=Transform(scale=8))
    alpha = Evaluator(LocalDecoder()).picture(comp_with(path, layer), 1)["A"]
    assert np.array_equal(alpha, LocalDecoder().draw(path, 0, -3)["A"])


@pytest.mark.parametrize("level", [0, 1])
def test_a_matte_from_an_enlarged_mark_is_as_sharp_as_the_mark_itself(tmp_path, level):
    path = written(tmp_path, svg('<circle cx="16.2" cy="12.3" r="9.4"/>', 'width="32" height="24"'))
    mark = Layer(id="mark", name="mark", element="mark", transform=Transform(scale=8), shown=False)
    card = {"kind": "solid", "colour": [1, 1, 1]}
    part = {"kind": "channel", "source": "layer:mark", "read": "placed", "channel": "alpha"}
    comp = Comp.model_validate(
        {
            **comp_with(path, mark).model_dump(mode="json"),
            "layers": [
                mark.model_dump(mode="json"),
                {"id": "card", "name": "card", "kind": "made", "made": card, "matte": {"parts": [part]}},
            ],
        }
    )
    evaluator = Evaluator(LocalDecoder())
    got = evaluator.picture(comp, 1, level=level)["A"]
    shown = comp.model_copy(update={"layers": (mark.model_copy(update={"shown": True}),)})
    # the mark is read at the level that it is seen at: pixel for pixel
    assert np.abs(got - evaluator.picture(shown, 1, level=level)["A"]).max() < 1e-5
