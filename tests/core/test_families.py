"""Every family says everything about itself: nothing is missing, nothing contradicts, and nobody else knows it by name."""

from __future__ import annotations

import ast
import inspect
from pathlib import Path
from unittest import TestCase

import numpy as np

from ridge.core import Readings, fit, with_values
from ridge.core.by_hand import first_values, handles, places
from ridge.core.catalogue import ENTRIES, MODELS, defaults_of, entry_of, options_of
from ridge.core.interpolation.kinds import settings_of
from ridge.core.models import FAMILIES, Model, Sinusoid
from ridge.core.models.declared import Axis, StraightForm
from ridge.core.wording.by_hand import what_it_does
from ridge.core.wording.derived import word_derived
from ridge.core.wording.families import beyond_sentence, parameter_meaning
from ridge.core.wording.naming import USUAL_LETTERS, Naming
from ridge.core.wording.straight import straighten
from tests.core.test_models import EXAMPLES, X

NAMING = Naming("t", "h", "s", "m", "time", "height")
RIDGE = Path(__file__).parents[2] / "ridge"


def said(text: str) -> bool:
    """Whether a text says something, with every place of its template filled in."""
    return bool(text) and "{" not in text and "_" not in text


class Declared(TestCase):
    def test_every_family_has_a_name_a_place_and_forms(self) -> None:
        self.assertEqual(len({family.place for family in FAMILIES.values()}), len(FAMILIES))
        for key, family in FAMILIES.items():
            with self.subTest(key):
                self.assertTrue(said(family.title))
                self.assertTrue(family.synonyms and all(family.synonyms))
                self.assertTrue(family.forms)
                self.assertIs(inspect.getmodule(family), inspect.getmodule(family.__init__))

    def test_every_form_is_found_again_by_its_options(self) -> None:
        self.assertEqual(len(ENTRIES), len({entry.form.name for entry in ENTRIES.values()}))
        for key, entry in ENTRIES.items():
            with self.subTest(key):
                self.assertRegex(key, r"^[a-z-]+$")
                self.assertTrue(said(entry.form.name))
                self.assertIs(entry_of(entry.family, entry.options), entry)
                self.assertLessEqual(set(entry.options), set(defaults_of(entry.family)))

    def test_options_are_the_arguments_with_their_defaults(self) -> None:
        for key, family in FAMILIES.items():
            taken = inspect.signature(family).parameters
            for option in options_of(key):
                with self.subTest(f"{key}: {option.name}"):
                    self.assertIn(option.name, taken)
                    default = taken[option.name].default
                    self.assertTrue(default is inspect.Parameter.empty or default == option.default)
                    if option.kind == "choice":
                        self.assertIn(option.default, dict(option.words))

    def test_what_can_be_set_says_what_it_is(self) -> None:
        for key, entry in ENTRIES.items():
            options = defaults_of(entry.family) | entry.options
            shown = settings_of(options) if entry.group == "interpolation" else ()
            if entry.group == "model" and (key != "formula"):
                shown = entry.model().settings
            for option in shown:
                with self.subTest(f"{key}: {option.name}"):
                    self.assertTrue(option.label)
                    self.assertTrue(option.words or option.kind == "number")

    def test_one_letter_for_one_name(self) -> None:
        for model, _ in EXAMPLES:
            for name, about in model.about.items():
                self.assertEqual(about.letter, USUAL_LETTERS.get(name, ""), (model, name))

    def test_nobody_else_asks_for_a_family_by_its_key(self) -> None:
        found = []
        for path in RIDGE.rglob("*.py"):
            if path.is_relative_to(RIDGE / "core" / "models"):
                continue
            for node in ast.walk(ast.parse(path.read_text())):
                if (
                    isinstance(node, ast.Compare)
                    and isinstance(node.left, ast.Attribute)
                    and node.left.attr == "family"
                ):
                    keys = [
                        one.value
                        for part in node.comparators
                        for one in ast.walk(part)
                        if isinstance(one, ast.Constant)
                    ]
                    found += [(path.name, node.lineno, key) for key in keys if key in FAMILIES]
        self.assertEqual(found, [])


