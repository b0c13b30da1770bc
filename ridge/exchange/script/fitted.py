"""A fit in a script: its readings, its model, least squares, how well it holds, and its answers."""

from __future__ import annotations

import keyword
import math
from collections.abc import Sequence

import numpy as np

from ridge.core.errors import RidgeError
from ridge.core.fitting.fit import fit as fit_readings
from ridge.core.formula.python import to_python
from ridge.core.formula.tree import Name, number, substitute
from ridge.core.numerals import join, significant
from ridge.core.predicting.at_y import solve
from ridge.core.readings import Readings
from ridge.core.results.fit import Fit
from ridge.core.wording.headings import heading
from ridge.core.wording.naming import parameter_called, with_unit
from ridge.exchange.script.content import Question, Script, ScriptedFit, comment, numbers, quoted

_TAKEN = ("x", "y", "np", "special", "stats", "optimize", "interpolate")
_DIGITS = (1, 2, 3, 5)
"""Significant digits of a start: as few as lead to the same minimum."""


def write_fit(script: Script, one: ScriptedFit, before: Sequence[ScriptedFit]) -> str:
    """The lines of one fit; ``before``: fits that stand in the script already, whose readings it may share."""
    fit, letter = one.curve, one.letter
    assert isinstance(fit, Fit)
    title = comment(f"----- Fit {letter}: {one.name} -----")
    if one.shared:
        apart = "What all readings share is not in the uncertainties here, which are of the scatter alone:"
        title += f"\n{comment(f'{apart} {join(list(one.shared))}.')}"
    if fit.least_squares_in == "orthogonal":
        return f"\n{title}\n{comment('It weighs the uncertainties of x as well, which this script does not.')}\n"
    if fit.least_squares_in == "logarithms" and fit.log_line is not None:
        lines = _LogarithmicFit(script, one, fit.log_line).lines(before)
    else:
        lines = _PlainFit(script, one, fit).lines(before)
    return "\n".join(["", title, *lines]) + "\n"


