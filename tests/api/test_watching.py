"""For whoever runs the server: whether it is well, what it counts, what it logs, and a backup that is put back."""

from __future__ import annotations

import re
import tempfile
import urllib.error
import urllib.request
from http.client import HTTPResponse
from pathlib import Path
from subprocess import CalledProcessError
from threading import Event, Thread
from time import sleep
from typing import NamedTuple
from unittest.mock import patch

from django.core.management import CommandError, call_command
from django.db import (
    DatabaseError,
    DataError,
    IntegrityError,
    NotSupportedError,
    OperationalError,
    ProgrammingError,
)
from django.test import TestCase, override_settings, tag

from tests.served import Served, Visitor, server


class Health(TestCase):
    def test_well_and_what_is_wrong(self) -> None:
        self.assertEqual(self.client.get("/healthz").content, b"well\n")
        with patch("ridge.site.for_the_host.connection.cursor", side_effect=DatabaseError):
            found = self.client.get("/healthz")
        self.assertEqual((found.status_code, found.content), (503, b"The database does not answer.\n"))

        class Room(NamedTuple):
            free: int

        with patch("ridge.site.for_the_host.shutil.disk_usage", return_value=Room(3_000_000)):
            found = self.client.get("/healthz")
        self.assertEqual((found.status_code, found.content), (503, b"Only 3 MB are left on the disk of the data.\n"))

    def test_nobody_else_is_told(self) -> None:
        for path in ("/healthz", "/metrics"):
            self.assertEqual(self.client.get(path, REMOTE_ADDR="10.0.0.9").status_code, 404)
            self.assertEqual(self.client.get(path, headers={"X-Forwarded-Proto": "https"}).status_code, 404)
            self.assertEqual(self.client.get(path, headers={"X-Forwarded-For": "127.0.0.1"}).status_code, 404)
            self.assertEqual(self.client.get(path).status_code, 200)


class Logged(TestCase):
    def test_requests_by_their_route_without_names_or_readings(self) -> None:
        made = self.client.post("/api/studies", {"title": "Not to be told"}, content_type="application/json").json()
        body = {"version": 0, "change": {"kind": "set_cells", "row": 0, "column": 0, "block": [["31.4159"]]}}
        with self.assertLogs("ridge.requests", level="INFO") as found:
            self.client.post(f"/api/studies/{made['id']}/changes", body, content_type="application/json")
            self.client.get("/api/studies/not-a-key/report.pdf?name=Somebody")
            self.client.get("/nowhere/Somebody")
        first, *others = found.output
        self.assertRegex(first, r"POST api/studies/<study_id>/changes 200, \d+ ms$")
        for line in found.output:
            self.assertNotRegex(line, f"Not to be told|31.4159|{made['id']}|Somebody")
        self.assertRegex(others[-1], "GET elsewhere 404")

    @override_settings(SLOW=0.0)
    def test_slow_ones_with_where_the_time_went(self) -> None:
        with self.assertLogs("ridge.requests", level="WARNING") as found:
            self.client.get("/api/shelf")
        self.assertRegex(
            found.output[0], r"slow: GET api/shelf 200, \d+ ms: 0 ms in the long lane, \d+ ms for \d+ statements"
        )

    def test_failures_with_a_number_that_the_person_sees(self) -> None:
        numbers = []
        for _ in range(2):
            with (
                patch("ridge.studies.api.studies.current_user", side_effect=ZeroDivisionError("secret 42")),
                self.assertLogs("ridge.site.api", level="ERROR") as found,
            ):
                told = self.client.get("/api/shelf")
            self.assertEqual(told.status_code, 500)
            self.assertNotIn("42", re.sub(r"number is \w+", "", told.json()["message"]))
            match = re.search(r"Its number is ([0-9a-f]{8})\.", told.json()["message"])
            assert match is not None
            self.assertIn(f"number {match[1]}", found.output[0])
            numbers.append(match[1])
        self.assertEqual(len(set(numbers)), 1)  # the same failure has the same number

    def test_a_database_that_cannot_be_written(self) -> None:
        with (
            patch("ridge.studies.api.studies.current_user", side_effect=OperationalError("database or disk is full")),
            self.assertLogs("ridge.site.api", level="ERROR"),
        ):
            told = self.client.get("/api/shelf")
        self.assertEqual(told.status_code, 503)
        self.assertIn("its disk may be full", told.json()["message"])

    def test_a_wrong_question_to_the_database_is_no_full_disk(self) -> None:
        for kind in (ProgrammingError, NotSupportedError, DataError, IntegrityError):
            with (
                patch("ridge.studies.api.studies.current_user", side_effect=kind("FOR UPDATE cannot be applied")),
                self.assertLogs("ridge.site.api", level="ERROR"),
            ):
                told = self.client.get("/api/shelf")
            self.assertEqual(told.status_code, 500, kind)
            self.assertNotIn("disk", told.json()["message"])


def asked(port: int, path: str) -> HTTPResponse:
    found: HTTPResponse = urllib.request.urlopen(f"http://127.0.0.1:{port}{path}")
    return found


