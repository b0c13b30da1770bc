"""Accounts: a guest's studies are kept, reached elsewhere, taken along, and nobody else gets in."""

from __future__ import annotations

import io
import json
import re
import zipfile
from typing import Any

from django.core import signing
from django.test import Client, TestCase, override_settings

from ridge.accounts.models import RecoveryCode, User
from ridge.studies.models import KeptPicture, Study

GOOD, OTHER = "a long walk on the pier", "two herons by the sluice"


class Person(Client):
    """Somebody at a browser of their own."""

    def put(self, path: str, status: int = 200, /, **body: Any) -> Any:  # type: ignore[override]
        response = self.post(f"/api{path}", body, content_type="application/json")
        assert response.status_code == status, (path, response.status_code, response.content)
        return response.json() if response.content else None

    def put_email(self, status: int, /, **body: Any) -> Any:
        response = super().put("/api/account/email", body, content_type="application/json")
        assert response.status_code == status, (response.status_code, response.content)
        return response.json()

    def studies(self) -> list[str]:
        return sorted(card["title"] for card in self.get("/api/shelf").json()["cards"])

    def account(self) -> Any:
        return self.get("/api/account").json()


class Keeping(TestCase):
    def setUp(self) -> None:
        self.guest = Person()
        self.guest.put("/studies", 201, title="Tide")
        self.guest.put("/studies", 201, sample="sheer-line")

    def test_all_studies_stay_and_are_reached_elsewhere(self) -> None:
        before = self.guest.studies()
        self.assertEqual(self.guest.account()["guest"], True)
        codes = self.guest.put("/account", 201, name="Tarn", password=GOOD)["codes"]
        self.assertEqual(len(set(codes)), 8)
        found = self.guest.account()
        self.assertEqual((found["guest"], found["name"], found["codes"]), (False, "Tarn", 8))
        self.assertEqual(self.guest.studies(), before)
        elsewhere = Person()
        self.assertEqual(elsewhere.put("/account/sign_in", name="tarn", password=GOOD)["studies"], 2)
        self.assertEqual(elsewhere.studies(), before)

    def test_what_was_made_as_a_guest_goes_along_when_signing_in(self) -> None:
        self.guest.put("/account", 201, name="Tarn", password=GOOD)
        elsewhere = Person()
        elsewhere.put("/studies", 201, title="On the bus")
        picture = elsewhere.put("/studies", 201, sample="sheer-line")["id"]
        elsewhere.put("/account/sign_in", name="Tarn", password=GOOD)
        self.assertEqual(len(elsewhere.studies()), 4)
        self.assertEqual(self.guest.studies(), elsewhere.studies())
        digest = elsewhere.get(f"/api/studies/{picture}").json()["picture"]["laid"]["digest"]
        self.assertEqual(elsewhere.get(f"/api/studies/{picture}/pictures/{digest}").status_code, 200)
        self.assertEqual(KeptPicture.objects.count(), 1)
        self.assertEqual(User.objects.count(), 1)

    def test_a_picture_that_the_account_does_not_have_goes_along(self) -> None:
        holder = Person()
        holder.put("/studies", 201, title="Plain")
        holder.put("/account", 201, name="Holm", password=GOOD)
        self.guest.put("/account/sign_in", name="Holm", password=GOOD)
        self.assertEqual(KeptPicture.objects.get().owner.username, "Holm")

    def test_names_and_passwords_that_are_refused(self) -> None:
        self.guest.put("/account", 201, name="Tarn", password=GOOD)
        other = Person()
        for name, password, said in (
            ("tarn", GOOD, "of this name already"),
            ("a b", GOOD, "without spaces"),
            ("guest-1", GOOD, "reserved"),
            ("field-week", GOOD, "reserved"),
            ("Holm", "short", "too short"),
            ("Holm", "password123", "too common"),
            ("Sallowquay", "sallowquay", "too similar"),
        ):
            with self.subTest(said):
                refused = other.put("/account", 400, name=name, password=password)
                self.assertIn(said, refused["message"])
        self.assertEqual(other.account()["guest"], True)

    def test_an_account_is_not_made_twice(self) -> None:
        self.guest.put("/account", 201, name="Tarn", password=GOOD)
        self.assertIn("already", self.guest.put("/account", 400, name="Holm", password=GOOD)["message"])

    def test_of_a_shared_shelf_copies_are_kept_and_none_of_what_is_refused(self) -> None:
        shared = User.objects.create(username="field-week")
        Study.objects.update(owner=shared)
        person = Person()
        person.force_login(shared, "django.contrib.auth.backends.ModelBackend")
        users, studies = User.objects.count(), Study.objects.count()
        person.put("/account", 400, name="Holm", password="short")
        self.assertEqual((User.objects.count(), Study.objects.count()), (users, studies))
        person.put("/account", 201, name="Holm", password=GOOD)
        self.assertEqual((person.account()["name"], len(person.studies())), ("Holm", 2))
        self.assertEqual(Study.objects.filter(owner=shared).count(), 2)


