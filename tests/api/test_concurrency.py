"""Several writers at once: no edit lost, none refused for a busy database."""

from __future__ import annotations

import sqlite3
from concurrent.futures import ThreadPoolExecutor
from contextlib import closing
from threading import Event
from typing import Any
from unittest.mock import patch

from django.db import connection
from django.test import Client, TransactionTestCase, tag

from ridge.studies.content import store
from ridge.studies.content.state import StudyState
from ridge.studies.content.store import read_state
from ridge.studies.models import Revision, Study
from ridge.studies.one_at_a_time import turn, waiting


class ManyWriters(TransactionTestCase):
    def post(self, client: Client, path: str, body: Any) -> Any:
        try:
            return client.post(f"/api{path}", body, content_type="application/json")
        finally:
            connection.close()

    def test_eight_visitors_at_once(self) -> None:
        def work(number: int) -> int:
            client = Client()
            study = self.post(client, "/studies", {"title": f"study {number}"}).json()["id"]
            for version in range(5):
                change = {"kind": "set_cells", "row": version, "column": 0, "block": [[str(number), str(version)]]}
                answer = self.post(client, f"/studies/{study}/changes", {"version": version, "change": change})
                if answer.status_code != 200:
                    return int(answer.status_code)
            return 200

        with ThreadPoolExecutor(8) as pool:
            self.assertEqual(set(pool.map(work, range(8))), {200})
        self.assertEqual(Revision.objects.count(), 40)
        for study in Study.objects.all():
            number = study.title.split()[1]
            self.assertEqual(read_state(study).columns[0].cells, (number,) * 5)

    def test_two_windows_racing_lose_nothing(self) -> None:
        client = Client()
        study = self.post(client, "/studies", {}).json()["id"]
        cookies = client.cookies

        def work(number: int) -> None:
            own = Client()
            own.cookies = cookies
            version = 0
            for step in range(6):
                change = {"kind": "insert_rows", "at": 0, "count": 1}
                for _ in range(200):
                    answer = self.post(
                        own,
                        f"/studies/{study}/changes",
                        {"version": version, "change": change, "request_key": f"{number}-{step}"},
                    )
                    if answer.status_code == 200:
                        version = answer.json()["version"]
                        break
                    self.assertEqual(answer.status_code, 409)
                    version = answer.json()["study"]["version"]
                else:
                    self.fail("a change was never accepted")

        with ThreadPoolExecutor(2) as pool:
            list(pool.map(work, range(2)))
        stored = Study.objects.get()
        self.assertEqual((stored.version, read_state(stored).row_count), (12, 12))

    def test_two_senders_and_a_hand_at_once(self) -> None:
        """Every reading that was acknowledged is there once, and so is everything that was typed."""
        client = Client()
        study = self.post(client, "/studies", {}).json()["id"]
        keys = [self.post(client, f"/studies/{study}/keys", {}).json()["key"] for _ in range(2)]

        def send(number: int) -> int:
            own = Client()
            for step in range(8):
                body = {"readings": [{"x": 100 * number + step, "y": step}]}
                headers = {"Authorization": f"Bearer {keys[number]}"}
                try:
                    answer = own.post("/api/readings", body, content_type="application/json", headers=headers)
                finally:
                    connection.close()
                self.assertEqual(answer.status_code, 201, answer.content)
            return 8

        def name(_: int) -> int:
            version = 0
            for step in range(4):
                change = {"kind": "edit_study", "title": f"title {step}"}
                answer = self.post(client, f"/studies/{study}/changes", {"version": version, "change": change})
                # What is typed on an older version goes on, since nothing but readings came.
                self.assertEqual(answer.status_code, 200, answer.content)
                version = answer.json()["version"]
            return 4

        with ThreadPoolExecutor(3) as pool:
            done = [pool.submit(send, 0), pool.submit(send, 1), pool.submit(name, 0)]
            self.assertEqual([one.result() for one in done], [8, 8, 4])
        state = read_state(Study.objects.get(pk=study))
        self.assertEqual(sorted(map(int, state.columns[0].cells)), [*range(8), *range(100, 108)])
        self.assertEqual(state.title, "title 3")

    def test_a_study_that_changes_while_it_is_read_is_read_at_one_version(self) -> None:
        """Its row, then its tables: what comes between the two must not be remembered under the older version."""
        client = Client()
        key = self.post(client, "/studies", {}).json()["id"]
        study = Study.objects.get(pk=key)
        reading = store._read_tables

        def interrupted(of: Study) -> StudyState:
            if of is study and of.version == 0:
                change = {"kind": "set_cells", "row": 0, "column": 0, "block": [["1"], ["2"]]}
                answer = self.post(client, f"/studies/{key}/changes", {"version": 0, "change": change})
                self.assertEqual(answer.status_code, 200)
            return reading(of)

        store._recent.forget()
        with patch.object(store, "_read_tables", interrupted):
            state = read_state(study)
        self.assertEqual((study.version, state.columns[0].cells), (1, ("1", "2")))
        self.assertEqual(read_state(Study(pk=key, version=1)).columns[0].cells, ("1", "2"))
        older = store._recent.get((study.pk, 0))
        self.assertTrue(older is None or older.columns[0].cells == ())

    def test_the_same_request_twice_at_once_is_carried_out_once(self) -> None:
        client = Client()
        self.post(client, "/studies", {})

        def make(_: int) -> str:
            own = Client()
            own.cookies = client.cookies
            body = {"title": "once", "request_key": "the-same-key"}
            return str(self.post(own, "/studies", body).json()["id"])

        with ThreadPoolExecutor(6) as pool:
            self.assertEqual(len(set(pool.map(make, range(6)))), 1)
        self.assertEqual(Study.objects.filter(title="once").count(), 1)


