"""Letters for a lost password, the outbox of the demo, and what whoever runs Ridge can do for people."""

from __future__ import annotations

import re
import tempfile
import time
from typing import Any
from unittest.mock import patch

from django.core import mail
from django.test import Client, TestCase, override_settings

from ridge.accounts.models import User
from ridge.accounts.rates import Rate
from ridge.studies.api import accounts
from ridge.studies.models import Study
from tests.api.test_accounts import GOOD, OTHER, Person

SENT_ASIDE = 20.0
FILES = "django.core.mail.backends.filebased.EmailBackend"


def letters_sent(count: int) -> list[Any]:
    """Those in Django's outbox for tests, waited for: they are sent aside."""
    until = time.monotonic() + SENT_ASIDE
    while len(mail.outbox) < count and time.monotonic() < until:
        time.sleep(0.01)
    return list(mail.outbox)


class Letters(TestCase):
    def setUp(self) -> None:
        rate = patch.object(accounts, "_letters_asked", Rate(10))
        rate.start()
        self.addCleanup(rate.stop)
        self.person = Person()
        self.person.put("/studies", 201, title="Tide")
        self.person.put("/account", 201, name="Tarn", password=GOOD, email="tarn@pier.example")

    def key(self, count: int = 1) -> str:
        text = str(letters_sent(count)[-1].body)
        found = re.search(r"http://testserver/account#(\S+)", text)
        assert found, text
        return found[1]

    def test_a_letter_lets_choose_a_new_password_once(self) -> None:
        elsewhere = Person()
        elsewhere.put("/account/letter", 204, name="tarn")
        self.assertEqual(letters_sent(1)[0].to, ["tarn@pier.example"])
        key = self.key()
        weak = elsewhere.put("/account/by_letter", 400, key=key, password="short")
        self.assertIn("too short", weak["message"])
        self.assertEqual(elsewhere.put("/account/by_letter", key=key, password=OTHER)["name"], "Tarn")
        self.assertEqual(elsewhere.studies(), ["Tide"])
        self.assertTrue(self.person.account()["guest"], "other sessions have ended")
        again = Person().put("/account/by_letter", 400, key=key, password=GOOD)
        self.assertIn("does not hold any more", again["message"])

    def test_by_the_address_instead_of_the_name(self) -> None:
        Person().put("/account/letter", 204, name="Tarn@Pier.example")
        self.assertEqual(letters_sent(1)[0].to, ["tarn@pier.example"])

    def test_the_answer_is_the_same_where_there_is_nobody(self) -> None:
        other = Person()
        other.put("/account", 201, name="Moss", password=GOOD)
        for name in ("nobody", "moss", "", "guest-1", "no\u202ename"):
            Person().put("/account/letter", 204, name=name)
        time.sleep(0.2)
        self.assertEqual(mail.outbox, [])

    def test_a_letter_ends_with_a_new_password_or_a_day(self) -> None:
        Person().put("/account/letter", 204, name="tarn")
        key = self.key()
        self.person.put("/account/password", old=GOOD, new=OTHER)
        Person().put("/account/by_letter", 400, key=key, password=GOOD)
        Person().put("/account/letter", 204, name="tarn")
        newer = self.key(2)
        with override_settings(PASSWORD_RESET_TIMEOUT=-1):
            Person().put("/account/by_letter", 400, key=newer, password=GOOD)
        for wrong in ("", ".", "MQ", "MQ.abc-def", "é.é", newer + "x", "x" + newer, "____.a"):
            Person().put("/account/by_letter", 400, key=wrong, password=GOOD)
        Person().put("/account/by_letter", key=newer, password=GOOD)

    def test_the_address_is_changed_and_taken_out(self) -> None:
        self.assertEqual(self.person.account()["email"], "tarn@pier.example")
        self.person.put_email(400, password=GOOD, email="no address")
        self.person.put_email(400, password=OTHER, email="")
        self.assertEqual(self.person.put_email(200, password=GOOD, email="")["email"], "")
        Person().put("/account/letter", 204, name="tarn")
        time.sleep(0.2)
        self.assertEqual(mail.outbox, [])
        refused = Person().put("/account", 400, name="Reed", password=GOOD, email="a@b@c")
        self.assertIn("no e-mail address", refused["message"])
        self.assertFalse(User.objects.filter(username="Reed").exists())

    def test_not_too_many_in_a_minute(self) -> None:
        for _ in range(10):
            Person().put("/account/letter", 204, name="nobody")
        self.assertIn("in a minute", Person().put("/account/letter", 429, name="tarn")["message"])

    @override_settings(EMAIL_BACKEND="")
    def test_without_a_mail_server_it_is_said(self) -> None:
        self.assertFalse(self.person.account()["letters"])
        self.assertIn("recovery code", Person().put("/account/letter", 400, name="tarn")["message"])

    def test_a_mail_server_that_fails_fails_for_nobody(self) -> None:
        broken = "django.core.mail.backends.smtp.EmailBackend"
        with (
            override_settings(EMAIL_BACKEND=broken, EMAIL_HOST="127.0.0.1", EMAIL_PORT=1),
            self.assertLogs("ridge.accounts.letters", "ERROR") as logged,
        ):
            Person().put("/account/letter", 204, name="tarn")
            until = time.monotonic() + SENT_ASIDE
            while not logged.output and time.monotonic() < until:
                time.sleep(0.01)
        self.assertNotIn("tarn", "".join(logged.output).lower())

    def test_the_outbox_of_the_demo(self) -> None:
        self.assertEqual(Client().get("/api/outbox").status_code, 404)
        with (
            tempfile.TemporaryDirectory() as folder,
            override_settings(OUTBOX=True, EMAIL_BACKEND=FILES, EMAIL_FILE_PATH=folder),
        ):
            self.assertEqual(Client().get("/api/outbox").json(), {"letters": []})
            Person().put("/account/letter", 204, name="tarn")
            found: list[Any] = []
            until = time.monotonic() + SENT_ASIDE
            while not found and time.monotonic() < until:
                found = Client().get("/api/outbox").json()["letters"]
        self.assertEqual((found[0]["to"], found[0]["subject"]), ("tarn@pier.example", "A new password for Ridge"))
        self.assertRegex(found[0]["text"], r"\nhttp://testserver/account#\w+\.\w+-\w+\n")


