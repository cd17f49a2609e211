"""What a codec cannot do, in sentences for people. Codecs by their FFmpeg names, stills by format.

Sources: FFmpeg's descriptions of the codecs' pixel formats; the standards of the still formats.
"""

from __future__ import annotations

from .facts import Facts

_NO_ALPHA = "It cannot hold alpha."
_LOSSY = "It is lossy: edges and flat areas pick up noise."
_ALPHA = "its alpha is kept whole."

_LIMITS: dict[str, tuple[str, ...]] = {
    "h264": (_NO_ALPHA, _LOSSY),
    "hevc": ("This build reads no alpha from it.", _LOSSY),
    "av1": (_NO_ALPHA, _LOSSY),
    "mpeg4": (_NO_ALPHA, _LOSSY),
    "mpeg2video": (_NO_ALPHA, _LOSSY),
    "dnxhd": (_NO_ALPHA, _LOSSY),
    "mjpeg": (_NO_ALPHA, _LOSSY),
    "vp8": (_LOSSY, "Its alpha, where there is one, is lossy too."),
    "vp9": (_LOSSY, "Its alpha, where there is one, is lossy too."),
    "cfhd": ("It is wavelet-coded and lossy; many programs do not open it.",),
    "gif": ("It holds 256 colours a frame, and pixels that are covered or not.", _LOSSY),
    "webp": ("It holds 8 bits.",),
    "qtrle": ("It holds 8 bits at most.",),
    "utvideo": ("It holds 8 bits at most as written here.",),
    "jpeg2000": ("It is wavelet-coded; many programs do not open it in a movie.",),
    "JPEG": (_NO_ALPHA, _LOSSY, "It holds 8 bits."),
    "Radiance HDR": (
        _NO_ALPHA,
        "Its colours share one exponent: dark channels beside bright ones are coarse.",
    ),
    "WebP": ("It holds 8 bits.",),
    "Targa": ("It holds 8 bits.",),
    "PNG": ("Straight, it cannot hold light where the alpha is 0.",),
}


def limits_of(facts: Facts) -> list[str]:
    """What the codec or format of these facts cannot do; empty where it can do everything."""
    if facts.kind == "movie":
        found = [*_LIMITS.get(facts.codec, ())]
        if facts.codec == "prores":
            found = [
                f"It is slightly lossy in colour; {_ALPHA}" if facts.alpha
                else "This profile holds no alpha, and it is lossy."
            ]  # fmt: skip
    else:
        found = [*_LIMITS.get(facts.format, ())]
    if any(p in facts.pixel_format for p in ("420", "nv12")):
        found.append(
            "Its colour has half the width and half the height (4:2:0); its samples are taken to lie on the "
            "left of their pixels."
        )
    elif "422" in facts.pixel_format:
        found.append("Its colour has half the width (4:2:2).")
    return found
