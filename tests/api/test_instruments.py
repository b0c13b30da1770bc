"""Instruments through HTTP: simulated runs taken by whoever asks, readings posted with a key, none twice, none lost."""

from __future__ import annotations

import json
import re
import subprocess
import sys
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any
from unittest.mock import patch

from django.core.cache import cache
from django.test import Client, LiveServerTestCase

from ridge.instruments import INSTRUMENTS, Wanted, due
from ridge.studies.api import instruments
from ridge.studies.models import PostKey, Run, Study
from tests.api.test_api import ApiCase

README = Path(__file__).parent.parent.parent / "README.md"
BEGAN = datetime(2026, 5, 12, 9, 0, tzinfo=UTC)


class Timed(ApiCase):
    """A clock that the test sets."""

    def setUp(self) -> None:
        cache.clear()
        self.now = BEGAN
        clock = patch.object(instruments.timezone, "now", lambda: self.now)
        clock.start()
        self.addCleanup(clock.stop)

    def after(self, seconds: float) -> None:
        self.now = BEGAN + timedelta(seconds=seconds)

    def news(self, study: str, version: int = -1, status: int = 200) -> Any:
        return self.read(f"/studies/{study}/run?version={version}", status)

    def cells(self, study: str) -> list[list[str]]:
        return [column["cells"] for column in self.read(f"/studies/{study}")["columns"]]

    def expected(self, run: Run, elapsed: float) -> list[tuple[str, str]]:
        instrument = INSTRUMENTS[run.instrument]
        samples = due(instrument, Wanted(run.interval, run.most, (), run.seed), 0, elapsed)
        return [(one.x, one.values[instrument.channels[0].symbol]) for one in samples if not one.lost]