class _PlainFit:
    """Least squares in y, or a curve whose numbers are given."""

    def __init__(self, script: Script, one: ScriptedFit, fit: Fit) -> None:
        self.script, self.one, self.fit = script, one, fit
        self.naming, self.letter = script.naming, one.letter
        # What stays at a value stands in the model, whoever put it there.
        held = {held.name: held.value for held in fit.held}
        given = fit.values if fit.least_squares_in == "given" else {}
        self.fixed = {**fit.model.fixed, **held, **given}
        self.free = [name for name in fit.model.parameter_names if name not in self.fixed]
        self.names = {name: _safe(name) for name in fit.model.parameter_names}
        self.units = self.naming.parameter_units(fit.model)

    def lines(self, before: Sequence[ScriptedFit]) -> list[str]:
        return [
            *_readings(self.script, self.letter, self.fit.readings, before),
            "",
            *self.model(),
            *(self.fitting() if self.free else self.given()),
            *self.judging(),
            *self.follows(),
            *self.answers(),
        ]

    def model(self) -> list[str]:
        tree = substitute(
            self.fit.model.expression,
            {old: Name(new) for old, new in self.names.items()} | {self.fit.model.variable: Name("x")},
        )
        arguments = ", ".join(["x", *(self.names[name] for name in self.free)])
        return [
            "",
            f"def model_{self.letter}({arguments}):",
            f'    """{quoted(f"{self.one.name}: {self.naming.y} from {self.naming.x}")}."""',
            *(f"    {self.names[name]} = {value!r}  # fixed" for name, value in self.fixed.items()),
            f"    return {to_python(tree)} + 0 * x",
            "",
            "",
        ]

    def fitting(self) -> list[str]:
        letter = self.letter
        if self.fit.model.linear_form is not None or set(self.free) <= set(self.fit.model.linear):
            step = [
                comment("The model is linear in its parameters: least squares in one step, no start needed."),
                f"values = linear_least_squares(model_{letter}, {len(self.free)}, x_{letter}, y_{letter}, weight_{letter})",
            ]
        else:
            start = ", ".join(repr(value) for value in self.start())
            step = [
                comment(f"A start near the solution, with no more digits than lead there: {', '.join(self.free)}."),
                f"start = np.array([{start}])",
                f"values = least_squares(model_{letter}, start, x_{letter}, y_{letter}, weight_{letter})",
            ]
        shown = [
            f'show("{letter}", "{quoted(parameter_called(name, self.naming))}", values[{place}], '
            f'np.sqrt(covariance[{place}, {place}]), "{quoted(self.units[name])}")'
            for place, name in enumerate(self.free)
        ]
        absolute = self.fit.readings.absolute_errors
        known = (
            "1.0  # the uncertainties are taken as absolute"
            if absolute
            else f"np.sum(weight_{letter} * residual**2) / degrees"
        )
        return [
            *step,
            f"residual = y_{letter} - model_{letter}(x_{letter}, *values)",
            f"degrees = {self.fit.statistics.n} - {len(self.free)}  # degrees of freedom",
            comment("Variance of a reading of weight one, and with it the covariance of the parameters."),
            f"variance = {known}" if absolute else f"variance = {known} if degrees else np.nan",
            f"covariance = covariance_of(model_{letter}, values, x_{letter}, weight_{letter}, variance)",
            *shown,
        ]

    def given(self) -> list[str]:
        return [
            comment("All its numbers are given: nothing is fitted."),
            "values = np.array([])",
            f"residual = y_{self.letter} - model_{self.letter}(x_{self.letter})",
            f"degrees = {self.fit.statistics.n}",
        ]

    def start(self) -> list[float]:
        """As few digits of the solution as lead back to it."""
        best = self.fit.statistics.residual_sum_of_squares
        start = [self.fit.values[name] for name in self.free]
        for digits in _DIGITS:
            start = [float(significant(self.fit.values[name], digits).plain) for name in self.free]
            model = self.fit.model.with_fixed(self.fixed) if self.fixed else self.fit.model
            try:
                found = fit_readings(self.fit.readings, model, start=dict(zip(self.free, start, strict=True)))
            except RidgeError:
                continue
            if found.statistics.residual_sum_of_squares <= best * (1 + 1e-9):
                break
        return start

    def judging(self) -> list[str]:
        letter, counted = self.letter, self.fit.readings.count is not None
        squares = f"count_{letter} * residual**2" if counted else "residual**2"
        return [
            comment("How well it holds."),
            f"mean = np.average(y_{letter}, weights=weight_{letter})",
            f"r_squared = 1 - np.sum(weight_{letter} * residual**2) / np.sum(weight_{letter} * (y_{letter} - mean) ** 2)",
            f'show("{letter}", "R²", r_squared)',
            f"typical_miss = np.sqrt(np.sum({squares}) / degrees) if degrees else np.nan",
            f'show("{letter}", "typical miss", typical_miss, None, "{quoted(self.naming.y_unit)}")',
        ]

    def follows(self) -> list[str]:
        """Quantities of one's own, where parameters are fitted."""
        if not self.one.follows or not self.free:
            return []
        lines = [comment("What follows from the parameters: first order, with their covariance.")]
        names = {old: Name(new) for old, new in self.names.items() if old in self.free}
        for one in self.one.follows:
            if one.formula is None:
                lines.append(comment(f"{one.name} = {one.unit} needs other results as well: see the report."))
                continue
            tree = substitute(one.formula, names | {old: number(value) for old, value in self.fixed.items()})
            lines += [
                f"value, error = following(lambda {', '.join(self.names[name] for name in self.free)}: {to_python(tree)}, values, covariance)",
                f'show("{self.letter}", "{quoted(one.name)}", value, error, "{quoted(one.unit)}")',
            ]
        return lines

    def answers(self) -> list[str]:
        if not self.one.questions or not self.free or self.fit.critical_value(self.script.level) is None:
            return []
        absolute = self.fit.readings.absolute_errors
        factor = "stats.norm.ppf((1 + LEVEL) / 2)" if absolute else "stats.t.ppf((1 + LEVEL) / 2, degrees)"
        lines = [comment("Answers: limits from the covariance and the scatter of a new reading."), f"width = {factor}"]
        for question in self.one.questions:
            lines += self.x_at(question) if question.looking else self.y_at(question)
        return lines

    def y_at(self, question: Question) -> list[str]:
        letter, lines = self.letter, []
        for x in question.given:
            if not math.isfinite(float(self.fit.evaluate(x))):
                continue
            deviation = self.deviation(float(self.fit.evaluate(x)))
            what = f"{self.naming.y} at {self.naming.x} = {x:.10g}"
            lines += [
                f"value = model_{letter}(np.array([{x!r}]), *values)[0]",
                f"half = half_width(model_{letter}, values, covariance, {x!r}, {deviation}, 1, width)",
                f'show_limits("{letter}", "{quoted(what)}", value, value - half, value + half, "{quoted(self.naming.y_unit)}")',
            ]
        return lines

    def x_at(self, question: Question) -> list[str]:
        letter, y = self.letter, float(np.mean(question.given))
        repeats = len(question.given) if len(question.given) > 1 else question.repeats
        try:
            solution = solve(self.fit, list(question.given), repeats, self.script.level)[0]
        except RidgeError:
            return []
        what = f"{self.naming.x} at {self.naming.y} = {y:.10g}"
        low, high = (self.end(solution.value, end) for end in (solution.low, solution.high))
        start, stop = self.bracket(solution.value, y)
        covariance, deviation, width, lines = "covariance", self.deviation(y), "width", []
        if len(question.given) > 1 and not self.fit.readings.absolute_errors:
            covariance, deviation, width = "covariance * ratio", f"{deviation} * np.sqrt(ratio)", "wide"
            lines = [
                comment(
                    "Repeats of one sample: their scatter is pooled with that of the residuals (Draper and Smith, 3.2)."
                ),
                f"repeats = np.array({list(question.given)!r})",
                f"squares = np.sum((repeats - repeats.mean()) ** 2) / ({self.deviation(y)}) ** 2",
                "ratio = (degrees + squares) / (degrees + len(repeats) - 1)",
                "wide = stats.t.ppf((1 + LEVEL) / 2, degrees + len(repeats) - 1)",
            ]
        outside = (
            f"lambda x: abs(curve(x) - {y!r}) - half_width(model_{letter}, values, {covariance}, x, "
            f"{deviation}, {repeats}, {width})"
        )
        return [
            *lines,
            f"curve = lambda x: model_{letter}(np.array([x]), *values)[0]",
            f"outside = {outside}",
            f"x, low, high = x_at(curve, outside, {y!r}, ({start!r}, {stop!r}), {low}, {high})",
            f'show_limits("{letter}", "{quoted(what)}", x, low, high, "{quoted(self.naming.x_unit)}")',
        ]

    def deviation(self, y: float) -> str:
        """The scatter of a new reading there, in terms of the script's variance and weights."""
        readings = self.fit.readings
        if readings.error_share is not None:
            return f"np.sqrt(variance) * {abs(y) * readings.error_share!r}"
        if readings.y_error is not None:
            return f"np.sqrt(variance) * {readings.reference_error!r}"
        return "np.sqrt(variance)"

    def bracket(self, x: float, y: float) -> tuple[float, float]:
        """Round ends about a solution between which the curve takes the value once."""
        low, high = self.fit.readings.measured_range
        wide = (high - low) or abs(x) or 1.0
        for halvings in range(1, 40):
            ends = [float(significant(end, 6).plain) for end in (x - wide / 2**halvings, x + wide / 2**halvings)]
            off = self.fit.evaluate(np.linspace(ends[0], ends[1], 41)) - y
            if (
                np.isfinite(off).all()
                and np.count_nonzero(np.diff(np.sign(off))) == 1
                and (off[0] < 0) != (off[-1] < 0)
            ):
                return ends[0], ends[1]
        return x, x

    def end(self, x: float, limit: float) -> str:
        """A round place a little past a limit, where y has left the band or the curve has no value."""
        if math.isinf(limit):
            return f"{'-' if limit < 0 else ''}np.inf"
        return repr(float(significant(x + (limit - x) * 1.2, 6).plain))


