"""What all readings share of their uncertainty: typed for a column, it weighs nothing and stands in every result."""

from __future__ import annotations

from typing import Any

import numpy as np

from tests.api.test_api import ApiCase

X = [0.5, 1, 2, 3, 4.5, 6, 7, 8.5]
Y = [2.03, 2.98, 5.05, 6.96, 10.01, 13.02, 14.97, 18.01]


class SharedUncertainties(ApiCase):
    def setUp(self) -> None:
        super().setUp()
        self.study = self.new(title="Staff")
        found = self.change(
            self.study,
            0,
            kind="set_cells",
            row=0,
            column=0,
            block=[[str(x), str(y)] for x, y in zip(X, Y, strict=True)],
        )
        self.keys = [column["key"] for column in found["columns"]]
        self.change(self.study, 1, kind="edit_column", key=self.keys[1], symbol="h", unit="cm")
        for number, (direction, given) in enumerate((("y_at_x", "4"), ("x_at_y", "9"), ("area", "1 to 4"))):
            found = self.change(
                self.study, 2 + number, kind="keep_answer", direction=direction, given=given, key=f"k{number}"
            )
        self.before = found

    def share(self, text: str, column: int = 1) -> Any:
        return self.change(self.study, 5, kind="edit_column", key=self.keys[column], uncertainty=text)

    def errors(self, study: Any) -> list[float]:
        return [one["standard_error"] for one in study["analysis"]["fits"][0]["parameters"]]

    def half(self, study: Any, answer: int) -> float:
        number = study["analysis"]["answers"][answer]["numbers"][-1]
        return float(number["high"] - number["low"]) / 2

    def test_parameters_and_answers(self) -> None:
        after = self.share("0.4 shared")
        slope, intercept = self.errors(self.before)
        np.testing.assert_allclose(self.errors(after), [slope, np.hypot(intercept, 0.4)], rtol=1e-9)
        far = 1.959964 * 0.4
        np.testing.assert_allclose(self.half(after, 0), np.hypot(self.half(self.before, 0), far), rtol=1e-6)
        # What is read with the same zero is not moved by it.
        np.testing.assert_allclose(self.half(after, 1), self.half(self.before, 1), rtol=1e-6)
        np.testing.assert_allclose(self.half(after, 2), np.hypot(self.half(self.before, 2), 3 * far), rtol=1e-6)

    def test_it_weighs_nothing_and_is_said(self) -> None:
        after = self.share("0.1; 0.4 shared")
        (fit,) = after["analysis"]["fits"]
        self.assertIn("weighted by the uncertainties of h (0.1\u00a0cm each)", fit["method"])
        self.assertIn(
            "All readings share a part of their uncertainty (h, zero 0.4\u00a0cm). It weighs none of them",
            fit["method"],
        )
        self.assertIn("The scatter alone would give m ± ", fit["method"])
        self.assertEqual([one["value"] for one in fit["statistics"]], [one["value"] for one in self.share_plain("0.1")])

    def share_plain(self, text: str) -> Any:
        undone = self.post(f"/studies/{self.study}/undo", {"version": 6})
        version = undone["version"]
        found = self.change(self.study, version, kind="edit_column", key=self.keys[1], uncertainty=text)
        return found["analysis"]["fits"][0]["statistics"]

    def test_a_zero_of_x_and_a_factor_of_y_together(self) -> None:
        self.share("0.3 shared", 0)
        after = self.change(self.study, 6, kind="edit_column", key=self.keys[1], uncertainty="2 % shared")
        slope, intercept = self.errors(self.before)
        m, c = (one["number"] for one in self.before["analysis"]["fits"][0]["parameters"])
        expected = [np.hypot(slope, 0.02 * m), np.sqrt(intercept**2 + (0.02 * c) ** 2 + (0.3 * m) ** 2)]
        np.testing.assert_allclose(self.errors(after), expected, rtol=1e-9)

    def test_readings_that_cannot_be_moved(self) -> None:
        """Logarithms of readings below zero: the fit stands, and it is said what is not in its limits."""
        self.change(self.study, 5, kind="set_fit", letter="A", family="exponential", method="logarithms")
        after = self.change(self.study, 6, kind="edit_column", key=self.keys[1], uncertainty="3 shared")
        (fit,) = after["analysis"]["fits"]
        self.assertIn("is in no limits here, since readings moved by it cannot be fitted", fit["method"])
        self.assertTrue(fit["parameters"])

    def test_the_form_says_what_it_does(self) -> None:
        found = self.post(
            f"/studies/{self.study}/column",
            {"key": self.keys[1], "name": "", "symbol": "h", "uncertainty": "±0.5; 0.4 shared", "formula": ""},
        )
        self.assertEqual(found["uncertainty_problem"], "")
        self.assertIn("All readings share the zero 0.4\u00a0cm: it weighs none of them", found["uncertainty_used"])

    def test_it_goes_out_and_comes_back(self) -> None:
        self.share("0.4 shared")
        report = self.client.get(f"/api/studies/{self.study}/report.html").content.decode()
        self.assertIn("All readings share a part of their uncertainty", report)
        script = self.client.get(f"/api/studies/{self.study}/script.py").content.decode()
        self.assertRegex(script.replace("\n#", ""), "of the scatter alone: h, zero 0.4.cm[.]")
        copy = self.client.get(f"/api/studies/{self.study}/study.json")
        self.assertIn(b"0.4 shared", copy.content)

    def test_converted_with_its_column(self) -> None:
        self.share("0.4 shared; half a digit shared")
        found = self.change(self.study, 6, kind="convert_column", key=self.keys[1], unit="m")
        column = next(one for one in found["columns"] if one["key"] == self.keys[1])
        self.assertEqual(column["uncertainty"], "0.004 shared; ±0.00005 shared")
