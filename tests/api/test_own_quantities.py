"""Quantities of one's own that follow from a fit: kept, worded, held against an accepted value, undone, in the files."""

from __future__ import annotations

from typing import Any

from ridge.core import Readings, fit
from ridge.core.carrying import follow
from ridge.core.models import Line
from tests.api.test_api import ApiCase

X, Y = [0.2, 0.4, 0.6, 0.8], [0.81, 1.60, 2.42, 3.21]
G = {"name": "g", "formula": "4*pi^2/m", "accepted": "9.81", "accepted_error": "0.02"}


class OwnQuantities(ApiCase):
    def setUp(self) -> None:
        super().setUp()
        self.study = self.new(title="Pendulum")
        block = [[str(x), str(y)] for x, y in zip(X, Y, strict=True)]
        self.change(self.study, 0, kind="set_cells", row=0, column=0, block=block)

    def put(self, version: int, *wanted: dict[str, str], **more: Any) -> Any:
        return self.change(self.study, version, kind="set_fit", letter="A", follows=list(wanted), **more)

    def own(self, answer: Any) -> list[Any]:
        return [one for one in answer["analysis"]["fits"][0]["derived"] if one["formula"]]

    def test_value_limits_budget_and_agreement(self) -> None:
        (found,) = self.own(self.put(1, G))
        wanted = follow("4*pi^2/slope", fit(Readings(X, Y), Line()))
        self.assertAlmostEqual(float(found["full"]), wanted.value, delta=1e-12)
        self.assertIn("9.84 ± 0.05", found["text"])
        self.assertTrue(found["interval"])
        self.assertEqual([one["source"] for one in found["budget"]], ["m"])
        self.assertEqual(
            found["agreement"],
            "Differs by 0.63 standard uncertainties: no disagreement (p = 0.58). A difference of 0.25 would be noticed four times in five.",
        )

    def test_the_budget_sums_to_one(self) -> None:
        (found,) = self.own(self.put(1, {"name": "at 1", "formula": "m + c"}))
        self.assertAlmostEqual(sum(one["share"] for one in found["budget"]), 1, delta=2e-3)

    def test_each_is_refused_at_its_place(self) -> None:
        found = self.own(
            self.put(
                1, {"name": "p", "formula": "q*m"}, {"name": "q", "formula": "m*("}, {"name": "r", "formula": "2*m"}
            )
        )
        self.assertIn("stands for nothing", found[0]["problem"])
        self.assertTrue(found[1]["problem"])
        self.assertTrue(found[2]["text"] and not found[2]["problem"])
        refused = self.own(self.put(2, {**G, "accepted": "about ten"}))
        self.assertIn("not a number", refused[0]["problem"])
        self.put(3, *[G] * 13, status=422)

    def test_it_follows_the_readings_is_undone_and_goes_out(self) -> None:
        before = self.own(self.put(1, G))[0]["full"]
        after = self.own(self.change(self.study, 2, kind="set_cells", row=0, column=1, block=[["0.9"]]))[0]["full"]
        self.assertNotEqual(before, after)
        report = self.client.get(f"/api/studies/{self.study}/report.html").content.decode()
        self.assertIn('<th scope="row"', report)
        self.assertRegex(report, r">g<|>g</")
        self.assertIn("standard uncertainties", report)
        undone = self.post(f"/studies/{self.study}/undo", {"version": 3})
        self.assertEqual(self.own(undone)[0]["full"], before)
        again = self.post(f"/studies/{self.study}/undo", {"version": undone["version"]})
        self.assertEqual(self.own(again), [])

    def test_constants_of_nature(self) -> None:
        (found,) = self.own(self.put(1, {"name": "E", "formula": "h_planck*m"}))
        self.assertAlmostEqual(
            float(found["full"]) / 6.62607015e-34, fit(Readings(X, Y), Line()).parameters["slope"].value, delta=1e-9
        )

    def test_through_a_copy(self) -> None:
        self.put(1, G)
        copy = self.post(f"/studies/{self.study}/duplicate", status=201)["id"]
        self.assertEqual(self.read(f"/studies/{copy}")["analysis"]["fits"][0]["follows"][0]["formula"], "4*pi^2/m")
