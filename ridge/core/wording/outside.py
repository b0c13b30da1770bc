"""What each model does beyond the readings, in its own words."""

from __future__ import annotations

from typing import TYPE_CHECKING

from ridge.core.wording.naming import Naming
from ridge.core.wording.numbers import significant

if TYPE_CHECKING:
    from ridge.core.fitting.result import Fit


def beyond_sentence(fit: Fit, naming: Naming, x: float) -> str:
    """How the curve goes on beyond the readings, on the side of ``x``, and what that supposes."""
    values, y = fit.values, naming.y
    right = x > fit.readings.measured_range[1]
    outwards = 1.0 if right else -1.0

    def at(level: float) -> str:
        return f"{y} = {naming.y_with_unit(significant(level, 4, strip=True).text)}"

    match fit.model.family:
        case "constant":
            return f"It stays at {at(values['c'])}."
        case "line":
            return f"A line goes on for ever: every unit of {naming.x} changes {y} by the same amount."
        case "polynomial":
            powers = {int(name[1:]): values[name] for name in fit.model.parameter_names if values[name]}
            highest = max(powers, default=0)
            if not highest:
                return f"It stays at {at(values.get('c0', 0.0))}."
            way = "up" if powers[highest] * outwards**highest > 0 else "down"
            return f"Beyond the readings its highest power takes over and turns the curve steeply {way} on this side."
        case "exponential":
            if values["k"] * outwards < 0:
                return f"On this side the exponential levels off towards {at(values.get('c', 0.0))}."
            return "On this side the exponential moves away ever faster; few things go on like that."
        case "logarithmic":
            if right:
                return f"A logarithm keeps {'rising' if values['a'] > 0 else 'falling'}, ever more slowly, and never levels off."
            return f"On this side a logarithm runs off {'down' if values['a'] > 0 else 'up'} ever faster and ends at {naming.x} = {significant(values.get('x0', 0.0), 4, strip=True).text}."
        case "power":
            rises = (values["n"] > 0) == (values["a"] * outwards > 0)
            return f"A power law keeps {'rising' if rises else 'falling'} on this side, by the same factor each time {naming.x} is {'doubled' if right else 'halved'}."
        case "reciprocal":
            if x > 0 if right else x < 0:
                return f"On this side it levels off towards {at(values['b'])}."
            return f"Towards {naming.x} = 0, where it has no value, it grows without limit."
        case "sinusoid":
            return "A sinusoid repeats itself for ever with the same height; a small error of the period adds up with every cycle."
        case "logistic":
            rising = values["rate"] * outwards > 0
            level, name = (values["upper"], "upper") if rising else (values.get("lower", 0.0), "lower")
            return f"It levels off at its {name} limit, {at(level)}, known only as well as the readings come near it."
        case "gaussian":
            return f"Away from the peak it returns to the level {at(values['level'])}."
    return "What this formula does there is the formula's doing, not the readings'."
