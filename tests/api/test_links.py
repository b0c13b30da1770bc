"""Links to look: what whoever has one can see and do, and that nothing else is open to them."""

from __future__ import annotations

import re
from datetime import timedelta
from typing import Any
from urllib.parse import urlsplit

import orjson
from django.test import Client, TestCase
from django.utils import timezone

from ridge.site.api import api
from ridge.studies.content.links import MOST
from ridge.studies.models import Comment, Link, Study

Asked = tuple[str, str]
SHOWN: set[Asked] = {
    ("GET", ""), ("GET", "/newer"), ("GET", "/refined"), ("GET", "/rows/{row}"), ("POST", "/ask"), ("POST", "/duplicate"),
    ("GET", "/curves"), ("GET", "/results"), ("GET", "/residuals/{letter}"), ("GET", "/ranking"), ("GET", "/comparison"),
    ("GET", "/resampling"), ("GET", "/without/{letter}/{row}"), ("GET", "/workings"), ("GET", "/working"), ("GET", "/next_place"),
    ("GET", "/figure.{kind}"), ("GET", "/fits/{letter}/equation.{kind}"), ("GET", "/report.{kind}"), ("GET", "/study.json"),
    ("GET", "/script.py"), ("GET", "/readings.{kind}"), ("GET", "/pictures/{digest}"),
    ("GET", "/task"), ("GET", "/comments"), ("POST", "/comments"), ("DELETE", "/comments/{comment_id}"),
}  # fmt: skip
"""Methods and addresses below a study's that a link opens; all others are its owner's."""
IN_ADDRESSES = {
    "row": "1", "letter": "A", "kind": "svg", "digest": "0" * 64, "key": "A", "comment_id": "1", "link_id": "1", "key_id": "1",
}  # fmt: skip
NOT_YOURS = "There is no such study on your shelf."
BODIES: dict[str, Any] = {
    "/ask": {"direction": "y_at_x", "given": "3"},
    "/comments": {"text": "Well measured."},
    "/changes": {"version": 0, "change": {"kind": "edit_study", "title": "Mine now"}},
    "/undo": {"version": 1},
    "/redo": {"version": 1},
    "/go_to": {"version": 1, "number": 0},
    "/column": {"key": "x"},
    "/formula": {"text": "a*x"},
    "/run": {"instrument": "mug"},
    "/run/single": {},
    "/run/reveal": {"version": 0, "run": "a", "channel": 0},
    "/links": {},
    "/line": {"start": [1, 1]},
    "/measured": {"kind": "length", "points": [[0, 0], [1, 1]]},
}


class Person(Client):
    def send(self, method: str, path: str, body: Any = None) -> Any:
        return self.generic(method, f"/api{path}", data=orjson.dumps(body or {}), content_type="application/json")

    def look(self, address: str) -> Any:
        return self.send("POST", "/look", {"token": address.rpartition("/")[2]})


