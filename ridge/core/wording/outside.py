"""What each model does beyond the readings, in its own words."""

from __future__ import annotations

from typing import TYPE_CHECKING

from ridge.core.wording.naming import Naming
from ridge.core.wording.numbers import significant

if TYPE_CHECKING:
    from ridge.core.fitting.result import Fit


def beyond_sentence(fit: Fit, naming: Naming) -> str:
    """How the curve goes on to the right of the last reading and what that supposes."""
    values, y = fit.values, naming.y
    match fit.model.family:
        case "line":
            return f"A line goes on for ever: every unit of {naming.x} adds the same to {y}."
        case "polynomial":
            highest = max((name for name in fit.model.parameter_names), key=lambda name: int(name[1:]))
            way = "up" if values[highest] > 0 else "down"
            return f"Beyond the readings its highest power takes over and turns the curve steeply {way}."
        case "exponential":
            if values["k"] < 0:
                level = naming.y_with_unit(significant(values.get("c", 0.0), 4, strip=True).text)
                return f"An exponential that decays levels off towards {y} = {level}."
            return "An exponential that grows goes on growing ever faster; few things do."
        case "logarithmic":
            return f"A logarithm keeps {'rising' if values['a'] > 0 else 'falling'}, ever more slowly, and never levels off."
        case "power":
            return f"A power law keeps {'rising' if values['n'] > 0 else 'falling'} by the same factor each time {naming.x} doubles."
        case "reciprocal":
            level = naming.y_with_unit(significant(values["b"], 4, strip=True).text)
            return f"It levels off towards {y} = {level}; at {naming.x} = 0 it has no value."
        case "sinusoid":
            return "A sinusoid repeats itself for ever with the same height; a small error of the period adds up with every cycle."
        case "logistic":
            top = naming.y_with_unit(significant(values["upper"], 4, strip=True).text)
            return f"It levels off; {y} = {top} is its upper limit, known only as well as the readings come near it."
        case "gaussian":
            level = naming.y_with_unit(significant(values["level"], 4, strip=True).text)
            return f"Away from the peak it falls back to the level {y} = {level}."
    return "What this formula does there is the formula's doing, not the readings'."
