"""The demo's comp of eight layers and twenty steps: frames from scratch, changes, layers, memory."""

from __future__ import annotations

import json
import os
import re
import statistics
import tempfile
import time
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

from ferrow_marsh import arrivals
from ferrow_marsh.comps import whole_dusk
from ferrow_marsh.make import FILES, make
from measure import Row, ms, of_another_process, sized
from neatveil.comp import Comp, element_frame
from neatveil.comp.loading import parse_comp
from neatveil.evaluate import Evaluator
from neatveil.io import LocalDecoder

LIMIT = 800 << 20
FRAMES = sized(12, 3)
#: How many times the comp's layers lie over each other where many are measured; changes that are timed.
MANY, CHANGES = sized(4, 2), sized(8, 2)
#: The frames that are drawn from scratch, those of a range after a first one, and those that memory is for.
SCRATCH = sized((9, 10, 11), (2,))
RANGE = sized((7, 8, 9, 10, 11, 12), (1, 2, 3))
HELD = sized((5, 6, 7, 8), (1, 2))
FRAME = SCRATCH[len(SCRATCH) // 2]
ELEMENTS = (
    ("plate", "none", "srgb"),
    ("kite", "straight", "rec709"),
    ("lantern", "premultiplied", "linear"),
    ("caption", "straight", "srgb"),
    ("feather", "none", "srgb"),
    ("feather alpha", "none", "linear"),
)
_FILES = {name: {**FILES, **arrivals.FILES}[name] for name, _, _ in ELEMENTS}

PEAK = """
import sys
from pathlib import Path
from desk import HELD, LIMIT, document, peak
from neatveil.comp.loading import parse_comp
from neatveil.evaluate import Evaluator
from neatveil.io import LocalDecoder
from neatveil.warm import main as warm
comp = parse_comp(document(Path(sys.argv[1]), int(sys.argv[2])))
warm()  # what compiled code takes is no picture
before = peak()
evaluator = Evaluator(LocalDecoder(), memory_bytes=LIMIT)
for frame in HELD:
    evaluator.picture(comp, frame)
print(peak() - before)
"""


def peak() -> int:
    """Bytes that this process held at most; its own, not its parent's at the time of the fork."""
    status = Path("/proc/self/status").read_text()
    return int(status.split("VmHWM:")[1].split()[0]) << 10


def _key(name: str, n: int) -> str:
    return f"{name.replace(' ', '_')}-{n}"


def document(folder: Path, times: int = 1) -> dict[str, Any]:
    """The comp over the demo's files; ``times`` its layers, each of an element of its own."""
    elements: dict[str, Any] = {}
    layers: list[dict[str, Any]] = []
    for n in range(times):
        for name, alpha, encoding in ELEMENTS:
            file = folder / str(n) / _FILES[name]
            movie = file.suffix == ".mov"
            elements[_key(name, n)] = {
                "name": name, "file": str(file), "first": int(not movie), "last": FRAMES - int(movie),
                "encoding": encoding, "reading": {"alpha": alpha}, "rate": "25",
            }  # fmt: skip
        made = whole_dusk({name: _key(name, n) for name, _, _ in ELEMENTS}, FRAMES)
        # mattes name layers: those of the same copy
        own = json.loads(re.sub(r'"layer:([\w-]+)"', rf'"layer:\1-{n}"', json.dumps(made["layers"])))
        layers += [{**layer, "id": f"{layer['id']}-{n}"} for layer in own]
    return {**made, "elements": elements, "layers": layers}


def _files(folder: Path, times: int) -> None:
    """The demo's files, and the same under further names, so that nobody knows them to be the same."""
    made = make(folder / "0", FRAMES)
    assert {n: p.name for n, p in made.items() if n in _FILES} == _FILES
    for n in range(1, times):
        (folder / str(n)).mkdir()
        for file in (folder / "0").iterdir():
            os.link(file, folder / str(n) / file.name)


def _changed(comp: Comp, stops: float) -> Comp:
    """The comp with another last step on the lantern, the sixth layer of eight."""
    return _with_step(comp, "lantern-0", -1, {"points": ((0, 0), (0.5, 0.5 + stops), (1, 1))})


def _with_step(comp: Comp, layer_id: str, at: int, values: dict[str, Any]) -> Comp:
    layers = []
    for layer in comp.layers:
        if layer.id == layer_id:
            steps = list(layer.steps)
            steps[at] = steps[at].model_copy(update=values)
            layer = layer.model_copy(update={"steps": tuple(steps)})
        layers.append(layer)
    return comp.model_copy(update={"layers": tuple(layers)})


def _timed(work: Callable[[], object]) -> float:
    begun = time.perf_counter()
    work()
    return time.perf_counter() - begun


def _scratch(comp: Comp, frame: int) -> float:
    """One full frame with nothing kept: files are decoded too."""
    decoder = LocalDecoder()
    evaluator = Evaluator(decoder)
    return _timed(lambda: evaluator.picture(comp, frame))


def _last_step(comp: Comp) -> float:
    decoder = LocalDecoder()
    evaluator = Evaluator(decoder)
    evaluator.picture(comp, FRAME)
    evaluator.picture(_changed(comp, 0.01), FRAME)
    found = [
        _timed(lambda n=n: evaluator.picture(_changed(comp, 0.01 * n), FRAME)) for n in range(2, 2 + CHANGES)
    ]
    return statistics.median(found)


def _decoded(comp: Comp, frame: int) -> float:
    """The same files decoded, one after another, and nothing else."""
    decoder = LocalDecoder()
    wanted = {(x.element, element_frame(comp, x, comp.elements[x.element], frame)) for x in comp.layers}
    return _timed(
        lambda: [decoder.read(comp.elements[e].file, n) for e, n in sorted(wanted) if n is not None]
    )


def _range(comp: Comp) -> Iterator[float]:
    """Frames one after another, as a range is rendered: files, steps and layers, memory bounded."""
    evaluator = Evaluator(LocalDecoder(), memory_bytes=LIMIT)
    evaluator.picture(comp, RANGE[0])
    for frame in RANGE[1:]:
        yield _timed(lambda frame=frame: evaluator.picture(comp, frame))


def desk() -> list[Row]:
    with tempfile.TemporaryDirectory() as name:
        _files(Path(name), MANY)
        one, four = (parse_comp(document(Path(name), times)) for times in (1, MANY))
        _scratch(one, FRAME)
        scratch = statistics.median(_scratch(one, f) for f in SCRATCH)
        decoded = statistics.median(_decoded(one, f) for f in SCRATCH)
        again = _last_step(one)
        pairs = list(zip(_range(one), _range(four), strict=True))
        eight, many = (statistics.median(times) for times in zip(*pairs, strict=True))
        peaks = [_peak(name, times) for times in (1, MANY)]
    return [
        Row("8 layers, 20 steps, 1080p from scratch", ms(scratch), f"decoding alone {ms(decoded)}",
            scratch / decoded, "< 1000 ms", scratch < 1),
        Row("the same, last step of a layer changed", ms(again), f"from scratch {ms(scratch)}",
            again / scratch, "< 200 ms", again < 0.2),
        Row(f"{8 * MANY} layers, {20 * MANY} steps, a frame", ms(many), f"8 layers {ms(eight)}", many / eight,
            "<= 4.5", many / eight <= 4.5),
        Row(f"peak memory, {8 * MANY} layers, four frames", f"{peaks[1] >> 20} MB", f"limit {LIMIT >> 20} MB",
            peaks[1] / LIMIT, "<= 1", peaks[1] <= LIMIT, f"8 layers {peaks[0] >> 20} MB"),
    ]  # fmt: skip


def _peak(folder: str, times: int) -> int:
    return of_another_process(PEAK, folder, str(times))
