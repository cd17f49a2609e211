"""A queue in memory, in the place of the table that workers take from: for tests of what queues work.

It keeps the order that the workers keep: the highest priority first, and of these the one that waits longest.
`tests/server/test_queueing.py` asks the same of it and of the real one.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from config.queueing import Entry, shared_out
from procrastinate.contrib.django import app


class MemoryQueue:
    def __init__(self) -> None:
        self.waiting: list[Entry] = []
        self.doing: Entry | None = None

    def put(self, entries: Sequence[Entry]) -> None:
        for entry in entries:
            if entry.task not in app.tasks:
                raise LookupError(f"There is no task {entry.task}.")
        self.waiting += entries

    def waiting_of(self, project_id: int) -> int:
        return sum(e.arguments.get("project_id") == project_id for e in self._at_work())

    def serves(self, job_id: int) -> bool:
        rows = (e for e in self._at_work() if e.task.startswith("jobs."))
        return any(e.arguments.get("job_id") == job_id for e in rows)

    def put_first(self, project_id: int, job_id: int) -> None:
        own = [
            i
            for i, e in enumerate(self.waiting)
            if e.task.startswith("jobs.") and e.arguments.get("project_id") == project_id
        ]
        own.sort(key=lambda i: -self.waiting[i].priority)
        rows = [(self.waiting[i].priority, self.waiting[i].arguments.get("job_id") == job_id) for i in own]
        for i, priority in zip(own, shared_out(rows), strict=True):
            self.waiting[i] = replace(self.waiting[i], priority=priority)

    def _at_work(self) -> list[Entry]:
        return [*self.waiting, *([self.doing] if self.doing else [])]

    def take(self) -> Entry | None:
        """What a worker would take next."""
        if not self.waiting:
            return None
        # max gives the first of those that are equal
        entry = max(self.waiting, key=lambda e: e.priority)
        self.waiting.remove(entry)
        return entry

    def run(self) -> int:
        """Do all that waits, in order, as a worker would; returns how much."""
        count = 0
        while entry := self.take():
            self.doing = entry
            try:
                app.tasks[entry.task].func(**entry.arguments)
            finally:
                self.doing = None
            count += 1
        return count
