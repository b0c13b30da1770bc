"""Every change to every kind of row leaves every output standing."""

from __future__ import annotations

from typing import Any

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from ridge.studies.content.changes import read_change
from ridge.studies.out.figure import figure_content
from ridge.studies.words.analyse import analyse
from tests.api.test_api import ApiCase
from tests.api.test_decimal_sign import routes_of_a_study
from tests.api.test_readings import study
from tests.examples import examples

ROWS = {
    "good": ["1", "2.1"],
    "good, repeated": ["1", "2.2"],
    "good, in the middle": ["2", "3.9"],
    "good, last": ["4", "8.1"],
    "good, beyond a gap": ["3", "6.2"],
    "empty": ["", ""],
    "unknown sample": ["", "5.0"],
    "y missing": ["2.5", ""],
    "text": ["deep", "4.4"],
    "infinite": ["1e400", "4.4"],
}
KINDS = list(ROWS)


class EveryRow(ApiCase):
    def look(self, key: str, what: str) -> None:
        """Ask for everything that can be read of a study."""
        for route in routes_of_a_study():
            response = self.client.get(f"/api{route.format(study_id=key)}")
            with self.subTest(what, route=route):
                self.assertLess(response.status_code, 500)
        view = self.read(f"/studies/{key}")["analysis"]["view"]
        with self.subTest(what, view=view):
            for end in (*view["x"].values(), *view["y"].values()):
                self.assertIsInstance(end, float)

    def test_excluding_each_kind_and_all(self) -> None:
        key = self.new(title="Every kind of row")
        version = self.change(key, 0, kind="set_cells", row=0, column=0, block=list(ROWS.values()))["version"]
        for rows in (*([row] for row in range(len(ROWS))), range(len(ROWS))):
            marks = [{"row": row, "reason": "the line slipped"} for row in rows]
            version = self.change(key, version, kind="mark_rows", marks=marks)["version"]
            self.look(key, f"excluded: {', '.join(KINDS[row] for row in rows)}")
            marks = [{"row": row, "reason": None} for row in rows]
            version = self.change(key, version, kind="mark_rows", marks=marks)["version"]


rows = st.lists(st.integers(0, len(ROWS) - 1), min_size=1, max_size=len(ROWS), unique=True)
cells = st.sampled_from(["", "5", "-2", "deep", "1e400", "1e300", "1e-300", "0"])
change = st.one_of(
    st.tuples(st.sampled_from(["mark_rows", "assume_rows"]), rows, st.sampled_from(["slipped", None])),
    st.tuples(st.just("set_cells"), rows, cells),
    st.tuples(st.just("delete_rows"), rows, st.none()),
)


class Property(SimpleTestCase):
    @examples(80)
    @given(st.permutations(KINDS), st.lists(change, min_size=1, max_size=3))
    def test_the_view_is_finite_and_the_figure_is_drawn(self, order: list[str], changes: list[Any]) -> None:
        state = study(*(" ".join(cell or "." for cell in ROWS[kind]) for kind in order))
        for kind, at, value in changes:
            if max(at) >= state.row_count:
                continue
            body: dict[str, Any] = {"kind": kind}
            match kind:
                case "set_cells":
                    body |= {"row": at[0], "column": at[-1] % 2, "block": [[value]]}
                case "delete_rows":
                    body |= {"rows": at}
                case _:
                    body |= {"marks": [{"row": row, "reason": value} for row in at]}
            state = read_change(body).apply(state).state
        found = analyse(state)
        for axis in (found.view.x, found.view.y):
            self.assertTrue(abs(axis.low) < 1e308 and abs(axis.high) < 1e308)
            self.assertLess(axis.low, axis.high)
        figure_content(state, found)
