"""The notebook page does what it says."""

from __future__ import annotations

import doctest
from pathlib import Path
from unittest import TestCase

PAGE = Path(__file__).parent.parent.parent / "docs" / "notebook.md"


class Page(TestCase):
    def test_every_example_gives_what_is_printed(self) -> None:
        result = doctest.testfile(str(PAGE), module_relative=False, optionflags=doctest.NORMALIZE_WHITESPACE)
        self.assertEqual(result.failed, 0)
        self.assertGreater(result.attempted, 20)

    def test_a_data_frame(self) -> None:
        import pandas

        from ridge.core import Readings, fit
        from ridge.core.errors import OutsideSense
        from ridge.core.models import Line

        frame = pandas.DataFrame({"load": [0, 1, 2, 3], "stretch": [0.1, 2.0, 4.1, 5.9], "error": [0.1] * 4})
        readings = Readings.from_columns(frame, "load", "stretch", y_error="error")
        self.assertAlmostEqual(fit(readings, Line()).values["slope"], 1.95, places=10)
        self.assertIn("<table>", readings._repr_html_())
        with self.assertRaises(OutsideSense):
            Readings.from_columns(frame, "weight", "stretch")
