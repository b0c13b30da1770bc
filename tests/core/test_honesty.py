"""No more than the readings say: cautions on the labelled studies, and noise that is no law.

The whole of it is measured by ``./run bench honesty``; here are the labelled studies and a few of the simulated ones.
"""

from __future__ import annotations

from collections import Counter
from math import sqrt
from unittest import TestCase

import numpy as np

from ridge.core import Readings, fit
from ridge.core.errors import NoFit
from ridge.core.fitting.redundancy import without_meaning_at_zero
from ridge.core.judging.influence import readings_that_decide
from ridge.core.judging.ranking import order_models, rank_models
from ridge.core.judging.significance import SIGNIFICANT
from ridge.core.models import (
    Constant,
    Exponential,
    Formula,
    Gaussian,
    Line,
    Logarithmic,
    Logistic,
    Model,
    Polynomial,
    Power,
    Sinusoid,
)
from ridge.core.wording.suggestion import reason
from tests.labelled import CONSTANT, studies
from tests.simulated import LAWS, LOW, clean, noise


class Labelled(TestCase):
    def test_every_wanted_caution_is_found_and_hardly_another(self) -> None:
        every = studies()
        self.assertGreaterEqual(len(every), 120)
        alarms: Counter[str] = Counter()
        for study in every:
            cautions = study.fitted().cautions
            codes = {caution.code for caution in cautions}
            if study.wanted:
                self.assertTrue(codes & study.wanted, f"{study.name}: {codes}")
            alarms.update(codes - study.wanted - study.allowed)
            for caution in cautions:
                self.assertTrue(caution.message.endswith(".") and caution.remedy.endswith("."), caution)
        # Five in a hundred may be, and by chance two standard errors more.
        most = 0.05 * len(every) + 2 * sqrt(0.05 * 0.95 * len(every))
        for code, count in alarms.items():
            self.assertLess(count, most, code)


class Noise(TestCase):
    def test_no_family_calls_it_a_law_more_often_than_one_in_twenty(self) -> None:
        studied = 30
        for law in LAWS:
            praised = fitted = 0
            for seed in range(studied if law.model.linear_form is None else 12):
                readings = noise(20, seed)
                try:
                    result = fit(readings, law.model)
                except NoFit:
                    continue  # a logarithm whose beginning runs into the first reading
                fitted += 1
                codes = {caution.code for caution in result.cautions}
                praised += (result.statistics.f_p_value or 1) < SIGNIFICANT and not codes & CONSTANT
            self.assertLessEqual(praised, 0.05 * fitted + 3 * sqrt(0.05 * 0.95 * fitted), law.name)

    def test_a_flat_cloud_without_a_constant_is_no_law(self) -> None:
        readings = noise(12, 3)
        for model in (
            Exponential(),
            Power(),
            Formula("a*exp(k*x)"),
            Line(intercept=0.0),
            Formula("a*x^n"),
            Formula("a*x/(b + x)"),
        ):
            self.assertTrue({caution.code for caution in fit(readings, model).cautions} & CONSTANT, repr(model))

    def test_the_constant_stands_first_and_says_so(self) -> None:
        ranked = rank_models(noise(20, 5))
        self.assertEqual(repr(ranked[0].model), "Constant()")
        for one in ranked[1:]:
            if one.fit is not None and one.fit.statistics.aicc is not None:
                self.assertTrue(one.no_better_than_constant, repr(one.model))
                self.assertIn("not significantly better than a constant", reason(one))

    def test_what_the_readings_chose_is_counted(self) -> None:
        # A sinusoid on a calibration line: half of its parameters are held, and were chosen all the same.
        x = np.linspace(0, 35, 16)
        readings = Readings(x, 21.6 * x + 16.7 + np.random.default_rng(2).normal(0, 4, 16))
        line, wave = fit(readings, Line()), fit(readings, Sinusoid())
        self.assertTrue(wave.held)
        self.assertEqual(wave.statistics.degrees_of_freedom, 12)
        ranked = order_models([(wave.model, wave, ""), (line.model, line, "")])
        self.assertIs(ranked[0].fit, line)
        self.assertEqual(ranked[1].parameters, 4)
        # What a formula has twice over no readings could choose.
        self.assertEqual(fit(readings, Formula("a*b*x + c")).statistics.degrees_of_freedom, 14)