class Helping(TestCase):
    """Django's admin."""

    def setUp(self) -> None:
        self.person = Person()
        self.person.put("/studies", 201, title="A title of one's own")
        self.person.put("/account", 201, name="Tarn", password=GOOD, email="tarn@pier.example")
        self.tarn = User.objects.get(username="Tarn")
        self.staff = Client()
        self.staff.force_login(
            User.objects.create_superuser("warden", "", GOOD), backend="django.contrib.auth.backends.ModelBackend"
        )

    def act(self, name: str) -> str:
        chosen = {"action": name, "_selected_action": [self.tarn.pk], "post": "yes"}
        response = self.staff.post("/admin/accounts/user/", chosen, follow=True)
        self.assertEqual(response.status_code, 200)
        return response.content.decode()

    def test_nobody_else_gets_in(self) -> None:
        for client in (Client(), self.person):
            for path in ("/admin/", "/admin/accounts/user/", f"/admin/accounts/user/{self.tarn.pk}/change/"):
                self.assertEqual(client.get(path).status_code, 302, path)
        self.assertEqual(Client().get("/admin/login/").status_code, 200)

    def test_people_are_found_and_nothing_of_their_studies_is_shown(self) -> None:
        for path in ("", "?q=tarn", f"{self.tarn.pk}/change/", f"{self.tarn.pk}/delete/", f"{self.tarn.pk}/history/"):
            response = self.staff.get(f"/admin/accounts/user/{path}")
            self.assertContains(response, "Tarn")
            self.assertNotContains(response, "of one")
        self.assertNotContains(self.staff.get("/admin/"), "Stud")
        shown = self.act("delete_selected")
        self.assertNotIn("of one", shown)

    def test_let_in_again(self) -> None:
        shown = self.act("give_code")
        code = re.search(r"shown this once: ([\w-]+)", shown)
        assert code
        self.assertEqual(Person().put("/account/recover", name="Tarn", code=code[1], password=OTHER)["codes"], 8)
        self.act("write_to")
        self.assertEqual(letters_sent(1)[0].to, ["tarn@pier.example"])
        for _ in range(6):
            Person().put("/account/sign_in", 400, name="Tarn", password="wrong")
        self.assertIn("Too many", Person().put("/account/sign_in", 400, name="Tarn", password=OTHER)["message"])
        self.act("let_try_again")
        Person().put("/account/sign_in", name="Tarn", password=OTHER)

    def test_stopped_and_deleted(self) -> None:
        path = f"/admin/accounts/user/{self.tarn.pk}"
        self.staff.post(f"{path}/change/", {"email": "", "is_staff": ""})
        self.assertTrue(self.person.account()["guest"], "an account that is not active is nobody's")
        self.assertEqual(Study.objects.count(), 1)
        self.staff.post(f"{path}/delete/", {"post": "yes"})
        self.assertEqual((User.objects.filter(username="Tarn").count(), Study.objects.count()), (0, 0))
