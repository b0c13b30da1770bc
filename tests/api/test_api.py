"""The API through Django's client: one request a gesture, whole answers, nothing lost."""

from __future__ import annotations

import json
import re
import uuid
from contextlib import ExitStack
from typing import Any
from unittest.mock import patch

from django.http import HttpRequest
from django.test import Client, TestCase

from ridge.accounts.guests import take_over
from ridge.accounts.models import User
from ridge.classes import teacher_routes
from ridge.site.api import api
from ridge.studies.api import instruments, studies
from ridge.studies.api.admission import own_study
from ridge.studies.content.samples import SAMPLES
from ridge.studies.content.store import read_state
from ridge.studies.models import Revision, Study


class ApiCase(TestCase):
    def post(self, path: str, body: Any = None, client: Client | None = None, status: int = 200) -> Any:
        response = (client or self.client).post(f"/api{path}", body or {}, content_type="application/json")
        self.assertEqual(response.status_code, status, response.content[:300])
        return response.json()

    def read(self, path: str, status: int = 200) -> Any:
        response = self.client.get(f"/api{path}")
        self.assertEqual(response.status_code, status, response.content[:300])
        return response.json()

    def new(self, **body: Any) -> str:
        key: str = self.post("/studies", body, status=201)["id"]
        return key

    def change(self, study: str, version: int, status: int = 200, **change: Any) -> Any:
        return self.post(f"/studies/{study}/changes", {"version": version, "change": change}, status=status)

    def fill(self, study: str, version: int = 0) -> Any:
        block = [["1", "2.1"], ["2", "3.9"], ["3", "6.2"], ["4", "7.8"]]
        return self.change(study, version, kind="set_cells", row=0, column=0, block=block)


