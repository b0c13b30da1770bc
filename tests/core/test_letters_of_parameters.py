"""In an equation every letter stands for one thing: a parameter, or what was measured."""

from __future__ import annotations

from itertools import chain
from unittest import TestCase

from ridge.core.catalogue import MODELS
from ridge.core.models import Model, Polynomial
from ridge.core.wording.equation import write_symbols
from ridge.core.wording.naming import Naming

FAMILIES: list[Model] = [entry.model() for entry in MODELS if entry.form.tried] + [Polynomial(12)]
USUAL = sorted({Naming().letter(name) for model in FAMILIES for name in model.parameter_names})


class Letters(TestCase):
    def assert_apart(self, naming: Naming) -> None:
        for model in FAMILIES:
            letters = [naming.x, naming.y, *map(naming.letter, model.parameter_names)]
            self.assertEqual(len(letters), len(set(letters)), (model, letters))

    def test_none_is_that_of_what_was_measured(self) -> None:
        for x in USUAL:
            for y in ("q", *USUAL):
                if x != y:
                    self.assert_apart(Naming(x, y))

    def test_a_mass_in_a_straight_line(self) -> None:
        self.assertEqual(write_symbols(Polynomial(1), Naming("m", "F"))[0], "F = c₁·m + c₀")
        line = next(model for model in FAMILIES if model.family == "line")
        self.assertEqual(write_symbols(line, Naming("m", "F"))[0], "F = k·m + c")
        self.assertEqual(write_symbols(line, Naming("t", "c"))[0], "c = m·t + c₀")
        self.assertEqual(write_symbols(line, Naming("k", "m"))[0], "m = a·k + c")

    def test_none_stands_for_two_parameters(self) -> None:
        names = sorted(set(chain.from_iterable(model.parameter_names for model in FAMILIES)))
        for letter in USUAL:
            self.assert_apart(Naming("t", "y", letters=tuple((name, letter) for name in names)))
            for name in names:
                self.assert_apart(Naming("t", "y", letters=((name, letter),)))

    def test_the_letter_of_the_course_is_kept_and_the_usual_one_goes(self) -> None:
        naming = Naming("t", "h", letters=(("slope", "c"),))
        self.assertEqual([naming.letter("slope"), naming.letter("intercept")], ["c", "c_0"])
        swapped = Naming("t", "h", letters=(("intercept", "m"), ("slope", "c")))
        self.assertEqual([swapped.letter("slope"), swapped.letter("intercept")], ["c", "m"])

    def test_one_of_the_course_that_was_measured_meanwhile_is_the_usual_one_again(self) -> None:
        self.assertEqual(Naming("v", "h", letters=(("slope", "v"),)).letter("slope"), "m")

    def test_what_is_typed_in_the_letter_that_had_to_go_is_understood(self) -> None:
        naming = Naming("m", "F")
        self.assertEqual(naming.by_letter(("slope", "intercept")), {"m": "slope", "k": "slope", "c": "intercept"})
        swapped = Naming("t", "h", letters=(("intercept", "m"), ("slope", "c")))
        self.assertEqual(swapped.by_letter(("slope", "intercept")), {"c": "slope", "m": "intercept"})
        # Nothing else that may be called so is taken from its owner.
        self.assertEqual(naming.by_letter(("slope", "intercept"), {"m"}), {"k": "slope", "c": "intercept"})
        lettered = Naming("t", "h", letters=(("intercept", "b"),))
        self.assertEqual(lettered.by_letter(("slope", "intercept")), {"m": "slope", "b": "intercept"})
