"""Decoding in limited processes: what a damaged or hostile file can do ends there.

A child that crashes, hangs or asks for too much memory is killed and replaced; the request is
answered with `DecoderFailed`. Pixels come back through memory shared with the child.
"""

from __future__ import annotations

import contextlib
import json
import mmap
import os
import select
import signal
import subprocess
import sys
import threading
import time
import weakref
from pathlib import Path
from typing import Any

import numpy as np

from ..errors import DecoderFailed, told_again
from ..numeric.threads import workers
from ..picture import Box, StoredPicture, new_planes
from .facts import Facts

MEMORY_LIMIT = 8 << 30
READ_SECONDS = 60.0
PROBE_SECONDS = 300.0


class _Child:
    """One decoding process and the memory it shares with us."""

    def __init__(self, memory_limit: int, command: list[str] | None) -> None:
        self.memory = os.memfd_create("neatveil-frame")
        self.last_source = ""
        self._pending = b""
        argv = command or [sys.executable, "-m", "neatveil.io.child"]
        self.process = subprocess.Popen(
            [*argv, str(self.memory), str(memory_limit)],
            stdin=subprocess.PIPE, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL,
            pass_fds=[self.memory], cwd="/",
        )  # fmt: skip

    def ask(self, request: dict[str, Any], seconds: float) -> dict[str, Any]:
        """One answer; EOFError when the child ended, TimeoutError when it took too long."""
        assert self.process.stdin is not None
        try:
            self.process.stdin.write(json.dumps(request).encode() + b"\n")
            self.process.stdin.flush()
        except OSError:
            raise EOFError from None
        answer: dict[str, Any] = json.loads(self._line(time.monotonic() + seconds))
        return answer

    def _line(self, deadline: float) -> bytes:
        assert self.process.stdout is not None
        pipe = self.process.stdout.fileno()
        while b"\n" not in self._pending:
            ready, _, _ = select.select([pipe], [], [], max(0.0, deadline - time.monotonic()))
            if not ready:
                raise TimeoutError
            piece = os.read(pipe, 1 << 16)
            if not piece:
                raise EOFError
            self._pending += piece
        line, _, self._pending = self._pending.partition(b"\n")
        return line

    def close(self) -> None:
        self.process.kill()
        self.process.wait()
        for pipe in (self.process.stdin, self.process.stdout):
            if pipe is not None:
                with contextlib.suppress(OSError):
                    pipe.close()
        os.close(self.memory)


class _ChildEnded(DecoderFailed):
    """A decoding process that ended in the middle of its work."""


def _how(status: int | None) -> str:
    """How a process ended, in words."""
    if status is None or status >= 0:
        return f"exit status {status}"
    return f"ended by the signal {signal.Signals(-status).name}"


