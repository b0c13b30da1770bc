"""An answer lost on the way: the request is made again and takes effect once."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

from django.utils import timezone

from ridge.studies.models import AnsweredRequest, Revision
from tests.api.test_api import ApiCase


class Repeated(ApiCase):
    def setUp(self) -> None:
        self.study = self.new()
        for version in range(4):
            self.change(self.study, version, kind="set_cells", row=version, column=0, block=[[str(version), "1"]])

    def send(self, path: str, key: str, version: int, status: int = 200, **more: Any) -> Any:
        body = {"version": version, "request_key": key, **more}
        return self.post(f"/studies/{self.study}/{path}", body, status=status)

    def test_every_kind_of_change_is_made_once(self) -> None:
        change = {"kind": "insert_rows", "at": 0, "count": 1}
        version = 4
        for path, more in (
            ("undo", {}), ("redo", {}), ("go_to", {"number": 1}), ("redo", {}), ("go_to", {"number": 0}),
            ("changes", {"change": change}),
        ):  # fmt: skip
            with self.subTest(path=path, version=version):
                first = self.send(path, f"key-{version}", version, **more)
                again = self.send(path, f"key-{version}", version, **more)
                self.assertEqual(first["version"], version + 1)
                self.assertEqual(
                    (again["version"], again["row_count"], again["undo"]),
                    (first["version"], first["row_count"], first["undo"]),
                )
                version += 1

    def test_the_repeated_answer_is_whole(self) -> None:
        self.send("undo", "k", 4)
        again = self.send("undo", "k", 4)
        self.assertTrue(all(column["cells"] is not None for column in again["columns"]))

    def test_however_many_changes_came_after_it(self) -> None:
        self.send("undo", "first", 4)
        for version in range(5, 17):
            self.change(self.study, version, kind="insert_rows", at=0, count=1)
        late = self.send("undo", "first", 4)
        self.assertEqual((late["version"], late["row_count"]), (17, 15))
        self.assertEqual(Revision.objects.count(), 15)

    def test_another_key_on_an_old_version_is_a_conflict(self) -> None:
        self.send("undo", "one", 4)
        self.send("undo", "two", 4, status=409)
        self.send("go_to", "three", 4, status=409, number=0)

    def test_a_key_belongs_to_its_study(self) -> None:
        self.send("undo", "same", 4)
        other = self.new()
        change = {"kind": "insert_rows", "at": 0, "count": 1}
        made = self.post(f"/studies/{other}/changes", {"version": 0, "change": change, "request_key": "same"})
        self.assertEqual(made["version"], 1)

    def test_keys_are_forgotten_after_a_day_and_not_before(self) -> None:
        self.send("undo", "old", 4)
        AnsweredRequest.objects.update(made=timezone.now() - timedelta(hours=23))
        self.send("redo", "middle", 5)
        self.assertEqual(self.send("undo", "old", 4)["version"], 6)
        AnsweredRequest.objects.update(made=timezone.now() - timedelta(hours=25))
        self.send("undo", "new", 6)
        self.send("undo", "old", 4, status=409)
        self.assertEqual(AnsweredRequest.objects.count(), 1)

    def test_a_refused_request_leaves_no_key(self) -> None:
        self.send("redo", "nothing", 4, status=400)
        self.assertEqual(AnsweredRequest.objects.count(), 0)

    def test_a_new_study_is_made_once_too(self) -> None:
        first = self.post("/studies", {"title": "T", "request_key": "new"}, status=201)
        again = self.post("/studies", {"title": "T", "request_key": "new"}, status=201)
        self.assertEqual(first["id"], again["id"])
        copy = self.post(f"/studies/{first['id']}/duplicate", {"request_key": "copy"}, status=201)
        second = self.post(f"/studies/{first['id']}/duplicate", {"request_key": "copy"}, status=201)
        self.assertEqual(copy["id"], second["id"])
