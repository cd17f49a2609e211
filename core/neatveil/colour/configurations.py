"""Configurations of OpenColorIO: those that the library ships, and files that a project brings [OpenColorIO].

A configuration that ships is of one version for good, and one that is brought is known by what it holds: so a
document that names a space means the same wherever it is drawn.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from functools import lru_cache, partial
from pathlib import Path, PurePosixPath, PureWindowsPath
from typing import Any

import PyOpenColorIO as ocio

from ..errors import NeatVeilError, unknown_name
from ..keyed_files import KEY_PATTERN as OWN_PATTERN
from ..keyed_files import KeyedFiles, key_of

#: The library's configurations by the names that stand before a space's.
BUILT_IN = {
    "cg": "cg-config-v2.2.0_aces-v1.3_ocio-v2.4",
    "studio": "studio-config-v2.2.0_aces-v1.3_ocio-v2.4",
    "cg2": "cg-config-v4.0.0_aces-v2.0_ocio-v2.5",
    "studio2": "studio-config-v4.0.0_aces-v2.0_ocio-v2.5",
}
TITLES = {
    "cg": "ACES 1.3 for CG", "studio": "ACES 1.3 for studios",
    "cg2": "ACES 2.0 for CG", "studio2": "ACES 2.0 for studios",
}  # fmt: skip
#: What a configuration's key looks like: of one that is brought, what its file holds.
KEY_PATTERN = rf"(?:{'|'.join(sorted(BUILT_IN, reverse=True))}|{OWN_PATTERN})"
ENDINGS = (".ocio", ".ocioz")
#: A file may be as large: whole tables lie in an archive.
MOST_BYTES = 256 << 20
#: Light in BT.709's primaries, as the library's configurations name it: what all others are brought to.
BT709 = "Linear Rec.709 (sRGB)"


class ConfigurationRefused(NeatVeilError):
    """A file is no configuration that can be used as it is."""

    code = "configuration-refused"


#: The library's errors: a missing table is not one of its usual ones.
_FAILURES = (ocio.Exception, ocio.ExceptionMissingFile)
#: Those that were brought.
FILES = KeyedFiles(ENDINGS)


def give(path: Path) -> str:
    """Use a file as a configuration from now on; its key.

    Raises `ConfigurationRefused` where it cannot be used.
    """
    check(path)
    key = key_of(path.read_bytes())
    FILES.give(key, path)
    return key


def at_hand(key: str) -> bool:
    """Whether there is such a configuration here."""
    return key in BUILT_IN or FILES.path_of(key) is not None


def configuration(key: str) -> Any:
    """The library's object; `NameUnknown` where there is no such configuration."""
    if key in BUILT_IN:
        return _built_in(key)
    path = FILES.path_of(key)
    if path is None:
        raise unknown_name("configuration of colour", key, [*BUILT_IN, *FILES.given])
    return _read(path)


def check(path: Path, called: str = "") -> None:
    """Refuse a file that is no configuration, lacks tables or takes files from elsewhere.

    Parameters
    ----------
    called : the file's name as people know it; its own unless given.

    Raises
    ------
    ConfigurationRefused
        Says which; nothing of the file is used then.
    """
    name = called or path.name
    try:
        config = ocio.Config.CreateFromFile(str(path))
        _only_its_own(config, name)
        config.validate()
    except _FAILURES as error:
        raise ConfigurationRefused(
            f"{name} is no configuration of OpenColorIO: {_words(error, path, name)}",
            advice="Take the .ocio file of a configuration, or the .ocioz archive that holds its tables too.",
            where=name,
        ) from error
    _whole(config, path, name)


def by_file_rules(key: str, name: str) -> str | None:
    """The space that a configuration's file rules find for a file; None where only the default one fits.

    Parameters
    ----------
    key : of a configuration.
    name : the file's name, with the folders it lies in.

    Returns
    -------
    The space's own name.

    Notes
    -----
    Source: file rules as the library reads them [OpenColorIO].

    Examples
    --------
    >>> by_file_rules("cg", "marsh_ACEScct_v01.exr")
    """
    config = configuration(key)
    if config.filepathOnlyMatchesDefaultRule(name):
        return None
    space = config.getColorSpace(config.getColorSpaceFromFilepath(name)[0])
    if space is None or space.isData() or space.getReferenceSpaceType() != ocio.REFERENCE_SPACE_SCENE:
        return None
    return str(space.getName())


@lru_cache(maxsize=len(BUILT_IN))
def _built_in(key: str) -> Any:
    return ocio.Config.CreateFromBuiltinConfig(BUILT_IN[key])


@lru_cache(maxsize=16)
def _read(path: Path) -> Any:
    return ocio.Config.CreateFromFile(str(path))