class Runs(Timed):
    def test_taken_as_they_come_and_one_step_of_undo(self) -> None:
        study = self.new()
        begun = self.post(f"/studies/{study}/run", {"instrument": "mug", "interval": 0.5})
        self.assertTrue(begun["run"]["simulated"])
        run = Run.objects.get()
        for seconds in (0.4, 1.0, 1.1, 4.6, 9.9):
            self.after(seconds)
            self.news(study)
            self.assertEqual(list(zip(*self.cells(study)[:2], strict=True)), self.expected(run, seconds))
        state = self.read(f"/studies/{study}")
        self.assertEqual([c["name"] for c in state["columns"]], ["time", "temperature of the tea"])
        self.assertEqual(state["columns"][1]["uncertainty"], "0.15")
        self.assertEqual(len(self.read(f"/studies/{study}/history")["steps"]), 2)
        self.after(12.0)
        stopped = self.post(f"/studies/{study}/run/stop")
        self.assertFalse(stopped["run"]["going"])
        whole = self.expected(run, 12.0)
        self.assertEqual(stopped["run"]["taken"], len(whole))
        self.after(60.0)
        self.news(study)
        self.assertEqual(list(zip(*self.cells(study)[:2], strict=True)), whole)
        version = self.read(f"/studies/{study}")["version"]
        undone = self.post(f"/studies/{study}/undo", {"version": version})
        self.assertEqual((undone["row_count"], undone["columns"][0]["name"]), (0, ""))
        redone = self.post(f"/studies/{study}/redo", {"version": version + 1})
        self.assertEqual(redone["row_count"], len(whole))

    def test_an_interrupted_network_loses_nothing_and_doubles_nothing(self) -> None:
        study = self.new()
        self.post(f"/studies/{study}/run", {"instrument": "light", "interval": 0.1, "most": 300})
        run = Run.objects.get()
        self.after(2.0)
        self.news(study)
        self.after(1000.0)  # nobody asked for a long time
        found = self.news(study)
        self.assertFalse(found["run"]["going"])
        self.news(study)
        self.assertEqual(list(zip(*self.cells(study)[:2], strict=True)), self.expected(run, 1000.0))
        lost = 300 - len(self.expected(run, 1000.0))
        self.assertGreater(lost, 0)
        self.assertRegex(found["run"]["gap"], r"readings? never came\.")

    def test_what_is_typed_meanwhile_is_no_conflict(self) -> None:
        study = self.new()
        state = self.fill(study)
        self.post(f"/studies/{study}/run", {"instrument": "tide", "interval": 1})
        version = state["version"]
        self.after(3.0)
        self.news(study)
        typed = self.change(study, version, kind="set_cells", row=1, column=1, block=[["9"]])
        self.assertEqual(typed["columns"][1]["cells"][:4], ["2.1", "9", "6.2", "7.8"])
        self.assertGreater(typed["row_count"], 4)
        self.after(5.0)
        self.news(study)
        known = self.change(study, typed["version"], kind="add_fit", family="sinusoid")
        # A row that readings stand in by now is not written over.
        self.after(8.0)
        self.news(study)
        version, row = known["version"], known["row_count"]
        self.change(study, version, kind="set_cells", row=row, column=0, block=[["1"]], status=409)
        self.change(
            study,
            version,
            kind="write_cells",
            cells=[{"row": row, "key": state["columns"][0]["key"], "text": "1"}],
            status=409,
        )
        self.change(study, version, kind="sort_rows", key=state["columns"][0]["key"], status=409)
        self.change(study, version, kind="set_cells", row=row - 1, column=0, block=[["1"]])
        self.change(study, 1, kind="set_cells", row=0, column=0, block=[["5"]], status=409)

    def test_what_was_seen_before_others_changed_it_is_still_a_conflict(self) -> None:
        """Also in a study from before instruments, of which nobody noted when it was changed last."""
        study = self.new()
        self.fill(study)
        self.change(study, 1, kind="edit_study", title="T")
        Study.objects.filter(pk=study).update(settled=0, added_from=None)
        self.post(f"/studies/{study}/undo", {"version": 1}, status=409)
        self.change(study, 1, kind="edit_study", title="S", status=409)
        Study.objects.filter(pk=study).update(settled=0, added_from=None)
        # A whole table that is put back would lose the readings that came since.
        version = self.change(study, 2, kind="edit_study", title="U")["version"]
        columns = [
            {"key": c["key"], "name": "", "symbol": "", "unit": "", "role": c["role"], "cells": ["1"]}
            for c in self.read(f"/studies/{study}")["columns"]
        ]
        self.post(f"/studies/{study}/run", {"instrument": "tide", "interval": 1})
        self.after(3.0)
        self.news(study)
        self.change(study, version, kind="put_table", columns=columns, status=409)
        self.change(study, 1, kind="edit_study", title="S", status=409)
        self.post(f"/studies/{study}/undo", {"version": version})

    def test_several_channels_are_series(self) -> None:
        study = self.new()
        body = {"instrument": "mug", "interval": 1, "channels": ["T", "T_g"]}
        self.post(f"/studies/{study}/run", body)
        self.after(3.0)
        self.assertIn("Several series need a column", self.news(study, status=400)["message"])
        self.change(study, 0, kind="add_column", role="series")
        found = self.news(study)["study"]
        self.assertEqual(found["columns"][2]["cells"][:2], ["temperature of the tea", "temperature of the galley"])
        self.assertEqual(found["row_count"] % 2, 0)

    def test_single_readings_at_an_x_that_is_typed(self) -> None:
        study = self.new()
        self.post(f"/studies/{study}/run/single", {"instrument": "light", "x": "2,5"})
        state = self.post(f"/studies/{study}/run/single", {"instrument": "light", "x": "4"})["study"]
        self.assertEqual(state["columns"][0]["cells"], ["2,5", "4"])
        for text, x in zip(state["columns"][1]["cells"], (2.5, 4.0), strict=True):
            self.assertLess(abs(float(text) - 41 / x**2 - 0.35), 0.3)
        for given, why in (("", "Type the value"), ("far", "not a number")):
            refused = self.post(f"/studies/{study}/run/single", {"instrument": "light", "x": given}, status=400)
            self.assertIn(why, refused["message"])

    def test_the_true_curve_is_revealed_after_stopping(self) -> None:
        study = self.new()
        self.post(f"/studies/{study}/run", {"instrument": "mug", "interval": 0.5})
        self.after(60.0)
        version = self.news(study)["study"]["version"]
        refused = self.post(f"/studies/{study}/run/reveal", {"version": version}, status=400)
        self.assertIn("stop it first", refused["message"])
        version = self.post(f"/studies/{study}/run/stop")["study"]["version"]
        fits = self.post(f"/studies/{study}/run/reveal", {"version": version})["analysis"]["fits"]
        self.assertEqual((fits[-1]["kind"], fits[-1]["label"]), ("known", "true curve"))
        self.assertIn("e^(−t/22)", fits[-1]["equation_text"])
        self.assertLess(fits[-1]["deviation"], 0.25)

    def test_what_cannot_be_begun(self) -> None:
        study = self.new()
        for body, why in (
            ({"instrument": "barometer"}, "There is no instrument"), ({"instrument": "mug", "interval": 0.01}, "Interval is from"),
            ({"instrument": "mug", "channels": ["q"]}, "there are T, T_g"),
        ):  # fmt: skip
            self.assertIn(why, self.post(f"/studies/{study}/run", body, status=400)["message"])
        self.assertIsNone(self.news(study)["run"])
        stranger = Client()
        for path in ("run", "run/stop", "run/single", "run/reveal", "keys"):
            response = stranger.post(
                f"/api/studies/{study}/{path}",
                {"instrument": "mug", "x": "1", "version": 0},
                content_type="application/json",
            )
            self.assertEqual(response.status_code, 404, path)


