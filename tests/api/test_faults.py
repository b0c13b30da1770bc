"""Faults on purpose: nothing acknowledged is lost, what cannot be done is said, and when the fault is over all goes on."""

from __future__ import annotations

import resource
import sqlite3
import tempfile
import uuid
from contextlib import closing
from datetime import timedelta
from pathlib import Path
from threading import Thread
from time import sleep
from typing import Any, ClassVar
from unittest import TestCase as PlainTestCase
from unittest.mock import patch

import orjson
from django.test import TestCase, tag
from django.utils import timezone

from tests.served import Served, Visitor, processes_of


class OneServer(PlainTestCase):
    """The tests of a class on one server, which may be killed and started again."""

    take_long = True
    server: ClassVar[Served]

    @classmethod
    def setUpClass(cls) -> None:
        cls.server = Served(cls.enterClassContext(tempfile.TemporaryDirectory()), "serve", RIDGE_LOCK_SECONDS="2")
        cls.server.prepare()
        cls.server.start()

    @classmethod
    def tearDownClass(cls) -> None:
        cls.server.kill()


def block_of(version: int, rows: int = 400) -> dict[str, Any]:
    cells = [[f"{version}.{row}", "0" * 60] for row in range(rows)]
    change = {"kind": "set_cells", "row": 0, "column": 0, "block": cells}
    return {"version": version, "change": change, "request_key": str(uuid.uuid4())}


@tag("sqlite")
class Faults(OneServer):
    """A disk that is full or read-only, a locked database, a connection that breaks. What the kernel refuses to write: files beyond a size, as on a disk
    that is full, or anything, as on one that is read-only."""

    def test_a_disk_that_is_full(self) -> None:
        held = max(file.stat().st_size for file in Path(self.server.environment["RIDGE_DATA"]).glob("serve.sqlite3*"))
        self.check(self.server, held + 300_000)

    def test_a_disk_that_is_read_only(self) -> None:
        self.check(self.server, 0)

    def check(self, server: Served, size: int) -> None:
        visitor = Visitor(server.port)
        study = visitor.ask("POST", "/api/studies", {"title": "Kept"})["id"]
        version = visitor.ask("POST", f"/api/studies/{study}/changes", block_of(0))["version"]
        limit_files(server, size)
        refused = None
        while refused is None:
            self.assertLess(version, 60)
            wanted = block_of(version)
            response, text = visitor.send("POST", f"/api/studies/{study}/changes", wanted)
            if response.status == 200:
                version += 1
            else:
                refused = response, orjson.loads(text)
        self.assertEqual(refused[0].status, 503)
        self.assertIn("its disk may be full", refused[1]["message"])
        # What was acknowledged can still be read, and is the last that was.
        found = visitor.ask("GET", f"/api/studies/{study}")
        self.assertEqual((found["version"], found["columns"][0]["cells"][0]), (version, f"{version - 1}.0"))
        limit_files(server, resource.RLIM_INFINITY)
        again = visitor.ask("POST", f"/api/studies/{study}/changes", wanted)
        self.assertEqual((again["version"], again["columns"][0]["cells"][0]), (version + 1, f"{version}.0"))
        server.kill()
        server.start()
        found = Visitor(server.port, visitor.cookies).ask("GET", f"/api/studies/{study}")
        self.assertEqual((found["version"], found["columns"][0]["cells"][0]), (version + 1, f"{version}.0"))

    def test_somebody_holds_the_database(self) -> None:
        """For a while: one waits. For too long: it is said, and nothing is half made."""
        visitor = Visitor(self.server.port)
        study = visitor.ask("POST", "/api/studies", {"title": "Kept"})["id"]
        path = f"/api/studies/{study}/changes"
        for seconds, status in ((0.7, 200), (4.0, 503)):
            holder = Thread(target=hold, args=(Path(self.server.environment["RIDGE_DATA"]) / "serve.sqlite3", seconds))
            holder.start()
            sleep(0.2)
            wanted = block_of(visitor.ask("GET", f"/api/studies/{study}")["version"], 3)
            response, text = visitor.send("POST", path, wanted)
            self.assertEqual(response.status, status, text)
            holder.join()
        self.assertEqual(visitor.ask("GET", f"/api/studies/{study}")["version"], 1)
        self.assertEqual(visitor.ask("POST", path, wanted)["version"], 2)

    def test_a_request_that_is_cut_off_half_way(self) -> None:
        """What did not arrive whole is not made, and nobody else notices."""
        visitor = Visitor(self.server.port)
        study = visitor.ask("POST", "/api/studies", {"title": "Kept"})["id"]
        cut = Visitor(self.server.port, visitor.cookies)
        token = next(value for name, value in visitor.cookies.items() if name.endswith("-csrf"))
        cut.connection.putrequest("POST", f"/api/studies/{study}/changes")
        cookies = "; ".join(f"{name}={value}" for name, value in visitor.cookies.items())
        for name, value in (
            ("Cookie", cookies),
            ("X-CSRFToken", token),
            ("X-Forwarded-Proto", "https"),
            ("Content-Length", "100000"),
        ):
            cut.connection.putheader(name, value)
        cut.connection.endheaders(orjson.dumps(block_of(0, 5))[:300])
        cut.connection.close()
        found = visitor.ask("GET", f"/api/studies/{study}")
        self.assertEqual((found["version"], found["row_count"]), (0, 0))