class Links(TestCase):
    def setUp(self) -> None:
        self.owner, self.other = Person(), Person()
        self.study = self.owner.send("POST", "/studies", {"sample": "sheer-line"}).json()["id"]
        self.path = f"/studies/{self.study}"

    def make(self, **given: Any) -> str:
        made = self.owner.send("POST", f"{self.path}/links", given)
        self.assertEqual(made.status_code, 201, made.content)
        return str(made.json()["address"])

    def test_a_link_shows_the_study_and_follows_it(self) -> None:
        address = self.make(called="Ms Tarn")
        self.assertEqual(self.other.get(f"/api{self.path}").status_code, 404)
        self.assertEqual(self.other.look(address).json(), {"study": self.study})
        mine, theirs = (one.get(f"/api{self.path}").json() for one in (self.owner, self.other))
        self.assertEqual(theirs["analysis"], mine["analysis"])
        self.assertEqual(self.owner.send("POST", f"{self.path}/changes", {
            "version": mine["version"], "change": {"kind": "edit_study", "title": "Newer"},
        }).status_code, 200)  # fmt: skip
        newer = self.other.get(f"/api{self.path}/newer?version={mine['version']}").json()
        self.assertEqual((newer["title"], newer["undo"]), ("Newer", None))
        self.assertEqual(urlsplit(address).path, f"/look/{address.rpartition('/')[2]}")
        self.assertEqual(Client().get(urlsplit(address).path).status_code, 200)

    def test_nothing_but_looking_is_open(self) -> None:
        """Every address of the API below a study's, asked by whoever looks: shown where it is in the list, else as if there were none."""
        self.other.look(self.make())
        before = self.owner.get(f"/api{self.path}").json()
        asked: set[Asked] = set()
        for path, methods in api.get_openapi_schema()["paths"].items():
            if "/studies/{study_id}" not in path:
                continue
            rest = path.partition("{study_id}")[2]
            filled = re.sub(r"\{(\w+)\}", lambda found: IN_ADDRESSES[found[1]], rest)
            for method in methods:
                asked.add((method.upper(), rest))
                body = BODIES.get(rest, {})
                answer = self.other.send(method.upper(), f"{self.path}{filled}", body)
                refused = answer.status_code == 404 and answer.json()["message"] == NOT_YOURS
                with self.subTest(method=method, rest=rest):
                    if (method.upper(), rest) in SHOWN:
                        self.assertFalse(refused, answer.content)
                        self.assertNotIn(answer.status_code, (401, 403, 500), answer.content)
                    else:
                        self.assertTrue(refused or answer.status_code == 422, (answer.status_code, answer.content))
                        if answer.status_code == 422:  # its body is looked at before; nothing is told of the study
                            self.assertNotIn(self.study, answer.content.decode())
                            self.assertNotIn("Sheer", answer.content.decode())
        self.assertEqual(SHOWN - asked, set())
        self.assertEqual(self.owner.get(f"/api{self.path}").json(), before)

    def test_bodies_that_are_sound_are_refused_too(self) -> None:
        self.other.look(self.make())
        for rest in ("/changes", "/undo", "/redo", "/go_to", "/links"):
            self.assertEqual(self.other.send("POST", f"{self.path}{rest}", BODIES[rest]).status_code, 404, rest)
        self.assertEqual(self.other.send("DELETE", self.path).status_code, 404)
        self.assertEqual(self.other.get("/api/shelf").json()["cards"], [])
        self.assertEqual(self.other.get(f"/api{self.path}/links").status_code, 404)

    def test_a_stranger_sees_nothing(self) -> None:
        self.other.look(self.make())
        another = self.owner.send("POST", "/studies", {"title": "Not shown"}).json()["id"]
        for client, path in ((self.other, f"/studies/{another}"), (Person(), self.path)):
            for method, rest in SHOWN:
                filled = re.sub(r"\{(\w+)\}", lambda found: IN_ADDRESSES[found[1]], rest)
                answer = client.send(method, f"{path}{filled}", BODIES.get(rest))
                self.assertIn(answer.status_code, (404, 422), (method, rest))
                self.assertNotIn(b"Sheer", answer.content)

    def test_withdrawn_ended_mistyped(self) -> None:
        address = self.make()
        self.assertEqual(self.other.look(address).status_code, 200)
        for wrong in ("", "x", address[:-1], address + "x", "é", "a" * 100):
            self.assertEqual(Person().look(wrong).status_code, 404, wrong)
        self.assertEqual(Person().look("a" * 101).status_code, 422)
        link = self.owner.get(f"/api{self.path}/links").json()[0]["id"]
        today = timezone.now().date()
        for ends, status in (
            (today - timedelta(days=2), 404),
            (today, 200),
            (today + timedelta(days=9), 200),
            (None, 200),
        ):
            changed = self.owner.send("PUT", f"{self.path}/links/{link}", {"ends": ends and ends.isoformat()})
            self.assertEqual(changed.json()["ends"], ends and ends.isoformat())
            self.assertEqual(self.other.get(f"/api{self.path}").status_code, status, ends)
            self.assertEqual(Person().look(address).status_code, status, ends)
        self.assertEqual(self.owner.send("DELETE", f"{self.path}/links/{link}").status_code, 204)
        self.assertEqual(self.other.get(f"/api{self.path}").status_code, 404)
        self.assertEqual(Person().look(address).status_code, 404)
        self.assertEqual(self.owner.send("DELETE", f"{self.path}/links/{link}").status_code, 404)
        self.assertEqual(self.owner.send("PUT", f"{self.path}/links/{link}", {"ends": None}).status_code, 404)

    def test_in_the_bin_it_shows_nothing_and_taken_out_again_it_does(self) -> None:
        address = self.make()
        self.other.look(address)
        self.owner.send("DELETE", self.path)
        self.assertEqual(self.other.get(f"/api{self.path}").status_code, 404)
        self.assertEqual(Person().look(address).status_code, 404)
        self.owner.send("POST", f"{self.path}/restore")
        self.assertEqual(self.other.get(f"/api{self.path}").status_code, 200)

    def test_how_often_it_was_opened_and_kept_as_a_hash(self) -> None:
        address = self.make(called="  Ms Tarn ")
        for _ in range(3):
            Person().look(address)
        (told,) = self.owner.get(f"/api{self.path}/links").json()
        self.assertEqual((told["opened"], told["called"], told["ends"]), (3, "Ms Tarn", None))
        token = address.rpartition("/")[2]
        self.assertGreaterEqual(len(token), 32)
        self.assertFalse(any(token in str(value) for value in Link.objects.values_list()[0]))
        self.assertNotIn(token, str(self.owner.get(f"/api{self.path}/links").json()))

    def test_a_copy_of_ones_own_with_its_picture(self) -> None:
        self.other.look(self.make())
        made = self.other.send("POST", f"{self.path}/duplicate")
        self.assertEqual(made.status_code, 201, made.content)
        copy = Study.objects.get(pk=made.json()["id"])
        self.assertNotEqual(copy.owner_id, Study.objects.get(pk=self.study).owner_id)
        self.assertEqual([card["title"] for card in self.other.get("/api/shelf").json()["cards"]], [copy.title])
        held = self.other.get(f"/api/studies/{copy.pk}").json()
        digest = held["picture"]["laid"]["digest"]
        self.assertEqual(self.other.get(f"/api/studies/{copy.pk}/pictures/{digest}").status_code, 200)
        changed = self.other.send(
            "POST", f"/studies/{copy.pk}/changes", BODIES["/changes"] | {"version": held["version"]}
        )
        self.assertEqual(changed.status_code, 200)
        self.assertNotEqual(self.owner.get(f"/api{self.path}").json()["title"], "Mine now")

    def test_not_too_many(self) -> None:
        for _ in range(MOST):
            self.make()
        refused = self.owner.send("POST", f"{self.path}/links")
        self.assertEqual(refused.status_code, 400)
        self.assertIn("Withdraw", refused.json()["message"])

    def test_many_studies_are_looked_at_by_one_browser(self) -> None:
        for _ in range(15):
            study = self.owner.send("POST", "/studies", {"title": "One of many"}).json()["id"]
            address = self.owner.send("POST", f"/studies/{study}/links").json()["address"]
            self.assertEqual(self.other.look(address).status_code, 200)
            self.assertEqual(self.other.get(f"/api/studies/{study}").status_code, 200)
        self.assertLess(len(self.other.cookies["ridge-test-session"].value), 3000)


