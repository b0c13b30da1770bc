"""Requests that take their time: whose turn it is, and what comes back from the other process on a server as it is served."""

from __future__ import annotations

import threading
import time
from pathlib import Path
from unittest import TestCase
from unittest.mock import Mock

from django.test import SimpleTestCase

from ridge.site.api import api
from ridge.site.lane.elsewhere import Answered
from ridge.site.lane.lane import _result
from ridge.site.lane.turns import Full, Turn, Turns
from ridge.site.lane.which import LONG
from tests.served import Visitor, kill, processes_of, server

SLOW = "report.pdf"


class WhoseTurn(TestCase):
    def order(self, turns: Turns, entered: list[Turn]) -> list[object]:
        """Who comes when each leaves at once."""
        came: list[object] = []
        while left := [turn for turn in entered if turn.has_come]:
            came.append(left[0].person)
            entered.remove(left[0])
            turns.leave(left[0])
        return came

    def test_nobodys_twenty_go_before_anothers_one(self) -> None:
        turns = Turns(30, 20)
        entered = [turns.enter("ann") for _ in range(20)] + [turns.enter("ben"), turns.enter("cat"), turns.enter("ben")]
        self.assertEqual([turns.ahead(turn) for turn in entered[-3:]], [1, 2, 4])
        self.assertEqual(self.order(turns, entered)[:6], ["ann", "ben", "cat", "ann", "ben", "ann"])

    def test_how_many_are_ahead_is_how_many_come_before(self) -> None:
        turns = Turns(30, 10)
        people = [turns.enter(person) for person in "abacbbacda"]
        told = {turn: turns.ahead(turn) for turn in people}
        came = []
        while left := next((turn for turn in people if turn.has_come and turn not in came), None):
            came.append(left)
            turns.leave(left)
        self.assertEqual([told[turn] for turn in came], [0, *range(1, 10)])

    def test_room_is_bounded_and_comes_back(self) -> None:
        turns = Turns(4, 3)
        first = [turns.enter("ann") for _ in range(3)]
        with self.assertRaises(Full) as own:
            turns.enter("ann")
        turns.enter("ben")
        with self.assertRaises(Full) as others:
            turns.enter("cat")
        self.assertEqual((own.exception.of_person, others.exception.of_person), (True, False))
        turns.leave(first[1])  # it had not come yet
        turns.leave(first[0])
        self.assertFalse(first[2].has_come)  # it is the other's turn
        self.assertEqual(turns.enter("ann").person, "ann")

    def test_whoever_waits_is_woken(self) -> None:
        turns = Turns(4, 4)
        first, second = turns.enter("ann"), turns.enter("ben")
        self.assertFalse(turns.wait(second, 0.01))
        threading.Timer(0.05, turns.leave, (first,)).start()
        self.assertTrue(turns.wait(second, 30))


class Waited(TestCase):
    def test_what_is_ready_just_after_a_look_is_no_failure(self) -> None:
        found = Answered(200, [], b"", 0)
        future = Mock()
        future.result.side_effect = [TimeoutError, found]  # not there yet; there when it is looked whether it is
        future.done.return_value = True
        self.assertIs(_result(future, Mock()), found)

    def test_what_took_too_long_says_so(self) -> None:
        future = Mock()
        future.result.side_effect = TimeoutError
        future.done.return_value = True
        with self.assertRaises(TimeoutError):
            _result(future, Mock())


class Names(SimpleTestCase):
    def test_every_name_is_that_of_an_operation(self) -> None:
        known = {getattr(url, "name", None) for url in api.urls[0]}
        self.assertEqual(LONG - known, set())