class Posted(Timed):
    def key(self, study: str) -> str:
        made = self.post(f"/studies/{study}/keys", status=201)
        self.assertTrue(made["address"].endswith("/api/readings"))
        return str(made["key"])

    def send(self, key: str, readings: Any, status: int = 201) -> Any:
        response = Client(enforce_csrf_checks=True).post(
            "/api/readings",
            json.dumps({"readings": readings}),
            content_type="application/json",
            headers={"Authorization": f"Bearer {key}"},
        )
        self.assertEqual(response.status_code, status, response.content[:300])
        return response.json()

    def test_added_below_whatever_is_there(self) -> None:
        study, other = self.new(), self.new()
        self.fill(study)
        key = self.key(study)
        self.assertEqual(
            self.send(key, [{"x": 5, "y": 10.25}, {"x": "6", "y": "11,5"}]), {"added": 2, "rows": 6, "remark": ""}
        )
        self.send(key, [{"x": 7.5, "y": None}, {"x": 1e-30, "y": 1e30}])
        self.assertEqual(self.cells(study)[0][4:], ["5", "6", "7.5", "1e-30"])
        self.assertEqual(self.cells(study)[1][4:], ["10.25", "11,5", "", "1e+30"])
        self.assertEqual(self.read(f"/studies/{other}")["row_count"], 0)
        self.assertEqual(self.read(f"/studies/{study}/keys")[0]["posted"], 4)
        # One step, though they came in two requests.
        state = self.read(f"/studies/{study}")
        self.assertEqual(state["undo"], "take 4 readings")
        self.assertEqual(self.post(f"/studies/{study}/undo", {"version": state["version"]})["row_count"], 4)

    def test_a_key_is_hashed_and_opens_nothing_else(self) -> None:
        study = self.new()
        key = self.key(study)
        self.assertNotIn(key, json.dumps(self.read(f"/studies/{study}/keys"), default=str))
        self.assertFalse(PostKey.objects.filter(digest__contains=key).exists())
        headers = {"Authorization": f"Bearer {key}"}
        stranger = Client()
        for path in (f"studies/{study}", f"studies/{study}/run?version=0", "shelf"):
            response = stranger.get(f"/api/{path}", headers=headers)
            self.assertNotIn(study, response.content.decode())
        change = {"version": 0, "change": {"kind": "edit_study", "title": "mine"}}
        refused = stranger.post(
            f"/api/studies/{study}/changes", change, content_type="application/json", headers=headers
        )
        self.assertEqual(refused.status_code, 404)

    def test_wrong_withdrawn_and_in_the_bin(self) -> None:
        study = self.new()
        key = self.key(study)
        one = [{"x": 1, "y": 2}]
        self.assertIn("wrong, or was withdrawn", self.send("not-a-key", one, 401)["message"])
        self.assertIn(
            "Authorization",
            Client().post("/api/readings", {"readings": one}, content_type="application/json").json()["message"],
        )
        self.send(key, one)
        held = self.read(f"/studies/{study}/keys")[0]["id"]
        stranger = Client()
        self.assertEqual(stranger.delete(f"/api/studies/{study}/keys/{held}").status_code, 404)
        self.assertTrue(self.client.delete(f"/api/studies/{study}/keys/{held}").json()["withdrawn"])
        self.send(key, one, 401)
        again = self.key(study)
        self.client.delete(f"/api/studies/{study}")
        self.send(again, one, 401)
        self.assertEqual(Study.objects.get(pk=study).columns.first().cells, ["1"])  # type: ignore[union-attr]
        self.post(f"/studies/{study}/restore")
        for _ in range(4):
            self.key(study)
        self.assertIn("5 keys at most", self.post(f"/studies/{study}/keys", status=400)["message"])

    def test_all_or_none_and_why(self) -> None:
        study = self.new()
        key = self.key(study)
        for readings, status, why in (
            ([], 400, "no readings"), ([{"x": 1, "y": 2}, {"x": 2, "y": "warm"}], 400, "Reading 2, y: 'warm' is not a number"),
            ([{"x": "", "y": 2}], 400, "Reading 1 has no x"), ([{"y": 2}], 422, "x"), ("text", 422, "readings"),
            ([{"x": 1, "y": 2}] * 1001, 422, "1000"), ([{"x": 1, "y": 2, "series": "a"}], 400, "Several series need a column"),
        ):  # fmt: skip
            self.assertIn(why, self.send(key, readings, status)["message"])
        self.assertEqual(self.read(f"/studies/{study}")["row_count"], 0)
        self.assertIn("smaller x", self.send(key, [{"x": 2, "y": 1}, {"x": 1, "y": 1}])["remark"])
        self.assertEqual(self.read(f"/studies/{study}")["row_count"], 2)

    def test_too_many_requests_in_a_second(self) -> None:
        study = self.new()
        key = self.key(study)
        for n in range(instruments.POSTS_A_SECOND):
            self.send(key, [{"x": n, "y": n}])
        self.assertIn("send several readings in one", self.send(key, [{"x": 99, "y": 1}], 429)["message"])
        self.after(1.1)
        self.send(key, [{"x": 99, "y": 1}])
        self.assertEqual(len(self.cells(study)[0]), instruments.POSTS_A_SECOND + 1)


class TheScriptOfTheReadme(LiveServerTestCase):
    def test_posts_its_readings(self) -> None:
        """Twenty lines, with nothing but Python's standard library."""
        found = re.search(r"```python\n(import json.*?)```", README.read_text(), re.S)
        assert found
        script = found[1]
        self.assertLessEqual(len(script.strip().splitlines()), 20)
        client = self.client
        study = client.post("/api/studies", {"title": "posted"}, content_type="application/json").json()["id"]
        key = client.post(f"/api/studies/{study}/keys", {}, content_type="application/json").json()["key"]
        ran = subprocess.run(
            [sys.executable, "-I", "-c", script, f"{self.live_server_url}/api/readings", key],
            capture_output=True,
            text=True,
            timeout=120,
        )
        self.assertEqual(ran.returncode, 0, ran.stderr)
        state = client.get(f"/api/studies/{study}").json()
        self.assertGreater(state["row_count"], 2)
        self.assertTrue(state["analysis"]["fits"][0]["equation_text"])
