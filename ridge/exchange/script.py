"""A Python script that fits again what a study holds, with NumPy and SciPy alone."""

from __future__ import annotations

import keyword
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ridge.core import Fit
from ridge.core.formula.python import to_python
from ridge.core.formula.tree import Name, substitute
from ridge.core.readings import Readings

_HEAD = '''"""{title}

Written by Ridge. It needs NumPy and SciPy only, and prints the parameters of each fit with their standard errors, R², s, and
the predictions that were kept, each with its prediction interval.
"""

import numpy as np
from scipy import optimize, special, stats

LEVEL = {level!r}


def least_squares(model, start, x, y, weight, n, reference=None):
    """Weighted least squares from the given start. Values, covariance, R² about the mean, s and degrees of freedom.

    n: number of readings, each as often as it occurred.
    reference: the uncertainty of a reading of weight one where it is known absolutely.
    """
    root = np.sqrt(weight)
    scale = np.where(start != 0, np.abs(start), 1.0)

    def misses(inner):
        return root * (model(x, *(inner * scale)) - y)

    found = optimize.least_squares(misses, start / scale, jac="3-point", x_scale="jac", xtol=1e-15, ftol=1e-15, gtol=1e-15)
    values, jacobian = found.x * scale, found.jac / scale
    rss = np.sum(found.fun**2)
    degrees = n - len(start)
    s = np.sqrt(rss / degrees) if degrees else np.nan
    r_squared = 1 - rss / np.sum(weight * (y - np.average(y, weights=weight)) ** 2)
    _, sizes, directions = np.linalg.svd(jacobian, full_matrices=False)
    covariance = (directions.T / sizes**2) @ directions * (s if reference is None else reference) ** 2
    return values, covariance, r_squared, s, degrees


def predict(model, values, covariance, deviation, degrees, at, absolute=False):
    """y at an x, and half the width of the interval in which a new reading falls."""
    gradient = np.empty(len(values))
    for i, value in enumerate(values):
        step = 1e-6 * (abs(value) or 1.0)
        up, down = values.copy(), values.copy()
        up[i], down[i] = value + step, value - step
        gradient[i] = (model(np.array([at]), *up)[0] - model(np.array([at]), *down)[0]) / (2 * step)
    width = stats.norm.ppf((1 + LEVEL) / 2) if absolute else stats.t.ppf((1 + LEVEL) / 2, degrees)
    return model(np.array([at]), *values)[0], width * np.sqrt(gradient @ covariance @ gradient + deviation**2)

'''


@dataclass(frozen=True)
class ScriptedFit:
    """One fit of a script: its letter, what it is called, the fit, and the x at which it was asked."""

    letter: str
    name: str
    fit: Fit
    asked: Sequence[float]


def write_script(title: str, level: float, fits: Sequence[ScriptedFit]) -> str:
    """The script. Fits in logarithms, with errors in x, with given numbers or parameters at a bound are named in a comment
    and left out: they are not plain least squares in y."""
    told = title.replace("\\", "/").replace('"""', "'''")
    return _HEAD.format(title=told, level=level) + "\n".join(_write_fit(one) for one in fits)


def _write_fit(one: ScriptedFit) -> str:
    fit = one.fit
    name = one.name.replace("\n", " ")
    if fit.least_squares_in != "y" or fit.held or not fit.model.free_names:
        return f"\n# Fit {one.letter} ({name}) is not plain least squares in y and is left out.\n"
    names = {parameter: _safe(parameter) for parameter in fit.model.parameter_names}
    free = fit.model.free_names
    tree = substitute(
        fit.model.expression, {old: Name(new) for old, new in names.items()} | {fit.model.variable: Name("x")}
    )
    letter = one.letter
    lines = [
        "",
        f"# Fit {letter}: {name}",
        *_readings(fit.readings, letter),
        "",
        "",
        f"def model_{letter}(x, {', '.join(names[parameter] for parameter in free)}):",
        *(f"    {names[fixed]} = {value!r}" for fixed, value in fit.model.fixed.items()),
        f"    return {to_python(tree)} + 0 * x",
        "",
        "",
        f"start = np.array({[fit.values[parameter] for parameter in free]!r})",
        *_fitting(fit, letter),
        f"for name, value, error in zip({list(free)!r}, values, np.sqrt(np.diag(covariance))):",
        f'    print("{letter}", name, repr(float(value)), repr(float(error)))',
        f'print("{letter}", "r_squared", repr(float(r_squared)))',
        f'print("{letter}", "s", repr(float(s)))',
    ]
    deviation = "s" if not fit.readings.absolute_errors else repr(fit.readings.reference_error)
    for x in one.asked:
        # Where the column's rule gives a new reading there another uncertainty than the reference, it counts.
        ratio = float(fit.readings.new_reading(float(fit.evaluate(x))))
        own = deviation if ratio == 1 else f"{deviation} * {ratio!r}"
        lines.append(
            f"value, half = predict(model_{letter}, values, covariance, {own}, degrees, {x!r}, {fit.readings.absolute_errors})"
        )
        lines.append(f'print("{letter}", "at", {x!r}, repr(float(value)), repr(float(half)))')
    return "\n".join(lines) + "\n"


def _readings(readings: Readings, letter: str) -> list[str]:
    used = readings.used
    return [
        f"x_{letter} = np.array({_numbers(readings.x[used])})",
        f"y_{letter} = np.array({_numbers(readings.y[used])})",
        f"weight_{letter} = np.array({_numbers(readings.used_weights)})"
        if readings.y_error is not None or readings.weight is not None or readings.count is not None
        else f"weight_{letter} = np.ones(len(x_{letter}))",
    ]


def _numbers(values: np.ndarray) -> str:
    return "[" + ", ".join(repr(value) for value in values.tolist()) + "]"


def _fitting(fit: Fit, letter: str) -> list[str]:
    reference = repr(fit.readings.reference_error) if fit.readings.absolute_errors else "None"
    return [
        "values, covariance, r_squared, s, degrees = least_squares(",
        f"    model_{letter}, start, x_{letter}, y_{letter}, weight_{letter}, {fit.readings.n}, {reference}",
        ")",
    ]


def _safe(name: str) -> str:
    """A name that Python takes, and that hides none of the script's own."""
    taken = keyword.iskeyword(name) or name in ("x", "np", "special", "stats", "optimize")
    return f"{name}_" if taken or not name.isidentifier() else name
