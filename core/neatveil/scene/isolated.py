"""Reading scenes in a limited process: what a damaged or hostile file can do ends there."""

from __future__ import annotations

import json
import subprocess
import sys
from pathlib import Path

from ..errors import SceneRefused, told_again
from .facts import SceneFacts

MEMORY_LIMIT = 6 << 30
SECONDS = 120.0


def prepare_scene(
    source: Path, target: Path, *, memory: int = MEMORY_LIMIT, seconds: float = SECONDS
) -> SceneFacts:
    """Read a scene, keep it prepared under ``target``, and tell what is in it.

    Raises `SceneRefused`, also for a file whose reading ends the process or takes too long.
    """
    command = [sys.executable, "-m", "neatveil.scene.child", str(source.absolute()), str(target.absolute())]
    why = "ended unexpectedly"
    try:
        done = subprocess.run(
            [*command, str(memory)], capture_output=True, timeout=seconds, cwd="/", check=False
        )
        answer = json.loads(done.stdout.splitlines()[-1])
    except subprocess.TimeoutExpired:
        why, answer = f"took longer than {seconds:.0f} seconds", None
    except (IndexError, ValueError):
        answer = None
    if answer is None:
        raise SceneRefused(
            f"{source.name}: the process that read it {why} and was stopped.",
            advice="The file is probably damaged, or far too large; export it again.",
            where=source.name,
        )
    if "error" in answer:
        raise told_again(answer["error"], SceneRefused)
    return SceneFacts.model_validate(answer["facts"])
