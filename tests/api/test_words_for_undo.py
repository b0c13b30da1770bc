"""What undo says of each change, word for word, and at which numbers limits begin."""

from __future__ import annotations

from typing import Any
from unittest import TestCase

from ridge.studies.content.allowed import LIMITS
from ridge.studies.content.changes import ChangeRefused, read_change
from ridge.studies.content.samples import build_sample
from ridge.studies.content.state import FitState, StudyState
from tests.api.test_columns import column, study


def line(**more: Any) -> StudyState:
    return study(column("t", "x", "1 2 3 4"), column("h", "y", "1 2 3 5"), fits=(FitState("A", "line", **more),))


class Words(TestCase):
    def said(self, state: StudyState, words: str, **change: Any) -> StudyState:
        outcome = read_change(change).apply(state)
        self.assertEqual(outcome.label, words)
        return outcome.state

    def test_of_every_setting_of_a_fit(self) -> None:
        cases: tuple[tuple[StudyState, dict[str, Any], str], ...] = (
            (line(), {"family": "exponential"}, "make fit A an exponential"),
            (line(), {"fixed": {"intercept": 0.0}}, "fix c of fit A"),
            (line(fixed={"intercept": 0.0}), {"fixed": {}}, "fit all parameters of A again"),
            (line(), {"by_hand": True}, "set fit of A by hand"),
            (line(by_hand=True), {"values": {"slope": 2.0}}, "set m of A by hand"),
            (line(by_hand=True), {"by_hand": False}, "fit A by least squares"),
            (line(), {"values": {}}, "fit A by least squares"),
            (line(), {"bounds": {"slope": [0, None]}}, "bound m of fit A"),
            (line(bounds={"slope": (0.0, None)}), {"bounds": {"slope": [None, None]}}, "remove bounds of fit A"),
            (line(), {"x_range": [1, 3]}, "change the range of fit A"),
            (line(), {"name": "mine"}, "rename fit A to mine"),
            (line(name="mine"), {"name": ""}, "rename fit A to the name of its model"),
            (line(), {"decimals": {"slope": 2}}, "set the decimals of fit A"),
            (line(decimals={"slope": 2}), {"decimals": {}}, "reset the decimals of fit A"),
            (line(), {"hidden": True}, "hide fit A"),
            (line(hidden=True), {"hidden": False}, "show fit A"),
            (line(), {"method": "orthogonal"}, "least squares in both directions for fit A"),
            (line(method="orthogonal"), {"method": "y"}, "least squares in h for fit A"),
        )
        for state, change, words in cases:
            self.said(state, words, kind="set_fit", letter="A", **change)

    def test_of_a_cell(self) -> None:
        for block, words in (
            ([["4.7"]], "h of row 4: 5 → 4.7"),
            ([[""]], "clear h of row 4, 5"),
            ([["spilled before it was read, so it was read again"]], "h of row 4: 5 → spilled before it was r…"),
        ):
            self.said(line(), words, kind="set_cells", row=3, column=1, block=block)
        self.said(line(), "h of row 6: 7", kind="set_cells", row=5, column=1, block=[["7"]])
        self.said(line(), "clear h of row 6", kind="set_cells", row=5, column=1, block=[[""]])
        self.said(line(), "column 3 of row 1: 7", kind="set_cells", row=0, column=2, block=[["7"]])

    def test_of_the_report(self) -> None:
        state = build_sample("tide")
        self.said(state, "change author and date of the report", kind="set_report", author="Group 4")
        parts = [{"part": "method"}]
        changed = self.said(state, "edit the report", kind="set_report", author="Group 4", parts=parts)
        self.assertEqual((changed.author, changed.date, changed.report[0].part), ("Group 4", state.date, "method"))
        self.assertEqual([part.part for part in changed.report if part.shown], ["method"])


class WhereLimitsBegin(TestCase):
    def generate(self, **given: Any) -> StudyState:
        return read_change({"kind": "generate_readings", "formula": "t", **given}).apply(line()).state

    def test_generated_readings_end_at_both_ends(self) -> None:
        made = self.generate(low=0, high=1, step=0.25)
        self.assertEqual([cell for cell in made.columns[0].cells if cell][-5:], ["0", "0.25", "0.5", "0.75", "1"])
        made = self.generate(low=3, high=1, step=-1)
        self.assertEqual([cell for cell in made.columns[0].cells if cell][-3:], ["3", "2", "1"])

    def test_as_many_as_a_study_holds_and_no_more(self) -> None:
        most = LIMITS["rows"]
        self.assertEqual(self.generate(low=1, high=most, step=1).row_count, most)
        for high, made in (
            (most + 1, "200\u202f001"),
            (10.0 * most, "2\u202f000\u202f000"),
            (1e300, "1\u202f000\u202f000\u202f000\u202f001"),
        ):
            with self.assertRaisesRegex(ChangeRefused, f"200\u202f000 rows at most; this would make {made}"):
                self.generate(low=1, high=high, step=1)
