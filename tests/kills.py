"""Servers killed at random while people work (``./run chaos``): what was acknowledged is there, once, and can be undone.

Every writer has a study of its own and makes one change after the other, each with a key, repeated until it is acknowledged, as the
page does. So what the study has to hold is known.
"""

from __future__ import annotations

import random
import sys
import tempfile
import time
import uuid
from dataclasses import dataclass, field
from http.client import HTTPException
from threading import Event, Thread
from typing import Any

import orjson

from tests.served import Served, Visitor, kill, processes_of

WRITERS = 3
PATIENCE = 240.0
"""Seconds that an answer may take on a machine that is busy with other tests."""


class Lost(AssertionError):
    """Something acknowledged is not there, or something is there twice."""


@dataclass
class Writer(Thread):
    """One person at work on a study, through one server after the other."""

    servers: list[Served]
    seed: int
    stopped: Event = field(default_factory=Event)
    expected: list[str] = field(default_factory=list)
    undone: list[str] = field(default_factory=list)
    acknowledged: int = 0
    repeated: int = 0
    fault: BaseException | None = None
    study: str = ""

    def __post_init__(self) -> None:
        super().__init__(daemon=True)
        self._random = random.Random(self.seed)
        self._visitors: dict[int, Visitor] = {}
        self._cookies: dict[str, str] = {}
        self._version = 0

    def __hash__(self) -> int:
        return id(self)

    def run(self) -> None:
        try:
            self.study = self._sure("POST", "/api/studies", {"title": f"Writer {self.seed}"})["id"]
            while not self.stopped.is_set():
                self._step()
        except BaseException as fault:
            self.fault = fault

    def _step(self) -> None:
        body: dict[str, Any]
        if self.expected and self._random.random() < 0.15:
            after, path, body = self.expected[:-1], "undo", {}
        elif self.undone and self._random.random() < 0.3:
            after, path, body = [*self.expected, self.undone[-1]], "redo", {}
        else:
            text = f"{self._random.random():.9f}"
            cell = {"kind": "set_cells", "row": len(self.expected), "column": 0, "block": [[text]]}
            after, path, body = [*self.expected, text], "changes", {"change": cell}
        found = self._sure("POST", f"/api/studies/{self.study}/{path}", {"version": self._version, **body})
        if path == "undo":
            self.undone.append(self.expected[-1])
        elif path == "redo":
            self.undone.pop()
        else:
            self.undone.clear()
        self.expected = after
        self.acknowledged += 1
        if found["version"] != self._version + 1:
            raise Lost(f"version {found['version']} after {self._version}")
        self._version += 1

    def _sure(self, method: str, path: str, body: dict[str, Any] | None = None) -> Any:
        """What is answered, asked for until it is."""
        if body is not None:
            body = {**body, "request_key": str(uuid.UUID(int=self._random.getrandbits(128)))}
        began = time.monotonic()
        while time.monotonic() - began < PATIENCE:
            try:
                visitor = self._visitor()
                response, text = visitor.send(method, path, body)
            except (OSError, HTTPException, RuntimeError):
                self._visitors.clear()
            else:
                self._cookies = visitor.cookies
                if response.status < 400:
                    return orjson.loads(text)
                if response.status < 500 and response.status != 429:
                    raise Lost(f"{method} {path}: {response.status} {text[:300]!r}")
            self.repeated += 1
            time.sleep(0.03)
        raise Lost(f"{method} {path}: no answer within {PATIENCE:.0f} s")

    def _visitor(self) -> Visitor:
        served = self._random.choice(self.servers)
        if served.port not in self._visitors:
            self._visitors[served.port] = Visitor(served.port, self._cookies)
        visitor = self._visitors[served.port]
        visitor.cookies = self._cookies or visitor.cookies
        return visitor

    def check(self) -> None:
        """Raises Lost where the study is not as it was acknowledged."""
        if self.fault:
            raise self.fault
        if not self.study:
            return
        found = [cell for cell in self._sure("GET", f"/api/studies/{self.study}")["columns"][0]["cells"] if cell]
        if found != self.expected:
            raise Lost(f"{self.study}: {len(found)} readings, {len(self.expected)} acknowledged")

    def check_history(self) -> None:
        """All of it undone and made again gives the same."""
        steps = self._sure("GET", f"/api/studies/{self.study}/history")["steps"]
        if not steps:
            return
        last = max(step["number"] for step in steps if step["done"])
        for number, wanted in ((0, []), (last, self.expected)):
            version = self._sure("GET", f"/api/studies/{self.study}")["version"]
            self._sure("POST", f"/api/studies/{self.study}/go_to", {"version": version, "number": number})
            found = self._sure("GET", f"/api/studies/{self.study}")["columns"][0]["cells"]
            if [cell for cell in found if cell] != wanted:
                raise Lost(f"{self.study}: step {number} has {len(found)} readings, not {len(wanted)}")


@dataclass
class Outcome:
    kills: int
    whole: int
    acknowledged: int
    repeated: int
    seconds: float


def run(kills: int, seed: int = 1, servers: int = 1, whole: float = 0.2, quiet: bool = True) -> Outcome:
    """So many kills. ``servers``: how many serve the same database; ``whole``: share of the kills that take a whole server down, the
    others take one of its processes. Raises Lost."""
    source = random.Random(seed)
    began = time.monotonic()
    with tempfile.TemporaryDirectory() as folder:
        served = [Served(folder, "serve") for _ in range(servers)]
        served[0].prepare()
        for one in served:
            one.start()
        writers = [Writer(served, seed * 1000 + place) for place in range(WRITERS)]
        for writer in writers:
            writer.start()
        of_all = 0
        try:
            for kill in range(1, kills + 1):
                time.sleep(source.uniform(0.02, 0.5))
                victim = source.choice(served)
                of_all += _kill(victim, source, whole)
                for writer in writers:
                    if writer.fault:
                        raise writer.fault
                if not quiet and kill % 50 == 0:
                    acknowledged = sum(writer.acknowledged for writer in writers)
                    print(f"{kill} kills, {acknowledged} changes acknowledged", flush=True)
            for writer in writers:
                writer.stopped.set()
            for writer in writers:
                writer.join(PATIENCE)
                writer.check()
                writer.check_history()
        finally:
            for one in served:
                one.kill()
        return Outcome(
            kills, of_all, sum(one.acknowledged for one in writers), sum(one.repeated for one in writers),
            time.monotonic() - began,
        )  # fmt: skip


def _kill(victim: Served, source: random.Random, whole: float) -> bool:
    """One process of a server or all of them; whether it was all. It runs again afterwards."""
    if source.random() > whole:
        # Whoever kills the first process of a server stops it as a whole.
        others = [process for process in sorted(processes_of(victim.port)) if process != victim.pid]
        if others:
            kill(source.choice(others))
            return False
    victim.kill()
    victim.start()
    return True


def main() -> None:
    kills = int(sys.argv[1]) if len(sys.argv) > 1 else 1000
    seed = random.SystemRandom().randrange(10**6)
    print(f"{kills} kills, seed {seed}", flush=True)
    for servers, share in ((1, kills - kills // 5), (2, kills // 5)):
        found = run(share, seed, servers, quiet=False)
        print(
            f"{found.kills} kills ({found.whole} of a whole server) of {servers} server{'' if servers == 1 else 's'} on one database: "
            f"{found.acknowledged} changes acknowledged, {found.repeated} requests repeated, nothing lost, in {found.seconds:.0f} s",
            flush=True,
        )


if __name__ == "__main__":
    main()