class _LogarithmicFit(_PlainFit):
    """A straight line through ln y, and what follows from it for the curve."""

    def __init__(self, script: Script, one: ScriptedFit, line: Fit) -> None:
        super().__init__(script, one, line)
        assert isinstance(one.curve, Fit)
        self.whole = one.curve
        assert one.curve.model.logarithms is not None
        self.of_x = one.curve.model.logarithms.of_x
        self.second = one.curve.model.logarithms.slope

    def lines(self, before: Sequence[ScriptedFit]) -> list[str]:
        letter, readings = self.letter, self.whole.readings
        return [
            *_readings(self.script, letter, readings, before),
            "",
            comment(
                "Least squares in logarithms: a straight line through ln y" + (" against ln x." if self.of_x else ".")
            ),
            f"log_x, log_y = {f'np.log(x_{letter})' if self.of_x else f'x_{letter}'}, np.log(y_{letter})",
            *(
                [f"weight_{letter} = weight_{letter} * y_{letter}**2  # an uncertainty u of y counts as u/y"]
                if readings.y_error is not None
                else []
            ),
            *self.model(),
            f"values = linear_least_squares(model_{letter}, {len(self.free)}, log_x, log_y, weight_{letter})",
            f"residual = log_y - model_{letter}(log_x, *values)",
            f"degrees = {self.fit.statistics.n} - {len(self.free)}  # degrees of freedom",
            "variance = 1.0  # the uncertainties are taken as absolute"
            if readings.absolute_errors
            else f"variance = np.sum(weight_{letter} * residual**2) / degrees if degrees else np.nan",
            f"covariance = covariance_of(model_{letter}, values, log_x, weight_{letter}, variance)",
            *self.shown(),
            comment("Of the line through the logarithms:"),
            f"mean = np.average(log_y, weights=weight_{letter})",
            f"r_squared = 1 - np.sum(weight_{letter} * residual**2) / np.sum(weight_{letter} * (log_y - mean) ** 2)",
            f'show("{letter}", "R²", r_squared)',
        ]

    def shown(self) -> list[str]:
        """Parameters of the curve from those of the line."""
        lines = []
        for name, own in (("a", "intercept"), (self.second, "slope")):
            if own not in self.free:
                continue
            place = self.free.index(own)
            error = f"np.sqrt(covariance[{place}, {place}])"
            value = f"np.exp(values[{place}])" if name == "a" else f"values[{place}]"
            scaled = f"{value} * {error}" if name == "a" else error
            unit = self.naming.parameter_units(self.whole.model)[name]
            lines.append(
                f'show("{self.letter}", "{quoted(parameter_called(name, self.naming))}", {value}, {scaled}, "{quoted(unit)}")'
            )
        return lines


