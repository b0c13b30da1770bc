"""Wrong passwords delay guessing and lock nobody out; signing out ends a session on the server; hashing holds up nobody."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from datetime import datetime, timedelta
from threading import Event, Thread
from unittest import mock

from django.conf import settings
from django.contrib.auth.hashers import Argon2PasswordHasher
from django.test import SimpleTestCase, TestCase
from django.utils import timezone

from ridge.accounts.models import EndedSession, FailedSignIns
from ridge.accounts.sessions import NAME
from ridge.site.hashing import PatientHasher
from ridge.studies.one_at_a_time import turn
from tests.api.test_accounts import GOOD, OTHER, Person

WRONG = "This name and password do not belong together."


class Clock:
    """The time as the delays see it."""

    def __init__(self) -> None:
        self.now = timezone.now()

    def __call__(self) -> datetime:
        return self.now

    def wait(self, seconds: float) -> None:
        self.now += timedelta(seconds=seconds)


class Delays(TestCase):
    def setUp(self) -> None:
        self.owner = Person()
        self.owner.put("/studies", 201, title="Tide")
        self.codes = self.owner.put("/account", 201, name="Tarn", password=GOOD)["codes"]
        self.clock = Clock()
        self.enterContext(mock.patch("ridge.accounts.attempts.timezone.now", self.clock))

    def tries(self, person: Person, name: str = "Tarn") -> str:
        message: str = person.put("/account/sign_in", 400, name=name, password="wrong")["message"]
        return message

    def test_delays_of_a_name_from_one_address_grow(self) -> None:
        stranger, waited = Person(REMOTE_ADDR="10.0.0.7"), []
        for _ in range(4):
            self.assertEqual(self.tries(stranger), WRONG)
        for seconds in (1, 2, 4, 8, 16, 32, 64, 128, 256, 512, 900, 900):
            self.assertIn(f"again in {seconds} second", self.tries(stranger))
            self.clock.wait(seconds - 0.5)
            self.assertIn("again in 1 second,", self.tries(stranger))
            self.clock.wait(0.6)
            self.assertEqual(self.tries(stranger), WRONG)
            waited.append(seconds)
        self.assertGreater(sum(waited), 2800)  # sixteen guesses in three quarters of an hour

    def test_the_right_password_waits_too_and_then_begins_anew(self) -> None:
        stranger = Person(REMOTE_ADDR="10.0.0.7")
        for _ in range(5):
            self.tries(stranger)
        self.assertIn("second", stranger.put("/account/sign_in", 400, name="tarn", password=GOOD)["message"])
        self.clock.wait(2)
        stranger.put("/account/sign_in", name="tarn", password=GOOD)
        self.assertEqual(self.tries(Person(REMOTE_ADDR="10.0.0.7")), WRONG)

    def test_a_recovery_code_does_not_wait(self) -> None:
        stranger = Person()
        for _ in range(9):
            self.tries(stranger)
        stranger.put("/account/recover", name="Tarn", code=self.codes[0], password=OTHER)
        self.assertEqual(stranger.studies(), ["Tide"])

    def test_a_browser_that_has_signed_in_before_does_not_wait(self) -> None:
        self.owner.put("/account/sign_out", 204)
        for i in range(40):
            self.tries(Person(REMOTE_ADDR=f"10.0.0.{i}"))
            self.tries(Person())  # from the owner's own address, as in a school
        self.assertIn("second", Person().put("/account/sign_in", 400, name="Tarn", password=GOOD)["message"])
        self.owner.put("/account/sign_in", name="Tarn", password=GOOD)

    def test_with_a_new_password_other_browsers_are_unknown(self) -> None:
        other = Person()
        other.put("/account/sign_in", name="Tarn", password=GOOD)
        self.owner.put("/account/password", old=GOOD, new=OTHER)
        for _ in range(9):
            self.tries(other)
        self.assertIn("second", self.tries(other))

    def guesses_in_a_minute(self, askers: list[tuple[Person, str]]) -> int:
        """Return how many passwords are checked in a minute of ten attempts a second."""
        looked_at = 0
        for tenth in range(600):
            person, name = askers[tenth % len(askers)]
            looked_at += self.tries(person, name) == WRONG
            self.clock.wait(0.1)
        return looked_at

    def test_sixty_names_from_one_address_are_slowed(self) -> None:
        with mock.patch.object(Argon2PasswordHasher, "verify", return_value=False):
            found = self.guesses_in_a_minute([(Person(REMOTE_ADDR="10.0.0.7"), f"name{i}") for i in range(60)])
        self.assertLess(found, 32)

    def test_one_name_from_thirty_addresses_is_slowed(self) -> None:
        with mock.patch.object(Argon2PasswordHasher, "verify", return_value=False):
            found = self.guesses_in_a_minute([(Person(REMOTE_ADDR=f"10.0.0.{i}"), "Tarn") for i in range(30)])
        self.assertLess(found, 18)

    def test_the_address_of_a_class_is_not_locked(self) -> None:
        """Somebody there guesses without end: another pupil gets in after at most ten seconds."""
        for i in range(60):
            self.tries(Person(), f"name{i}")
            self.clock.wait(20)
        self.clock.wait(-19)
        self.assertIn("again in 9 seconds", self.tries(Person(), "Tarn"))
        self.clock.wait(9)
        Person().put("/account/sign_in", name="Tarn", password=GOOD)

    def test_many_at_one_moment_are_counted(self) -> None:
        """Attempts that are under way count, so that twenty at once are not twenty guesses."""
        stranger = Person(REMOTE_ADDR="10.0.0.7")
        seen: list[int] = []

        def verify(*_: object) -> bool:
            seen.append(max(FailedSignIns.objects.values_list("count", flat=True)))
            return False

        with mock.patch.object(Argon2PasswordHasher, "verify", verify):
            self.tries(stranger)
        self.assertEqual(seen, [1])

    def test_a_password_change_and_deleting_are_not_affected(self) -> None:
        for _ in range(9):
            self.tries(Person())
        self.owner.put("/account/password", old=GOOD, new=OTHER)
        response = self.owner.delete("/api/account", {"password": OTHER}, content_type="application/json")
        self.assertEqual(response.status_code, 204)


class SigningOut(TestCase):
    def test_a_copied_cookie_is_worth_nothing_afterwards(self) -> None:
        owner = Person()
        owner.put("/studies", 201, title="Tide")
        owner.put("/account", 201, name="Tarn", password=GOOD)
        thief, elsewhere = Person(), Person()
        thief.cookies.load({key: morsel.value for key, morsel in owner.cookies.items()})
        elsewhere.put("/account/sign_in", name="Tarn", password=GOOD)
        self.assertEqual(thief.studies(), ["Tide"])
        copied = {key: morsel.value for key, morsel in thief.cookies.items()}
        owner.put("/account/sign_out", 204)
        self.assertTrue(thief.account()["guest"])
        late = Person()
        late.cookies.load(copied)
        self.assertEqual((late.studies(), late.account()["name"]), ([], ""))
        self.assertEqual(elsewhere.studies(), ["Tide"])  # another session goes on

    def test_a_session_from_before_ends_with_all_others(self) -> None:
        owner = Person()
        owner.put("/studies", 201, title="Tide")
        owner.put("/account", 201, name="Tarn", password=GOOD)
        session = owner.session
        del session[NAME]
        session.save()
        owner.cookies[settings.SESSION_COOKIE_NAME] = session.session_key or ""
        copied = {key: morsel.value for key, morsel in owner.cookies.items()}
        owner.put("/account/sign_out", 204)
        self.assertFalse(EndedSession.objects.exists())
        late = Person()
        late.cookies.load(copied)
        self.assertEqual(late.studies(), [])


class Hashing(SimpleTestCase):
    def test_others_have_their_turn_while_a_password_is_hashed(self) -> None:
        began, goes_on, had_turn = Event(), Event(), Event()

        def slow(*_: object) -> bool:
            began.set()
            goes_on.wait()
            return True

        @contextmanager
        def thread(work: object) -> Iterator[None]:
            running = Thread(target=work)  # type: ignore[arg-type]
            running.start()
            yield
            running.join()

        def sign_in() -> None:
            with turn():
                PatientHasher().verify("a", "b")

        with mock.patch.object(Argon2PasswordHasher, "verify", slow), thread(sign_in):
            began.wait()
            with turn():
                had_turn.set()
            goes_on.set()
        self.assertTrue(had_turn.is_set())