class Searched(TestCase):
    def test_p_is_the_share_of_noise_that_the_search_itself_fits_so_well(self) -> None:
        for model in (Sinusoid(), Gaussian(), Exponential(level=True)):
            found = [fit(noise(15, seed), model).statistics.f_p_value or 0 for seed in range(150)]
            for level in (0.1, 0.5):
                share = sum(p <= level for p in found) / len(found)
                self.assertAlmostEqual(share, level, delta=3 * sqrt(level * (1 - level) / 150), msg=repr(model))

    def test_the_bound_for_many_readings_is_close(self) -> None:
        # Baluev's bound, against readings that hold nothing; with 300 of them the shape is not simulated any more.
        chances = [fit(noise(300, seed), Sinusoid()).statistics.f_p_value or 0 for seed in range(60)]
        for level in (0.1, 0.3):
            below = sum(p < level for p in chances)
            self.assertLess(below, 60 * level + 3 * sqrt(60 * level * (1 - level)))
            self.assertGreater(below, 60 * level / 4)

    def test_no_law_hides_a_strong_one(self) -> None:
        for law in LAWS:
            self.assertLess(fit(clean(law, 20, LOW, 4), law.model).statistics.f_p_value or 0, 1e-3, law.name)

    def test_parameters_whose_zero_leaves_others_without_meaning_have_no_p(self) -> None:
        for model, names in (
            (Sinusoid(), {"amplitude", "angular_frequency"}), (Gaussian(), {"height", "width"}), (Exponential(), {"a"}),
            (Exponential(level=True), {"a", "k"}), (Logistic(), {"upper", "rate"}), (Power(), {"a"}),
            (Logarithmic(shift=True), {"a"}), (Formula("a*sin(b*x) + c"), {"a", "b"}), (Polynomial(3), set()),
        ):  # fmt: skip
            self.assertEqual(without_meaning_at_zero(model), names)
        fitted = fit(clean(LAWS[11], 20, LOW, 1), Sinusoid()).parameters
        self.assertIsNone(fitted["amplitude"].p_value)
        self.assertIsNotNone(fitted["midline"].p_value)


class Single(TestCase):
    def test_a_reading_that_decides_is_told_from_one_at_the_end_of_a_clean_study(self) -> None:
        raised = dict.fromkeys((8, 20), 0)
        for n in raised:
            for seed in range(5):
                for law in LAWS:
                    raised[n] += bool(readings_that_decide(fit(clean(law, n, LOW, 50 + seed), law.model)))
        for n, count in raised.items():
            self.assertLess(count, 0.05 * 5 * len(LAWS) + 3 * sqrt(0.05 * 5 * len(LAWS)), n)

    def test_one_far_out_of_a_hundred_thousand(self) -> None:
        # Nothing may grow with the square of the readings.
        x = np.append(np.linspace(1, 10, 100_000), 1e6)
        y = np.append(3 * x[:-1] + 2 + np.random.default_rng(1).normal(0, 0.3, 100_000), 5.0)
        for model in (Line(), Polynomial(2)):
            self.assertIn("one-reading-decides", [caution.code for caution in fit(Readings(x, y), model).cautions])

    def test_a_lonely_reading_that_moves_the_line(self) -> None:
        x, y = [1, 1.1, 1.2, 0.9, 1, 9], [1, 1.3, 0.8, 1.1, 0.9, 4]
        self.assertEqual(readings_that_decide(fit(Readings(x, y), Line())), [5])
        # On the line of the others, and far out all the same: it is what makes it a line.
        level = fit(Readings([1, 1, 1, 1, 2.0], [3.1, 2.9, 3.0, 3.05, 5.0]), Line())
        self.assertEqual(readings_that_decide(level), [4])


class WrongAdvice(TestCase):
    def test_nothing_simpler_is_proposed_where_it_misses_by_far(self) -> None:
        four = fit(Readings([0, 15, 60, 80], [0, 1.4, 22.1, 39.6]), Polynomial(2))
        self.assertEqual([caution.code for caution in four.cautions], ["few-readings"])

    def test_no_search_is_said_to_be_stopped_where_every_reading_is_met(self) -> None:
        for model, n in (
            (Logistic(level=True), 4),
            (Sinusoid(), 4),
            (Exponential(level=True), 3),
            (Formula("a*exp(b*x) + c"), 3),
        ):
            x = np.arange(float(n))
            result = fit(Readings(x, 1 + x**1.5), model)
            self.assertNotIn("search-cut-short", [caution.code for caution in result.cautions], repr(model))

    def test_a_constant_is_told_when_there_is_a_trend(self) -> None:
        trend: Model = Constant()
        caution = fit(clean(LAWS[0], 20, LOW, 2), trend).cautions[0]
        self.assertEqual(caution.code, "patterned-residuals")
        self.assertIn("y changes with x", caution.message)