def _readings(script: Script, letter: str, readings: Readings, before: Sequence[ScriptedFit]) -> list[str]:
    """The readings in use, with their uncertainties, weights and counts, and what was set aside."""
    naming, used = script.naming, readings.used
    for other in before:
        if other.curve.readings.used.tobytes() == used.tobytes():
            return [
                comment(f"The same readings as those of {other.letter}."),
                f"x_{letter}, y_{letter} = x_{other.letter}, y_{other.letter}",
                *_weights(script, letter, readings),
            ]
    aside = [
        comment(
            f"Row {row + 1} is set aside{f' ({reason})' if reason else ''}: "
            f"{naming.x} = {with_unit(f'{x:.10g}', naming.x_unit)}, {naming.y} = {with_unit(f'{y:.10g}', naming.y_unit)}."
        )
        for row, x, y, reason in script.aside
    ]
    return [
        comment(heading(naming.x_name, naming.x, naming.x_unit)),
        f"x_{letter} = {numbers(readings.x[used].tolist())}",
        comment(heading(naming.y_name, naming.y, naming.y_unit)),
        f"y_{letter} = {numbers(readings.y[used].tolist())}",
        *aside,
        *_weights(script, letter, readings),
    ]


def _weights(script: Script, letter: str, readings: Readings) -> list[str]:
    used, y = readings.used, script.naming.y
    over = heading("", y, script.naming.y_unit)
    lines: list[str] = []
    weight = f"np.ones(len(x_{letter}))"
    if readings.y_error is not None:
        errors = readings.y_error[used]
        if readings.error_share is not None:
            share = significant(readings.error_share * 100, 6, strip=True).text
            lines = [
                comment(f"Standard uncertainty: {share} % of the fitted {y} (the fit was repeated until both agreed)."),
                f"u_{letter} = {numbers(errors.tolist())}",
            ]
        elif np.ptp(errors) == 0:
            lines = [
                comment(f"Standard uncertainty of each {over}."),
                f"u_{letter} = np.full(len(x_{letter}), {float(errors[0])!r})",
            ]
        else:
            lines = [
                comment(f"Standard uncertainties of {over}."),
                f"u_{letter} = {numbers(errors.tolist())}",
            ]
        weight = f"1 / u_{letter}**2"
    if readings.weight is not None:
        own = numbers(readings.weight[used].tolist())
        weight = f"{weight} * {own}" if readings.y_error is not None else own
    if readings.count is not None:
        lines += [comment("How often each occurred."), f"count_{letter} = {numbers(readings.count[used].tolist())}"]
        weight = f"{weight} * count_{letter}"
    return [*lines, f"weight_{letter} = {weight}"]


def _safe(name: str) -> str:
    """A name that Python takes, and that hides none of the script's own."""
    taken = keyword.iskeyword(name) or name in _TAKEN
    return f"{name}_" if taken or not name.isidentifier() else name
