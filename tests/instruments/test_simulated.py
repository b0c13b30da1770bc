"""Simulated instruments: the same for everyone, none twice, none missed, scattered as they say about the curve that they reveal."""

from __future__ import annotations

import doctest
from unittest import TestCase

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from ridge.core.errors import OutsideSense
from ridge.core.formula import Program, parse
from ridge.instruments import INSTRUMENTS, Wanted, due, interface
from tests.examples import examples


class EveryInstrument(TestCase):
    def test_scatters_about_its_true_curve_as_it_says(self) -> None:
        for key, instrument in INSTRUMENTS.items():
            run = Wanted(interval=0.1, most=3000, seed=5)
            samples = [one for one in due(instrument, run, 0, 1e9) if not one.lost]
            self.assertGreater(len(samples), 2900)
            for channel in instrument.channels:
                with self.subTest(key, channel=channel.symbol):
                    formula = instrument.true_curve(channel.symbol)
                    assert formula and channel.uncertainty
                    x = np.array([float(one.x) for one in samples])
                    y = np.array([float(one.values[channel.symbol]) for one in samples])
                    tree = parse(formula, "x")
                    off = y - Program([tree.tree], ("x",))(x)[0]
                    # x is rounded too: where the curve is steep that counts. The display's own share: half a step over √3.
                    steep = (
                        np.abs(np.gradient(Program([tree.tree], ("x",))(x)[0], x)) if len(set(x)) == len(x) else 0 * x
                    )
                    own = np.sqrt(
                        channel.uncertainty**2 + (channel.resolution**2 + (steep * instrument.x.resolution) ** 2) / 12
                    )
                    z = off / own
                    self.assertLess(abs(float(z.mean())), 4 / np.sqrt(len(z)))
                    self.assertLess(abs(float(np.sqrt((z**2).mean())) - 1), 0.06)
                    steps = y / channel.resolution
                    np.testing.assert_allclose(steps, np.rint(steps), atol=1e-6)

    def test_says_that_it_is_simulated(self) -> None:
        self.assertTrue(all(instrument.simulated for instrument in INSTRUMENTS.values()))

    def test_the_same_whoever_asks_and_another_with_another_seed(self) -> None:
        for instrument in INSTRUMENTS.values():
            one = [instrument.read(n, n * 0.5, 7) for n in range(40)]
            self.assertEqual(one, [instrument.read(n, n * 0.5, 7) for n in reversed(range(40))][::-1])
            self.assertNotEqual(one, [instrument.read(n, n * 0.5, 8) for n in range(40)])


class Due(TestCase):
    @examples(100)
    @given(st.floats(0.1, 5), st.integers(1, 200), st.lists(st.floats(0, 100), max_size=30))
    def test_none_twice_and_none_missed(self, interval: float, most: int, asked: list[float]) -> None:
        """Asked at any times, also backwards: together they are all that the last one shows."""
        run, taken, numbers = Wanted(interval, most), 0, []
        for elapsed in asked:
            for sample in due(INSTRUMENTS["mug"], run, taken, elapsed):
                numbers.append(sample.number)
                taken = sample.number + 1
        self.assertEqual(numbers, list(range(taken)))
        if asked:
            self.assertEqual(taken, len(list(due(INSTRUMENTS["mug"], run, 0, max(asked)))))

    def test_there_at_its_time(self) -> None:
        run = Wanted(0.1, 100)
        for number in range(60):
            self.assertEqual(len(list(due(INSTRUMENTS["tide"], run, 0, number * 0.1))), number + 1)
        self.assertEqual(list(due(INSTRUMENTS["tide"], run, 0, -5.0)), [])

    def test_what_is_no_run(self) -> None:
        for values in ((0.0, 5), (0.05, 5), (float("nan"), 5), (4000.0, 5), (1.0, 0), (1.0, 10_001)):
            with self.subTest(values), self.assertRaises(OutsideSense):
                Wanted(*values)
        with self.assertRaisesRegex(OutsideSense, "there are T, T_g"):
            INSTRUMENTS["mug"].chosen(("q",))
        self.assertEqual([one.symbol for one in INSTRUMENTS["mug"].chosen(())], ["T"])

    def test_one_reading_now(self) -> None:
        for instrument in INSTRUMENTS.values():
            for x in (2.0, 0.0, -1e300, 1e300):
                samples = [instrument.at(x, number, 3) for number in range(100)]
                self.assertFalse(any(sample.lost for sample in samples))
                self.assertTrue(all(np.isfinite(float(value)) for one in samples for value in one.values.values()))

    def test_examples_of_the_docstrings(self) -> None:
        self.assertEqual(doctest.testmod(interface).failed, 0)