class IsolatedDecoder:
    """A `Decoder` that works in child processes; safe to use from many threads.

    Parameters
    ----------
    children : most processes at once; they are started when first needed.
    memory_limit : bytes of address space a child may have.
    read_seconds, probe_seconds : time after which a child is ended.
    command : the child's command, for tests.
    """

    def __init__(
        self, children: int | None = None, *, memory_limit: int = MEMORY_LIMIT,
        read_seconds: float = READ_SECONDS, probe_seconds: float = PROBE_SECONDS,
        command: list[str] | None = None,
    ) -> None:  # fmt: skip
        self._most = children or workers()
        self._memory_limit = memory_limit
        self._read_seconds, self._probe_seconds = read_seconds, probe_seconds
        self._command = command
        self._idle: list[_Child] = []
        self._count = 0
        self._free = threading.Condition()
        # also when nobody calls `close`: at the end of the process at the latest
        weakref.finalize(self, _end_all, self._idle)

    def probe(self, source: str) -> Facts:
        request = {"ask": "probe", "source": _absolute(source)}
        answer, child = self._ask(request, self._probe_seconds)
        self._give_back(child)
        return Facts.model_validate(answer["facts"])

    def survey(self, source: str, facts: Facts) -> Facts:
        request = {"ask": "survey", "source": _absolute(source), "facts": facts.model_dump(mode="json")}
        answer, child = self._ask(request, self._probe_seconds)
        self._give_back(child)
        return Facts.model_validate(answer["facts"])

    def read(self, source: str, frame: int, planes: list[str] | None = None) -> StoredPicture:
        request = {"ask": "read", "source": _absolute(source), "frame": frame, "planes": planes}
        picture = self._picture(request)
        assert picture is not None
        return picture

    def read_halved(self, source: str, frame: int) -> StoredPicture | None:
        return self._picture({"ask": "read halved", "source": _absolute(source), "frame": frame})

    def draw(self, source: str, frame: int, level: int) -> StoredPicture:
        request = {"ask": "draw", "source": _absolute(source), "frame": frame, "level": level}
        picture = self._picture(request)
        assert picture is not None
        return picture

    def _picture(self, request: dict[str, Any]) -> StoredPicture | None:
        answer, child = self._ask(request, self._read_seconds)
        try:
            return _take_over(answer["picture"], child.memory) if answer["picture"] else None
        finally:
            self._give_back(child)

    def close(self) -> None:
        """End the idle children."""
        with self._free:
            self._count -= len(self._idle)
            _end_all(self._idle)

    def _ask(self, request: dict[str, Any], seconds: float) -> tuple[dict[str, Any], _Child]:
        """The answer of a child; one that ends on the way proves nothing against the file: asked twice."""
        try:
            return self._ask_once(request, seconds)
        except _ChildEnded:
            return self._ask_once(request, seconds)

    def _ask_once(self, request: dict[str, Any], seconds: float) -> tuple[dict[str, Any], _Child]:
        source = request["source"]
        child = self._take(source)
        name = Path(source).name
        try:
            answer = child.ask(request, seconds)
        except TimeoutError as error:
            self._discard(child)
            raise DecoderFailed(
                f"{name}: decoding took longer than {seconds:.0f} s and was stopped.",
                advice="The file is probably damaged; copy or export it again.", where=name,
            ) from error  # fmt: skip
        except (EOFError, ValueError) as error:
            self._discard(child)
            raise _ChildEnded(
                f"{name}: the decoding process ended unexpectedly twice ({_how(child.process.returncode)}).",
                advice="Where the machine is short of memory, try again later; else the file may be damaged.",
                where=name,
            ) from error
        if "error" in answer:
            self._give_back(child)
            row = answer["error"]
            raise told_again({**row, "where": row["where"] or Path(source).name}, DecoderFailed)
        return answer, child

    def _take(self, source: str) -> _Child:
        """An idle child, the one that last worked on this source if there is one, or a new one."""
        with self._free:
            while not self._idle and self._count >= self._most:
                self._free.wait()
            if self._idle:
                best = max(range(len(self._idle)), key=lambda i: self._idle[i].last_source == source)
                child = self._idle.pop(best)
                child.last_source = source
                return child
            self._count += 1
        try:
            child = _Child(self._memory_limit, self._command)
        except BaseException:
            with self._free:
                self._count -= 1
            raise
        child.last_source = source
        return child

    def _give_back(self, child: _Child) -> None:
        with self._free:
            self._idle.append(child)
            self._free.notify()

    def _discard(self, child: _Child) -> None:
        child.close()
        with self._free:
            self._count -= 1
            self._free.notify()


def _end_all(idle: list[_Child]) -> None:
    while idle:
        idle.pop().close()


def _absolute(source: str) -> str:
    return str(Path(source).absolute())


def _take_over(head: dict[str, Any], memory: int) -> StoredPicture:
    names = [str(n) for n in head["planes"]]
    data, display = Box(*head["data_window"]), Box(*head["display_window"])
    size = len(names) * data.width * data.height * 4
    if size <= 0 or os.fstat(memory).st_size < size:
        raise DecoderFailed("The decoding process handed over less than it announced.")
    planes = new_planes(names, data.height, data.width)
    with mmap.mmap(memory, size, prot=mmap.PROT_READ) as shared:
        block = np.frombuffer(shared, np.float32).reshape(len(names), data.height, data.width)
        for i, n in enumerate(names):
            planes[n][:] = block[i]
        del block
    return StoredPicture(planes, data, display, data_planes=head["data_planes"])