class MainJob(ApiCase):
    def test_readings_line_and_answers(self) -> None:
        study = self.new(title="Depth")
        state = self.fill(study)
        self.assertEqual((state["version"], state["undo"]), (1, "fill in 4 × 2 cells from row 1"))
        fit = state["analysis"]["fits"][0]
        self.assertEqual(fit["equation_text"], "y = 1.94·x + 0.15")
        self.assertEqual([p["name"] for p in fit["parameters"]], ["slope", "intercept"])
        self.assertEqual(len(fit["statistics"]), 16)
        asked = self.post(f"/studies/{study}/ask", {"direction": "y_at_x", "given": "2.5"})
        self.assertIn("y = 5.0 (95\u00a0% prediction interval 4.0 to 6.0)", asked["result"])
        kept = self.change(study, 1, kind="keep_answer", direction="x_at_y", given="5.0 5.1", repeats=2)
        self.assertIn("mean of 2 readings", kept["analysis"]["answers"][0]["asked"])
        before = kept["analysis"]["answers"][0]["full"]
        after = self.change(study, 2, kind="set_cells", row=3, column=1, block=[["9.9"]])["analysis"]["answers"][0][
            "full"
        ]
        self.assertNotEqual(before, after)

    def test_only_what_changed_is_sent(self) -> None:
        study = self.new()
        self.fill(study)
        state = self.change(study, 1, kind="set_cells", row=0, column=1, block=[["2.2"]])
        self.assertIsNone(state["columns"][0]["cells"])
        self.assertEqual(
            (state["columns"][1]["cells"], state["columns"][1]["patch"]), (None, [{"row": 0, "text": "2.2"}])
        )
        state = self.change(study, 2, kind="set_cells", row=0, column=1, block=[["5"], ["6"], ["7"]])
        self.assertEqual(state["columns"][1]["cells"], ["5", "6", "7", "7.8"])  # nearly all of it: as it is
        self.assertEqual(self.read(f"/studies/{study}")["columns"][0]["cells"], ["1", "2", "3", "4"])

    def test_undo_goes_back_to_the_empty_study_and_forward_again(self) -> None:
        study = self.new()
        self.fill(study)
        self.change(study, 1, kind="mark_rows", marks=[{"row": 1, "reason": "slipped"}])
        full = self.change(study, 2, kind="edit_study", title="T", question="Q?")
        for version in (3, 4, 5):
            state = self.post(f"/studies/{study}/undo", {"version": version})
        self.assertEqual((state["row_count"], state["undo"], state["title"]), (0, None, "New study"))
        self.post(f"/studies/{study}/undo", {"version": 6}, status=400)
        for version in (6, 7, 8):
            state = self.post(f"/studies/{study}/redo", {"version": version})
        self.assertEqual(state["analysis"]["fits"], full["analysis"]["fits"])
        self.assertEqual((state["aside"], state["redo"]), ([{"row": 1, "reason": "slipped"}], None))

    def test_history_survives_reopening_and_a_new_change_ends_the_redo(self) -> None:
        study = self.new()
        self.fill(study)
        self.post(f"/studies/{study}/undo", {"version": 1})
        self.assertEqual(self.read(f"/studies/{study}")["redo"], "fill in 4 × 2 cells from row 1")
        state = self.change(study, 2, kind="edit_study", title="Other")
        self.assertIsNone(state["redo"])
        self.assertEqual(Revision.objects.filter(study_id=study).count(), 1)

    def test_the_tables_hold_what_the_state_says(self) -> None:
        # Read past every memory of the process: the same study at a version that was never read.
        study = self.new(sample="mooring-line")
        self.change(study, 0, kind="keep_answer", direction="y_at_x", given="5")
        self.change(study, 1, kind="set_fit", letter="A", fixed={"intercept": 0})
        row = Study.objects.get(pk=study)
        held = read_state(row)
        row.version = 999
        self.assertEqual(read_state(row), held)

    def test_preview_stores_nothing(self) -> None:
        study = self.new()
        self.fill(study)
        body = {"version": 1, "change": {"kind": "set_cells", "row": 4, "column": 0, "block": [["5", "30"]]}}
        preview = self.post(f"/studies/{study}/preview", body)
        self.assertEqual(len(preview["x"]), 5)
        state = self.read(f"/studies/{study}")
        self.assertEqual((state["version"], len(state["analysis"]["x"])), (1, 4))
        self.assertEqual(Revision.objects.filter(study_id=study).count(), 1)

    def labels(self, study: str) -> list[str]:
        """What is said of the fourth row."""
        return [entry["label"] for entry in self.read(f"/studies/{study}/rows/3")["entries"]]

    def test_curve_row_and_figure(self) -> None:
        study = self.new(sample="mooring-line")
        curve = self.read(f"/studies/{study}/curves?low=-100&high=900")
        (curve,) = curve
        self.assertEqual((curve["x"][0], curve["x"][-1]), (-100, 900))
        self.read(f"/studies/{study}/curves?low=9&high=1", status=400)
        self.read(f"/studies/{study}/curves?low=-1e308&high=1e308")
        self.read(f"/studies/{study}/curves?low=nan&high=1", status=422)
        entries = {entry["label"]: entry["value"] for entry in self.read(f"/studies/{study}/rows/8")["entries"]}
        self.assertEqual((entries["status"], entries["reason"]), ("set aside", "the line slipped on the cleat"))
        self.assertEqual(self.read(f"/studies/{study}/rows/99")["entries"], [])
        self.assertIn("leverage", self.labels(study))
        version = self.read(f"/studies/{study}")["version"]
        self.change(study, version, kind="set_fit", letter="A", by_hand=True)
        self.assertIn("residual", self.labels(study))
        self.assertNotIn("leverage", self.labels(study), "readings do not pull a curve that is given")
        figure = self.client.get(f"/api/studies/{study}/figure.svg")
        self.assertEqual(figure["Content-Type"], "image/svg+xml")
        self.assertIn("attachment", figure["Content-Disposition"])


