"""The reserve's mark as a vector file: three reeds before a low sun, over water."""

from __future__ import annotations

from pathlib import Path

SIZE = 96


def _reed(x: float, lean: float, top: float) -> str:
    """A blade with its seed head, from the water up."""
    tip = x + lean
    return (
        f'<path d="M{x} 66C{x} 50 {x + lean * 0.3} 40 {tip} {top}" fill="none" stroke="#f2e6c9" '
        f'stroke-width="2.2" stroke-linecap="round"/>'
        f'<path d="M{tip} {top - 13}C{tip + 3.4} {top - 8} {tip + 3} {top - 1} {tip} {top + 2}'
        f'C{tip - 3} {top - 1} {tip - 3.4} {top - 8} {tip} {top - 13}Z" fill="#c98b3d"/>'
    )


def mark() -> str:
    """The file's text."""
    waves = "".join(
        f'<path d="M{14 + i * 6} {70 + i * 6}q{8.5 - i * 1.5} -4 {17 - i * 3} 0{f"t{17 - i * 3} 0" * 3}" '
        f'fill="none" stroke="#f2e6c9" stroke-opacity="{0.95 - i * 0.25:.2f}" stroke-width="1.8" '
        'stroke-linecap="round"/>'
        for i in range(3)
    )
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{SIZE}" height="{SIZE}" viewBox="0 0 96 96">'
        '<defs><linearGradient id="dusk" x2="0" y2="1"><stop stop-color="#1d3b40"/>'
        '<stop offset="1" stop-color="#0e2226"/></linearGradient>'
        '<clipPath id="sky"><rect x="0" y="0" width="96" height="66"/></clipPath></defs>'
        '<circle cx="48" cy="48" r="45" fill="url(#dusk)" stroke="#f2e6c9" stroke-width="2.4"/>'
        '<circle cx="58" cy="62" r="17" fill="#e0763a" clip-path="url(#sky)"/>'
        f"{_reed(32, -5, 36)}{_reed(40, 2, 28)}{_reed(48, 9, 40)}{waves}</svg>\n"
    )


def write_mark(folder: Path) -> None:
    (folder / FILES["mark"]).write_text(mark(), encoding="utf-8")


FILES = {"mark": "ferrow_marsh_mark.svg"}