class OneAtATime(TransactionTestCase):
    """Requests of one process."""

    def test_the_second_begins_when_the_first_has_ended_or_waits(self) -> None:
        began: list[str] = []
        begun, second_comes, go_on = Event(), Event(), Event()

        def first() -> None:
            with turn():
                began.append("first")
                begun.set()
                second_comes.wait()
                began.append("first goes on")
                with waiting():
                    go_on.wait()  # set by the second, in its turn
                began.append("first again")

        def second() -> None:
            begun.wait()
            second_comes.set()
            with turn():
                began.append("second")
                go_on.set()

        with ThreadPoolExecutor(2) as pool:
            for done in (pool.submit(first), pool.submit(second)):
                done.result()
        self.assertEqual(began, ["first", "first goes on", "second", "first again"])

    def test_a_turn_ends_whatever_happens(self) -> None:
        for _ in range(2):
            with self.assertRaises(ZeroDivisionError), turn(), waiting():
                raise ZeroDivisionError
        with waiting(), turn():
            pass

    @tag("sqlite")
    def test_a_database_that_somebody_holds_stops_only_writers(self) -> None:
        client = Client()
        study = self.client_post(client, "/studies", {})["id"]
        writes = {"version": 0, "change": {"kind": "insert_rows", "at": 0, "count": 1}}
        with closing(sqlite3.connect(connection.settings_dict["NAME"])) as another, ThreadPoolExecutor(1) as pool:
            another.execute("BEGIN IMMEDIATE")
            writing = pool.submit(self.client_post, client, f"/studies/{study}/changes", writes)
            reader = Client()
            reader.cookies = client.cookies
            for _ in range(4):
                self.assertEqual(reader.get(f"/api/studies/{study}").status_code, 200)
            self.assertFalse(writing.done())
            another.rollback()
            self.assertEqual(writing.result()["version"], 1)

    def client_post(self, client: Client, path: str, body: Any) -> Any:
        try:
            return client.post(f"/api{path}", body, content_type="application/json").json()
        finally:
            connection.close()
