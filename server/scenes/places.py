"""Where scenes and renders lie, and opening a scene that was prepared."""

from __future__ import annotations

from functools import lru_cache
from pathlib import Path, PurePosixPath, PureWindowsPath

from django.conf import settings
from neatveil.errors import FormatUnknown, NeatVeilError, ValueRefused
from neatveil.scene.model import Scene as CoreScene
from neatveil.scene.prepared import open_prepared

from .models import Render, Scene

#: Endings of files that a scene may consist of; the first two are the scene itself.
ENDINGS = (".glb", ".gltf", ".bin", ".png", ".jpg", ".jpeg")


class SceneNotReady(NeatVeilError):
    code = "scene-not-ready"


def folder_of(scene: Scene) -> Path:
    folder: Path = settings.MEDIA / "scenes" / str(scene.pk)
    return folder


def prepared_path(scene: Scene) -> Path:
    return folder_of(scene) / ".prepared"


def checked_name(text: str) -> PurePosixPath:
    """Where inside the scene's folder a file goes: scenes name their pictures by folder and name.

    Raises `FormatUnknown` for what no scene consists of, `ValueRefused` for a path that leads out.
    """
    path = PurePosixPath(PureWindowsPath(text).as_posix())
    parts = path.parts
    if not parts or len(parts) > 6 or any(p.startswith((".", "/")) or "\0" in p or ":" in p for p in parts):
        raise ValueRefused(
            f"{text[:80]!r} cannot be a file's name.", advice="Give it a plain name.", where=text[:80]
        )
    if path.suffix.lower() not in ENDINGS or len(str(path).encode()) > 400:
        raise FormatUnknown(
            f"{path.name}: a scene has no such file.",
            advice=f"Endings read: {', '.join(ENDINGS)}.",
            where=path.name,
        )
    return path


def opened(scene: Scene) -> CoreScene:
    """The scene as it is rendered; `SceneNotReady` while it arrives or when it was refused."""
    if scene.state != Scene.State.READY:
        words = "is still being read" if scene.state == Scene.State.ARRIVING else "was refused"
        raise SceneNotReady(f"{scene.name} {words}.", advice="See the Scene desk.", where=scene.name)
    path = prepared_path(scene)
    return _opened(path, path.stat().st_mtime_ns if path.exists() else 0)


@lru_cache(maxsize=6)
def _opened(path: Path, stamp: int) -> CoreScene:
    return open_prepared(path)


def render_folder(render: Render, version: int | None = None) -> Path:
    base: Path = settings.MEDIA / "renders" / str(render.project_id) / str(render.pk)
    return base / f"v{version or render.version}"
