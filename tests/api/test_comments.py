"""Comments carry their author: who sees and who removes them, for each pair of roles, also after a link was revoked."""

from __future__ import annotations

from typing import Any

from django.db import connection
from django.db.migrations.executor import MigrationExecutor
from django.test import TransactionTestCase

from ridge.studies.models import Comment
from tests.api import test_worksheets as worksheets
from tests.api.test_worksheets import Person


class Authors(worksheets.Class):
    def setUp(self) -> None:
        super().setUp()
        self.study = self.join(self.ann, "Ann")
        made = self.ann.send("POST", f"/studies/{self.study}/links", {"called": "Parents"}, 201)
        self.link, token = made["link"]["id"], made["address"].rsplit("/", 1)[1]
        self.people = {"owner": self.ann, "teacher": self.teacher, "visitor": Person(), "other visitor": Person()}
        for visitor in ("visitor", "other visitor"):
            self.people[visitor].send("POST", "/look", {"token": token})
        self.made = {
            who: person.send("POST", f"/studies/{self.study}/comments", {"text": who, "author": "Tarn"}, 201)["id"]
            for who, person in self.people.items()
        }

    def seen(self, who: str) -> list[Any]:
        found: list[Any] = self.people[who].send("GET", f"/studies/{self.study}/comments")
        return found

    def test_who_sees_whose(self) -> None:
        visitors = {"visitor", "other visitor"}
        expected = {
            "owner": {"owner", "teacher", *visitors},
            "teacher": {"owner", "teacher"},
            "visitor": visitors,
            "other visitor": visitors,
        }
        for who, texts in expected.items():
            self.assertEqual({one["text"] for one in self.seen(who)}, texts, who)
        self.assertEqual([one["role"] for one in self.seen("owner")], ["owner", "teacher", "visitor", "visitor"])

    def test_who_removes_whose(self) -> None:
        for who, person in self.people.items():
            removable = {one["text"] for one in self.seen(who) if one["removable"]}
            self.assertEqual(removable, set(self.people) if who == "owner" else {who})
            for whose, comment in self.made.items():
                if who == "owner" or whose == who:
                    continue
                person.send("DELETE", f"/studies/{self.study}/comments/{comment}", status=404)
        self.assertEqual(Comment.objects.count(), 4)
        for who in ("teacher", "visitor", "other visitor"):
            self.people[who].send("DELETE", f"/studies/{self.study}/comments/{self.made[who]}", status=204)
        self.assertEqual([one["text"] for one in self.seen("owner")], ["owner"])

    def test_a_revoked_link_changes_neither_author_nor_who_sees(self) -> None:
        before = self.seen("owner"), self.seen("teacher")
        self.ann.send("DELETE", f"/studies/{self.study}/links/{self.link}", status=204)
        self.assertEqual((self.seen("owner"), self.seen("teacher")), before)
        for who in ("visitor", "other visitor"):
            self.people[who].send("DELETE", f"/studies/{self.study}/comments/{self.made[who]}", status=404)


class Migrated(TransactionTestCase):
    take_long = True

    def test_authors_of_comments_from_before(self) -> None:
        executor = MigrationExecutor(connection)
        executor.migrate([("studies", "0020_intervals_in_answers")])
        try:
            apps = executor.loader.project_state([("studies", "0020_intervals_in_answers")]).apps
            User, Study, Link, Old = (apps.get_model(*one) for one in (("accounts", "User"), ("studies", "Study"), ("studies", "Link"), ("studies", "Comment")))  # fmt: skip
            owner = User.objects.create(username="u")
            own, copy = (Study.objects.create(owner=owner, is_copy=is_copy) for is_copy in (False, True))
            link = Link.objects.create(study=own, digest="d")
            for study, of, author in ((own, link, ""), (own, None, ""), (own, None, "Tarn"), (copy, None, "Ms Tarn")):
                Old.objects.create(study=study, link=of, author=author, text="t")
        finally:
            executor = MigrationExecutor(connection)
            executor.migrate(executor.loader.graph.leaf_nodes())
        found = [(one.role, one.by) for one in Comment.objects.order_by("pk")]
        self.assertEqual(found, [("visitor", ""), ("owner", f"user {owner.pk}"), ("visitor", ""), ("teacher", "")])
