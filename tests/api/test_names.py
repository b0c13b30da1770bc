"""Names of accounts and in a class: one form, nothing invisible, nobody mistaken for another."""

from __future__ import annotations

from django.test import SimpleTestCase, TestCase

from ridge.accounts.models import User
from ridge.accounts.names import UnsuitableName, looks_like, plain_name, skeleton
from tests.api import test_worksheets as worksheets
from tests.api.test_accounts import GOOD, Person


class Plain(SimpleTestCase):
    def test_names_of_the_world_stay(self) -> None:
        for name in (
            "Anna",
            "Анна",
            "Zoë",
            "שרה",
            "محمد",
            "Βασίλης Tarn",
            "O'Neil",
            "李雷",
            "山田タロウ",
            "佐藤ニーナ",
            "田中はなこ",
            "金철수",
            "Tarn 2",
            "Jean-Luc",
            "Łucja",
        ):
            self.assertEqual(plain_name(name), name)
        self.assertEqual(plain_name(" Ａｎｎａ   Lo\u0308w "), "Anna Löw")

    def test_signs_that_are_not_seen_or_turn_the_direction_are_refused(self) -> None:
        for sign in "\u200b\u200e\u200f\u202a\u202e\u2066\u2069\ufeff\u00ad\x00\x07\u2028":
            with self.assertRaises(UnsuitableName, msg=repr(sign)):
                plain_name(f"An{sign}na")
        for name in ("Аnna", "pаypal", "Tαrn", "Анnа", "!?", ".", ""):
            with self.assertRaises(UnsuitableName, msg=name):
                plain_name(name)

    def test_look_alikes(self) -> None:
        """Pairs of the table of Unicode Technical Standard 39, confusables.txt, from memory."""
        for one, other in (
            ("Tarn1", "Tarnl"),
            ("Ida", "lda"),
            ("Ben0", "BenO"),
            ("АННА", "AHHA"),
            ("сор", "cop"),
            ("Tarn", "TARN"),
        ):
            self.assertEqual(looks_like(one, ["Somebody", other]), other)
        for one, other in (("Anna", "Anne"), ("Zoe", "Zoë"), ("Ann1", "Ann2"), ("李", "季")):
            self.assertIsNone(looks_like(one, [other]))


class Accounts(TestCase):
    def test_an_account_does_not_pass_for_another(self) -> None:
        Person().put("/account", 201, name="Tarnl", password=GOOD)
        self.assertEqual(User.objects.get(username="Tarnl").skeleton, skeleton("Tarnl"))
        for name in ("Tarn1", "TARNL", "tarnl", "ｔａｒｎｌ"):
            said = Person().put("/account", 400, name=name, password=GOOD)["message"]
            self.assertIn("looks like it", said)
        for name in ("admin", "Admin", "аdmin", "root", "guest-7", "Support", "ridge", "a\u202edmin"):
            Person().put("/account", 400, name=name, password=GOOD)
        Person().put("/account", 201, name="Tarn2", password=GOOD)


class InAClass(worksheets.Class):
    def test_nobody_joins_under_a_name_that_looks_like_anothers(self) -> None:
        self.join(self.ann, "Anna l")
        for name in ("anna  L", "Anna 1", "An\u200bna l", "Аnna l"):
            self.assertTrue(self.join(self.ben, name, 400), name)
        self.join(self.ben, "  Ben   T ")
        self.assertEqual(sorted(row["student"] for row in self.rows()), ["Anna l", "Ben T"])