def to_light(key: str, space: str) -> Any:
    """The library's processor from a space to light; built-in ones hold light in BT.709 themselves."""
    config = configuration(key)
    if key in BUILT_IN:
        return config.getProcessor(space, BT709)
    return ocio.Config.GetProcessorFromConfigs(config, space, _built_in("cg"), BT709)


def to_codes(key: str, space: str) -> Any:
    """The library's processor from light to a space."""
    config = configuration(key)
    if key in BUILT_IN:
        return config.getProcessor(BT709, space)
    return ocio.Config.GetProcessorFromConfigs(_built_in("cg"), BT709, config, space)


def to_view(key: str, display: str, view: str) -> Any:
    """The library's processor from light to what a display's view shows."""
    config = configuration(key)
    if key in BUILT_IN:
        return config.getProcessor(ocio.DisplayViewTransform(src=BT709, display=display, view=view))
    forward = ocio.TRANSFORM_DIR_FORWARD
    return ocio.Config.GetProcessorFromConfigs(_built_in("cg"), BT709, config, display, view, forward)


def shows_light(config: Any, display: str, view: str) -> bool:
    """Whether a view is worked out from light; a raw one shows values as they are stored."""
    name = config.getDisplayViewColorSpaceName(display, view)
    space = config.getColorSpace(display if name == ocio.OCIO_VIEW_USE_DISPLAY_NAME else name)
    return space is None or not space.isData()


def _only_its_own(config: Any, name: str) -> None:
    """A configuration reads no file but those that came with it."""
    sources = [*config.getSearchPaths(), *(t.getSrc() for t in _files_of(config))]
    for source in sources:
        windows = PureWindowsPath(source)
        outside = windows.drive or windows.root or ".." in PurePosixPath(windows.as_posix()).parts
        if outside or "$" in source:
            raise ConfigurationRefused(
                f"{name} takes tables from outside itself: {source[:120]}.",
                advice="Archive it with its tables: OpenColorIO's ocioarchive makes an .ocioz of it.",
                where=name,
            )


def _whole(config: Any, path: Path, name: str) -> None:
    """Every space and view can be worked out; which cannot is named."""
    failed: list[str] = []
    ends, forward = _built_in("cg"), ocio.TRANSFORM_DIR_FORWARD
    between = ocio.Config.GetProcessorFromConfigs
    made: list[Callable[[], Any]] = []
    for space in config.getColorSpaces():
        if not space.isData() and space.getReferenceSpaceType() == ocio.REFERENCE_SPACE_SCENE:
            made.append(partial(between, config, space.getName(), ends, BT709))
    for display in config.getDisplays():
        for view in config.getViews(display):
            if shows_light(config, display, view):
                made.append(partial(between, ends, BT709, config, display, view, forward))
    for make in made:
        try:
            make()
        except _FAILURES as error:
            failed.append(_words(error, path, name))
    if not made:
        raise ConfigurationRefused(
            f"{name} has no colour space that light can be read from.",
            advice="Take a configuration with colour spaces; a raw one leaves all values as they are.",
            where=name,
        )
    if failed:
        told = list(dict.fromkeys(failed))
        raise ConfigurationRefused(
            f"{name} is not whole: {' '.join(told[:3])}",
            advice="An .ocioz archive brings tables along; the role aces_interchange relates spaces.",
            where=name,
        )


def _files_of(config: Any) -> Iterator[Any]:
    """Every transform that reads a file."""
    directions = (ocio.COLORSPACE_DIR_TO_REFERENCE, ocio.COLORSPACE_DIR_FROM_REFERENCE)
    views = (ocio.VIEWTRANSFORM_DIR_TO_REFERENCE, ocio.VIEWTRANSFORM_DIR_FROM_REFERENCE)
    turns = (ocio.TRANSFORM_DIR_FORWARD, ocio.TRANSFORM_DIR_INVERSE)
    for space in config.getColorSpaces():
        for direction in directions:
            yield from _within(space.getTransform(direction))
    for shown in config.getViewTransforms():
        for direction in views:
            yield from _within(shown.getTransform(direction))
    for look in config.getLooks():
        yield from _within(look.getTransform())
        yield from _within(look.getInverseTransform())
    for named in config.getNamedTransforms():
        for direction in turns:
            yield from _within(named.getTransform(direction))


def _within(transform: Any) -> Iterator[Any]:
    if isinstance(transform, ocio.FileTransform):
        yield transform
    elif isinstance(transform, ocio.GroupTransform):
        for part in transform:
            yield from _within(part)


def _words(error: Exception, path: Path, name: str) -> str:
    """The library's own words, on one line, without where the file lies here."""
    told = str(error).replace(str(path), name).replace(f"{path.parent}/", "")
    return " ".join(told.split())[:300]