class Counted(TestCase):
    def test_over_all_processes(self) -> None:
        with server("serve") as port:
            for _ in range(6):
                visitor = Visitor(port)
                for _ in range(5):
                    visitor.ask("GET", "/api/shelf")
            study = visitor.ask("POST", "/api/studies", {"sample": "tide"})["id"]
            visitor.ask("GET", f"/api/studies/{study}/readings.csv")
            self.assertEqual(asked(port, "/healthz").read(), b"well\n")
            text = asked(port, "/metrics").read().decode()
            with self.assertRaises(urllib.error.HTTPError) as refused:
                through = urllib.request.Request(
                    f"http://127.0.0.1:{port}/metrics", headers={"X-Forwarded-Proto": "https"}
                )
                urllib.request.urlopen(through)
            self.assertEqual(refused.exception.code, 404)
        counted = re.search(r'ridge_request_seconds_count{method="GET",route="api/shelf",status="200"} ([\d.]+)', text)
        assert counted is not None
        self.assertEqual(float(counted[1]), 36)
        self.assertRegex(text, r'ridge_lane_seconds_total{route="api/studies/<study_id>/readings.<kind>"} 0?\.?\d+')
        self.assertNotIn(study, text)


@tag("sqlite")
class PutBack(TestCase):
    take_long = True

    def test_a_backup_is_restored_with_its_guests(self) -> None:
        with tempfile.TemporaryDirectory() as folder, tempfile.TemporaryDirectory() as elsewhere:
            copy = Path(elsewhere) / "copy.sqlite3"
            first = Served(folder, "serve")
            first.prepare()
            first.start()
            try:
                visitor = Visitor(first.port)
                study = visitor.ask("POST", "/api/studies", {"title": "Kept"})["id"]
                first.manage("backup", str(copy))
                visitor.ask("POST", "/api/studies", {"title": "Made after it"})
                with self.assertRaises(CalledProcessError) as refused:
                    first.manage("restore", str(copy))
                self.assertIn(b"stop the server first", refused.exception.stderr)
            finally:
                first.stop()
            again = Served(folder, "serve")
            again.manage("restore", str(copy))
            self.assertEqual(len(list(Path(folder).glob("serve.sqlite3.before-*"))), 1)
            # As on another machine: the cookies are worth something there by the secret beside the copy alone.
            (Path(folder) / "serve-secret.txt").unlink()
            again.manage("restore", str(copy))
            again.start()
            try:
                back = Visitor(again.port, visitor.cookies)
                self.assertEqual([card["id"] for card in back.ask("GET", "/api/shelf")["cards"]], [study])
            finally:
                again.stop()

    def test_a_backup_while_people_work_is_whole_and_restored(self) -> None:
        """Whatever was acknowledged before it began is in it; a killed one leaves nothing in the way."""
        with tempfile.TemporaryDirectory() as folder, tempfile.TemporaryDirectory() as elsewhere:
            copy = Path(elsewhere) / "copy.sqlite3"
            copy.touch()  # what a killed backup used to leave
            copy.with_name(".copy.sqlite3.part").write_bytes(b"half a copy")
            served = Served(folder, "serve")
            served.prepare()
            served.start()
            stop = Event()

            def work() -> None:
                visitor = Visitor(served.port)
                while not stop.is_set():
                    visitor.ask("POST", "/api/studies", {"title": "One more"})

            try:
                visitor = Visitor(served.port)
                study = visitor.ask("POST", "/api/studies", {"title": "Before"})["id"]
                people = [Thread(target=work) for _ in range(4)]
                for one in people:
                    one.start()
                served.manage("backup", str(copy))
                stop.set()
                for one in people:
                    one.join()
                self.assertEqual(
                    sorted(one.name for one in Path(elsewhere).iterdir()), ["copy.sqlite3", "copy.sqlite3.secret.txt"]
                )
            finally:
                stop.set()
                served.stop()
            served.manage("restore", str(copy))
            served.start()
            try:
                found = [card["id"] for card in Visitor(served.port, visitor.cookies).ask("GET", "/api/shelf")["cards"]]
                self.assertEqual(found, [study])
            finally:
                served.stop()

    def test_what_is_no_backup_changes_nothing(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            wrong = Path(folder) / "wrong.sqlite3"
            for content in (None, b"no database", b"SQLite format 3\0" + bytes(5000)):
                if content is not None:
                    wrong.write_bytes(content)
                with self.assertRaises(CommandError):
                    call_command("restore", str(wrong))
            for place in ("/no/such/folder/copy.sqlite3", folder):
                with self.assertRaises(CommandError):
                    call_command("backup", place)


class Stopped(TestCase):
    def test_what_is_under_way_is_finished(self) -> None:
        """A restart loses nothing: the file that is being made still comes, and the next request is answered by the next server."""
        with tempfile.TemporaryDirectory() as folder:
            served = Served(folder, "serve", RIDGE_LANE_EARLY="1")  # what takes ten seconds to stop has begun
            served.prepare()
            served.start()
            visitor = Visitor(served.port)
            study = visitor.ask("POST", "/api/studies", {"sample": "tide"})["id"]
            found: list[int] = []
            path = f"/api/studies/{study}/report.pdf"
            waiting = Thread(target=lambda: found.append(visitor.send("GET", path)[0].status))
            waiting.start()
            sleep(0.3)
            self.assertEqual(found, [])
            served.stop()
            waiting.join()
            self.assertEqual(found, [200])
