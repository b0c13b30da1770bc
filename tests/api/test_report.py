"""The report through the API: files, parts, undo, and the study file."""

from __future__ import annotations

import json
from typing import Any

from django.test import Client

from ridge.studies.content.state import PARTS, WHOLE_REPORT
from ridge.studies.content.store import read_state
from ridge.studies.models import Study
from ridge.studies.out.study_file import NotAStudy, read_study, write_study
from tests.api.test_api import ApiCase


class ReportFiles(ApiCase):
    def setUp(self) -> None:
        super().setUp()
        self.study = self.read(f"/studies/{self.post('/studies', {'sample': 'salinity-probe'}, status=201)['id']}")

    def arrange(self, **parts: object) -> Any:
        self.study = self.post(
            f"/studies/{self.study['id']}/changes",
            {"version": self.study["version"], "change": {"kind": "set_report", **parts}},
        )
        return self.study

    def test_each_kind_is_made(self) -> None:
        for kind, begins in (("pdf", b"%PDF-"), ("docx", b"PK"), ("html", b"<!doctype html>")):
            response = self.client.get(f"/api/studies/{self.study['id']}/report.{kind}")
            self.assertEqual(response.status_code, 200)
            self.assertTrue(response.content.startswith(begins), kind)
            self.assertIn(f'filename="salinity-probe-calibration.{kind}"', response["Content-Disposition"])
        self.assertEqual(self.client.get(f"/api/studies/{self.study['id']}/report.exe").status_code, 422)

    def test_looked_at_in_the_page_nothing_in_it_runs(self) -> None:
        response = self.client.get(f"/api/studies/{self.study['id']}/report.html?inline=true")
        self.assertNotIn("Content-Disposition", response)
        self.assertEqual(response["X-Frame-Options"], "SAMEORIGIN")
        policy = response["Content-Security-Policy"]
        self.assertIn("default-src 'none'", policy)
        self.assertIn("sandbox", policy)
        self.assertNotIn("allow-scripts", policy)

    def test_parts_are_arranged_undone_and_kept_in_the_file(self) -> None:
        own = {"part": "own", "heading": "Set-up", "text": "=SUM(1)\n<b>", "shown": True}
        author = self.study["author"]
        changed = self.arrange(author="Group 3", date="12 May", parts=[{"part": "answers"}, own])
        parts = [part["part"] for part in changed["report"]]
        self.assertEqual(parts[:2], ["answers", "own"])
        self.assertEqual(sorted(parts), sorted([*PARTS, "own"]))
        state = read_state(Study.objects.get(pk=self.study["id"]))
        again = read_study(write_study(state).decode()).state
        self.assertEqual((again.report, again.author, again.date), (state.report, "Group 3", "12 May"))
        undone = self.post(f"/studies/{self.study['id']}/undo", {"version": self.study["version"]})
        self.assertEqual([part["part"] for part in undone["report"]], list(PARTS))
        self.assertEqual(undone["author"], author)

    def test_a_part_comes_once(self) -> None:
        change = {"kind": "set_report", "parts": [{"part": "figure"}, {"part": "figure"}]}
        response = self.client.post(
            f"/api/studies/{self.study['id']}/changes",
            json.dumps({"version": 0, "change": change}),
            content_type="application/json",
        )
        self.assertEqual(response.status_code, 400)
        self.assertIn("comes twice", response.json()["message"])
        state = read_state(Study.objects.get(pk=self.study["id"]))
        self.assertEqual(state.report, WHOLE_REPORT)
        file = json.loads(write_study(state)) | {"report": change["parts"]}
        with self.assertRaisesRegex(NotAStudy, "At report: .*twice"):
            read_study(json.dumps(file))

    def test_what_is_left_out_is_not_shown_and_what_is_typed_is_bounded(self) -> None:
        arranged = self.arrange(parts=[{"part": "figure"}, {"part": "answers", "shown": False}], author="  Group 3  ")
        shown = [part["part"] for part in arranged["report"] if part["shown"]]
        self.assertEqual(shown, ["figure"])
        self.assertEqual({part["part"] for part in arranged["report"]}, set(PARTS))
        self.assertEqual(arranged["author"], "Group 3")
        own = {"part": "own", "text": "x"}
        for parts, status in (
            ([own] * 41, 400),
            ([own] * 60, 422),
            ([{"part": "appendix"}], 422),
            ([{"part": "own", "text": "x" * 5001}], 422),
            ([{"part": "own", "heading": "x" * 121}], 422),
            ([{"part": "own", "colour": "red"}], 422),
        ):
            body = {"version": self.study["version"], "change": {"kind": "set_report", "parts": parts}}
            response = self.client.post(
                f"/api/studies/{self.study['id']}/changes", json.dumps(body), content_type="application/json"
            )
            self.assertEqual(response.status_code, status, parts[0])

    def test_nothing_new_is_no_step(self) -> None:
        body = {"version": self.study["version"], "change": {"kind": "set_report", "author": self.study["author"]}}
        self.assertIn(
            "nothing to change", self.post(f"/studies/{self.study['id']}/changes", body, status=400)["message"]
        )

    def test_another_guest_sees_none_of_it(self) -> None:
        stranger = Client()
        for kind in ("html", "pdf", "docx"):
            self.assertEqual(stranger.get(f"/api/studies/{self.study['id']}/report.{kind}").status_code, 404)
