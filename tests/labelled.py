"""Small studies, each with what there is to be said about it. Invented; the seeds are fixed and were not chosen.

``./run bench honesty`` counts on them what is found, missed and raised without reason.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass

import numpy as np

from ridge.core import Fit, Readings, fit
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
    Reciprocal,
    Sinusoid,
)
from tests.simulated import LAWS, LOW, clean, noise


@dataclass(frozen=True)
class Study:
    """``wanted``: cautions of which at least one has to be raised, none where it is clean; ``allowed``: others that are true of
    it too. Any other is a false alarm."""

    name: str
    readings: Readings
    model: Model
    wanted: frozenset[str] = frozenset()
    allowed: frozenset[str] = frozenset()
    bounds: dict[str, tuple[float, float]] | None = None

    def fitted(self) -> Fit:
        return fit(self.readings, self.model, bounds=self.bounds)


CONSTANT = frozenset({"no-better-than-constant", "slope-not-significant"})
FEW = frozenset({"few-readings"})


def studies() -> list[Study]:
    """All of them."""
    made: list[Study] = []
    for make in (
        _clean, _noise, _decided, _far_off, _patterned, _recorded, _recorded_well, _spread, _errors, _cycles, _levels, _steps, _poles, _swinging, _counts,
        _terms, _redundant,
    ):  # fmt: skip
        made += list(make())
    return made


def _clean() -> Iterator[Study]:
    for law in LAWS:
        for n in (8, 15, 30):
            allowed = FEW if n < 2 * len(law.model.free_names) else frozenset()
            yield Study(f"clean, {law.name}, {n}", clean(law, n, LOW, 7), law.model, allowed=allowed)


def _noise() -> Iterator[Study]:
    for law in LAWS:
        if law.name == "Logarithmic(shift=True)":
            continue  # on this noise it has no best fit at all
        # What is held, cut short or idle follows from there being nothing to find.
        allowed = frozenset({"not-identifiable", "few-readings", "highest-term-not-needed", "swings"})
        yield Study(
            f"noise, {law.name}", noise(20, 7), law.model, CONSTANT, allowed | {"patterned-residuals", "spread-changes"}
        )


def _decided() -> Iterator[Study]:
    random = np.random.default_rng(7)
    cases: tuple[tuple[str, Model, Callable[[np.ndarray], np.ndarray], int], ...] = (
        ("line", Line(), lambda x: 2 * x + 1, 6), ("line", Line(), lambda x: 2 * x + 1, 12),
        ("line through zero", Line(intercept=0.0), lambda x: 2 * x, 9), ("quadratic", Polynomial(2), lambda x: x * x - 3 * x, 10),
        ("logarithm", Logarithmic(), lambda x: 3 * np.log(x), 10), ("power law", Power(), lambda x: 2 * x**1.5, 10),
        ("cubic", Polynomial(3), lambda x: x**3 / 20 - x, 14), ("exponential", Exponential(), lambda x: np.exp(x / 3), 10),
    )  # fmt: skip
    for name, model, truth, n in cases:
        x = np.append(np.sort(random.uniform(1, 3, n - 1)), 10.0)
        y = truth(x)
        y = y + random.normal(0, 0.02 * np.ptp(y), n)
        y[-1] += 0.15 * np.ptp(y)
        allowed = FEW | {
            "far-off",
            "patterned-residuals",
            "highest-term-not-needed",
            "step-between-readings",
            *CONSTANT,
        }
        yield Study(
            f"decided by one reading, {name}, {n}", Readings(x, y), model, frozenset({"one-reading-decides"}), allowed
        )
    x = np.array([1, 1, 1, 1, 2.0])
    y = np.array([3.1, 2.9, 3.0, 3.05, 5.0])
    yield Study("decided at leverage one", Readings(x, y), Line(), frozenset({"one-reading-decides"}), FEW)


def _far_off() -> Iterator[Study]:
    for number, law in enumerate(LAWS[:14]):
        readings = clean(law, 20, LOW, 8)
        y = readings.y.copy()
        y[9] += (1 if number % 2 else -1) * 9 * LOW * law.height
        allowed = frozenset({"one-reading-decides", "errors-do-not-match"})
        yield Study(f"one far off, {law.name}", Readings(readings.x, y), law.model, frozenset({"far-off"}), allowed)


def _patterned() -> Iterator[Study]:
    random = np.random.default_rng(7)
    x = np.linspace(0.5, 10, 24)
    small = random.normal(0, 0.1, 24)
    wanted = frozenset({"patterned-residuals"})
    allowed = frozenset({"spread-changes", "one-reading-decides", "far-off", "level-not-near", *CONSTANT})
    cases: list[tuple[str, np.ndarray, Model]] = [
        ("a bend under a line", 0.1 * x * x + small, Line()),
        ("a hollow under a line", -0.1 * x * x + small, Line()),
        ("a decay with a level under one without", 30 * np.exp(-0.5 * x) + 10 + small, Exponential()),
        ("a sinusoid under a quadratic", 3 * np.sin(1.3 * x) + small, Polynomial(2)),
        ("a saturation under a line", 10 * x / (1 + x) + small, Line()),
        ("a line under a constant", 0.3 * x + small, Constant()),
        ("a cubic under a quadratic", 0.05 * (x - 2) * (x - 5) * (x - 9) + small, Polynomial(2)),
        ("a power under a logarithm", x**1.5 + small, Logarithmic()),
        ("a peak under an exponential", 8 * np.exp(-((x - 5) ** 2)) + small + 2, Exponential()),
        ("two instruments in turn", 2 * x + np.tile([0.5, -0.5], 12) + small, Line()),
        ("two instruments in pairs", 2 * x + np.tile([0.5, 0.5, -0.5, -0.5], 6) + small, Line()),
        ("a slow drift under a line", 2 * x + 0.4 * np.sin(x) + 0.3 * small, Line()),
    ]
    for name, y, model in cases:
        groups = frozenset({"two-groups"}) if name.startswith("two instruments") else frozenset()
        yield Study(f"patterned: {name}", Readings(x, y), model, wanted | groups, allowed)


def _recorded() -> Iterator[Study]:
    """How the readings were taken shows in them."""
    random = np.random.default_rng(7)
    x = np.linspace(1, 10, 30)
    truth, scatter = 2 * x + 1, random.normal(0, 0.3, 30)
    allowed = FEW | {"patterned-residuals", "spread-changes", "far-off", "one-reading-decides"}

    def study(name: str, wanted: str, x: np.ndarray, y: np.ndarray, model: Model | None = None) -> Study:
        return Study(f"recorded: {name}", Readings(x, y), model or Line(), frozenset({wanted}), allowed)

    digits = np.round(truth + scatter, 2)
    yield study("a display in whole units", "coarse-step", x, np.round(0.3 * x + 5 + scatter / 10))
    yield study("a display in halves", "coarse-step", x, np.round(2 * (truth + scatter / 3)) / 2)
    yield study("rows pasted twice", "copied-rows", np.tile(x, 2), np.tile(digits, 2))
    yield study("every row three times", "copied-rows", np.repeat(x, 3), np.repeat(digits, 3))
    yield study("ten rows pasted again", "copied-rows", np.append(x, x[5:15]), np.append(digits, digits[5:15]))
    yield study("an instrument at its upper end", "end-of-range", x, np.minimum(digits, 16))
    yield study("an instrument at its lower end", "end-of-range", x, np.maximum(digits, 6))
    yield study(
        "an upper end under a power law", "end-of-range", x, np.minimum(np.round(x**1.5 + scatter, 2), 25), Power()
    )
    yield study("two x only", "few-places", np.repeat([2.0, 7.0], 6), digits[:12])
    yield study("three x under a quadratic", "few-places", np.repeat([2.0, 5.0, 7.0], 5), digits[:15], Polynomial(2))
    shuffled = random.permutation(30)
    yield study("a drift with the row", "drifts", x[shuffled], (truth + scatter)[shuffled] + np.linspace(0, 1.2, 30))
    mixed = np.where(random.random(30) < 0.4, 2.4, 0.0)
    yield study("two samples mixed", "two-groups", x, truth + scatter + mixed)


def _recorded_well() -> Iterator[Study]:
    """Readings with some of the same signs, and nothing wrong with them."""
    random = np.random.default_rng(8)
    x = np.linspace(1, 10, 30)
    scatter = random.normal(0, 0.3, 30)
    yield Study("recorded well: digits as fine as the scatter", Readings(x, np.round(2 * x + scatter, 1)), Line())
    again = np.repeat(np.linspace(1, 10, 10), 3)
    yield Study("recorded well: repeats at each x", Readings(again, np.round(2 * again + scatter, 1)), Line())
    top = np.round(10 / (1 + np.exp(5 - 1.2 * x)) + scatter / 3, 1)
    yield Study("recorded well: a curve that levels off", Readings(x, top), Logistic())
    shuffled = random.permutation(30)
    yield Study("recorded well: in random order", Readings(x[shuffled], (2 * x + scatter)[shuffled]), Line())


def _spread() -> Iterator[Study]:
    x = np.linspace(0.1, 10, 100)
    wanted = frozenset({"spread-changes"})
    allowed = frozenset({"far-off"})
    cases: tuple[tuple[str, Callable[[np.ndarray], np.ndarray], Model], ...] = (
        ("line", lambda x: 2 * x, Line()), ("exponential", lambda x: np.exp(0.3 * x), Exponential()),
        ("power law", lambda x: x**1.5, Power()), ("quadratic", lambda x: x * x, Polynomial(2)),
        ("decay", lambda x: 30 * np.exp(-0.3 * x), Exponential()), ("saturation", lambda x: 10 * x / (2 + x), Formula("v*x/(h + x)")),
    )  # fmt: skip
    for number, (name, truth, model) in enumerate(cases):
        y = truth(x)
        random = np.random.default_rng((7, number))
        yield Study(f"relative scatter, {name}", Readings(x, y + random.normal(0, 0.1 * y)), model, wanted, allowed)


def _errors() -> Iterator[Study]:
    wanted, allowed = frozenset({"errors-do-not-match"}), frozenset({"far-off"})
    for law in (LAWS[0], LAWS[2], LAWS[6], LAWS[11]):
        readings = clean(law, 20, LOW, 7)
        for factor in (3.0, 1 / 3):
            error = factor * LOW * law.height
            again = Readings(readings.x, readings.y, y_error=error, absolute_errors=True)
            # Where uncertainties are too small, every reading seems to lie far off.
            more = {"one-reading-decides"} if factor < 1 else set()
            yield Study(
                f"uncertainties {factor:.2g} times too large, {law.name}", again, law.model, wanted, allowed | more
            )


def _cycles() -> Iterator[Study]:
    random = np.random.default_rng(7)
    allowed = frozenset({"one-reading-decides", "not-identifiable", "search-cut-short"})
    for cycles in (0.25, 0.4, 0.6, 0.8):
        x = np.linspace(0, 10, 20)
        y = 3 * np.sin(2 * np.pi * cycles * x / 10 + 0.4) + 5 + random.normal(0, 0.05, 20)
        for model in (Sinusoid(), Formula("a*sin(b*x + c) + d")):
            yield Study(f"{cycles} cycles, {model!r}", Readings(x, y), model, frozenset({"less-than-a-cycle"}), allowed)
    for frequency in (4.9, 5.6):
        x = np.sort(np.random.default_rng(4).uniform(0, 10, 12))
        y = 3 * np.sin(frequency * x) + 5 + random.normal(0, 0.05, 12)
        yield Study(
            f"a cycle faster than the readings, {frequency}", Readings(x, y), Sinusoid(),
            frozenset({"fewer-than-two-readings-a-cycle"}), allowed | {"swings"} | CONSTANT,
        )  # fmt: skip
    x = np.arange(0.0, 9.0)
    y = 2 + 0.5 * x + np.random.default_rng(9).normal(0, 0.05, 9)
    yield Study(
        "a huge wave between the readings", Readings(x, y), Formula("a*sin(b*x) + c"),
        frozenset({"fewer-than-two-readings-a-cycle", "less-than-a-cycle", "swings"}),
        allowed | CONSTANT | {"patterned-residuals", "swings", "fewer-than-two-readings-a-cycle", "far-off"},
    )  # fmt: skip


def _levels() -> Iterator[Study]:
    random = np.random.default_rng(7)
    x = np.linspace(0, 10, 20)
    wanted, allowed = (
        frozenset({"level-not-near"}),
        frozenset({"one-reading-decides", "search-cut-short", "asymmetric"}),
    )
    cases: tuple[tuple[str, np.ndarray, Model], ...] = (
        ("slow decay", 30 * np.exp(-0.05 * x) + 7, Exponential(level=True)),
        ("slow rise", 40 - 30 * np.exp(-0.06 * x), Exponential(level=True)),
        ("growth before its middle", 100 / (1 + np.exp(-0.5 * (x - 13))), Logistic()),
        ("saturation far off", 10 * x / (25 + x), Formula("v*x/(h + x)")),
        ("decay as a formula", 30 * np.exp(-0.05 * x) + 7, Formula("p*exp(-q*x) + r")),
    )
    for name, y, model in cases:
        scatter = random.normal(0, 0.002 * np.ptp(y), 20)
        yield Study(f"level never near, {name}", Readings(x, y + scatter), model, wanted, allowed)


def _steps() -> Iterator[Study]:
    random = np.random.default_rng(7)
    x = np.linspace(0, 10, 12)
    allowed = frozenset({"one-reading-decides", "not-identifiable", "search-cut-short", "patterned-residuals"})
    for height in (6.0, -4.0):
        y = np.where(x < 5, 2.0, 2.0 + height) + random.normal(0, 0.1, 12)
        for model in (Logistic(level=True), Formula("a + b/(1 + exp(-k*(x - m)))")):
            yield Study(
                f"a step of {height}, {model!r}", Readings(x, y), model, frozenset({"step-between-readings"}), allowed
            )


def _poles() -> Iterator[Study]:
    random = np.random.default_rng(7)
    x = np.array([1, 2, 3, 4, 4.5, 6, 7, 8, 9.0])
    small = random.normal(0, 0.005, 9)
    wanted, allowed = frozenset({"pole-inside"}), frozenset({"one-reading-decides", "far-off", "not-identifiable"})
    yield Study("pole of 1/(x − b)", Readings(x, 1 / (x - 5.2) + small), Formula("a/(x - b)"), wanted, allowed)
    yield Study("pole of 1/x", Readings(x - 5.2, 2 / (x - 5.2) + small), Reciprocal(), wanted, allowed)
    yield Study("pole of a tangent", Readings(x / 4, np.tan(x / 4) + small), Formula("a*tan(x) + b"), wanted, allowed)
    yield Study("narrow pole of second order", Readings(x, 1e-9 / (x - 5.2) ** 2 + 2 + small), Formula("1e-9/(x - 5.2)^2 + c"), wanted, allowed | CONSTANT)  # fmt: skip
    yield Study("a root without a value", Readings(np.append(x, [-1, -2]), np.append(x, [1, 2]) + random.normal(0, 0.01, 11)), Formula("a*sqrt(x^2 - 0.5) + b"), frozenset({"undefined-inside"}), allowed | {"patterned-residuals"})  # fmt: skip


def _swinging() -> Iterator[Study]:
    random = np.random.default_rng(7)
    x = np.linspace(0, 10, 13)
    allowed = FEW | CONSTANT | {"one-reading-decides", "as-many-parameters-as-readings", "highest-term-not-needed", "far-off", "patterned-residuals"}  # fmt: skip
    for degree in (11, 12):
        y = np.where(x < 5, 0.0, 1.0) + random.normal(0, 0.05, 13)
        yield Study(
            f"degree {degree} through a step", Readings(x, y), Polynomial(degree), frozenset({"swings"}), allowed
        )
    y = np.where(np.arange(13) == 6, 8.0, 2.0) + random.normal(0, 0.05, 13)
    y[7] = 2.4
    yield Study("a peak between two readings", Readings(x, y), Gaussian(), frozenset({"swings", "one-reading-decides"}), allowed | {"swings"})  # fmt: skip


def _counts() -> Iterator[Study]:
    through, exact = frozenset({"as-many-parameters-as-readings"}), frozenset({"exact-fit"})
    yield Study("two readings, a line", Readings([1, 2], [1, 3]), Line(), through)
    yield Study("three readings, a quadratic", Readings([1, 2, 4], [1, 3, 2]), Polynomial(2), through)
    yield Study("three readings, a decay with level", Readings([0, 1, 2], [1, 2.1, 4.2]), Exponential(level=True), through, frozenset({"level-not-near"}))  # fmt: skip
    yield Study("three readings, a line", Readings([1, 2, 3], [2, 4, 6.2]), Line(), FEW)
    yield Study("five readings, a quartic short of one", Readings([0, 1, 2, 3, 4, 5], [1, 3, 2, 5, 4, 8]), Polynomial(4), FEW, frozenset({*CONSTANT, "highest-term-not-needed", "one-reading-decides", "swings"}))  # fmt: skip
    yield Study("calculated, a line", Readings([1, 2, 3, 4], [0.1, 0.2, 0.3, 0.4]), Line(), exact)
    yield Study(
        "calculated, a decay", Readings(np.arange(9.0), 4 * np.exp(-0.3 * np.arange(9.0))), Exponential(), exact
    )
    yield Study("all equal, a line", Readings([1, 2, 3, 4], [5, 5, 5, 5]), Line(), frozenset({"y-all-equal"}))
    yield Study(
        "all equal, a sinusoid", Readings(np.arange(8.0), np.full(8, 3.0)), Sinusoid(), frozenset({"y-all-equal"})
    )


def _terms() -> Iterator[Study]:
    # Four readings of a quadratic that a line misses by far: nothing that would do as well.
    yield Study(
        "four readings of a quadratic", Readings([0, 15, 60, 80], [0, 1.4, 22.1, 39.6]), Polynomial(2), allowed=FEW
    )
    random = np.random.default_rng(7)
    x = np.linspace(0.5, 10, 20)
    wanted, allowed = frozenset({"highest-term-not-needed"}), frozenset({"far-off"})
    for degree, y in ((2, 2 * x), (3, x * x), (4, x * x - 3 * x), (5, 0.1 * x**3)):
        yield Study(
            f"degree {degree} too high", Readings(x, y + random.normal(0, 0.3, 20)), Polynomial(degree), wanted, allowed
        )


def _redundant() -> Iterator[Study]:
    random = np.random.default_rng(7)
    x = np.linspace(0.5, 10, 20)
    y = 2 * x + random.normal(0, 0.2, 20)
    redundant = frozenset({"not-identifiable"})
    yield Study("a product of two parameters", Readings(x, y), Formula("a*b*x"), redundant)
    yield Study("a sum of two constants", Readings(x, y), Formula("a*x + b + c"), redundant)
    yield Study("a sinusoid on a line", Readings(x, y), Sinusoid(), redundant | {"less-than-a-cycle"}, frozenset({"less-than-a-cycle", "search-cut-short"}))  # fmt: skip
    yield Study("a slope held below the best", Readings(x, y), Line(), frozenset({"at-bound"}), frozenset({"patterned-residuals", "far-off"}), {"slope": (0.0, 1.5)})  # fmt: skip