class Comments(TestCase):
    def setUp(self) -> None:
        self.owner, self.teacher, self.friend = Person(), Person(), Person()
        self.path = f"/studies/{self.owner.send('POST', '/studies', {'sample': 'tide'}).json()['id']}"
        for one in (self.teacher, self.friend):
            one.look(self.owner.send("POST", f"{self.path}/links").json()["address"])

    def comment(self, who: Person, text: str, **more: Any) -> Any:
        made = who.send("POST", f"{self.path}/comments", {"text": text, **more})
        self.assertEqual(made.status_code, 201, made.content)
        return made.json()

    def texts(self, who: Person) -> list[str]:
        return [one["text"] for one in who.get(f"/api{self.path}/comments").json()]

    def test_left_seen_answered_cleared(self) -> None:
        made = self.comment(
            self.teacher, "Is this a period?", about="parameter:A:period", place="Period of A", author="Ms Tarn"
        )
        self.comment(self.friend, "Looks good")
        self.assertEqual(self.texts(self.owner), ["Is this a period?", "Looks good"])
        self.assertEqual(self.texts(self.teacher), ["Is this a period?"])
        at = f"{self.path}/comments/{made['id']}"
        self.assertEqual(self.teacher.send("PUT", at, {"text": "mine"}).status_code, 404)
        self.assertEqual(self.friend.send("DELETE", at).status_code, 404)
        self.assertEqual(self.owner.send("PUT", at, {"text": "Yes, 12.4 h"}).json()["answer"], "Yes, 12.4 h")
        self.assertEqual(self.teacher.get(f"/api{self.path}/comments").json()[0]["answer"], "Yes, 12.4 h")
        self.assertEqual(self.owner.send("DELETE", at).status_code, 204)
        self.assertEqual(self.texts(self.teacher), [])
        self.assertEqual(self.owner.send("DELETE", at).status_code, 404)
        own = self.comment(self.friend, "Taken back")
        self.assertEqual(self.friend.send("DELETE", f"{self.path}/comments/{own['id']}").status_code, 204)

    def test_they_stay_when_the_link_is_withdrawn(self) -> None:
        self.comment(self.teacher, "Well measured")
        for link in self.owner.get(f"/api{self.path}/links").json():
            self.owner.send("DELETE", f"{self.path}/links/{link['id']}")
        self.assertEqual(self.texts(self.owner), ["Well measured"])
        self.assertEqual(self.teacher.get(f"/api{self.path}/comments").status_code, 404)

    def test_in_the_report_only_on_request(self) -> None:
        self.comment(self.teacher, "<script>alert(1)</script> Δt?", place="Period of A", author="Ms Tarn")
        report = self.owner.get(f"/api{self.path}/report.html").content.decode()
        self.assertNotIn("Ms Tarn", report)
        study = self.owner.get(f"/api{self.path}").json()
        parts = [part | {"shown": True} if part["part"] == "comments" else part for part in study["report"]]
        changed = self.owner.send(
            "POST",
            f"{self.path}/changes",
            {"version": study["version"], "change": {"kind": "set_report", "parts": parts}},
        )
        self.assertEqual(changed.status_code, 200, changed.content)
        report = self.owner.get(f"/api{self.path}/report.html").content.decode()
        self.assertIn("Period of A, Ms Tarn", report)
        self.assertIn("&lt;script&gt;alert(1)&lt;/script&gt; Δt?", report)
        for kind in ("pdf", "docx"):
            self.assertEqual(self.owner.get(f"/api{self.path}/report.{kind}").status_code, 200)

    def test_bad_ones_are_refused(self) -> None:
        for body in (
            {},
            {"text": ""},
            {"text": "   "},
            {"text": "a" * 2001},
            {"text": "a", "author": "a" * 61},
            {"text": 3},
        ):
            self.assertEqual(self.teacher.send("POST", f"{self.path}/comments", body).status_code, 422, body)
        self.assertEqual(self.comment(self.teacher, "שלום 😀 " + "é" * 60)["text"][:4], "שלום")
        self.assertEqual(Comment.objects.count(), 1)
