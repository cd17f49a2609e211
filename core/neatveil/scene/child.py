"""The process that reads a scene from outside: `python -m neatveil.scene.child SCENE PREPARED LIMIT`.

It has a limit on its memory, writes the prepared scene, and answers with one line of JSON: the facts,
or the error. Whoever started it trusts nothing but that line and the arrays of the prepared scene.
"""

from __future__ import annotations

import json
import resource
import sys
from pathlib import Path

from ..errors import NeatVeilError, describe
from .facts import facts_of
from .gltf import read_scene
from .prepared import save_prepared


def main() -> None:
    source, target, limit = Path(sys.argv[1]), Path(sys.argv[2]), int(sys.argv[3])
    resource.setrlimit(resource.RLIMIT_AS, (limit, limit))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    try:
        scene = read_scene(source)
        save_prepared(scene, target)
        answer = {"facts": facts_of(scene).model_dump()}
    except NeatVeilError as error:
        answer = {"error": describe(error)}
    print(json.dumps(answer))


if __name__ == "__main__":
    main()