class Entering(TestCase):
    def setUp(self) -> None:
        self.owner = Person()
        self.owner.put("/studies", 201, title="Tide")
        self.codes = self.owner.put("/account", 201, name="Tarn", password=GOOD)["codes"]

    def test_wrong_passwords_and_unknown_names_are_told_alike(self) -> None:
        said = {
            Person().put("/account/sign_in", 400, name=name, password="wrong")["message"] for name in ("Tarn", "Nobody")
        }
        self.assertEqual(said, {"This name and password do not belong together."})

    def test_signing_out(self) -> None:
        self.owner.put("/account/sign_out", 204)
        self.assertEqual(self.owner.studies(), [])
        self.assertEqual(self.owner.account()["guest"], True)
        self.owner.put("/account/sign_in", name="Tarn", password=GOOD)
        self.assertEqual(self.owner.studies(), ["Tide"])

    def test_a_guest_is_never_signed_out(self) -> None:
        guest = Person()
        guest.put("/studies", 201, title="Only here")
        guest.put("/account/sign_out", 204)
        self.assertEqual(guest.studies(), ["Only here"])

    def test_a_new_password_ends_other_sessions(self) -> None:
        elsewhere = Person()
        elsewhere.put("/account/sign_in", name="Tarn", password=GOOD)
        self.owner.put("/account/password", 400, old="wrong", new=OTHER)
        self.owner.put("/account/password", old=GOOD, new=OTHER)
        self.assertEqual(self.owner.studies(), ["Tide"])
        self.assertEqual(elsewhere.studies(), [])
        elsewhere.put("/account/sign_in", 400, name="Tarn", password=GOOD)
        elsewhere.put("/account/sign_in", name="Tarn", password=OTHER)

    def test_signing_out_everywhere(self) -> None:
        elsewhere = Person()
        elsewhere.put("/account/sign_in", name="Tarn", password=GOOD)
        self.owner.put("/account/sign_out_everywhere")
        self.assertEqual((self.owner.studies(), elsewhere.studies()), (["Tide"], []))
        elsewhere.put("/account/sign_in", name="Tarn", password=GOOD)
        self.assertEqual((self.owner.studies(), elsewhere.studies()), (["Tide"], ["Tide"]))

    def test_a_recovery_code_works_once_and_ends_other_sessions(self) -> None:
        lost = Person()
        written = self.codes[3].upper().replace("-", " ")
        lost.put("/account/recover", 400, name="Tarn", code=self.codes[3], password="short")
        self.assertEqual(lost.put("/account/recover", name="tarn", code=written, password=OTHER)["codes"], 7)
        self.assertEqual((lost.studies(), self.owner.studies()), (["Tide"], []))
        told = Person().put("/account/recover", 400, name="Tarn", code=self.codes[3], password=OTHER)["message"]
        self.assertIn("or the code was used already", told)
        self.assertEqual(len(lost.put("/account/codes", 201, password=OTHER)["codes"]), 8)
        Person().put("/account/recover", 400, name="Tarn", code=self.codes[4], password=OTHER)

    def test_codes_and_passwords_are_kept_as_hashes(self) -> None:
        kept = json.dumps([list(RecoveryCode.objects.values("digest")), list(User.objects.values("password"))])
        for secret in (*self.codes, GOOD):
            self.assertNotIn(re.sub("-", "", secret), kept)
        self.assertIn("argon2", kept)

    def test_too_many_codes_in_a_minute(self) -> None:
        from ridge.studies.api import accounts

        accounts._codes_tried._counts.clear()
        stranger = Person(REMOTE_ADDR="10.0.0.8")
        statuses = [
            stranger.post(
                "/api/account/recover", {"name": "Tarn", "code": "x", "password": GOOD}, content_type="application/json"
            ).status_code
            for _ in range(12)
        ]
        self.assertEqual(statuses, [400] * 10 + [429] * 2)

    def test_deleting_takes_everything_with_it(self) -> None:
        refused = self.owner.delete("/api/account", {"password": "wrong"}, content_type="application/json")
        self.assertEqual((refused.status_code, Study.objects.count()), (400, 1))
        gone = self.owner.delete("/api/account", {"password": GOOD}, content_type="application/json")
        self.assertEqual((gone.status_code, Study.objects.count(), User.objects.count()), (204, 0, 0))
        self.assertEqual(self.owner.studies(), [])

    def test_a_cookie_of_another_secret_is_worth_nothing(self) -> None:
        with override_settings(SECRET_KEY="another-" * 8):
            forged = signing.dumps(
                {"_auth_user_id": str(User.objects.get().pk)}, salt="django.contrib.sessions.backends.signed_cookies"
            )
        stranger = Person()
        stranger.cookies["ridge-test-session"] = forged
        self.assertEqual(stranger.studies(), [])


class TakingAlong(TestCase):
    def test_every_study_opens_again(self) -> None:
        owner = Person()
        for title in ("Tide", "Tide", "Κύμα و موج"):
            owner.put("/studies", 201, title=title)
        owner.put("/studies", 201, sample="sheer-line")
        answer = owner.get("/api/account/studies.zip")
        self.assertEqual(answer.headers["Content-Type"], "application/zip")
        with zipfile.ZipFile(io.BytesIO(answer.content)) as archive:
            self.assertIsNone(archive.testzip())
            names = archive.namelist()
            self.assertEqual(len(set(names)), 4)
            self.assertIn("tide-2.ridge.json", names)
            other = Person()
            for name in names:
                other.put("/study_files", 201, text=archive.read(name).decode())
        self.assertEqual(other.studies(), owner.studies())
        self.assertEqual(Person().get("/api/account/studies.zip").status_code, 200)
