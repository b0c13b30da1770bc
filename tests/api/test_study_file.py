"""A study as a file: its schema, there and back without loss, and what is refused."""

from __future__ import annotations

import json
from dataclasses import replace
from pathlib import Path

from django.test import SimpleTestCase
from jsonschema import Draft202012Validator  # type: ignore[import-untyped]

from ridge.studies.content.changes import read_change
from ridge.studies.content.samples import SAMPLES, build_sample, picture_in
from ridge.studies.content.state import WHOLE_REPORT, StudyState
from ridge.studies.out.study_file import NotAStudy, read_study, study_schema, write_study
from tests.api.test_api import ApiCase

ROOT = Path(__file__).parent.parent.parent


def arranged() -> StudyState:
    """A study with something of everything."""
    state = build_sample("draining-bucket")
    for change in (
        {"kind": "set_fit", "letter": "A", "bounds": {"c2": [0, None]}, "x_range": [0, 100], "name": "=hidden", "hidden": True},
        {"kind": "set_fit", "letter": "B", "by_hand": True, "values": {"slope": -0.25, "intercept": 28.0}},
        {"kind": "add_fit", "family": "interpolation", "options": {"kind": "monotone", "average": True}},
        {"kind": "add_fit", "family": "formula", "options": {"text": "(a - b*t)^2"}},
        {"kind": "keep_answer", "direction": "area", "given": "0 to 60", "fit": "A", "name": "\u202eback", "was": "old"},
        {"kind": "set_plot", "settings": {"grid": "minor", "labels": {"A": [3, -4]}}},
        {"kind": "edit_study", "letters": {"c0": "h_0"}, "rising": True, "question": "<b>?</b>"},
        {"kind": "assume_rows", "marks": [{"row": 2, "reason": "supposed"}]},
        {"kind": "set_fit", "letter": "A", "decimals": {"c0": 1}},
        {"kind": "set_report", "author": "<i>us</i>", "date": "1 May", "parts": [{"part": "own", "text": "=1\n\u202e"}]},
    ):  # fmt: skip
        state = read_change(change).apply(state).state
    return state


class StudyFile(SimpleTestCase):
    def test_there_and_back_without_loss(self) -> None:
        for state in (*(build_sample(sample.name) for sample in SAMPLES), arranged()):
            picture = picture_in(state)
            again = read_study(write_study(state, picture.data if picture else None).decode()).state
            self.assertEqual(again, replace(state, plot=again.plot, fits=again.fits))
            self.assertEqual({**again.plot}, {k: v for k, v in state.plot.items() if v is not None})
            for one, other in zip(again.fits, state.fits, strict=True):
                self.assertEqual(replace(one, options=dict(one.options)), replace(other, options=dict(other.options)))

    def test_the_published_schema_holds_and_is_not_stale(self) -> None:
        published = (ROOT / "docs" / "study.schema.json").read_text()
        self.assertEqual(published, study_schema(), "run ./run types")
        validator = Draft202012Validator(json.loads(published))
        for state in (build_sample("tide"), arranged()):
            self.assertEqual(list(validator.iter_errors(json.loads(write_study(state)))), [])

    def test_a_file_of_the_first_version_is_upgraded(self) -> None:
        state = arranged()
        now = json.loads(write_study(state))
        self.assertEqual(now["version"], 2)
        old = {name: part for name, part in now.items() if name not in ("author", "date", "report")} | {"version": 1}
        for fit in old["fits"]:
            fit.pop("decimals", None)
        upgraded = read_study(json.dumps(old)).state
        self.assertEqual(upgraded.report, WHOLE_REPORT)
        self.assertEqual(
            replace(upgraded, fits=()),
            replace(state, author="", date="", report=WHOLE_REPORT, fits=(), plot=upgraded.plot),
        )

    def test_what_is_refused_names_the_place(self) -> None:
        good = json.loads(write_study(arranged()))
        column = good["columns"][0]
        for change, said in (
            ({"version": 3}, "newer Ridge"), ({"version": "1"}, "which version"), ({"format": "other"}, "not a Ridge study"),
            ({"title": ""}, "At title"), ({"columns": good["columns"][:1]}, "At columns"), ({"extra": 1}, "At extra"),
            ({"columns": [*good["columns"], {**column, "role": "other"}]}, "same key"),
            ({"columns": [{**column, "cells": ["1"]}, *good["columns"][1:]]}, "different numbers of rows"),
            ({"columns": [{**column, "role": "other"}, *good["columns"][1:]]}, "One has to be x"),
            ({"fits": [{"letter": "A", "family": "line", "fixed": {"k": 1}}]}, "At fits"),
            ({"fits": [{"letter": "A", "family": "magic"}]}, "At fits: There is no family of models called magic"),
            ({"fits": [{"letter": "A", "family": "line"}, {"letter": "A", "family": "line"}]}, "same key or letter"),
            ({"aside": [{"row": 5000}]}, "Row 5000 is marked"), ({"level": 1}, "At level"),
        ):  # fmt: skip
            with self.assertRaises(NotAStudy) as caught:
                read_study(json.dumps({**good, **change}))
            self.assertIn(said, str(caught.exception))
        for text, said in (
            ("", "not valid JSON at line 1"), ("[1, 2", "not valid JSON"), ("[]", "not a Ridge study"), ('{"format": NaN}', "not valid JSON"), ("[" * 99999, "not valid JSON"),
        ):  # fmt: skip
            with self.assertRaises(NotAStudy) as caught:
                read_study(text)
            self.assertIn(said, str(caught.exception))


class ThroughTheApi(ApiCase):
    def test_saved_opened_again_and_refused(self) -> None:
        key = self.new(sample="salinity-probe")
        response = self.client.get(f"/api/studies/{key}/study.json")
        self.assertIn("salinity-probe-calibration.ridge.json", response["Content-Disposition"])
        again = self.post("/study_files", {"text": response.content.decode()}, status=201)
        before, after = self.read(f"/studies/{key}"), self.read(f"/studies/{again['id']}")
        self.assertEqual(after["analysis"]["fits"], before["analysis"]["fits"])
        self.assertEqual(after["columns"], before["columns"])
        refused = self.post("/study_files", {"text": response.content.decode()[:-20]}, status=400)
        self.assertIn("damaged or incomplete", refused["message"])
