"""A class that opens a worksheet together and works on it, and its teacher's table of two hundred copies."""

from __future__ import annotations

import threading
import time
from statistics import median

from bench.timing import percentile
from tests.served import Visitor, server

STUDENTS, COPIES = 30, 200
PAUSE, SECONDS = 2.0, 30
OPENED, GOAL, TABLE = 10, 300, 1000
"""Seconds in which all have opened it, milliseconds for 95 % of what they do, and for the table."""


class Pupil:
    """Somebody with a copy, who writes, measures, fits and looks in turn."""

    def __init__(self, port: int, code: str, name: str) -> None:
        self._visitor, self._turn = Visitor(port), 0
        self._at = f"/api/studies/{self._visitor.ask('POST', '/api/join', {'code': code, 'student': name})['study']}"
        self._version = self._visitor.ask("GET", self._at)["version"]
        self._step = self._visitor.ask("GET", f"{self._at}/task")["steps"][0]["key"]
        self._change({"kind": "add_fit", "family": "line"})

    def _change(self, change: dict[str, object]) -> None:
        made = self._visitor.ask("POST", f"{self._at}/changes", {"version": self._version, "change": change})
        self._version = made["version"]

    def act(self) -> None:
        self._turn += 1
        match self._turn % 5:
            case 0:
                self._change({"kind": "set_cells", "row": 3, "column": 2, "block": [[str(120 + self._turn % 9)]]})
            case 1:
                self._visitor.ask(
                    "PUT", f"{self._at}/task", {"step": self._step, "text": "It rises evenly " * self._turn}
                )
            case 2:
                self._visitor.ask("GET", f"{self._at}/task")
            case 3:
                self._visitor.ask("GET", f"{self._at}/residuals/A")
            case _:
                self._visitor.ask("GET", f"{self._at}/comments")


def _together(jobs: list[threading.Thread]) -> float:
    begin = time.perf_counter()
    for job in jobs:
        job.start()
    for job in jobs:
        job.join()
    return time.perf_counter() - begin


def run() -> None:
    with server("serve") as port:
        teacher = Visitor(port)
        sheet = teacher.ask("POST", "/api/shipped_worksheets/calibration", {})
        pupils: list[Pupil] = []
        opened = _together(
            [
                threading.Thread(target=lambda place=place: pupils.append(Pupil(port, sheet["code"], f"Student {place}")))
                for place in range(STUDENTS)
            ]
        )  # fmt: skip
        print(f"\nA worksheet opened by {len(pupils)} of {STUDENTS} students at once: {opened:.1f} s (goal {OPENED})")
        times: list[float] = []
        wrong: list[str] = []
        start = time.perf_counter() + 0.5

        def work(place: int, pupil: Pupil) -> None:
            due = start + PAUSE * place / STUDENTS
            while due < start + SECONDS:
                time.sleep(max(0.0, due - time.perf_counter()))
                begin = time.perf_counter()
                try:
                    pupil.act()
                except (RuntimeError, OSError) as problem:
                    wrong.append(str(problem))
                times.append((time.perf_counter() - begin) * 1e3)
                due = max(due + PAUSE, time.perf_counter())

        _together([threading.Thread(target=work, args=one) for one in enumerate(pupils)])
        print(
            f"One thing every {PAUSE:.0f} s each: {len(times)} requests, median {median(times):.0f} ms, "
            f"p95 {percentile(times, 0.95):.0f} ms (goal {GOAL}), {len(wrong)} refused or failed"
        )
        for place in range(STUDENTS, COPIES):
            Pupil(port, sheet["code"], f"Student {place}")
        tables = []
        for _ in range(6):
            begin = time.perf_counter()
            found = teacher.ask("GET", f"/api/worksheets/{sheet['id']}/class")
            tables.append((time.perf_counter() - begin) * 1e3)
        print(
            f"The table of {len(found['copies'])} copies: first {tables[0]:.0f} ms, then median {median(tables[1:]):.0f} ms (goal {TABLE})"
        )


if __name__ == "__main__":
    run()