class TwoWindows(ApiCase):
    def test_a_stale_change_gets_the_newer_state_and_changes_nothing(self) -> None:
        study = self.new()
        self.fill(study)
        late = self.change(study, 0, status=409, kind="edit_study", title="late")
        self.assertIn("another window", late["message"])
        self.assertEqual((late["study"]["version"], late["study"]["title"]), (1, "New study"))
        self.post(f"/studies/{study}/undo", {"version": 0}, status=409)

    def test_a_repeated_request_is_answered_not_applied_again(self) -> None:
        study = self.new()
        body = {"version": 0, "request_key": "k1", "change": {"kind": "insert_rows", "at": 0, "count": 2}}
        first = self.post(f"/studies/{study}/changes", body)
        again = self.post(f"/studies/{study}/changes", body)
        self.assertEqual((first["row_count"], again["row_count"], again["version"]), (2, 2, 1))
        self.assertIsNotNone(again["columns"][0]["cells"])
        self.post(f"/studies/{study}/changes", {**body, "request_key": "k2"}, status=409)


class Shelf(ApiCase):
    def test_cards_bin_and_samples(self) -> None:
        self.assertEqual(self.read("/shelf")["cards"], [])
        study = self.new(sample="salinity-probe")
        shelf = self.read("/shelf")
        self.assertTrue(shelf["guest"])
        self.assertEqual(shelf["cards"][0]["summary"], "16 readings")
        self.assertEqual(len(shelf["cards"][0]["thumbnail"]["points"]), 16)
        self.assertEqual({sample["name"] for sample in shelf["samples"]}, {sample.name for sample in SAMPLES})
        copy = self.post(f"/studies/{study}/duplicate", status=201)
        self.assertEqual(copy["title"], "Salinity probe, calibration (copy)")
        self.assertEqual(self.client.delete(f"/api/studies/{study}").status_code, 200)
        shelf = self.read("/shelf")
        self.assertEqual(([c["id"] for c in shelf["cards"]], [c["id"] for c in shelf["bin"]]), ([copy["id"]], [study]))
        self.read(f"/studies/{study}", status=404)
        self.post(f"/studies/{study}/restore")
        self.assertEqual(len(self.read("/shelf")["cards"]), 2)

    def test_looking_makes_no_guest(self) -> None:
        self.read("/shelf")
        self.assertEqual(User.objects.count(), 0)
        self.new()
        self.assertEqual(User.objects.get().is_guest, True)


class Owners(ApiCase):
    def test_nobody_sees_anybody_elses(self) -> None:
        study = self.new(sample="mooring-line")
        stranger = Client()
        self.post("/studies", {}, client=stranger, status=201)
        paths = api.get_openapi_schema()["paths"]
        asked = [(path, method) for path, methods in paths.items() if "{study_id}" in path for method in methods]
        self.assertGreater(len(asked), 25)
        for path, method in asked:
            address = re.sub(r"\{(?!study_id)\w+\}", "1", path).replace("{study_id}", study)
            for visitor in (stranger, Client()):
                response = getattr(visitor, method)(address, content_type="application/json")
                # Whatever is asked, and however wrongly: whose study it is comes first.
                self.assertEqual(response.status_code, 404, (method, path))
                self.assertIn("no such study on your shelf", response.content.decode(), (method, path))
        self.assertEqual(self.read(f"/studies/{study}")["version"], 0)

    def test_a_forged_cookie_opens_nothing(self) -> None:
        study = self.new()
        cookie = self.client.cookies["ridge-test-session"]
        forged = Client()
        forged.cookies["ridge-test-session"] = cookie.value[:-4] + "AAAA"
        self.assertEqual(forged.get(f"/api/studies/{study}").status_code, 404)

    def test_an_account_takes_a_guests_studies_over(self) -> None:
        study = self.new(sample="mooring-line")
        guest = User.objects.get()
        account = User.objects.create_user("keeper", password="a long enough phrase")
        self.assertEqual(take_over(guest, account), 1)
        self.assertEqual(self.client.get(f"/api/studies/{study}").status_code, 404)
        self.client.force_login(account)
        self.assertEqual(self.read(f"/studies/{study}")["title"], "Stretch of the mooring line")
        self.assertFalse(self.read("/shelf")["guest"])
        with self.assertRaises(ValueError):
            take_over(account, account)


