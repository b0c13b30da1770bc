"""Requests made at random from the API's own document: answered or refused with a reason, never a failure."""

from __future__ import annotations

import json
from functools import partial
from typing import Any, get_args

from hypothesis import HealthCheck, Phase, given
from hypothesis import strategies as st
from hypothesis.extra.django import TestCase

from ridge.core.interpolation.interpolate import KINDS as INTERPOLATIONS
from ridge.studies.content.fields import Direction
from ridge.studies.models import Study
from tests.examples import examples

json_values: st.SearchStrategy[Any] = st.recursive(
    st.none() | st.booleans() | st.integers() | st.floats(allow_nan=False) | st.text(max_size=12),
    lambda inner: st.lists(inner, max_size=3) | st.dictionaries(st.text(max_size=8), inner, max_size=3),
    max_leaves=8,
)
kinds = st.sampled_from(
    [
        "set_cells",
        "insert_rows",
        "delete_rows",
        "restore_rows",
        "mark_rows",
        "edit_column",
        "put_column_settings",
        "add_column",
        "remove_column",
        "swap_axes",
        "average_repeats",
        "convert_column",
        "edit_study",
        "set_fit",
        "keep_answer",
        "remove_answer",
    ]
)
fields = [
    "row",
    "column",
    "block",
    "rows",
    "at",
    "count",
    "cells",
    "aside",
    "marks",
    "key",
    "name",
    "symbol",
    "unit",
    "role",
    "title",
    "question",
    "level",
    "letter",
    "fixed",
    "given",
    "repeats",
    "direction",
]
changes = st.builds(
    lambda kind, rest: {"kind": kind, **rest}, kinds, st.dictionaries(st.sampled_from(fields), json_values, max_size=5)
)
cells = st.lists(st.lists(st.text(max_size=12) | st.floats().map(repr), min_size=1, max_size=4), min_size=1, max_size=6)
patient = partial(examples, suppress_health_check=[HealthCheck.too_slow])


class AnyRequest(TestCase):
    def setup_example(self) -> None:
        super().setup_example()  # type: ignore[no-untyped-call]
        self.begin()

    def begin(self) -> None:
        self.study = self.client.post(
            "/api/studies", {"sample": "mooring-line"}, content_type="application/json"
        ).json()["id"]

    def send(self, path: str, body: object) -> None:
        response = self.client.post(
            f"/api/studies/{self.study}{path}", json.dumps(body), content_type="application/json"
        )
        self.assertIn(response.status_code, (200, 201, 400, 404, 409, 422))
        answer = json.loads(response.content, parse_constant=lambda name: self.fail(f"{name} in the answer"))
        if response.status_code >= 400:
            self.assertTrue(answer["message"])

    @patient(20)
    @given(changes)
    def test_changes(self, change: dict[str, Any]) -> None:
        version = Study.objects.get().version
        self.send("/changes", {"version": version, "change": change})
        self.send("/preview", {"version": version, "change": change})

    @patient(20)
    @given(cells)
    def test_any_text_in_the_cells(self, block: list[list[str]]) -> None:
        change = {"kind": "set_cells", "row": 0, "column": 0, "block": block}
        # Nothing may fall back on the answer to failures that were not foreseen.
        with self.assertNoLogs("ridge", level="ERROR"):
            self.send("/changes", {"version": 0, "change": change})
            self.assertEqual(self.client.get(f"/api/studies/{self.study}").status_code, 200)
            self.assertEqual(self.client.get("/api/shelf").status_code, 200)

    def test_a_cell_of_nothing_that_is_seen(self) -> None:
        """Signs that Python takes for white space, in every column: also in that of uncertainties."""
        self.begin()
        with self.assertNoLogs("ridge", level="ERROR"):
            for version, blank in enumerate(("\x1f", "\u2007", "\x85", "\u3000")):
                block = [["1", "2", blank, blank], [blank, "3", "0.5", ""]]
                self.send(
                    "/changes",
                    {"version": version, "change": {"kind": "set_cells", "row": 0, "column": 0, "block": block}},
                )

    @patient(5)
    @given(cells)
    def test_any_figure(self, block: list[list[str]]) -> None:
        self.send("/changes", {"version": 0, "change": {"kind": "set_cells", "row": 0, "column": 0, "block": block}})
        self.assertIn(self.client.get(f"/api/studies/{self.study}/figure.svg").status_code, (200, 400))

    @patient(20)
    @given(
        st.text(max_size=30) | st.floats().map(repr),
        st.sampled_from([*get_args(Direction), "sideways"]),
        st.integers(-2, 12),
        st.sampled_from(["", "A", "F", "all", "none"]),
    )
    def test_any_question(self, given_text: str, direction: str, repeats: int, fit: str) -> None:
        with self.assertNoLogs("ridge", level="ERROR"):
            self.send("/ask", {"direction": direction, "given": given_text, "repeats": repeats, "fit": fit})

    @patient(12, phases=(Phase.generate,))
    @given(
        cells,
        st.sampled_from(
            [
                *(
                    {"by_hand": True, "family": family}
                    for family in ("line", "polynomial", "exponential", "sinusoid", "power")
                ),
                *({"family": "interpolation", "options": {"kind": kind, "average": True}} for kind in INTERPOLATIONS),
                {"family": "formula", "options": {"text": "2*x + 1"}},
                {"x_range": [-1.0, 1.0]},
            ]
        ),
    )
    def test_any_cells_with_curves_of_every_kind(self, block: list[list[str]], fit: dict[str, Any]) -> None:
        with self.assertNoLogs("ridge", level="ERROR"):
            self.send("/changes", {"version": 0, "change": {"kind": "set_fit", "letter": "A", **fit}})
            self.send(
                "/changes", {"version": 1, "change": {"kind": "set_cells", "row": 0, "column": 0, "block": block}}
            )
            for path in ("comparison", "without/A/0", "residuals/A", "figure.svg"):
                response = self.client.get(f"/api/studies/{self.study}/{path}")
                self.assertIn(response.status_code, (200, 400, 404), path)
            for direction in get_args(Direction):
                self.send("/ask", {"direction": direction, "given": "1 to 2", "fit": "all"})

    @patient(5)
    @given(cells)
    def test_any_cells_in_every_file(self, block: list[list[str]]) -> None:
        self.send("/changes", {"version": 0, "change": {"kind": "set_cells", "row": 0, "column": 0, "block": block}})
        for name in (
            "readings.csv",
            "readings.xlsx",
            "readings.ods",
            "script.py",
            "study.json",
            "report.html",
            "report.docx",
        ):
            self.assertEqual(self.client.get(f"/api/studies/{self.study}/{name}").status_code, 200, name)

    @patient(20)
    @given(st.text(max_size=40) | st.text("abtx()+-*/^0123456789., ", max_size=40), st.booleans(), st.integers(-3, 60))
    def test_any_formula_while_it_is_typed(self, text: str, degrees: bool, part: int) -> None:
        with self.assertNoLogs("ridge", level="ERROR"):
            self.send("/formula", {"letter": "A", "text": text, "degrees": degrees, "part": part})

    @patient(20)
    @given(st.text(max_size=60) | json_values.map(json.dumps))
    def test_any_study_file(self, text: str) -> None:
        response = self.client.post("/api/study_files", {"text": text}, content_type="application/json")
        self.assertIn(response.status_code, (400, 422))

    @patient(20)
    @given(json_values)
    def test_any_body(self, body: object) -> None:
        for path in ("/changes", "/undo", "/ask", "/preview"):
            self.send(path, body)
