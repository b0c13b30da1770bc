"""What can be said of readings before, or without, a fit."""

from __future__ import annotations

import math

import numpy as np

from ridge.core.errors import BeyondDoubles, NotIdentifiable, OutsideSense, RidgeError, TooFewReadings, UndefinedAt
from ridge.core.numerals import capital, count_word, significant, write
from ridge.core.readings import Readings
from ridge.core.wording.judgement import strength
from ridge.core.wording.naming import USUAL_LETTERS, Naming, parameter_called
from ridge.core.wording.rounding import round_with_uncertainty


def before_fit(readings: Readings, naming: Naming) -> str:
    """How strongly x and y go together, before any model; empty where that has no meaning."""
    used = readings.used
    n = int(used.sum())
    if n < 3:
        return ""
    x, y = readings.x[used], readings.y[used]
    with np.errstate(all="ignore"):
        dx, dy = x - x.mean(), y - y.mean()
        if not np.any(dx) or not np.any(dy) or not np.isfinite(dx).all() or not np.isfinite(dy).all():
            return ""
        dx, dy = dx / np.abs(dx).max(), dy / np.abs(dy).max()
        r = float(dx @ dy / math.sqrt((dx @ dx) * (dy @ dy)))
    return f"r = {write(r, 3 if abs(r) < 0.9995 else 6).text}: {strength(r)}"


def word_refusal(error: RidgeError, readings: Readings, naming: Naming, model: str = "line") -> str:
    """Why there is no fit, what to do, and what can still be said. ``model``: what the model is called."""
    used = readings.used
    n = int(used.sum())
    if isinstance(error, TooFewReadings):
        if n == 0:
            return f"No usable reading yet. Type {naming.x} and {naming.y} in the table, or paste them; {_one(model)} needs {error.needed}."
        more = error.needed - error.found
        count = "One reading is" if n == 1 else f"{count_word(n, capital=True)} readings are"
        return f"{count} not enough for {_one(model)}: add {more} more."
    if isinstance(error, NotIdentifiable) and n > 1 and np.ptp(readings.x[used]) == 0:
        y = readings.y[used]
        with np.errstate(all="ignore"):
            mean, spread = float(y.mean()), float(y.std(ddof=1))
        if math.isfinite(spread):
            said = naming.y_with_unit(round_with_uncertainty(mean, spread / math.sqrt(n) or None).text)
            x = naming.x_with_unit(significant(float(readings.x[used][0]), 6, strip=True).text)
            return (
                f"All {naming.x} are equal ({x}), so no {'slope' if model.startswith('line') else 'curve'} can be fitted. The mean of {naming.y} there is {said} (± is its standard error). "
                f"Add readings at another {naming.x}, or swap x and y."
            )
    if isinstance(error, UndefinedAt):
        return naming.in_symbols(str(error))
    if isinstance(error, OutsideSense) and error.name in USUAL_LETTERS:
        return f"{capital(parameter_called(error.name, naming))}: {error.reason}"
    if isinstance(error, OutsideSense):
        return capital(f"{error.name.replace('_', ' ')}: {error.reason}")
    if isinstance(error, BeyondDoubles) and error.what in USUAL_LETTERS:
        return str(BeyondDoubles(parameter_called(error.what, naming)))
    return str(error)


def _one(model: str) -> str:
    return f"{'an' if model[0] in 'aeiou' else 'a'} {model}"
