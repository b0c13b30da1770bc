"""Changes as pure steps: each has an inverse that takes it back exactly."""

from __future__ import annotations

import json
from typing import Any
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st

from ridge.studies.changes import Change, ChangeRefused, read_change
from ridge.studies.samples import SAMPLES, build_sample
from ridge.studies.state import LIMITS, StudyState, empty_study


def do(state: StudyState, **change: Any) -> StudyState:
    return read_change(change).apply(state).state


def through_json(change: Change) -> Change:
    """As it comes back from the history."""
    return read_change(json.loads(json.dumps(change.stored())))


cell = st.text(alphabet="0123456789.,-e n", max_size=6)
row = st.integers(0, 12)
changes = st.one_of(
    st.fixed_dictionaries(
        {
            "kind": st.just("set_cells"),
            "row": row,
            "column": st.integers(0, 3),
            "block": st.lists(st.lists(cell, min_size=1, max_size=3), min_size=1, max_size=4),
        }
    ),
    st.fixed_dictionaries({"kind": st.just("insert_rows"), "at": row, "count": st.integers(1, 3)}),
    st.fixed_dictionaries({"kind": st.just("delete_rows"), "rows": st.lists(row, min_size=1, max_size=4)}),
    st.fixed_dictionaries(
        {
            "kind": st.just("mark_rows"),
            "marks": st.lists(
                st.fixed_dictionaries({"row": row, "reason": st.one_of(st.none(), st.just("slipped"))}),
                min_size=1,
                max_size=3,
                unique_by=lambda mark: str(mark),
            ),
        }
    ),
    st.fixed_dictionaries(
        {
            "kind": st.just("assume_rows"),
            "marks": st.lists(
                st.fixed_dictionaries({"row": row, "reason": st.just("by hand")}), min_size=1, max_size=2
            ),
        }
    ),
    st.fixed_dictionaries({"kind": st.just("sort_rows"), "key": st.just("load"), "descending": st.booleans()}),
    st.just({"kind": "remove_empty_rows"}),
    st.fixed_dictionaries(
        {
            "kind": st.just("write_cells"),
            "cells": st.lists(
                st.fixed_dictionaries({"row": row, "key": st.sampled_from(["load", "stretch"]), "text": cell}),
                min_size=1,
                max_size=3,
            ),
        }
    ),
    st.fixed_dictionaries(
        {
            "kind": st.just("generate_readings"),
            "low": st.just(0),
            "high": st.integers(1, 5),
            "step": st.sampled_from([0.5, 1]),
            "formula": st.sampled_from(["", "2F + 1"]),
            "noise": st.just(0.1),
            "where": st.sampled_from(["replace", "below"]),
        }
    ),
    st.fixed_dictionaries(
        {
            "kind": st.just("set_plot"),
            "settings": st.dictionaries(
                st.sampled_from(["x_scale", "join", "size", "x_low", "labels"]),
                st.sampled_from(["log", True, 3, None, {"A": [1, 2]}]),
            ),
        }
    ),
    st.fixed_dictionaries({"kind": st.just("add_fit"), "family": st.sampled_from(["power", "polynomial"])}),
    st.fixed_dictionaries({"kind": st.just("set_fit"), "letter": st.sampled_from("AB"), "family": st.just("sinusoid")}),
    st.fixed_dictionaries({"kind": st.sampled_from(["remove_fit", "lead_with"]), "letter": st.sampled_from("AB")}),
    st.just({"kind": "swap_axes"}),
    st.fixed_dictionaries({"kind": st.just("add_column"), "role": st.sampled_from(["y_error", "other", "x"])}),
    st.fixed_dictionaries({"kind": st.just("edit_study"), "title": st.sampled_from(["A", "B"])}),
    st.fixed_dictionaries(
        {"kind": st.just("keep_answer"), "direction": st.just("y_at_x"), "given": st.sampled_from(["1", "2.5"])}
    ),
)


class Inverses(TestCase):
    @settings(max_examples=150, deadline=None)
    @given(st.lists(changes, max_size=8))
    def test_undoing_any_history_returns_every_state(self, history: list[dict[str, Any]]) -> None:
        state = empty_study("start")
        done: list[tuple[StudyState, Change, Change, StudyState]] = []
        for record in history:
            change = read_change(record)
            try:
                outcome = change.apply(state)
            except ChangeRefused:
                continue
            done.append((state, change, outcome.inverse, outcome.state))
            state = outcome.state
            self.assertEqual(len({len(column.cells) for column in state.columns}), 1)
        for before, change, inverse, after in reversed(done):
            self.assertEqual(through_json(inverse).apply(after).state, before)
            self.assertEqual(through_json(change).apply(before).state, after)