class Served(TestCase):
    """One process of each kind, so that it is known who waits for whom."""

    port: int
    visitor: Visitor
    at: str

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        context = server("serve", "--workers", "1")
        cls.port = cls.enterClassContext(context)
        cls.visitor = Visitor(cls.port)
        study = cls.visitor.ask("POST", "/api/studies", {"sample": "tide"})
        cls.at = f"/api/studies/{study['id']}"
        cls.visitor.send("GET", f"{cls.at}/figure.svg")  # its process has started

    def behind(self) -> tuple[threading.Thread, list[int]]:
        """A slow request that is under way, and what will be its status."""
        found: list[int] = []

        def ask() -> None:
            other = Visitor(self.port)
            at = f"/api/studies/{other.ask('POST', '/api/studies', {'sample': 'lantern'})['id']}"
            begun.set()
            found.append(other.send("GET", f"{at}/{SLOW}")[0].status)

        begun = threading.Event()
        thread = threading.Thread(target=ask)
        thread.start()
        begun.wait()
        return thread, found

    def test_files_come_as_they_are_with_their_headers(self) -> None:
        for name, begins in (("report.pdf", b"%PDF"), ("figure.png", b"\x89PNG"), ("readings.xlsx", b"PK")):
            response, body = self.visitor.send("GET", f"{self.at}/{name}")
            self.assertEqual((response.status, body[: len(begins)]), (200, begins), name)
            self.assertIn("attachment", response.headers["Content-Disposition"])
        response, body = self.visitor.send("GET", f"{self.at}/report.html?inline=true")
        self.assertIn("sandbox", response.headers["Content-Security-Policy"])
        self.assertEqual(len(response.headers.get_all("Content-Security-Policy") or []), 1)
        self.assertEqual(int(response.headers["Content-Length"]), len(body))
        self.assertIn("sinusoid", self.visitor.ask("GET", f"{self.at}/ranking")["order"])

    def test_a_stranger_is_refused_before_waiting(self) -> None:
        thread, found = self.behind()
        response, _ = Visitor(self.port).send("GET", f"{self.at}/{SLOW}")
        self.assertEqual(response.status, 404)
        thread.join()
        self.assertEqual(found, [200])

    def test_what_makes_a_guest_there_makes_the_guest_here(self) -> None:
        text = self.visitor.send("GET", f"{self.at}/study.json")[1].decode()
        new = Visitor(self.port)
        made = new.ask("POST", "/api/study_files", {"text": text})
        self.assertEqual(new.ask("GET", f"/api/studies/{made['id']}")["title"], "Tide at the pontoon")

    def test_a_file_that_is_sent_arrives(self) -> None:
        with open(Path(__file__).parent.parent.parent / "docs" / "screenshots" / "picture.png", "rb") as picture:
            for path, data, name in (
                ("/api/tables/file", b"t;h\n" + b"1;2\n" * 9, "log.csv"),
                (f"{self.at}/pictures", picture.read(), "quay.png"),
            ):
                response, text = self.visitor.send_file(path, data, name)
                self.assertIn(response.status, (200, 201), text)

    def test_it_is_told_how_far_it_is_and_stopped_when_no_longer_wanted(self) -> None:
        ticket = "ticket-of-the-long-lane"
        told: list[bytes] = []
        threads = [self.behind() for _ in range(3)]
        asked: list[tuple[int, bytes]] = []

        def ask() -> None:
            own = Visitor.__new__(Visitor)
            own.__dict__.update(self.visitor.__dict__)
            own.connection = type(self.visitor.connection)("127.0.0.1", self.port)
            response, text = own.send("GET", f"{self.at}/{SLOW}?ticket={ticket}")
            asked.append((response.status, text))

        thread = threading.Thread(target=ask)
        thread.start()
        while not told and thread.is_alive():
            told += [text for text in [self.visitor.send("GET", f"/api/waiting/{ticket}")[1]] if text != b"null"]
        self.assertIn(b"ahead", told[0])
        Visitor(self.port).send("DELETE", f"/api/waiting/{ticket}")  # of somebody else, who stops nothing
        self.assertNotEqual(self.visitor.send("GET", f"/api/waiting/{ticket}")[1], b"null")
        self.assertEqual(self.visitor.send("DELETE", f"/api/waiting/{ticket}")[0].status, 204)
        thread.join()
        self.assertEqual(asked[0][0], 409)
        self.assertIn(b"no longer wanted", asked[0][1])
        self.assertEqual(self.visitor.send("GET", f"/api/waiting/{ticket}")[1], b"null")
        for one, found in threads:
            one.join()
            self.assertEqual(found, [200])

    def test_a_process_that_dies_is_replaced_and_the_file_made_all_the_same(self) -> None:
        found: list[int] = []
        thread = threading.Thread(target=lambda: found.append(self.visitor.send("GET", f"{self.at}/{SLOW}")[0].status))
        thread.start()
        time.sleep(0.3)
        for process in _of_the_lane(self.port):
            kill(process)
        thread.join()
        self.assertEqual(found, [200])
        self.assertEqual(self.visitor.send("GET", f"{self.at}/figure.svg")[0].status, 200)

    def test_one_person_does_not_take_all_the_room(self) -> None:
        many = [threading.Thread(target=self._once) for _ in range(9)]
        self.statuses: list[int] = []
        for thread in many:
            thread.start()
        for thread in many:
            thread.join()
        self.assertEqual(set(self.statuses), {200, 429})
        self.assertGreaterEqual(self.statuses.count(200), 6)

    def _once(self) -> None:
        own = Visitor.__new__(Visitor)
        own.__dict__.update(self.visitor.__dict__)
        own.connection = type(self.visitor.connection)("127.0.0.1", self.port)
        self.statuses.append(own.send("GET", f"{self.at}/{SLOW}")[0].status)


def _of_the_lane(port: int) -> list[int]:
    """The processes of the lane of the server at a port: those that step back behind it."""
    nice = {process: int(fields[16]) for process, fields in processes_of(port).items()}
    return [process for process in nice if nice[process] > min(nice.values())]
