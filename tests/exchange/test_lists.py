"""Lists of numbers as they are asked for."""

from __future__ import annotations

from unittest import TestCase

from ridge.exchange.cells import NotANumber
from ridge.exchange.lists import MOST, read_list


class Lists(TestCase):
    def test_single_ones_and_ranges(self) -> None:
        for text, numbers in {
            "0, 2.5, 5 to 20 step 2.5": [0, 2.5, 5, 7.5, 10, 12.5, 15, 17.5, 20],
            "2,5": [2.5],
            "0,5; 1,5": [0.5, 1.5],
            "1 2 3": [1, 2, 3],
            "1 000": [1000],
            "5 to 1 step -2": [5, 3, 1],
            "0 to 1 by 0.25,": [0, 0.25, 0.5, 0.75, 1],
            "1e3 TO 2e3 in 2 steps": [1000, 1500, 2000],
            "\u22121 to 1 in 1 step": [-1, 1],
            "0 to 1": [0, 0.1, 0.2, 0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 0.9, 1],
            "0.1 to 0.7 step 0.2": [0.1, 0.3, 0.5, 0.7],
            "0 to 1 step 0.4": [0, 0.4, 0.8],
        }.items():
            self.assertEqual(read_list(text), numbers, text)

    def test_what_is_no_list(self) -> None:
        for text, said in {
            "": "type a number", "a": "is not a number", "1 to": "'to' is not a number", "1, x": "'x' is not a number",
            "1 to 5 step -1": "do not lead from", "1 to 5 step 0": "do not lead from", "1 to 2 to 3": "not a number",
            "0 to 1e9 step 1": f"more than {MOST}", "0 to 1 in 5000 steps": "1 to 2000 steps", "1 to inf": "finite",
            " ".join(["1"] * (MOST + 1)): f"more than {MOST}",
        }.items():  # fmt: skip
            with self.assertRaises(NotANumber) as caught:
                read_list(text)
            self.assertIn(said, str(caught.exception), text[:40])
