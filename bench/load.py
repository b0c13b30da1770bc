"""A class at work: students who do one thing every second and a half, with and without heavy requests between theirs.

Bounded in people and in seconds, and only ever against a server of its own on this machine.
"""

from __future__ import annotations

import os
import random
import re
import threading
import time
from collections import defaultdict
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from statistics import median

from bench.timing import percentile
from tests.served import Visitor, processes_of, server

PAUSE = 1.5
"""Seconds from one thing that a student does to the next."""
CLASSES = (30, 100, 200)
MOST, LONGEST = 300, 120
"""Students and seconds that nobody may go beyond."""
GOAL = 300
"""Milliseconds within which 95 % of the light requests are answered."""
LIGHT = ("cell", "undo", "moving", "preview", "ask", "open", "residuals", "row", "curves", "comparison", "shelf")
OFTEN = (24, 12, 16, 6, 10, 8, 6, 6, 6, 3, 3)
HEAVY = (
    "resampling?times=25", "ranking", "figure.pdf", "figure.png", "report.pdf", "report.docx", "readings.xlsx",
)  # fmt: skip
SAMPLES = (
    "tide", "can-of-soup", "mooring-line", "salinity-probe", "lantern", "current", "draining-bucket", "sheer-line",
)  # fmt: skip


class Student:
    """Somebody with a copy of one of the samples, whose readings are changed, asked and looked at in turn."""

    def __init__(self, visitor: Visitor, sample: str, seed: int) -> None:
        self._visitor, self._draw = visitor, random.Random(seed)
        self._study = self._visitor.ask("POST", "/api/studies", {"sample": sample})["id"]
        whole = self._visitor.ask("GET", self._at(""))
        columns, view = whole["columns"], whole["analysis"]["view"]
        self._column = next(i for i, column in enumerate(columns) if column["role"] == "y")
        self._cells = columns[self._column]["cells"]
        self._rows = [row for row, cell in enumerate(self._cells) if re.fullmatch(r"-?\d+(\.\d+)?", cell or "")]
        self._low, self._high = view["x"]["low"], view["x"]["high"]
        self._letter = next((fit["letter"] for fit in whole["analysis"]["fits"]), "A")
        self._version, self._done = whole["version"], 0

    def _at(self, path: str) -> str:
        return f"/api/studies/{self._study}{path}"

    def _change(self) -> dict[str, object]:
        row = self._draw.choice(self._rows)
        places = len(self._cells[row].partition(".")[2])
        value = float(self._cells[row]) * self._draw.uniform(0.98, 1.02)
        return {"kind": "set_cells", "row": row, "column": self._column, "block": [[f"{value:.{places}f}"]]}

    def do(self, what: str) -> None:
        """One thing; raises RuntimeError where it is refused."""
        ask, seen = self._visitor.ask, {"low": self._low, "high": self._high}
        match what:
            case "cell":
                self._stepped(
                    ask("POST", self._at("/changes"), {"version": self._version, "change": self._change()}), 1
                )
            case "undo" if self._done:
                self._stepped(ask("POST", self._at("/undo"), {"version": self._version}), -1)
            case "moving":
                ask("POST", self._at("/moving"), {"version": self._version, "change": self._change(), **seen})
            case "preview":
                ask("POST", self._at("/preview"), {"version": self._version, "change": self._change()})
            case "ask":
                given = f"{self._draw.uniform(self._low, self._high):.4g}"
                ask("POST", self._at("/ask"), {"direction": "y_at_x", "given": given})
            case "residuals":
                ask("GET", self._at(f"/residuals/{self._letter}"))
            case "row":
                ask("GET", self._at(f"/rows/{self._draw.choice(self._rows)}"))
            case "curves":
                width = (self._high - self._low) * self._draw.uniform(0.3, 1.5)
                ask("GET", self._at(f"/curves?low={self._low}&high={self._low + width}"))
            case "comparison":
                ask("GET", self._at("/comparison"))
            case "shelf":
                ask("GET", "/api/shelf")
            case "open" | "undo":
                ask("GET", self._at(""))
            case _:
                ask("GET", self._at(f"/{what}"))

    def _stepped(self, answer: dict[str, int], direction: int) -> None:
        self._version, self._done = answer["version"], self._done + direction