class OnReadings(TestCase):
    """Every example set by hand on readings: words, handles, grips, and the coordinates in which it is straight."""

    def each(self) -> list[tuple[Model, dict[str, float], Readings]]:
        return [(model, values, Readings(X, model.evaluate(X, values))) for model, values in EXAMPLES]

    def test_parameters_and_derived_quantities_mean_something(self) -> None:
        for model, values, readings in self.each():
            if model.typed:
                continue
            with self.subTest(repr(model)):
                for handle in handles(readings, model, values):
                    self.assertTrue(said(parameter_meaning(model, handle.name, NAMING)), handle.name)
                    self.assertTrue(said(what_it_does(model, handle, NAMING)), handle.name)
                for quantity in word_derived(with_values(readings, model, values), NAMING):
                    self.assertTrue(said(quantity.meaning), quantity.name)

    def test_every_family_but_a_typed_one_can_be_taken_hold_of(self) -> None:
        for model, values, readings in self.each():
            with self.subTest(repr(model)):
                found = places(readings, model, values)
                self.assertTrue(found or model.typed or model.constant is None)
                self.assertTrue(all(one.does for one in found))
                self.assertTrue(all(np.isfinite(value) for value in first_values(readings, model).values()))

    def test_how_it_goes_on_is_said_on_both_sides(self) -> None:
        usual = Model.beyond(EXAMPLES[0][0], {}, 0.0, True).sentence
        for model, values, readings in self.each():
            curve = with_values(readings, model, values)
            for x in (float(X[0]) - 1, float(X[-1]) + 1):
                with self.subTest(f"{model!r} at {x}"):
                    sentence = beyond_sentence(curve, NAMING, x)
                    self.assertTrue(said(sentence) and sentence.endswith("."))
                    self.assertEqual(sentence == usual, model.typed)

    def test_straight_coordinates_are_straight(self) -> None:
        for model, values, readings in self.each():
            with self.subTest(repr(model)):
                form = model.straight(values)
                self.assertTrue(
                    said(getattr(straighten(with_values(readings, model, values), NAMING), "line", "no line"))
                )
                if not isinstance(form, StraightForm):
                    self.assertTrue(form.endswith("."))
                    continue
                x, y = _drawn(form.x, X), _drawn(form.y, model.evaluate(X, values))
                slope, intercept = np.polyfit(x, y, 1)
                np.testing.assert_allclose(slope * x + intercept, y, atol=1e-9 * np.ptp(y))
                self.assertAlmostEqual(form.slope / slope, 1, delta=1e-9)
                if form.intercept is not None:
                    self.assertAlmostEqual(form.intercept, intercept, delta=1e-9)

    def test_cycles_are_counted_where_there_are_any(self) -> None:
        for model, values, _ in self.each():
            counted = model.cycles(values, 0.0, 10.0)
            self.assertEqual(counted > 0, model.periodic, model)
            if model.periodic:
                period = 10.0 / counted
                np.testing.assert_allclose(model.evaluate(X + period, values), model.evaluate(X, values), atol=1e-9)

    def test_what_is_flat_or_straight_says_so(self) -> None:
        for model, values, _ in self.each():
            y = model.evaluate(np.linspace(1, 9, 9), values)
            self.assertEqual(bool(np.ptp(y) == 0), model.flat, model)
            self.assertEqual(bool(np.ptp(np.diff(y)) > 1e-9), model.bends, model)


class Offered(TestCase):
    def test_every_model_of_the_catalogue_can_be_made(self) -> None:
        for entry in MODELS:
            if entry.form.tried:
                self.assertTrue(said(entry.model().name), entry.key)


def _drawn(axis: Axis, values: np.ndarray) -> np.ndarray:
    moved: np.ndarray = values - axis.shift
    match axis.how:
        case "ln":
            return np.asarray(np.log(moved))
        case "reciprocal":
            return np.asarray(1 / moved)
    return np.asarray(moved**axis.power)


class Aliases(TestCase):
    """Few readings, nearly evenly spaced: the slow wave is chosen, and the faster ones are mentioned."""

    X = (0, 1.43, 2.86, 4.29, 5.71, 7.14, 8.57, 10.0)

    def test_hand_rounded_x(self) -> None:
        found = fit(Readings(self.X, [5.2, 6.66, 6.12, 3.63, 3.13, 5.26, 6.78, 5.8]), Sinusoid())
        self.assertAlmostEqual(2 * np.pi / found.values["angular_frequency"], 7.0, delta=0.1)
        caution = next(one for one in found.cautions if one.code == "faster-wave-fits")
        self.assertIn("a period of about 1.79", caution.message)

    def test_simulated_studies_of_eight_readings(self) -> None:
        for seed in range(30):
            random = np.random.default_rng(seed)
            y = np.round(5 + 1.9 * np.sin(2 * np.pi * np.array(self.X) / 7 + 0.1) + 0.1 * random.normal(size=8), 2)
            found = fit(Readings(self.X, y), Sinusoid())
            self.assertAlmostEqual(2 * np.pi / found.values["angular_frequency"], 7.0, delta=0.7)

    def test_a_fast_wave_at_uneven_places_stays_fast(self) -> None:
        random = np.random.default_rng(2)
        x = np.sort(random.uniform(0, 10, 30))
        found = fit(Readings(x, np.sin(2 * np.pi * x / 0.9) + 0.1 * random.normal(size=30)), Sinusoid())
        self.assertAlmostEqual(2 * np.pi / found.values["angular_frequency"], 0.9, delta=0.02)
        self.assertNotIn("faster-wave-fits", [one.code for one in found.cautions])
