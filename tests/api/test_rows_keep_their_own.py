"""A row keeps its cells and its marks through any sequence of changes, undo, redo and going back in the history.

The table is kept a second time as a plain list of rows, on which every change is a line of Python; after each step both are
compared whole.
"""

from __future__ import annotations

from copy import deepcopy
from dataclasses import dataclass
from typing import Any
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from ridge.studies.content.changes import Change, ChangeRefused, read_change
from ridge.studies.content.state import ColumnState, StudyState
from ridge.studies.models import Study
from tests.api.test_api import ApiCase
from tests.examples import examples

ROWS = 7
X = ("5", "3", "", "4", "-2", "n", "3.5")


@dataclass
class Row:
    """What belongs together, wherever it goes."""

    x: str = ""
    y: str = ""
    aside: str | None = None
    assumed: str | None = None


def begun() -> tuple[StudyState, list[Row]]:
    rows = [Row(x, f"y{place}") for place, x in enumerate(X)]
    rows[1].aside, rows[4].aside, rows[4].assumed, rows[6].assumed = "slipped", "windy", "by eye", "guessed"
    return made(rows), rows


def made(rows: list[Row]) -> StudyState:
    columns = (
        ColumnState("x", "", "t", "", "x", cells=tuple(row.x for row in rows)),
        ColumnState("y", "", "h", "", "y", cells=tuple(row.y for row in rows)),
    )
    aside = {place: row.aside for place, row in enumerate(rows) if row.aside is not None}
    return StudyState(
        "Rows", columns, aside=aside, assumed={i: r.assumed for i, r in enumerate(rows) if r.assumed is not None}
    )


def rank(row: Row) -> tuple[int, float, str]:
    try:
        return 0, float(row.x), ""
    except ValueError:
        return (1, 0.0, row.x) if row.x else (2, 0.0, "")


def followed(rows: list[Row], kind: str, given: dict[str, Any]) -> list[Row]:
    """The same change on plain rows."""
    rows = deepcopy(rows)
    if kind == "insert_rows":
        rows[given["at"] : given["at"]] = [Row() for _ in range(given["count"])]
    elif kind == "delete_rows":
        rows = [row for place, row in enumerate(rows) if place not in given["rows"]]
    elif kind == "sort_rows":
        numbers = [row for row in rows if rank(row)[0] == 0]
        others = [row for row in rows if rank(row)[0]]
        numbers.sort(key=lambda row: -float(row.x) if given["descending"] else float(row.x))
        rows = [*numbers, *sorted(others, key=rank)]
    elif kind == "remove_empty_rows":
        rows = [row for row in rows if row.x or row.y]
    elif kind == "mark_rows":
        for mark in given["marks"]:
            rows[mark["row"]].aside = mark["reason"]
    elif kind == "assume_rows":
        for mark in given["marks"]:
            rows[mark["row"]].assumed = mark["reason"]
    else:
        rows += [Row() for _ in range(given["row"] + 1 - len(rows))]
        rows[given["row"]].x = given["block"][0][0]
    return rows


place = st.integers(0, ROWS + 1)
marks = st.lists(
    st.fixed_dictionaries({"row": place, "reason": st.sampled_from([None, "", "slipped"])}), min_size=1, max_size=2
)
steps = st.one_of(
    st.tuples(st.just("insert_rows"), st.fixed_dictionaries({"at": place, "count": st.integers(1, 3)})),
    st.tuples(st.just("delete_rows"), st.fixed_dictionaries({"rows": st.lists(place, min_size=1, max_size=3, unique=True)})),
    st.tuples(st.just("sort_rows"), st.fixed_dictionaries({"key": st.just("x"), "descending": st.booleans()})),
    st.tuples(st.just("remove_empty_rows"), st.just({})),
    st.tuples(st.just("mark_rows"), st.fixed_dictionaries({"marks": marks})),
    st.tuples(st.just("assume_rows"), st.fixed_dictionaries({"marks": marks})),
    st.tuples(
        st.just("set_cells"), st.fixed_dictionaries({"row": place, "column": st.just(0), "block": st.sampled_from([[["9"]], [[""]], [["0.5"]]])})
    ),
    st.tuples(st.sampled_from(["undo", "redo"]), st.just({})),
)  # fmt: skip


class AnySequence(TestCase):
    @examples(250)
    @given(st.lists(steps, min_size=1, max_size=12))
    def test_both_tables_stay_the_same(self, sequence: list[tuple[str, dict[str, Any]]]) -> None:
        state, rows = begun()
        done: list[tuple[Change, Change, list[Row]]] = []  # the change, its inverse, and the rows before it
        undone: list[tuple[Change, list[Row]]] = []
        for kind, given_ in sequence:
            if kind == "undo":
                if done:
                    change, inverse, before = done.pop()
                    undone.append((change, rows))
                    state, rows = inverse.apply(state).state, before
            elif kind == "redo":
                if undone:
                    change, after = undone.pop()
                    outcome = change.apply(state)
                    done.append((change, outcome.inverse, rows))
                    state, rows = outcome.state, after
            else:
                change = read_change({"kind": kind, **given_})
                try:
                    outcome = change.apply(state)
                except ChangeRefused:
                    continue
                done.append((change, outcome.inverse, rows))
                undone.clear()
                state, rows = outcome.state, followed(rows, kind, given_)
            expected = made(rows)
            self.assertEqual([c.cells for c in state.columns], [c.cells for c in expected.columns])
            self.assertEqual((dict(state.aside), dict(state.assumed)), (dict(expected.aside), dict(expected.assumed)))


class ThroughTheHistory(ApiCase):
    """The same with everything stored: from every step to every other."""

    def table(self, study: dict[str, Any]) -> Any:
        return [column["cells"] for column in study["columns"]], study["aside"]

    def test_from_every_step_to_every_other(self) -> None:
        study = self.new()
        sequence: list[dict[str, Any]] = [
            {"kind": "set_cells", "row": 0, "column": 0, "block": [["5", "a"], ["3", "b"], ["4", "c"]]},
            {"kind": "mark_rows", "marks": [{"row": 1, "reason": "slipped"}]},
            {"kind": "insert_rows", "at": 1, "count": 2},
            {"kind": "sort_rows", "key": self.read(f"/studies/{study}")["columns"][0]["key"]},
            {"kind": "delete_rows", "rows": [0]},
        ]
        after = [self.table(self.read(f"/studies/{study}"))]
        for version, change in enumerate(sequence):
            self.change(study, version, **change)
            after.append(self.table(self.read(f"/studies/{study}")))
        self.assertEqual(len({repr(one) for one in after}), len(after))
        at = len(sequence)
        ways = [(start, end) for start in range(len(after)) for end in range(len(after)) if start != end]
        for start, end in ways:
            for number in (start, end):
                if number != at:
                    version = Study.objects.get(pk=study).version
                    self.post(f"/studies/{study}/go_to", {"version": version, "number": number}, status=200)
                    at = number
                self.assertEqual(self.table(self.read(f"/studies/{study}")), after[number], (start, end))