def limit_files(server: Served, size: int) -> None:
    for process in processes_of(server.port):
        resource.prlimit(process, resource.RLIMIT_FSIZE, (size, resource.RLIM_INFINITY))


def hold(database: Path, seconds: float) -> None:
    with closing(sqlite3.connect(database, isolation_level=None)) as holder:
        holder.execute("BEGIN IMMEDIATE")
        sleep(seconds)
        holder.execute("ROLLBACK")


class TwoServers(OneServer):
    def test_two_hands_on_one_study(self) -> None:
        """Through a server each, on the same database: every change is made on the state before it, or refused as a conflict."""
        second = Served(self.server.environment["RIDGE_DATA"], "serve")
        second.start()
        self.addCleanup(second.kill)
        servers = [self.server, second]
        first = Visitor(servers[0].port)
        study = first.ask("POST", "/api/studies", {"title": "Shared"})["id"]
        made: list[str] = []
        conflicts: list[int] = []

        def work(hand: int) -> None:
            visitor = Visitor(servers[hand].port, first.cookies)
            version = 0
            for step in range(25):
                text = f"{hand}.{step}"
                cells = [{"row": 2 * step + hand, "key": column, "text": text}]
                while True:
                    change = {"kind": "write_cells", "cells": cells}
                    body = {"version": version, "change": change, "request_key": str(uuid.uuid4())}
                    response, told = visitor.send("POST", f"/api/studies/{study}/changes", body)
                    found = orjson.loads(told)
                    if response.status == 409:
                        conflicts.append(1)
                        version = found["study"]["version"]
                        continue
                    assert response.status == 200, told
                    version = found["version"]
                    made.append(text)
                    break

        column = first.ask("GET", f"/api/studies/{study}")["columns"][0]["key"]
        hands = [Thread(target=work, args=(hand,)) for hand in range(2)]
        for hand in hands:
            hand.start()
        for hand in hands:
            hand.join()
        found = Visitor(servers[0].port, first.cookies).ask("GET", f"/api/studies/{study}")
        self.assertEqual(found["version"], 50)
        self.assertEqual(sorted(filter(None, found["columns"][0]["cells"])), sorted(made))
        self.assertEqual(len(made), 50)
        self.assertTrue(conflicts)


class TheClock(TestCase):
    """Set back by two days while somebody works, and forward again."""

    def post(self, path: str, body: object, status: int = 200) -> Any:
        response = self.client.post(f"/api/studies{path}", body, content_type="application/json")
        self.assertEqual(response.status_code, status, response.content[:300])
        return response.json()

    def test_work_goes_on(self) -> None:
        study = self.post("", {"title": "Clock"}, 201)["id"]
        first = block_of(0, 3)
        self.post(f"/{study}/changes", first)
        now = timezone.now()
        for version, moved in ((1, timedelta(days=-2)), (4, timedelta(days=3)), (7, timedelta())):
            with patch("django.utils.timezone.now", return_value=now + moved):
                wanted = block_of(version, 3)
                self.assertEqual(self.post(f"/{study}/changes", wanted)["version"], version + 1)
                self.assertEqual(self.post(f"/{study}/changes", wanted)["version"], version + 1)  # the answer was lost
                undone = self.post(f"/{study}/undo", {"version": version + 1})
                self.assertEqual(self.post(f"/{study}/redo", {"version": undone["version"]})["version"], version + 3)
                shelf = self.client.get("/api/shelf").json()
                self.assertEqual([card["id"] for card in shelf["cards"]], [study])
                steps = self.client.get(f"/api/studies/{study}/history").json()["steps"]
                self.assertTrue(all(step["done"] for step in steps))

    def test_an_instrument_goes_on(self) -> None:
        study = self.post("", {"title": "Clock"}, 201)["id"]
        now = timezone.now()
        with patch("django.utils.timezone.now", return_value=now):
            self.post(f"/{study}/run", {"instrument": "mug", "interval": 1.0})
        counts = []
        for seconds in (5, -7200, 9):
            with patch("django.utils.timezone.now", return_value=now + timedelta(seconds=seconds)):
                found = self.client.get(f"/api/studies/{study}/run?version=-1")
                self.assertEqual(found.status_code, 200, found.content[:300])
                cells = self.client.get(f"/api/studies/{study}").json()["columns"][0]["cells"]
                counts.append(len([cell for cell in cells if cell]))
        self.assertEqual(counts[0], counts[1])
        self.assertGreater(counts[2], counts[1])