class EachChange(TestCase):
    def setUp(self) -> None:
        self.state = do(empty_study("s"), kind="set_cells", row=0, column=0, block=[["1", "2"], ["3", "4"], ["5", "6"]])
        self.x, self.y = (column.key for column in self.state.columns)

    def test_a_block_makes_the_rows_and_columns_it_needs(self) -> None:
        state = do(self.state, kind="set_cells", row=4, column=1, block=[["7", "a"]])
        self.assertEqual([column.role for column in state.columns], ["x", "y", "other"])
        self.assertEqual([column.cells[-1] for column in state.columns], ["", "7", "a"])
        self.assertEqual(do(self.state, kind="set_cells", row=0, column=0, block=[["9"]]).columns[0].cells[0], "9")

    def test_cells_are_kept_as_typed_but_for_nul_bytes(self) -> None:
        state = do(self.state, kind="set_cells", row=0, column=0, block=[[" n/a\0 ='x'"]])
        self.assertEqual(state.columns[0].cells[0], " n/a ='x'")

    def test_rows_set_aside_move_with_their_readings(self) -> None:
        state = do(self.state, kind="mark_rows", marks=[{"row": 1, "reason": "slipped"}])
        self.assertEqual(do(state, kind="insert_rows", at=0, count=2).aside, {3: "slipped"})
        self.assertEqual(do(state, kind="delete_rows", rows=[0]).aside, {0: "slipped"})
        self.assertEqual(do(state, kind="delete_rows", rows=[1]).aside, {})

    def test_a_role_held_once_is_exchanged(self) -> None:
        state = do(self.state, kind="edit_column", key=self.x, role="y")
        self.assertEqual([column.role for column in state.columns], ["y", "x"])
        with self.assertRaises(ChangeRefused):
            do(self.state, kind="edit_column", key=self.x, role="other")

    def test_refusals_say_what_to_do(self) -> None:
        full = {"kind": "set_cells", "row": LIMITS["rows"] - 1, "column": 0, "block": [["1"], ["2"]]}
        wide = {"kind": "set_cells", "row": 0, "column": 0, "block": [["1"] * (LIMITS["columns"] + 1)]}
        for change in (
            full,
            wide,
            {"kind": "set_cells", "row": 0, "column": 0, "block": []},
            {"kind": "remove_column", "key": self.x},
            {"kind": "remove_column", "key": "gone"},
            {"kind": "remove_answer", "key": "gone"},
            {"kind": "delete_rows", "rows": [99]},
            {"kind": "insert_rows", "at": 99},
            {"kind": "mark_rows", "marks": [{"row": 99, "reason": ""}]},
            {"kind": "restore_rows", "rows": [0], "cells": [["1"]]},
            {"kind": "set_fit", "letter": "F", "fixed": {}},
            {"kind": "edit_study"},
            {"kind": "add_column", "role": "x"},
        ):
            with self.assertRaises(ChangeRefused) as caught:
                do(self.state, **change)
            self.assertTrue(str(caught.exception).endswith("."), change)

    def test_labels_are_readable(self) -> None:
        for change, label in (
            ({"kind": "mark_rows", "marks": [{"row": 1, "reason": ""}]}, "set aside row 2"),
            ({"kind": "mark_rows", "marks": [{"row": 1, "reason": None}]}, "take back row 2"),
            ({"kind": "delete_rows", "rows": [0, 2]}, "delete rows 1 and 3"),
            ({"kind": "set_cells", "row": 0, "column": 0, "block": [["8"]]}, "type in row 1"),
            ({"kind": "set_cells", "row": 0, "column": 0, "block": [["", ""]]}, "clear 1 × 2 cells from row 1"),
            ({"kind": "edit_column", "key": self.x, "unit": "N"}, "change the unit of the x column"),
            ({"kind": "set_fit", "letter": "A", "fixed": {"intercept": 0}}, "fix intercept of fit A"),
        ):
            self.assertEqual(read_change(change).apply(self.state).label, label)

    def test_samples_are_whole(self) -> None:
        for sample in SAMPLES:
            state = build_sample(sample.name)
            self.assertEqual(len({len(column.cells) for column in state.columns}), 1)
            self.assertTrue(all(row < state.row_count for row in state.aside))
