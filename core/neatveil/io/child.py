"""The decoding process: reads requests as JSON lines, answers with JSON and pixels in shared memory.

Started by `neatveil.io.isolated` with a limit on its memory. It never sends code or pickles: the
parent trusts nothing of it but numbers, names and samples.
"""

from __future__ import annotations

import json
import mmap
import os
import resource
import sys
from typing import Any

import numpy as np

from ..errors import DecoderFailed, NeatVeilError, describe
from ..picture import StoredPicture
from .decoder import LocalDecoder
from .facts import Facts


def _answer(decoder: LocalDecoder, request: dict[str, Any], memory: int) -> dict[str, Any]:
    if request["ask"] == "probe":
        return {"facts": decoder.probe(request["source"]).model_dump()}
    if request["ask"] == "survey":
        facts = Facts.model_validate(request["facts"])
        return {"facts": decoder.survey(request["source"], facts).model_dump()}
    if request["ask"] == "read halved":
        halved = decoder.read_halved(request["source"], request["frame"])
        return {"picture": _hand_over(halved, memory) if halved else None}
    if request["ask"] == "draw":
        drawn = decoder.draw(request["source"], request["frame"], request["level"])
        return {"picture": _hand_over(drawn, memory)}
    picture = decoder.read(request["source"], request["frame"], request["planes"])
    return {"picture": _hand_over(picture, memory)}


def _hand_over(picture: StoredPicture, memory: int) -> dict[str, Any]:
    names = list(picture.planes)
    box = picture.data_window
    size = len(names) * box.width * box.height * 4
    if os.fstat(memory).st_size < size:
        os.ftruncate(memory, size)
    with mmap.mmap(memory, size) as shared:
        block = np.frombuffer(shared, np.float32).reshape(len(names), box.height, box.width)
        for i, n in enumerate(names):
            block[i] = picture[n]
        del block
    return {
        "planes": names,
        "data_window": box.as_list(),
        "display_window": picture.display_window.as_list(),
        "data_planes": sorted(picture.data_planes),
    }


def main() -> None:
    memory, limit = int(sys.argv[1]), int(sys.argv[2])
    resource.setrlimit(resource.RLIMIT_AS, (limit, limit))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    # Libraries print to standard output at times; answers go where they cannot.
    answers = os.fdopen(os.dup(1), "w", encoding="utf-8")
    os.dup2(2, 1)
    decoder = LocalDecoder()
    for line in sys.stdin:
        try:
            answer = _answer(decoder, json.loads(line), memory)
        except NeatVeilError as error:
            answer = {"error": describe(error)}
        except MemoryError:
            answer = {"error": describe(DecoderFailed("Decoding asked for more memory than it may have."))}
        except Exception as error:
            text = f"Decoding failed: {type(error).__name__}: {error}"
            answer = {"error": describe(DecoderFailed(text))}
        answers.write(json.dumps(answer) + "\n")
        answers.flush()


if __name__ == "__main__":
    main()