class DeletedMeanwhile(ApiCase):
    def test_a_request_on_its_way_finds_no_study_any_more(self) -> None:
        """It was there when it was asked whose it is, and is not when it is to be changed."""
        for method, path, body in (
            ("POST", "changes", {"version": 0, "change": {"kind": "edit_study", "title": "Late"}}),
            ("POST", "undo", {"version": 0}),
            ("POST", "worksheet_of_it", {}),
            ("POST", "run", {"instrument": "cooling-mug"}),
        ):
            study = self.new()
            self.fill(study)

            def find_and_delete(request: HttpRequest, found: str = study) -> Study:
                asked = own_study(request)
                Study.objects.filter(pk=found).delete()
                return asked

            with ExitStack() as patched:
                for module in (studies, instruments, teacher_routes):
                    patched.enter_context(patch.object(module, "own_study", find_and_delete))
                answer = self.client.generic(
                    method, f"/api/studies/{study}/{path}", json.dumps(body), content_type="application/json"
                )
            self.assertEqual(answer.status_code, 404, (path, answer.content))
            self.assertIn("no such study on your shelf", answer.json()["message"])


class BadRequests(ApiCase):
    def test_each_is_refused_with_a_reason_and_changes_nothing(self) -> None:
        study = self.new()
        self.fill(study)
        for change, status in (
            ({"kind": "nonsense"}, 422),
            ({"kind": "set_cells", "row": -1, "column": 0, "block": [["1"]]}, 422),
            ({"kind": "set_cells", "row": 0, "column": 0, "block": [["x" * 201]]}, 422),
            ({"kind": "set_cells", "row": 199_999, "column": 0, "block": [["1"], ["2"]]}, 400),
            ({"kind": "edit_study", "title": "   "}, 422),
            ({"kind": "edit_study", "level": 1.0}, 422),
            ({"kind": "set_fit", "letter": "A", "fixed": {"wobble": 1}}, 400),
            ({"kind": "swap_axes", "extra": 1}, 422),
        ):
            answer = self.change(study, 1, status=status, **change)
            self.assertTrue(answer["message"])
        self.assertEqual(self.read(f"/studies/{study}")["version"], 1)

    def test_numbers_that_are_not_json(self) -> None:
        study = self.new()
        for text in (
            '{"version": 0, "change": {"kind": "set_fit", "letter": "A", "fixed": {"intercept": NaN}}}',
            "{",
            "",
        ):
            response = self.client.post(f"/api/studies/{study}/changes", text, content_type="application/json")
            self.assertIn(response.status_code, (400, 422))
            self.assertIn("message", response.json())

    def test_what_is_not_there(self) -> None:
        self.read(f"/studies/{uuid.uuid4()}", status=404)
        self.read("/nothing", status=404)
        self.post("/studies", {"sample": "nothing"}, status=400)

    def test_a_request_without_the_token_is_refused(self) -> None:
        strict = Client(enforce_csrf_checks=True)
        response = strict.post("/api/studies", "{}", content_type="application/json")
        self.assertEqual(response.status_code, 403)
        self.assertIn("message", json.loads(response.content))

    def test_more_than_24_megabytes_is_refused(self) -> None:
        study = self.new()
        response = self.client.post(
            f"/api/studies/{study}/changes", b" " * (25 * 2**20), content_type="application/json"
        )
        self.assertEqual(response.status_code, 413)
        self.assertIn("24 MB", response.json()["message"])