Times = dict[str, list[float]]


class Watch:
    """How long each kind of request took, in milliseconds, and what went wrong."""

    def __init__(self) -> None:
        self.times: Times = defaultdict(list)
        self.wrong: list[str] = []

    def time(self, what: str, do: Callable[[str], None]) -> None:
        begin = time.perf_counter()
        try:
            do(what)
        except (RuntimeError, OSError) as problem:
            self.wrong.append(f"{what}: {problem}")
        self.times[what].append((time.perf_counter() - begin) * 1e3)


def _processor(port: int) -> float:
    """Seconds of processor that the server has used so far, its processes and those they waited for together."""
    ticks = sum(sum(map(int, fields[11:15])) for fields in processes_of(port).values())
    return ticks / os.sysconf("SC_CLK_TCK")


def _settled(port: int) -> None:
    """Wait until the server has nothing left to do from its start and from the studies that were made."""
    for _ in range(60):
        before = _processor(port)
        time.sleep(1)
        if _processor(port) - before < 0.05:
            return


@contextmanager
def heavy_ones(port: int, watch: Watch, people: int) -> Iterator[None]:
    """Meanwhile so many others ask for one heavy thing after the other."""
    over = threading.Event()

    def press(person: int) -> None:
        student, step = Student(Visitor(port), SAMPLES[person % len(SAMPLES)], -person), person
        while not over.is_set():
            watch.time(HEAVY[step % len(HEAVY)], student.do)
            step += 1

    threads = [threading.Thread(target=press, args=(person,)) for person in range(people)]
    for thread in threads:
        thread.start()
    try:
        yield
    finally:
        over.set()
        for thread in threads:
            thread.join()


def at_work(port: int, people: int, seconds: float, watch: Watch, *, settle: bool = True) -> float:
    """So many students at work for so long; the seconds of processor that a request cost the server."""
    students = [Student(Visitor(port), SAMPLES[i % len(SAMPLES)], i) for i in range(people)]
    if settle:
        _settled(port)
    start, used = time.perf_counter() + 0.5, _processor(port)

    def work(number: int, student: Student) -> None:
        draw, due = random.Random(number), start + PAUSE * number / people
        while due < start + seconds:
            time.sleep(max(0.0, due - time.perf_counter()))
            watch.time(draw.choices(LIGHT, OFTEN)[0], student.do)
            due = max(due + PAUSE, time.perf_counter())

    threads = [threading.Thread(target=work, args=one) for one in enumerate(students)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    return (_processor(port) - used) / max(1, sum(len(watch.times[what]) for what in LIGHT))


def report(title: str, watch: Watch, each: float, *, kinds: bool = False) -> None:
    light = [one for what in LIGHT for one in watch.times[what]]
    print(
        f"  {title:34} {len(light):6} requests, median {median(light):5.0f} ms, p95 {percentile(light, 0.95):6.0f} ms "
        f"(goal {GOAL}), processor {each * 1e3:5.1f} ms each, {len(watch.wrong)} refused or failed"
    )
    for what in (*LIGHT, *HEAVY) if kinds else ():
        if times := watch.times[what]:
            print(
                f"    {what:32} {len(times):6}, median {median(times):5.0f} ms, p95 {percentile(times, 0.95):6.0f} ms"
            )
    for problem in watch.wrong[:3]:
        print(f"    {problem}")


def run(numbers: tuple[int, ...] = CLASSES, seconds: float = 30, *, kinds: bool = False) -> None:
    seconds = min(seconds, LONGEST)
    print(f"\nA class at work, one thing every {PAUSE} s, {seconds:.0f} s each")
    for people in (min(number, MOST) for number in numbers):
        with server("serve") as port:
            watch = Watch()
            report(f"{people} students", watch, at_work(port, people, seconds, watch), kinds=kinds)
    with server("serve") as port:
        _settled(port)
        watch = Watch()
        with heavy_ones(port, watch, 4):
            each = at_work(port, 10, seconds, watch, settle=False)
        report("10 students, 4 with heavy requests", watch, each, kinds=kinds)
