"""Peak memory of one 4K frame through 2, 8 and 32 layers, each of an element of its own."""

from __future__ import annotations

import tempfile
from pathlib import Path

import numpy as np
from measure import Row, of_another_process, sized
from neatveil.io.backends import oiio_writing
from neatveil.picture import StoredPicture

HEIGHT, WIDTH = sized((2160, 3840), (216, 384))

SCRIPT = """
import sys
from neatveil.comp.loading import parse_comp
from neatveil.evaluate import Evaluator
from neatveil.io import LocalDecoder
def peak():
    # VmHWM is this process's own; ru_maxrss would count the parent's at the time of the fork
    status = open("/proc/self/status").read()
    return int(status.split("VmHWM:")[1].split()[0])
folder, count, width, height = sys.argv[1], *map(int, sys.argv[2:])
elements = {f"e{n}": {"file": f"{folder}/{n}.exr", "still": True, "encoding": "linear",
            "reading": {"alpha": "premultiplied"}} for n in range(count)}
layers = [{"id": f"l{n}", "name": str(n), "element": f"e{n}"} for n in range(count)]
comp = parse_comp({"width": width, "height": height, "elements": elements, "layers": layers})
before = peak()
Evaluator(LocalDecoder(), memory_bytes=1 << 30).picture(comp, 1)
print(peak() - before)
"""


def memory() -> list[Row]:
    with tempfile.TemporaryDirectory() as folder:
        rng = np.random.default_rng(0)
        pixels = np.repeat(rng.random((HEIGHT, WIDTH // 64, 4), np.float32), 64, axis=1)
        picture = StoredPicture.from_rgba(pixels)
        for n in range(32):
            oiio_writing.write(
                Path(folder) / f"{n}.exr",
                picture,
                sample="half",
                alpha_straight=False,
                encoding="linear",
                compression="zip",
            )
        peaks = {}
        for count in (2, 8, 32):
            peaks[count] = of_another_process(SCRIPT, folder, str(count), str(WIDTH), str(HEIGHT)) >> 10
    one = pixels.nbytes >> 20
    note = f"2 layers {peaks[2]} MB; one picture is {one} MB; the limit is 1024 MB"
    ratio = peaks[32] / peaks[8]
    ours, reference = f"{peaks[32]} MB", f"8 layers {peaks[8]} MB"
    limit = peaks[32] / 1024
    return [
        Row("peak memory, 32 layers 4K", ours, reference, ratio, "<= 1.05", ratio <= 1.05, note),
        Row("the same beside the limit set", ours, "limit 1024 MB", limit, "<= 1", limit <= 1),
    ]
