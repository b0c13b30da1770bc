"""Changes as pure steps: what each does, and what it refuses."""

from __future__ import annotations

import json
from statistics import mean, stdev
from typing import Any
from unittest import TestCase

from ridge.studies.content.allowed import LIMITS
from ridge.studies.content.changes import Change, ChangeRefused, read_change
from ridge.studies.content.readable import apply_sound
from ridge.studies.content.samples import SAMPLES, build_sample
from ridge.studies.content.state import StudyState, empty_study


def do(state: StudyState, **change: Any) -> StudyState:
    return apply_sound(read_change(change), state).state


def through_json(change: Change) -> Change:
    """As it comes back from the history."""
    return read_change(json.loads(json.dumps(change.stored())))


class EachChange(TestCase):
    def setUp(self) -> None:
        self.state = do(empty_study("s"), kind="set_cells", row=0, column=0, block=[["1", "2"], ["3", "4"], ["5", "6"]])
        self.x, self.y = (column.key for column in self.state.columns)

    def test_a_block_makes_the_rows_and_columns_it_needs(self) -> None:
        state = do(self.state, kind="set_cells", row=4, column=1, block=[["7", "a"]])
        self.assertEqual([column.role for column in state.columns], ["x", "y", "other"])
        self.assertEqual([column.cells[-1] for column in state.columns], ["", "7", "a"])
        self.assertEqual(do(self.state, kind="set_cells", row=0, column=0, block=[["9"]]).columns[0].cells[0], "9")

    def test_rows_set_aside_move_with_their_readings(self) -> None:
        state = do(self.state, kind="mark_rows", marks=[{"row": 1, "reason": "slipped"}])
        self.assertEqual(do(state, kind="insert_rows", at=0, count=2).aside, {3: "slipped"})
        self.assertEqual(do(state, kind="delete_rows", rows=[0]).aside, {0: "slipped"})
        self.assertEqual(do(state, kind="delete_rows", rows=[1]).aside, {})

    def test_sorting_puts_numbers_first_and_empty_cells_last(self) -> None:
        state = do(self.state, kind="set_cells", row=0, column=0, block=[["3"], ["n/a"], [""], ["-1"], ["1e3"]])
        self.assertEqual(do(state, kind="sort_rows", key=self.x).columns[0].cells, ("-1", "3", "1e3", "n/a", ""))
        largest = do(state, kind="sort_rows", key=self.x, descending=True)
        self.assertEqual(largest.columns[0].cells, ("1e3", "3", "-1", "n/a", ""))
        self.assertEqual(largest.columns[1].cells[:2], ("", "2"))  # the whole row goes with its cell
        with self.assertRaisesRegex(ChangeRefused, "in the order of the x column already"):
            do(do(state, kind="sort_rows", key=self.x), kind="sort_rows", key=self.x)

    def test_equal_values_keep_their_order(self) -> None:
        state = do(
            self.state, kind="set_cells", row=0, column=0, block=[["1", "a"], ["0", "b"], ["1", "c"], ["0", "d"]]
        )
        self.assertEqual(do(state, kind="sort_rows", key=self.x).columns[1].cells, ("b", "d", "a", "c"))

    def test_generated_readings(self) -> None:
        even = do(self.state, kind="generate_readings", low=0, high=1, step=0.25, formula="2x + 1")
        self.assertEqual(even.columns[0].cells, ("0", "0.25", "0.5", "0.75", "1"))
        self.assertEqual(even.columns[1].cells, ("1", "1.5", "2", "2.5", "3"))
        tenths = do(self.state, kind="generate_readings", low=0, high=1, step=0.1)
        self.assertEqual((tenths.row_count, tenths.columns[0].cells[3]), (11, "0.3"))  # not 0.30000000000000004
        falling = do(self.state, kind="generate_readings", low=5, high=3, step=-1)
        self.assertEqual(falling.columns[0].cells, ("5", "4", "3"))
        below = do(self.state, kind="generate_readings", low=7, high=9, count=3, where="below")
        self.assertEqual(below.columns[0].cells, ("1", "3", "5", "7", "8", "9"))

    def test_noise_is_as_wide_as_asked_and_the_same_again(self) -> None:
        change = {
            "kind": "generate_readings",
            "low": 0,
            "high": 1,
            "count": 2000,
            "formula": "5",
            "noise": 0.5,
            "seed": 7,
        }
        values = [float(cell) for cell in do(self.state, **change).columns[1].cells]
        # Two thousand draws: the mean is known to 0.011, the standard deviation to 0.008.
        self.assertAlmostEqual(mean(values), 5, delta=0.05)
        self.assertAlmostEqual(stdev(values), 0.5, delta=0.04)
        self.assertEqual(do(self.state, **change), do(self.state, **change))
        self.assertNotEqual(do(self.state, **change), do(self.state, **{**change, "seed": 8}))

    def test_what_cannot_be_generated(self) -> None:
        for more, said in (
            ({"step": 0}, "never gets"),
            ({"step": -1}, "never gets"),
            ({}, "either the step or how many"),
            ({"step": 1, "count": 3}, "either the step or how many"),
            ({"step": 1e-9}, "200\u202f000 rows at most"),
            ({"count": 3, "formula": "2*("}, "never closed"),
            ({"count": 3, "formula": "k*x"}, "'k' has no value here"),
        ):
            with self.assertRaisesRegex(ChangeRefused, said):
                do(self.state, kind="generate_readings", low=0, high=1, **more)
        undefined = do(self.state, kind="generate_readings", low=0, high=2, step=1, formula="1/x")
        self.assertEqual(undefined.columns[1].cells, ("", "1", "0.5"))

    def test_settings_of_the_plot(self) -> None:
        state = do(self.state, kind="set_plot", settings={"x_scale": "log", "x_low": 1, "x_high": 9})
        self.assertEqual(state.plot, {"x_scale": "log", "x_low": 1, "x_high": 9})
        self.assertEqual(do(state, kind="set_plot", settings={"x_scale": "linear", "x_low": None}).plot, {"x_high": 9})
        for settings_, said in (
            ({"x_low": 9, "x_high": 1}, "must begin below its end"),
            ({"x_high": 0.5}, "must begin below its end"),
            ({"size": 99}, "outside what the plot can be set to"),
            ({"shape": "star"}, "outside what the plot can be set to"),
            ({"scent": "red"}, "no such setting"),
            ({}, "no such setting"),
        ):
            with self.assertRaisesRegex(ChangeRefused, said):
                do(state, kind="set_plot", settings=settings_)

    def test_a_reading_moved_or_added_and_taken_back(self) -> None:
        cells = [{"row": 3, "key": self.x, "text": "7"}, {"row": 3, "key": self.y, "text": "8"}]
        outcome = read_change({"kind": "write_cells", "cells": cells, "what": "add"}).apply(self.state)
        self.assertEqual((outcome.state.row_count, outcome.label), (4, "add a reading in row 4"))
        self.assertEqual(outcome.inverse.apply(outcome.state).state, self.state)
        with self.assertRaisesRegex(ChangeRefused, "no longer there"):
            do(self.state, kind="write_cells", cells=[{"row": 0, "key": "gone", "text": "1"}])

    def test_an_assumed_reading_keeps_its_reason_when_rows_move(self) -> None:
        state = do(self.state, kind="assume_rows", marks=[{"row": 1, "reason": "no load"}])
        self.assertEqual(do(state, kind="insert_rows", at=0).assumed, {2: "no load"})
        self.assertEqual(do(state, kind="sort_rows", key=self.x, descending=True).assumed, {1: "no load"})
        self.assertEqual(do(state, kind="delete_rows", rows=[1]).assumed, {})
        self.assertEqual(do(state, kind="assume_rows", marks=[{"row": 1, "reason": None}]).assumed, {})

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
            ({"kind": "mark_rows", "marks": [{"row": 1, "reason": None}]}, "use row 2 again"),
            ({"kind": "delete_rows", "rows": [0, 2]}, "delete rows 1 and 3"),
            ({"kind": "set_cells", "row": 0, "column": 0, "block": [["8"]]}, "column 1 of row 1: 1 → 8"),
            ({"kind": "set_cells", "row": 0, "column": 0, "block": [["", ""]]}, "clear 1 × 2 cells from row 1"),
            ({"kind": "edit_column", "key": self.x, "unit": "N"}, "change the unit of the x column"),
            ({"kind": "set_fit", "letter": "A", "fixed": {"intercept": 0}}, "fix c of fit A"),
        ):
            self.assertEqual(read_change(change).apply(self.state).label, label)

    def test_samples_are_whole(self) -> None:
        for sample in SAMPLES:
            state = build_sample(sample.name)
            self.assertEqual(len({len(column.cells) for column in state.columns}), 1)
            self.assertTrue(all(row < state.row_count for row in state.aside))
