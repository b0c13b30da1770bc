"""The gallery: every model over the readings, in the order of what holds."""

from __future__ import annotations

from ridge.core.catalogue import ENTRIES
from ridge.core.judging.ranking import rank_models
from ridge.studies.analysis.catalogue import CANDIDATES
from ridge.studies.content.readings import read_table
from ridge.studies.content.samples import build_sample
from ridge.studies.content.state import empty_study
from ridge.studies.words.gallery_words import candidate, ranking
from tests.api.test_api import ApiCase
from tests.api.test_columns import column, study


class Gallery(ApiCase):
    def test_the_order_is_the_cores(self) -> None:
        state = build_sample("can-of-soup")
        found = ranking(state, "")
        names = [candidate(state, ENTRIES[key], "").name for key in found.order]
        self.assertEqual(names, [one.model.name for one in rank_models(read_table(state).readings)])
        self.assertEqual(names[0], "exponential with level")
        self.assertTrue(found.suggested[0])
        self.assertIn("The exponential with level is the best", found.summary)
        self.assertEqual(sorted(found.order), sorted(entry.key for entry in CANDIDATES))

    def test_a_model_that_cannot_be_laid_over_them_says_why(self) -> None:
        state = build_sample("can-of-soup")
        found = candidate(state, ENTRIES["logarithmic"], "")
        self.assertIn("ln t has no value where t is 0 or negative (row 1)", found.refusal)
        self.assertEqual(found.curve, [])

    def test_nothing_to_lay_it_over(self) -> None:
        state = empty_study("empty")
        self.assertIn("No usable reading yet", candidate(state, ENTRIES["constant"], "").refusal)
        self.assertEqual(len(ranking(state, "").order), len(CANDIDATES))

    def test_one_series_alone(self) -> None:
        t, h = column("t", "x", "1 2 3 4 5 1 2 3 4 5"), column("h", "y", "1 2 3.1 4 5 5 4 2.9 2 1")
        state = study(t, h, column("", "series", "up " * 5 + "down " * 5))
        self.assertGreater(float(candidate(state, ENTRIES["line"], "up").r_squared), 0.99)
        self.assertLess(float(candidate(state, ENTRIES["constant"], "").r_squared), 0.01)

    def test_where_nothing_holds_the_bends_are_said(self) -> None:
        y = " ".join(str(round(20 + 8 * ((i % 9) - 4) ** 2 + i**2 / 3, 2)) for i in range(27))
        state = study(column("t", "x", " ".join(map(str, range(27)))), column("h", "y", y))
        found = ranking(state, "")
        self.assertFalse(any(found.suggested))
        self.assertIn("bends", found.summary)

    def test_through_the_api(self) -> None:
        sample = self.new(sample="tide")
        offered = [entry["key"] for entry in self.read("/catalogue")]
        self.assertEqual(offered, list(ENTRIES))
        self.assertEqual(self.read(f"/studies/{sample}/candidates/constant")["name"], "constant")
        self.assertEqual(self.read(f"/studies/{sample}/ranking")["order"][0], "sinusoid")
        self.read(f"/studies/{sample}/candidates/nothing", status=404)
